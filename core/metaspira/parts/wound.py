"""A part of wire: a recipe with all that follows from it, worked out once and kept."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from metaspira.gaps.extents import Extents, extents, joint
from metaspira.numbers.once import cached_property
from metaspira.parts.described import LEAST_ERROR, Described
from metaspira.parts.figures import FIGURES
from metaspira.parts.spring import apart, spring_of
from metaspira.paths import Path
from metaspira.paths.base import Reach
from metaspira.paths.winding import Winding, WoundPath
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.recipe.model import Recipe, Wire
from metaspira.recipe.resolving import resolve
from metaspira.schedules import constantly, linearly
from metaspira.sections import Outline, SectionAlong, section_along
from metaspira.sections.loops import scaled, thickened
from metaspira.sections.outline import ellipse
from metaspira.springs.any_spring import AnySpring
from metaspira.sweep.along import Along, Changes, changes_of
from metaspira.sweep.ends import EndShape, FlatEnd, OpenEnd, end_shapes
from metaspira.sweep.ground import demand_left, mesh_of, strips_of, volume_of
from metaspira.sweep.mesh import Fineness, Mesh, Strips, fineness_for, preview_fineness, vertex_count
from metaspira.sweep.stances import Steady, stand_of, usual_stance
from metaspira.sweep.sweep import Sweep

_MOST_TURNS = 25_000
_SHARP = 1e-7


@dataclass(frozen=True, eq=False)
class Body:
    """One wire of a part. Bodies of one `bundle` are laid to touch each other: the strands of a rope, a
    winding and its core."""

    name: str
    sweep: Sweep
    bundle: str = ""

    @cached_property
    def volume(self) -> float:
        """Predicted, mm³."""
        return volume_of(self.sweep)

    def mesh(self, chord_error: float | None = None) -> Mesh:
        """The watertight mesh: within `chord_error` mm of the shape, or as fine as looks smooth."""
        return mesh_of(self.sweep, self._fineness(chord_error))

    def strips(self, chord_error: float | None = None) -> Strips:
        """The surface for shading, as fine as the mesh."""
        return strips_of(self.sweep, self._fineness(chord_error))

    def vertex_count(self, chord_error: float | None = None) -> int:
        """About how many vertices the mesh has."""
        return vertex_count(self.sweep, self._fineness(chord_error))

    def _fineness(self, chord_error: float | None) -> Fineness:
        return preview_fineness(self.sweep) if chord_error is None else fineness_for(self.sweep, chord_error)


@dataclass(frozen=True, eq=False)
class Part(Described):
    """`typed` is the recipe as typed, `recipe` the same in millimetres and radians; `bodies` holds each
    wire, the one that the figures speak of first."""

    typed: Recipe
    recipe: Recipe
    bodies: tuple[Body, ...]

    figures = FIGURES

    @property
    def sweep(self) -> Sweep:
        return self.bodies[0].sweep

    @property
    def wire_length(self) -> float:
        return self.sweep.wire_length

    @property
    def path(self) -> Path:
        return self.sweep.path

    @property
    def outline(self) -> Outline:
        return self.sweep.outline

    @property
    def is_skin(self) -> bool:
        return self.recipe.use.as_ == "skin" and self.recipe.use.thickness is None

    @property
    def reach(self) -> float:
        return self.sweep.section.reach()

    @property
    def usual_chord_error(self) -> float:
        """1/60 of the section's reach, and less for one that is thin for its perimeter, mm."""
        outline = self.outline
        thin = outline.area / outline.perimeter if outline.closed else outline.reach
        return max(min(self.reach / 60, thin / 12), LEAST_ERROR)

    @property
    def sizes(self) -> dict[str, float]:
        box = self.extents
        length = sum(body.sweep.wire_length for body in self.bodies)
        height = {"outside diameter": 2 * box.outside_radius, "height": box.height}
        return {**super().sizes, "wire": length, **height}

    @property
    def volume(self) -> float:
        return 0.0 if self.is_skin else sum(body.volume for body in self.bodies)

    @cached_property
    def extents(self) -> Extents:
        """The extents of all bodies together."""
        return joint([extents(body.sweep, not self.is_skin) for body in self.bodies])

    @property
    def heights(self) -> tuple[float, float]:
        return self.extents.low, self.extents.high

    @cached_property
    def sharp_extents(self) -> Extents:
        """The extents as certain as they can be had, for what lies near a limit."""
        return joint([extents(body.sweep, not self.is_skin, _SHARP) for body in self.bodies])

    @cached_property
    def spring(self) -> AnySpring | None:
        """The spring that the part is, where its recipe says so. Raises RecipeError."""
        return spring_of(self.recipe, tuple(body.sweep for body in self.bodies), self.material.density)

    def worked_to(self, place: float) -> Part:
        """The spring at a length, mm, or wound by an angle, degrees, held to those that it has. Raises
        ValueError on what is none."""
        if self.spring is None:
            raise ValueError("the part is no spring")
        return self._with_turns(*self.spring.paths_to(place))

    def _with_turns(self, *turns: Path) -> Part:
        """The part with other turns of each wire between its legs, which keep their form."""
        wires: tuple[Wire, ...] = (self.recipe, *self.recipe.wires)
        bodies = tuple(
            replace(body, sweep=_retraced(wire, body.sweep, path))
            for wire, body, path in zip(wires, self.bodies, turns, strict=True)
        )
        return replace(self, bodies=bodies)

    @cached_property
    def members(self) -> tuple[Part, ...]:
        """The springs of a nest, each a part of its own that works at the lengths they share; itself where it
        is one spring."""
        if self.spring is None or len(self.spring.members) == 1:
            return (self,)
        return tuple(
            Part(self.typed, recipe.model_copy(update={"spring": one.asked}), (body,))
            for recipe, one, body in zip(apart(self.recipe), self.spring.members, self.bodies, strict=True)
        )


