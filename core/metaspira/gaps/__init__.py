"""Certified distances: how near swept shapes come to themselves and to each other."""
