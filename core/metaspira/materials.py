"""Materials: name and density. The densities are from memory, common handbook values."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Material:
    """`density` in g/mm³; `colour` is how it is painted, sRGB."""

    name: str
    density: float
    colour: str


MATERIALS = {
    "spring-steel": Material("Spring steel", 7.85e-3, "#8d9298"),
    "stainless-steel": Material("Stainless steel", 7.9e-3, "#a9aeb0"),
    "brass": Material("Brass", 8.5e-3, "#c2a14d"),
    "phosphor-bronze": Material("Phosphor bronze", 8.8e-3, "#b57a45"),
    "copper": Material("Copper", 8.96e-3, "#b8693d"),
    "aluminium": Material("Aluminium", 2.7e-3, "#b9bdc1"),
    "titanium": Material("Titanium", 4.5e-3, "#9a9791"),
    "polyamide": Material("Polyamide 12", 1.01e-3, "#d8d2c4"),
    "polylactide": Material("Polylactide", 1.24e-3, "#d0c4a8"),
    "oak": Material("Oak", 0.7e-3, "#a97f4f"),
}
