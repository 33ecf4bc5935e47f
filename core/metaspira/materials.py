"""Materials and finishes: what they weigh, look and yield like. All values are from memory, common handbook
values."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from pydantic import Field

from metaspira.numbers.fields import Distance
from metaspira.numbers.kind import Kind, Published, Words

Colour = Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]

MaterialName = Literal[
    "spring-steel",
    "stainless-steel",
    "brass",
    "phosphor-bronze",
    "copper-beryllium",
    "copper",
    "aluminium",
    "nickel-alloy",
    "titanium",
    "polyamide",
    "polylactide",
    "polyester",
    "polypropylene",
    "aramid",
    "hemp",
    "cotton",
    "oak",
]

FinishKind = Literal["polished", "blackened", "zinc", "nickel", "painted", "powder"]


class OwnMaterial(Kind):
    """A material of one's own: density in g/cm³; modulus of elasticity and flow stress in bending, MPa, where
    it is wound cold."""

    name: str = Field(min_length=1, max_length=80)
    density: Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)]
    colour: Colour = "#9a9791"
    modulus: Positive | None = None
    flow: Positive | None = None


@dataclass(frozen=True)
class Material:
    """`density` in g/mm³; `colour` is how it is painted, sRGB; `modulus` of elasticity and `flow` stress in
    bending of wire drawn hard, MPa, None where it is not bent cold; `shine` is how metallic and how rough it
    looks, 0 to 1."""

    name: str
    density: float
    colour: str
    modulus: float | None = None
    flow: float | None = None
    shine: tuple[float, float] = (0.9, 0.45)


@dataclass(frozen=True)
class Coat:
    """A finish: its look, the density of what is laid on, g/mm³, and whether that is paint, of any colour; no
    colour where the material's is seen."""

    words: str
    colour: str | None
    shine: tuple[float, float]
    density: float | None = None
    paint: bool = False


FINISHES: dict[FinishKind, Coat] = {
    "polished": Coat("polished", None, (1.0, 0.12)),
    "blackened": Coat("blackened", "#33302e", (0.6, 0.6)),
    "zinc": Coat("zinc plated", "#b4bcc2", (0.9, 0.35), 7.14e-3),
    "nickel": Coat("nickel plated", "#c8c2b2", (1.0, 0.2), 8.9e-3),
    "painted": Coat("painted", "#5b6f63", (0.0, 0.5), 1.4e-3, paint=True),
    "powder": Coat("powder coated", "#3d4a52", (0.0, 0.7), 1.5e-3, paint=True),
}

MATERIALS: dict[MaterialName, Material] = {
    "spring-steel": Material("Spring steel", 7.85e-3, "#8d9298", 206000.0, 1600.0),
    "stainless-steel": Material("Stainless steel", 7.9e-3, "#a9aeb0", 185000.0, 1500.0),
    "brass": Material("Brass", 8.5e-3, "#c2a14d", 100000.0, 500.0),
    "phosphor-bronze": Material("Phosphor bronze", 8.8e-3, "#b57a45", 115000.0, 750.0),
    "copper-beryllium": Material("Copper beryllium", 8.25e-3, "#bf8a4a", 120000.0, 1000.0),
    "copper": Material("Copper", 8.96e-3, "#b8693d", 120000.0, 300.0),
    "aluminium": Material("Aluminium", 2.7e-3, "#b9bdc1", 70000.0, 180.0),
    "nickel-alloy": Material("Nickel alloy X-750", 8.28e-3, "#a7a69f", 214000.0, 1400.0),
    "titanium": Material("Titanium", 4.5e-3, "#9a9791", 110000.0, 850.0),
    "polyamide": Material("Polyamide 12", 1.01e-3, "#d8d2c4", shine=(0.0, 0.6)),
    "polylactide": Material("Polylactide", 1.24e-3, "#d0c4a8", shine=(0.0, 0.6)),
    "polyester": Material("Polyester", 1.38e-3, "#d9d3c6", shine=(0.0, 0.6)),
    "polypropylene": Material("Polypropylene", 0.91e-3, "#cfd6d2", shine=(0.0, 0.6)),
    "aramid": Material("Aramid", 1.44e-3, "#d8b24a", shine=(0.0, 0.6)),
    "hemp": Material("Hemp", 1.48e-3, "#b39a6b", shine=(0.0, 0.8)),
    "cotton": Material("Cotton", 1.54e-3, "#ded8ca", shine=(0.0, 0.8)),
    "oak": Material("Oak", 0.7e-3, "#a97f4f", shine=(0.0, 0.6)),
}


MaterialChoice = Annotated[MaterialName, Words({name: m.name for name, m in MATERIALS.items()})]


class Finish(Kind):
    """How the surface is finished; `colour` of what is painted, and the `thickness` of a coat."""

    kind: Annotated[
        FinishKind,
        Words({name: coat.words for name, coat in FINISHES.items()}),
        Published(
            {
                "x-coats": {
                    name: {"colour": coat.colour if coat.paint else None}
                    for name, coat in FINISHES.items()
                    if coat.density is not None
                }
            }
        ),
    ]
    colour: Colour | None = None
    thickness: Distance | None = None


def material_of(material: MaterialName | OwnMaterial, finish: Finish | None) -> Material:
    """What a part is of, as it looks with its finish."""
    if isinstance(material, OwnMaterial):
        found = Material(
            material.name,
            material.density * 1e-3,
            material.colour,
            material.modulus,
            material.flow,
            (0.3, 0.5),
        )
    else:
        found = MATERIALS[material]
    if finish is None:
        return found
    coat = FINISHES[finish.kind]
    colour = finish.colour if coat.paint and finish.colour else coat.colour
    return replace(found, colour=colour or found.colour, shine=coat.shine)
