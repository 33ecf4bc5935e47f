"""The families of figures: what each is of, by its key."""

from __future__ import annotations

from typing import Any

from metaspira.numbers.figure import Figure
from metaspira.parts import Part, ThreadedPart, weight
from metaspira.springs import figures as springs
from metaspira.threads import gauging
from metaspira.threads.joint import figures as joint

FAMILIES: dict[str, tuple[str, tuple[Figure[Any], ...]]] = {
    "wire": ("A part of wire", Part.figures),
    "thread": ("A threaded part", ThreadedPart.figures),
    "compression": ("A spring that pushes", springs.PUSHING),
    "extension": ("A spring that pulls", springs.PULLING),
    "torsion": ("A spring that turns", springs.TURNING),
    "spiral": ("A spiral spring", springs.WINDING_UP),
    "nest": ("Springs in each other", springs.NEST),
    "gauging": ("How a thread is gauged", gauging.FIGURES),
    "joint": ("What a thread and its mate bear", joint.FIGURES),
    "weight": ("What a part weighs, and how it is spread", weight.FIGURES),
}
