"""Studies: what becomes of a part when its inputs change, and which inputs do what is wanted."""
