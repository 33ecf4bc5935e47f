"""Metaspira: springs, coils, threads and twisted parts from recipes.

Inside: millimetres, radians, grams. What the library holds (`library.py`, and the kinds of a recipe: `Coil`,
`Round`, …) stands here too, imported when it is used.
"""

from __future__ import annotations

from importlib import import_module
from typing import Any

__version__ = "0.1.0"


def __getattr__(name: str) -> Any:
    if name.startswith("_"):
        raise AttributeError(name)
    library = import_module("metaspira.library")
    if name in library.__all__:
        return getattr(library, name)
    kind = import_module("metaspira.recipe.kinds").kinds().get(name)
    if kind is None:
        raise AttributeError(f"metaspira has no “{name}”")
    return kind


def __dir__() -> list[str]:
    kinds = import_module("metaspira.recipe.kinds").kinds()
    return ["__version__", *import_module("metaspira.library").__all__, *kinds]
