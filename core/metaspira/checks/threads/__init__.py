"""Questions about threads."""
