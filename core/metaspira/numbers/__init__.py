"""Numbers as people type them: units, arithmetic, named variables."""
