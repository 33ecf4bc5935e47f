"""Find a spring, of every kind that is searched."""

from metaspira.studies.find_spring.finding import find_springs
from metaspira.studies.find_spring.found import Answer, Found
from metaspira.studies.find_spring.wish import Load, Wish

__all__ = ["Answer", "Found", "Load", "Wish", "find_springs"]
