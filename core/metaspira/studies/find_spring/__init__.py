"""Find a spring, of every kind that is searched."""

from metaspira.studies.find_spring.search import Answer, Found, find_springs
from metaspira.studies.find_spring.wish import Load, Wish

__all__ = ["Answer", "Found", "Load", "Wish", "find_springs"]
