"""The coiling table of a wire former: its settings over the length of wire that it is fed.

A former bends the wire as it is fed, by a finger that sets the diameter and one that sets the pitch. Of the
centre line of the part, curvature κ and torsion τ, the table holds the helix that the wire must be bent to,
springback calculated in:

    κ* = what springs back to κ,    diameter = 2 κ* / (κ*² + τ²),    pitch = 2π τ / (κ*² + τ²),

positive for a right hand. Between rows the former goes straight from setting to setting.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np

from metaspira.coiling.springback import Bending, bending
from metaspira.numbers.jets import Array
from metaspira.numbers.tables import csv_text
from metaspira.parts import AnyPart, Part
from metaspira.paths import Path
from metaspira.paths.legs import Leg
from metaspira.paths.straight import Straight
from metaspira.problems import Problem, RecipeError
from metaspira.springs.nested import Nested

_ROWS_A_TURN = 24
_LEAST = 9
_MOST = 50_000
_NEAR = 1e-6
_COLUMNS = (
    "feed mm",
    "piece",
    "diameter setting mm",
    "pitch setting mm",
    "diameter free mm",
    "pitch free mm",
    "remark",
)


@dataclass(frozen=True, eq=False)
class CoilingTable:
    """Settings (n,) over the feed (n,), all in mm, and the free diameters and pitches (n,) that they are for.
    `outline` of the wire's section, modulus and flow stress (MPa) are what the springback was found by."""

    feed: Array
    diameter: Array
    pitch: Array
    free_diameter: Array
    free_pitch: Array
    wire: Bending
    outside: float
    source: str

    @property
    def rows(self) -> Array:
        """(n, 5), feed, settings, free diameter and pitch."""
        return np.column_stack([self.feed, self.diameter, self.pitch, self.free_diameter, self.free_pitch])


def coiling_table(part: AnyPart) -> CoilingTable:
    """The table for the first wire of a part, without its legs, which are bent afterwards. Raises RecipeError
    where a former cannot wind it."""
    problem = misfit(part)
    if problem is not None:
        raise RecipeError(problem)
    assert isinstance(part, Part)
    path = part.path.without_legs
    modulus, flow, source = _metal(part)
    outline = part.outline
    wire = bending(outline, modulus, flow)
    s, bend, turn = _bends(path)
    bent = np.array([wire.needed(float(k)) for k in bend])
    diameter, pitch = _helix(bent, turn)
    free_diameter, free_pitch = _helix(bend, turn)
    outside = outline.box[1]
    return CoilingTable(s, diameter, pitch, free_diameter, free_pitch, wire, outside, source)


def csv_of(part: Part, table: CoilingTable) -> str:
    """The table as CSV, over all the wire that is cut: legs, which are bent afterwards, have no settings."""
    path = part.path
    first, last = path.legs_at
    rows = [
        [f"{first + feed:.6f}", _piece(part, first + feed), *(f"{value:.6f}" for value in settings), ""]
        for feed, *settings in table.rows
    ]
    legs = part.recipe.path.legs
    if legs is not None and legs.start:
        rows.insert(0, _legs_row(part, 0.0, legs.start[::-1]))
    if legs is not None and legs.end:
        rows.append(_legs_row(part, last, legs.end))
    length = part.path.length
    rows.append([f"{length:.6f}", "cut", "", "", "", "", f"cut length {length:.6f} mm"])
    told = (
        f"springback by bending of an elastic, plastic wire: E {table.wire.modulus:g} MPa, "
        f"flow stress {table.wire.flow:.5g} MPa ({table.source}); pitch is positive for a right hand"
    )
    rows[0][-1] = "; ".join(filter(None, (rows[0][-1], told)))
    return csv_text([_COLUMNS, *rows])


def _piece(part: Part, feed: float) -> str:
    closed = any(low - _NEAR <= feed <= high + _NEAR for low, high in part.path.touching)
    return "closed turn" if closed else "turn"


def _legs_row(part: Part, start: float, legs: tuple[Leg, ...]) -> list[str]:
    words = ", ".join(leg.sizes(part.length_shown) for leg in legs)
    return [f"{start:.6f}", "leg", "", "", "", "", f"bent afterwards: {words}"]


def misfit(part: AnyPart) -> Problem | None:
    """Why a former cannot wind a part."""
    if not isinstance(part, Part):
        return Problem("/thread", "a thread is not wound of wire", "give a coil")
    if len(part.bodies) > 1:
        return Problem("/wires", "a former winds one wire at a time", "make a design of each wire")
    if not part.outline.closed:
        return Problem("/section", "an open line is no wire", "give the section as a loop")
    changes = part.sweep.changes
    if any(way.constant is None for way in (changes.size, changes.width, changes.depth, changes.twist)):
        return Problem("/along", "the wire changes along its length", "switch its schedules off")
    if isinstance(part.recipe.path, Straight):
        return Problem("/path", "the wire runs straight, where a former bends nothing", "take a coil")
    return _not_cold(part)


def _not_cold(part: Part) -> Problem | None:
    material = part.material
    if part.spring is not None or (material.modulus is not None and material.flow is not None):
        return None
    return Problem("/material", f"{material.name.lower()} is not wound cold", "take a metal")


def _metal(part: Part) -> tuple[float, float, str]:
    """Modulus and flow stress, MPa, and where they are from: the spring's wire, or the material."""
    if part.spring is not None:
        spring = part.spring
        assert not isinstance(spring, Nested)
        strength = spring.wire.strength(spring.diameter)
        return spring.elastic_modulus, strength, f"least strength of {spring.wire.title}"
    material = part.material
    assert material.modulus is not None and material.flow is not None
    return (
        material.modulus,
        material.flow,
        f"{material.name.lower()}, drawn hard, not checked against a printed table",
    )


def _bends(path: Path) -> tuple[Array, Array, Array]:
    """Stations s and the curvature and torsion there, 1/mm, each (n,); twice at a place where they jump."""
    pieces = []
    ends = [0.0, *path.breaks, path.length]
    for low, high in itertools.pairwise(ends):
        if high - low < 1e-9:
            continue
        turning = float(np.diff(path.turned(np.array([low, high])))[0])
        count = max(math.ceil(_ROWS_A_TURN * turning / (2 * math.pi)) + 1, _LEAST)
        inside = 1e-9 * (high - low)
        s = np.linspace(low + inside, high - inside, count)
        _, first, second, third = path.derivatives(s, 3)
        bend = np.linalg.norm(second, axis=1)
        if bend.min() < 1e-9:
            raise RecipeError(
                Problem(
                    "/path",
                    "the wire runs straight in places, where a former bends nothing",
                    "take a coil",
                )
            )
        turn = np.einsum("ni,ni->n", np.cross(first, second), third) / bend**2
        s[0], s[-1] = low, high
        pieces.append((s, bend, turn))
    if sum(len(piece[0]) for piece in pieces) > _MOST:
        raise RecipeError(Problem("/path/turns", f"the table has more than {_MOST} rows", "use fewer turns"))
    s, bend, turn = (np.concatenate(columns) for columns in zip(*pieces, strict=True))
    return s, bend, turn


def _helix(bend: Array, turn: Array) -> tuple[Array, Array]:
    """Diameter and pitch, mm, of the helices with these curvatures and torsions."""
    square = bend**2 + turn**2
    return 2 * bend / square, 2 * math.pi * turn / square