def _retraced(wire: Wire, sweep: Sweep, turns: Path) -> Sweep:
    path = wire.path.with_legs(turns, "/path", sweep.path.without_legs)
    stance = wire.stance or usual_stance(wire.path)
    stand = stand_of(path, stance, wire.section.plane, sweep.section.first.box[1])
    return replace(sweep, path=path, stand=stand)


def make_wound(typed: Recipe) -> Part:
    """The part of wire that a recipe describes. Raises RecipeError."""
    recipe = resolve(typed)
    bodies = _wires(recipe, recipe, "", "wire")
    for index, wire in enumerate(recipe.wires):
        bodies += _wires(wire, recipe, f"/wires/{index}", wire.name or f"wire {index + 2}")
    turned = sum(body.sweep.turning for body in bodies)
    if turned > _MOST_TURNS * 2 * math.pi:
        raise RecipeError(
            Problem(
                "/along/twist/total" if recipe.along.twist else "/path/turns",
                f"the wire turns {turned / (2 * math.pi):.6g} times in all, with its twist",
                f"keep it to {_MOST_TURNS} turns in all",
            )
        )
    part = Part(typed, recipe, tuple(bodies))
    _ = part.spring
    return part


def path_of(wire: Wire) -> Path:
    """The path of a resolved wire by its section as drawn. Raises RecipeError."""
    section = section_along(wire.section, "/section")
    return wire.path.path("/path", _reach(section, changes_of(wire.along, section, "/along")))


def _wires(wire: Wire, recipe: Recipe, place: str, name: str) -> list[Body]:
    """The bodies of one wire of the recipe: itself, its strands, and the core that it is wound on."""
    skin = recipe.use.as_ == "skin"
    section = section_along(wire.section, f"{place}/section")
    if recipe.use.thickness is not None:
        section = _thickened(section, recipe.use.thickness, skin)
    elif not section.first.closed and not skin:
        raise RecipeError(
            Problem(
                "/use/as",
                "an open line encloses nothing, so it makes a skin and no body",
                "use it as a skin",
                Fix("/use/as", "skin"),
            )
        )
    changes = changes_of(wire.along, section, f"{place}/along")
    if recipe.use.thickness is not None and recipe.use.wall != "scaled":
        outline = section_along(wire.section, f"{place}/section").first
        section, changes = _with_kept_wall(outline, section, recipe.use.thickness, wire.along, changes)
    path = wire.path.path(f"{place}/path", _reach(section, changes))
    if wire.strands is None:
        paths = [(name, path)]
    else:
        paths = wire.strands.paths(path, 2 * section.reach(), f"{place}/strands")
    bare = skin and recipe.use.thickness is None
    packed = wire.strands is not None and wire.strands.lay is not None and wire.strands.radius is None
    wound = wire.path if isinstance(wire.path, Winding) and wire.path.core is not None else None
    bundle = name if packed or wound else ""
    bodies = [
        Body(strand, _sweep(wire, section, changes, its_path, bare, place), bundle)
        for strand, its_path in paths
    ]
    if wound is not None and wound.core is not None and isinstance(path, WoundPath):
        bodies.append(Body(f"core of the {name}", _round_along(path.core, wound.core), bundle))
    return bodies


def _thickened(section: SectionAlong, thickness: float, skin: bool) -> SectionAlong:
    if not skin or section.first.closed or section.varies:
        raise RecipeError(
            Problem(
                "/use/thickness",
                "only the skin of an open line is thickened",
                "leave the thickness out, or draw the section as an open line",
            )
        )
    return SectionAlong((thickened(section.first, thickness, "/use/thickness"),))


