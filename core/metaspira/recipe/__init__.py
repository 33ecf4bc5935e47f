"""The recipe: the whole description of a design, as it was typed."""
