"""What a spring has to do: its kind, two loads, the space, the life, the wires it may be of."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from metaspira.numbers.fields import Angle, Distance, Force, Length, Quantity, Stress, Torque
from metaspira.numbers.kind import Kind, Words
from metaspira.problems import Problem, RecipeError, nearest
from metaspira.recipe.model import Document
from metaspira.springs.asked import Cycles, Seat
from metaspira.springs.wire import SpringWire, wires

Ranking = Annotated[
    Literal["use", "mass", "length", "price"],
    Words(
        {
            "use": "most in reserve",
            "mass": "least mass",
            "length": "shortest at work",
            "price": "least price of wire",
        }
    ),
]
Steps = Annotated[
    Literal["any", "quarter", "half", "whole"],
    Words({"any": "any", "quarter": "in quarters", "half": "in halves", "whole": "whole"}),
]
Positive = Annotated[float, Quantity("number", 1e-6, 1e9)]
STEPS: dict[str, float] = {"quarter": 0.25, "half": 0.5, "whole": 1.0}


class Load(Kind):
    """A force at a length, or of a torsion spring a torque at an angle that it is wound by from free."""

    length: Length | None = None
    force: Force | None = None
    angle: Angle | None = None
    torque: Torque | None = None


class BoundBase(Kind):
    """What all bounds share: the least and the most that a figure of a spring may be."""

    if TYPE_CHECKING:
        figure: str
        least: float | None
        most: float | None

    @property
    def unit(self) -> str:
        """The base unit that it counts in."""
        return ""

    @property
    def sides(self) -> dict[str, float]:
        """What is told of them, by the name of the limit."""
        title = self.figure.replace("_", " ")
        both = {f"least {title}": self.least, f"most {title}": self.most}
        return {name: value for name, value in both.items() if value is not None}


class LengthBound(BoundBase):
    """The least and the most that a length of a spring may be."""

    figure: Literal[
        "wire_diameter",
        "mean_diameter",
        "outside_diameter",
        "inside_diameter",
        "free_length",
        "solid_length",
    ]
    least: Length | None = None
    most: Length | None = None

    @property
    def unit(self) -> str:
        return "mm"


class StressBound(BoundBase):
    """The least and the most of its plain stress at the second load."""

    figure: Literal["stress"]
    least: Stress | None = None
    most: Stress | None = None

    @property
    def unit(self) -> str:
        return "MPa"


class ForceBound(BoundBase):
    """The least and the most of the force at which it is solid."""

    figure: Literal["block_force"]
    least: Force | None = None
    most: Force | None = None

    @property
    def unit(self) -> str:
        return "N"


class NumberBound(BoundBase):
    """The least and the most of its turns in all, its index, its mass in g, or its first natural frequency
    in Hz."""

    figure: Literal["turns", "index", "mass", "frequency"]
    least: Positive | None = None
    most: Positive | None = None

    @property
    def unit(self) -> str:
        return {"mass": "g", "frequency": "Hz"}.get(self.figure, "")


_OF_PUSHING = ("solid_length", "block_force", "frequency")
_LACKS = {"extension": _OF_PUSHING, "torsion": ("free_length", *_OF_PUSHING)}

Bound = Annotated[LengthBound | StressBound | ForceBound | NumberBound, Field(discriminator="figure")]


class Wish(Document):
    """Two loads, those of a spring that pushes or turns the lesser first; the bore around it and the rod
    inside it with the air to both; the longest that it may be, free, of a torsion spring its body wound most;
    the life; the wires it may be of, all where none is named, and the diameters that are in stock, the usual
    ones where none is told; in which steps turns may come; between what its figures may lie; and what is
    best. Numbers as in a recipe; prices a kilogram by the name of the wire."""

    format: Literal["metaspira/1"] = "metaspira/1"
    kind: Annotated[
        Literal["compression", "nest", "extension", "torsion"],
        Words(
            {"compression": "pushes", "nest": "pair that pushes", "extension": "pulls", "torsion": "turns"}
        ),
    ] = "compression"
    loads: tuple[Load, Load]
    bore: Length | None = None
    rod: Length | None = None
    gap: Distance = 0.0
    longest: Length | None = None
    cycles: Cycles | None = None
    peened: bool = False
    seat: Seat = "guided"
    wires: tuple[str, ...] = Field(default=(), max_length=60)
    stock: tuple[Length, ...] = Field(default=(), max_length=400)
    limits: tuple[Bound, ...] = Field(default=(), max_length=20)
    rank: Ranking = "use"
    turns: Steps = "any"
    prices: dict[str, Annotated[float, Field(gt=0, le=1e6)]] = Field(default_factory=dict, max_length=60)

    @property
    def told_by(self) -> tuple[str, str]:
        """The place and the effort of a load of its kind."""
        return ("angle", "torque") if self.kind == "torsion" else ("length", "force")

    @property
    def places(self) -> tuple[float, float]:
        """Lengths, mm, or angles, degrees."""
        told = self.told_by[0]
        first, second = (getattr(load, told) for load in self.loads)
        return (first, second) if told == "length" else (math.degrees(first), math.degrees(second))

    @property
    def efforts(self) -> tuple[float, float]:
        """Forces, N, or torques, N mm."""
        first, second = (getattr(load, self.told_by[1]) for load in self.loads)
        return first, second

    @property
    def way(self) -> float:
        """From the first place to the second, as it is worked, mm or degrees."""
        first, second = self.places
        return first - second if self.kind in {"compression", "nest"} else second - first

    @property
    def rate(self) -> float:
        """N/mm, or N mm/°"""
        return (self.efforts[1] - self.efforts[0]) / self.way

    def demand_sense(self) -> None:
        """Raises RecipeError where loads, space or prices make none."""
        place, effort = self.told_by
        missing = [
            Problem(f"/loads/{k}/{key}", f"a {self.kind} spring's load has a {key}", f"give its {key}")
            for k, load in enumerate(self.loads)
            for key in self.told_by
            if getattr(load, key) is None
        ]
        if missing:
            raise RecipeError(missing)
        order = {"extension": "longer", "torsion": "larger"}.get(self.kind, "shorter")
        faults = [
            (
                self.way <= 0,
                f"/loads/1/{place}",
                f"the second {place} is to be the {order} one",
                f"exchange them, with their {effort}s",
            ),
            (
                self.efforts[1] <= self.efforts[0],
                f"/loads/1/{effort}",
                f"the second {effort} is to be the larger one",
                f"give it the larger {effort}",
            ),
            (
                self.bore is not None and self.rod is not None and self.bore - self.rod <= 4 * self.gap,
                "/bore",
                "bore and rod leave no room for a wire",
                "use a larger bore or a thinner rod",
            ),
            (
                self.rank == "price" and not self.prices,
                "/prices",
                "no price of any wire is known",
                "give a price a kilogram by the name of a wire",
            ),
            *(
                (not bound.sides, f"/limits/{k}", "neither least nor most is told", "give one of them")
                for k, bound in enumerate(self.limits)
            ),
            *(
                (
                    bound.figure in _LACKS.get(self.kind, ()),
                    f"/limits/{k}/figure",
                    f"a spring of this kind has no {bound.figure.replace('_', ' ')}",
                    "bound another figure",
                )
                for k, bound in enumerate(self.limits)
            ),
        ]
        problems = [Problem(at, reason, remedy) for wrong, at, reason, remedy in faults if wrong]
        named = [(f"/wires/{k}", name) for k, name in enumerate(self.wires)]
        for at, name in [*named, *((f"/prices/{name}", name) for name in self.prices)]:
            if name not in wires():
                near = nearest(name, tuple(wires())) or next(iter(wires()))
                problems.append(Problem(at, f"there is no wire “{name}” here", f"use “{near}”"))
        if problems:
            raise RecipeError(problems)

    @property
    def allowed(self) -> list[SpringWire]:
        """The wires that it may be of; where prices rank, those that have one."""
        names = self.wires or [name for name, wire in wires().items() if wire.form == "wire"]
        return [wires()[name] for name in names if self.rank != "price" or name in self.prices]
