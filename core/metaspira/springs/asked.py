"""A spring as a recipe asks for it: what it is, its wire, where it works and for how long."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from metaspira.numbers.fields import Angle, Force, Length, Quantity
from metaspira.numbers.kind import Kind
from metaspira.problems import Fix, Problem, RecipeError, nearest
from metaspira.springs.wire import SpringWire, wires

Stress = Annotated[float, Quantity("number", 1.0, 1e6)]
Celsius = Annotated[float, Quantity("number", -270.0, 1000.0)]
Torque = Annotated[float, Quantity("number", 0.0, 1e12)]
Percent = Annotated[float, Quantity("number", 0.0, 100.0)]
Cycles = Annotated[float, Quantity("number", 1.0, 1e12)]

Grade = Literal[1, 2, 3]
Seat = Literal["guided", "fixed-hinged", "hinged", "fixed-sliding", "free"]

SEATS: dict[Seat, float] = {
    "guided": 0.5,
    "fixed-hinged": 0.7,
    "hinged": 1.0,
    "fixed-sliding": 1.0,
    "free": 2.0,
}
"""Seating coefficients ν of EN 13906-1 by how the ends are held."""


class OwnWire(Kind):
    """A wire of one's own: its least tensile strength and its moduli, MPa."""

    name: str = Field("own wire", max_length=60)
    strength: Stress
    shear_modulus: Stress
    elastic_modulus: Stress

    def wire(self) -> SpringWire:
        return SpringWire(
            self.name, "as typed", "", "constant", ((self.strength,),), 0.0, 1e6, self.elastic_modulus,
            self.shear_modulus, 0.25e-3, "drawn", "spring-steel", "as typed",
        )  # fmt: skip


class PointBase(Kind):
    """One place where a spring works, told in one of two ways."""

    def demand_one(self, place: str) -> None:
        """Raises RecipeError where it is told in both ways, or in none."""
        names = list(type(self).model_fields)
        if [getattr(self, name) for name in names].count(None) != 1:
            raise RecipeError(
                Problem(place, f"a working point has either {' or '.join(names)}", "give one of them")
            )


class WorkingPoint(PointBase):
    """One place where a spring works along its axis: its length, or its force."""

    length: Length | None = None
    force: Force | None = None


class TurningPoint(PointBase):
    """One place where a spring that turns works: the angle that it is wound by, or its torque, N mm."""

    angle: Angle | None = None
    torque: Torque | None = None


class SpringBase(Kind):
    """What all springs are asked: their wire and its temperature in °C, and the cycles between their outermost working
    points that they shall live for."""

    wire: str | OwnWire = "EN 10270-1 SH"
    temperature: Celsius = 20.0
    cycles: Cycles | None = None

    def spring_wire(self) -> SpringWire:
        """Raises RecipeError with the nearest name."""
        if isinstance(self.wire, OwnWire):
            return self.wire.wire()
        if self.wire not in wires():
            near = nearest(self.wire, tuple(wires())) or "EN 10270-1 SH"
            raise RecipeError(
                Problem(
                    "/spring/wire", f"there is no wire “{self.wire}” here", f"use “{near}”", Fix("/spring/wire", near)
                )
            )  # fmt: skip
        return wires()[self.wire]


class AxialSpring(SpringBase):
    """A spring that works along its axis, and where."""

    points: tuple[WorkingPoint, ...] = Field((), max_length=12)


class CompressionSpring(AxialSpring):
    """A spring that pushes: how its ends are held, whether it is shot-peened, its grade of tolerance (EN 15800), and the
    share of its force that it loses by relaxation, as the wire's maker gives it for stress, temperature and time."""

    kind: Literal["compression"]
    seat: Seat = "guided"
    peened: bool = False
    grade: Grade = 2
    relaxation: Percent = 0.0


class ExtensionSpring(AxialSpring):
    """A spring that pulls; its hooks are the legs of its path. It opens beyond its initial tension."""

    kind: Literal["extension"]
    initial_tension: Force = 0.0


class TurningSpring(SpringBase):
    """A spring that turns, and where."""

    points: tuple[TurningPoint, ...] = Field((), max_length=12)


class TorsionSpring(TurningSpring):
    """A spring that turns: its legs are wound towards each other, which closes it. They are held firmly where they leave the
    turns, or by their ends alone, so that they bend as well; whether it is shot-peened."""

    kind: Literal["torsion"]
    held: Literal["firmly", "ends"] = "firmly"
    peened: bool = False


class SpiralSpring(TurningSpring):
    """A flat strip that its arbor winds up; its outer end is clamped, or swivels on a pin."""

    kind: Literal["spiral"]
    outer: Literal["clamped", "pinned"] = "clamped"


AskedSpring = Annotated[
    CompressionSpring | ExtensionSpring | TorsionSpring | SpiralSpring, Field(discriminator="kind")
]
