"""File formats: what reads and writes them."""
