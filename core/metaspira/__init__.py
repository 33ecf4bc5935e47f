"""Metaspira's computation: recipe → numbers → path → frames → swept shape → checks → solid.

Inside: millimetres, radians, grams. Nothing here knows of Django or of the interface.
"""

__version__ = "0.1.0"
