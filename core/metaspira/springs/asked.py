"""A spring as a recipe asks for it: what it is, its wire, where it works and for how long."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal

from pydantic import Field

from metaspira.numbers.fields import Angle, Distance, Force, Length, Quantity, Stress, Torque
from metaspira.numbers.kind import Kind, Words, counted, tag_of, three_digits
from metaspira.problems import Fix, Problem, RecipeError, nearest
from metaspira.springs.standard import RULES, Rules
from metaspira.springs.wire import SpringWire, wires

Celsius = Annotated[float, Quantity("number", -270.0, 1000.0, "°C")]
Percent = Annotated[float, Quantity("number", 0.0, 100.0, "%")]
ShareLeft = Annotated[float, Quantity("number", 1.0, 100.0, "%")]
PerMinute = Annotated[float, Quantity("number", 1e-3, 1e6, "1/min")]
SomeTurns = Annotated[float, Quantity("number", 0.0, 10.0)]
Cycles = Annotated[float, Quantity("number", 1.0, 1e12)]

Grade = Annotated[
    Literal[1, 2, 3],
    Words({1: "grade 1, close", 2: "grade 2, medium", 3: "grade 3, wide"}),
]
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

    name: str = Field(default="own wire", max_length=60)
    strength: Stress = Field(title="Least tensile strength")
    shear_modulus: Stress = Field(title="G")
    elastic_modulus: Stress = Field(title="E")

    def wire(self) -> SpringWire:
        return SpringWire(
            self.name,
            "as typed",
            "",
            "constant",
            ((self.strength,),),
            0.0,
            1e6,
            self.elastic_modulus,
            self.shear_modulus,
            0.25e-3,
            "drawn",
            "spring-steel",
            "as typed",
        )


class PointBase(Kind):
    """One place where a spring works, told in one of several ways."""

    def demand_one(self, place: str) -> None:
        """Raises RecipeError where it is told in more than one way, or in none."""
        names = list(type(self).model_fields)
        if [getattr(self, name) for name in names].count(None) != len(names) - 1:
            raise RecipeError(
                Problem(place, f"a working point has either {' or '.join(names)}", "give one of them")
            )


class WorkingPoint(PointBase):
    """One place where a spring works along its axis: its length, its force, or its travel from the free
    length."""

    length: Length | None = None
    force: Force | None = None
    travel: Distance | None = Field(default=None, title="Travel from free")


class TurningPoint(PointBase):
    """One place where a spring that turns works: the angle that it is wound by, or its torque, N mm."""

    angle: Angle | None = None
    torque: Torque | None = None


class SpringBase(Kind):
    """What all springs are asked: their wire and its temperature in °C, and the cycles between their
    outermost working points that they shall live for; and as the wire's maker gives them, for no standard
    does, the share of their load that they lose by relaxation and the share of its strength that the wire has
    left at its temperature."""

    wire: str | OwnWire = "EN 10270-1 SH"
    temperature: Celsius = 20.0
    cycles: Cycles | None = Field(default=None, title="Life, cycles")
    relaxation: Percent = 0.0
    strength_left: ShareLeft = Field(default=100.0, title="Strength left, warm")

    does: ClassVar[str] = ""
    bends: ClassVar[bool] = False
    """Its wire is bent in the plane of its turns, not twisted."""
    asked: ClassVar[tuple[str, tuple[float, float]]]
    """Its usual working points: what tells them, and two of them as shares of its size."""

    if TYPE_CHECKING:

        @property
        def points(self) -> tuple[PointBase, ...]:
            """Where it works."""

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        told, shares = cls.asked
        points = [{told: three_digits(share * (size if told == "length" else 1))} for share in shares]
        return {"kind": tag_of(cls), "points": points}

    def words(self, unit: str) -> str:
        wire = self.wire if isinstance(self.wire, str) else self.wire.name
        return f"{self.does}; {wire}, {counted(len(self.points), 'working point')}"

    def spring_wire(self) -> SpringWire:
        """Raises RecipeError with the nearest name."""
        if isinstance(self.wire, OwnWire):
            return self.wire.wire()
        if self.wire not in wires():
            near = nearest(self.wire, tuple(wires())) or "EN 10270-1 SH"
            raise RecipeError(
                Problem(
                    "/spring/wire",
                    f"there is no wire “{self.wire}” here",
                    f"use “{near}”",
                    Fix("/spring/wire", near),
                )
            )
        return wires()[self.wire]


class Made(Kind):
    """The ± that a maker keeps of wire and mean diameter, turns, and of the modulus in per cent; where one is
    left out it is the standard's, or common practice; and the ± in per cent that is allowed of each load, of
    one that pushes that of its grade where it is left out."""

    wire: Distance | None = None
    diameter: Distance | None = Field(default=None, title="Mean diameter")
    turns: SomeTurns | None = Field(default=None, title="Turns")
    modulus: Percent | None = Field(default=None, title="Modulus")
    load: Percent | None = Field(default=None, title="Allowed of each load")


class MadePushing(Made):
    """And of its free length."""

    free_length: Distance | None = None


class MadePulling(MadePushing):
    """And of its initial tension, in per cent."""

    initial_tension: Percent | None = None


class MadeTurning(Made):
    """And of the angle between its legs."""

    angle: Angle | None = None


class AxialSpring(SpringBase):
    """A spring that works along its axis, and where; and readings of length and force, N, of one that was
    made, in the order in which they were taken."""

    points: tuple[WorkingPoint, ...] = Field(default=(), max_length=12)
    measured: tuple[tuple[Length, Force], ...] = Field(
        default=(), max_length=600, title="Readings of a made spring"
    )


class CompressionSpring(AxialSpring, title="compression"):
    """A spring that pushes: by which rules its figures are, how its ends are held, whether it is shot-peened,
    its grade of tolerance (EN 15800), the tolerances that are kept, and its strokes a minute. EN 13906-1
    speaks of closed ends; a cylinder with plain ends goes by the handbook, and what is no cylinder of even
    pitch as it is drawn."""

    does = "pushes"
    asked = ("length", (0.9, 0.7))
    kind: Literal["compression"] = "compression"
    rules: Annotated[
        Rules,
        Words(RULES),
    ] = Field(default="EN 13906", title="Rate and forces by")
    seat: Annotated[
        Seat,
        Words(
            {
                "guided": "both fixed and guided",
                "fixed-hinged": "one fixed, one hinged",
                "hinged": "both hinged",
                "fixed-sliding": "fixed, the other slides",
                "free": "fixed, the other free",
            }
        ),
    ] = Field(default="guided", title="Its ends are")
    peened: bool = Field(default=False, title="Shot-peened")
    grade: Grade = Field(default=2, title="Tolerances")
    speed: PerMinute | None = Field(default=None, title="Working speed")
    made: MadePushing | None = Field(default=None, title="Tolerances that are kept")


class ExtensionSpring(AxialSpring, title="extension"):
    """A spring that pulls; its hooks are the legs of its path. It opens beyond its initial tension. The turns
    of its body give, or these and its hooks, as much as G/E turns (Shigley, Mechanical Engineering Design,
    equation 10-40; not checked against the printed book)."""

    does = "pulls"
    asked = ("length", (1.1, 1.3))
    kind: Literal["extension"] = "extension"
    initial_tension: Force = 0.0
    gives: Annotated[
        Literal["body", "hooks"],
        Words({"body": "its body", "hooks": "its body and its hooks, N + G/E turns"}),
    ] = Field(default="body", title="What gives is")
    made: MadePulling | None = Field(default=None, title="Tolerances that are kept")


class TurningSpring(SpringBase):
    """A spring that turns, and where."""

    bends = True

    points: tuple[TurningPoint, ...] = Field(default=(), max_length=12)


class TorsionSpring(TurningSpring, title="torsion"):
    """A spring that turns: its legs are wound towards each other, which closes it. They are held firmly where
    they leave the turns, or by their ends alone, so that they bend as well; whether it is shot-peened. Its
    rate is E d⁴ / (10.2 D n) a turn, by theory, or with 10.8, which takes in that its turns rub (Shigley,
    Mechanical Engineering Design, equation 10-51; not checked against the printed book)."""

    does = "turns"
    asked = ("angle", (30.0, 60.0))
    kind: Literal["torsion"] = "torsion"
    held: Annotated[
        Literal["firmly", "ends"],
        Words({"firmly": "held firmly", "ends": "held by their ends alone"}),
    ] = Field(default="firmly", title="Its legs are")
    by: Annotated[
        Literal["theory", "10.8"], Words({"theory": "theory, 10.2", "10.8": "10.8, turns that rub"})
    ] = Field(default="theory", title="Rate by")
    peened: bool = Field(default=False, title="Shot-peened")
    made: MadeTurning | None = Field(default=None, title="Tolerances that are kept")


class SpiralSpring(TurningSpring, title="spiral"):
    """A flat strip that its arbor winds up; its outer end is clamped, or swivels on a pin."""

    does = "winds up"
    asked = ("angle", (90.0, 180.0))
    kind: Literal["spiral"] = "spiral"
    outer: Annotated[Literal["clamped", "pinned"], Words({"pinned": "swivels on a pin"})] = Field(
        default="clamped", title="Its outer end is"
    )


AskedSpring = Annotated[
    CompressionSpring | ExtensionSpring | TorsionSpring | SpiralSpring, Field(discriminator="kind")
]