def _with_kept_wall(
    outline: Outline, section: SectionAlong, thickness: float, along: Along, changes: Changes
) -> tuple[SectionAlong, Changes]:
    """A thickened line whose size varies while its wall does not: the blend of its smallest and its largest
    outline. Each point, and with it diameter, perimeter and area, is linear in the size of the line."""
    size = changes.size
    if size.constant == 1 or size.extremes()[0] <= 0:
        return section, changes
    made = {f: thickened(scaled(outline, f), thickness, "/use/thickness") for f in (0.5, 1.0)}
    measure = next((name for name in _MEASURES if (s := getattr(along, name)) is not None and s.on), None)
    if measure is not None:
        half, whole = (_MEASURES[measure](made[f]) for f in (0.5, 1.0))
        rise = 2 * (whole - half)
        square = measure == "area"
        size = size.mapped(lambda f: ((f * f if square else f) * whole + (rise - whole)) * (1 / rise))
    low, high = size.extremes()
    if low <= 0:
        return section, changes
    none = replace(changes, size=constantly(1.0))
    if high - low < 1e-12:
        return SectionAlong((thickened(scaled(outline, high), thickness, "/use/thickness"),)), none
    ends = tuple(thickened(scaled(outline, f), thickness, "/use/thickness") for f in (low, high))
    shape = size.mapped(lambda f: (f + (-low)) * (1 / (high - low)))
    return SectionAlong(ends, (linearly(1.0, 0.0), linearly(0.0, 1.0))), replace(none, shape=shape)


_MEASURES: dict[str, Callable[[Outline], float]] = {
    "diameter": lambda outline: outline.box[1] - outline.box[0],
    "perimeter": lambda outline: outline.perimeter,
    "area": lambda outline: outline.area,
}


def _reach(section: SectionAlong, changes: Changes) -> Reach:
    inward, outward, low, high = section.first.box
    width, depth = (
        [a * b for a, b in zip(changes.size.ends, other.ends, strict=True)]
        for other in (changes.width, changes.depth)
    )
    first, last = ((w * inward, w * outward, d * (high - low)) for w, d in zip(width, depth, strict=True))
    return first, last


def _sweep(wire: Wire, section: SectionAlong, changes: Changes, path: Path, skin: bool, place: str) -> Sweep:
    plane = wire.section.plane
    stance = wire.stance or usual_stance(wire.path)
    stand = stand_of(path, stance, plane, section.first.box[1])
    at_ends = np.array([0.0, 1.0])
    size = changes.size.value(at_ends) * changes.width.value(at_ends)
    usual = OpenEnd(kind="open") if skin else FlatEnd(kind="flat")
    ends = (wire.ends.start or usual, wire.ends.end or usual)
    shapes = end_shapes(ends, section.reach() * float(size.max()), path.length, path.closed, f"{place}/ends")
    if not skin and any(shape.kind == "open" for shape in shapes):
        raise RecipeError(
            Problem(
                "/use/as",
                "an open end makes a skin and no body",
                "use it as a skin",
                Fix("/use/as", "skin"),
            )
        )
    even = changes.width.constant == changes.depth.constant == 1 and changes.tilt.constant == 0
    is_tube = (
        wire.section.round_diameter is not None
        and plane == "across"
        and even
        and stance.kind not in ("fixed", "plumb")
        and stand.stretch is None
        and bool(np.hypot(*section.first.centroid) < 1e-9 * section.first.reach)
    )
    sweep = Sweep(path, section, stand, changes, shapes, is_tube)
    demand_left(sweep, f"{place}/ends")
    if path.closed:
        _demand_closing(sweep, place)
    return sweep


def _demand_closing(sweep: Sweep, place: str) -> None:
    """On a closed path the section must end as it starts."""
    frames = sweep.frames(np.array([0.0, sweep.length]))
    ring = sweep.ring(np.array([0.0, sweep.length]), 32)
    points = frames.points(ring)
    apart = float(np.linalg.norm(points[0] - points[1], axis=1).max())
    if apart > 1e-6 * max(sweep.section.reach(), 1e-9):
        total = sweep.changes.twist.ends[1] - sweep.changes.twist.ends[0]
        works = round(total / (2 * math.pi)) * 360.0
        twisted = abs(total - math.radians(works)) > 1e-9
        raise RecipeError(
            Problem(
                f"{place}/along/twist" if twisted else f"{place}/stance/kind",
                f"the path is closed, but the section ends {apart:.3g} mm from where it starts",
                f"twist it by {works:g}°"
                if twisted
                else "use “steady”, and schedules that end as they start",
                Fix(f"{place}/along/twist", {"total": works})
                if twisted
                else Fix(f"{place}/stance/kind", "steady"),
            )
        )


def _round_along(path: Path, diameter: float) -> Sweep:
    section = SectionAlong((ellipse(diameter, diameter),))
    one, none = constantly(1.0), constantly(0.0)
    changes = Changes(none, one, one, one, none, none)
    flat = EndShape("flat")
    return Sweep(path, section, Steady(kind="steady").stand(path, diameter / 2), changes, (flat, flat), True)
