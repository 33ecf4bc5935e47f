"""What the notes and tables of a drawing say, in the recipe's units."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from metaspira.numbers.shown import number_shown, quantity_shown
from metaspira.parts import AnyPart, Part
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.made import TYPED, made_of
from metaspira.springs.shape import WireShape
from metaspira.springs.turns import Turns
from metaspira.springs.working import WorkedPoint, WoundSpring

_STEPS = 4001


def quantity(part: AnyPart, value: float, base: str) -> str:
    """A value in a base unit with its unit, in those of the recipe."""
    return quantity_shown(value, base, part.typed.unit, 4)


def wire(part: AnyPart, shape: WireShape) -> str:
    """The size of the wire."""
    if shape.round:
        return f"d ⌀{part.length_shown(shape.width)}"
    return f"{part.length_shown(shape.width)} × {part.length_shown(shape.height)}"


def notes_of(part: AnyPart) -> list[str]:
    """The designer's note, line by line."""
    return [line for line in part.typed.note.splitlines() if line.strip()]


def is_ground(part: Part) -> bool:
    """An end of it is ground."""
    ends = part.recipe.ends
    return any(end is not None and end.kind == "ground" for end in (ends.start, ends.end))


def wound(part: Part) -> list[str]:
    """How it is wound, of which wire."""
    lines = []
    coil = part.path.coil
    if coil is not None:
        lines.append(f"Wound {'right' if coil.hand > 0 else 'left'} hand, {coil.turns:.6g} turns in all")
    if len(part.bodies) == 1:
        lines.append(f"Developed length {part.length_shown(part.sweep.wire_length)} {part.typed.unit}")
    for words, end in (("Start", part.recipe.ends.start), ("End", part.recipe.ends.end)):
        if end is not None and end.kind != "flat":
            lines.append(f"{words} of the wire: {end.kind}")
    twist = part.sweep.changes.twist.ends
    if twist[0] != twist[1]:
        lines.append(f"Twisted by {math.degrees(twist[1] - twist[0]):.6g}° over its length")
    return lines


def legs(part: Part) -> list[str]:
    """What the wire does beyond its turns, at either end."""
    own = part.recipe.path.legs
    sides = () if own is None else (("Start", own.start), ("End", own.end))
    return [
        f"{side}: {', '.join(leg.sizes(part.length_shown) for leg in found)}"
        for side, found in sides
        if found
    ]


def kept(part: Part, spring: WoundSpring, key: str) -> str:
    """The ± that its maker is asked to keep of an input, as it stands behind the size; nothing where the
    recipe asks for none."""
    made = made_of(spring)
    asked = (one for one in made.inputs if one.key == key and one.source == TYPED) if made else ()
    return "".join(f" ± {part.length_shown(one.either)}" for one in asked)


def kept_wire(part: Part, spring: WoundSpring) -> str:
    """The size of a spring's wire, with what its maker is asked to keep of it."""
    return wire(part, spring.shape) + kept(part, spring, "wire")


def height_of(turns: Turns, share: float) -> float:
    """Where the centre of the wire stands after a share of the turns, mm."""
    return float(turns.heights(np.linspace(0.0, share, _STEPS))[-1])


def body_of(turns: Turns) -> tuple[float, float]:
    """Foot and top of the wound body, mm."""
    half = turns.shape.height / 2
    ends = 0.0, height_of(turns, 1.0)
    return min(ends) - half, max(ends) + half


def loads(part: Part, spring: AnySpring) -> list[str]:
    """The spring's wire, rate and working points."""
    place, effort = spring.units
    stress = "τk" if effort == "N" else "σq"
    points: Sequence[WorkedPoint] = spring.points
    made = made_of(spring)
    limits = made.limits if made and made.known else [None] * len(points)
    either = ["" if one is None else f" ± {quantity(part, (one[1] - one[0]) / 2, effort)}" for one in limits]
    return [
        f"Wire: {spring.wire.title}",
        f"Active turns {number_shown(spring.active, 4)}",
        f"Rate R = {quantity(part, spring.rate, f'{effort}/{place}')}",
        *(
            f"{quantity(part, point.effort, effort)}{allowed} at {quantity(part, point.place, place)}: "
            f"{stress} = {quantity(part, point.corrected, 'MPa')}"
            for point, allowed in zip(points, either, strict=True)
        ),
    ]
