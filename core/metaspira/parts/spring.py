"""The spring that a part is, if its recipe says that it is one."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from metaspira.gaps.extents import extents, heights
from metaspira.numbers.jets import Array
from metaspira.paths.legs import Leg
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.recipe.model import Recipe, Wire
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.asked import (
    AskedSpring,
    CompressionSpring,
    ExtensionSpring,
    SpiralSpring,
    TorsionSpring,
)
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension, Hook
from metaspira.springs.nested import Nested
from metaspira.springs.shape import RoundWire, SectionWire, Strip, WireShape
from metaspira.springs.spiral import Spiral
from metaspira.springs.standard import CoilEnd, dead_turns
from metaspira.springs.torsion import Torsion
from metaspira.springs.turns import Turns, demand_coil, turns_of
from metaspira.springs.wire import SpringWire
from metaspira.sweep.sweep import Sweep

_PLACES, _TURNED = 9, 0.01
_FLAT = 1e-9


def spring_of(recipe: Recipe, sweeps: tuple[Sweep, ...], density: float) -> AnySpring | None:
    """The spring of a resolved recipe, its wires swept as `sweeps` and `density` g/mm³ heavy. Raises
    RecipeError where the part cannot be one."""
    asked = recipe.spring
    if asked is None:
        return None
    if len(sweeps) == 1:
        return _single(asked, recipe, sweeps[0], density)
    if not isinstance(asked, CompressionSpring) or len(sweeps) != 1 + len(recipe.wires):
        raise RecipeError(
            Problem(
                "/spring",
                (
                    "of several wires only springs that push, one coil of plain wire in the other, are "
                    "summed here"
                ),
                "leave the load out",
            )
        )
    for index, point in enumerate(asked.points):
        point.demand_one(f"/spring/points/{index}")
    bare = asked.model_copy(update={"points": ()})
    alone = [_single(bare, one, sweep, density) for one, sweep in zip(apart(recipe), sweeps, strict=True)]
    members = tuple(one for one in alone if isinstance(one, Compression))
    return Nested(asked, members[0].wire, members[0].turns, members)


def apart(recipe: Recipe) -> list[Recipe]:
    """Each wire of a recipe as a recipe of its own."""
    wires: tuple[Wire, ...] = (recipe, *recipe.wires)
    return [
        recipe.model_copy(update={name: getattr(wire, name) for name in Wire.model_fields} | {"wires": ()})
        for wire in wires
    ]


@dataclass(frozen=True)
class _Wound:
    """What a spring is made of: its recipe of one wire, that wire as it is swept, heavy by `density` g/mm³,
    its kind and shape, and how far from the path its centre lies, away from the axis, mm."""

    recipe: Recipe
    sweep: Sweep
    density: float
    wire: SpringWire
    shape: WireShape
    aside: float

    @property
    def turns(self) -> Turns:
        """The turns, without legs."""
        return turns_of(self.sweep.path.without_legs, self.shape, self.aside)


def _single(asked: AskedSpring, recipe: Recipe, sweep: Sweep, density: float) -> AnySpring:
    wire = asked.spring_wire()
    shape, aside = _shape(asked, wire, recipe, sweep)
    for index, point in enumerate(asked.points):
        point.demand_one(f"/spring/points/{index}")
    made: AnySpring = _MADE[type(asked)](asked, _Wound(recipe, sweep, density, wire, shape, aside))
    return made


def _compression(asked: CompressionSpring, of: _Wound) -> Compression:
    sweep = of.sweep
    turns = turns_of(sweep.path, of.shape, of.aside)
    if turns.active <= 0:
        raise RecipeError(
            Problem(
                "/path/pitch",
                "every turn touches the next, so nothing is left to close",
                "use a larger pitch",
            )
        )
    mass = sweep.wire_length * of.shape.area * of.density
    ends = _coil_ends(of.recipe, turns)
    if ends is not None and turns.turns <= dead_turns(ends):
        raise RecipeError(
            Problem(
                "/path/turns",
                f"{turns.turns:.4g} turns in all leave none that is active: {dead_turns(ends):.4g} are dead",
                "wind more turns, or close fewer",
            )
        )

    def reach() -> tuple[float, float]:
        (low, high), foot = heights(sweep), float(sweep.path.at(np.zeros(1)).position[0, 2])
        return low - foot, high - foot

    return Compression(asked, of.wire, turns, reach, mass, ends)


def _torsion(asked: TorsionSpring, of: _Wound) -> Torsion:
    path = of.sweep.path
    low, high = path.legs_at
    return Torsion(asked, of.wire, of.turns, (low, path.length - high))


def _coil_ends(recipe: Recipe, turns: Turns) -> tuple[CoilEnd, CoilEnd] | None:
    """The ends of a cylinder of even pitch; None of another shape."""
    counts = recipe.path.closed_counts
    even = any(counts) or turns.pitch.constant is not None
    if not even or not turns.cylindrical:
        return None
    first, last = (
        CoilEnd(count, end is not None and end.kind == "ground")
        for end, count in zip((recipe.ends.start, recipe.ends.end), counts, strict=True)
    )
    return first, last


def _spiral(asked: SpiralSpring, of: _Wound) -> Spiral:
    free = of.sweep.path.without_legs
    turns = turns_of(free, of.shape)
    if float(np.abs(turns.pitches).max()) > _FLAT:
        raise RecipeError(
            Problem("/path/height", "a spiral spring lies flat", "give it no height", Fix("/path/height", 0))
        )
    grows = np.diff(turns.radii)
    if not ((grows > 0).all() or (grows < 0).all()):
        raise RecipeError(
            Problem(
                "/path/end_diameter",
                "a spiral spring winds outwards all the way",
                "give it another end diameter",
            )
        )
    return Spiral(asked, of.wire, turns, free)


def _extension(asked: ExtensionSpring, of: _Wound) -> Extension:
    """Its free length is that between the insides of its hooks: all of it, less a wire at each end that has
    one."""
    turns, legs = of.turns, of.recipe.path.legs
    hooks = [
        hook
        for own, radius in (
            (legs.start if legs else (), float(turns.radii[0])),
            (legs.end if legs else (), float(turns.radii[-1])),
        )
        if (hook := _hook(own, radius)) is not None
    ]

    def reach() -> tuple[float, float]:
        return 0.0, extents(of.sweep, True).height - of.shape.width * len(hooks)

    return Extension(asked, of.wire, turns, reach, tuple(hooks))


_MADE: dict[type[AskedSpring], Callable[[Any, _Wound], AnySpring]] = {
    CompressionSpring: _compression,
    ExtensionSpring: _extension,
    TorsionSpring: _torsion,
    SpiralSpring: _spiral,
}


def _hook(legs: tuple[Leg, ...], radius: float) -> Hook | None:
    for leg in legs:
        if (sizes := leg.hook(radius)) is not None:
            return Hook(*sizes)
    bends = [bend for leg in legs for bend in leg.bend_radii]
    return Hook(max(bends), min(bends)) if bends else None


def _shape(asked: AskedSpring, wire: SpringWire, recipe: Recipe, sweep: Sweep) -> tuple[WireShape, float]:
    """The shape of its wire, and how far from the path its centre lies, away from the axis, mm. Raises
    RecipeError where it changes along the wire, or encloses no area."""
    demand_coil(sweep.path.without_legs)
    section, changes = recipe.section, sweep.changes
    low, high = sweep.path.legs_at
    s = np.linspace(low, high, _PLACES + 2)[1:-1]
    frames = sweep.rigid(s)
    drawn = _across(frames.origin, frames.d_origin, np.stack([frames.first, frames.second], axis=1))
    even = changes.size.constant == changes.width.constant == changes.depth.constant == 1
    if not even or sweep.stand.stretch is not None:
        raise RecipeError(
            Problem(
                "/along",
                "the sums of a spring stand for wire of one size all along",
                "take the changes of size away, or leave the load out",
            )
        )
    if not sweep.outline.closed or sweep.section.varies:
        raise RecipeError(
            Problem(
                "/section",
                "the sums of a spring stand for wire of one closed section",
                "use such a section, or leave the load out",
            )
        )
    round_wire = None if section.holes else section.round_diameter
    if round_wire is not None and np.allclose(drawn @ drawn.mT, np.eye(2), atol=_TURNED):
        return RoundWire(round_wire), float(drawn[0, 0] @ sweep.outline.centroid)
    if float(np.abs(drawn - drawn[0]).max()) > _TURNED:
        raise RecipeError(
            Problem(
                "/stance",
                "the section turns about the wire, so that no two turns are alike",
                "let it face away from the axis, without twist, or use a round section",
                Fix("/stance", {"kind": "outward"}),
            )
        )
    outline = sweep.outline.mapped(np.median(drawn, axis=0))
    aside, along = outline.centroid
    outline = outline.moved(-aside, -along)
    diameter = math.sqrt(4 * outline.area / math.pi)
    E = wire.elastic_modulus(diameter, asked.temperature)
    G = wire.shear_modulus(diameter, asked.temperature)
    strip = asked.bends and section.is_strip
    return (Strip if strip else SectionWire)(outline, E, G), aside


def _across(places: Array, along: Array, axes: Array) -> Array:
    """What u and v are across the wire at places (n, 3) with tangents `along`: away from the axis and along
    it (n, 2, 2), as on a coil of the right hand."""
    tangent = along / np.linalg.norm(along, axis=1, keepdims=True)
    outward = places * [1.0, 1.0, 0.0]
    outward -= np.einsum("ni,ni->n", outward, tangent)[:, None] * tangent
    outward /= np.linalg.norm(outward, axis=1, keepdims=True)
    upward = np.cross(outward, tangent)
    upward *= np.where(upward[:, 2:] < 0, -1.0, 1.0)
    around = places[:, 0] * tangent[:, 1] - places[:, 1] * tangent[:, 0]
    upward *= np.where(around * tangent[:, 2] < 0, -1.0, 1.0)[:, None]
    return np.einsum("nij,nkj->nik", np.stack([outward, upward], axis=1), axes)
