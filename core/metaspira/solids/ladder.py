"""A plate of studs, and the nuts before it, whose allowance grows from pair to pair; each pair has its
allowance in relief, in hundredths of a millimetre."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import manifold3d
import numpy as np

from metaspira.numbers.jets import Array
from metaspira.parts import ThreadedPart
from metaspira.parts.threaded import make_threaded
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import ThreadRecipe
from metaspira.sweep.mesh import Mesh
from metaspira.threads.ladder import Ladder

_PLATE, _EMBEDDED, _RELIEF = 3.0, 0.4, 0.6
_STROKE, _LEAST_DIGIT, _MOST_DIGIT = 0.18, 2.5, 8.0
_STUD, _NUT = 7, 5
"""Pitches that a stud and a nut are long, at the least."""
_FLATS = 1.6
_COARSE, _MERGED = 2.0, 0.2
"""The chord error as a share of the usual one; how far triangles may be merged, as a share of that."""
_SEGMENTS = {
    "0": "abcdef",
    "1": "bc",
    "2": "abged",
    "3": "abgcd",
    "4": "fgbc",
    "5": "afgcd",
    "6": "afgedc",
    "7": "abc",
    "8": "abcdefg",
    "9": "abcdfg",
    ".": "p",
}
"""The strokes of a digit: a on top, then clockwise b to f, g in the middle, p a point at the foot."""


@dataclass(frozen=True, eq=False)
class Rung:
    """A body of the ladder: its name, and its mesh, mm."""

    name: str
    mesh: Mesh


def ladder_of(part: ThreadedPart) -> list[Rung]:
    """The plate with its studs, then each nut. Raises RecipeError where the thread has no pair that can be
    printed."""
    asked = part.recipe.ladder or Ladder()
    allowances = asked.allowances(part.thread.pitch)
    pairs = [_pair(part, allowance) for allowance in allowances]
    chord = _COARSE * part.usual_chord_error
    stud, nut = pairs[0].bodies
    wide = max(2 * nut.outer_radius, 2 * stud.outer_radius) + 3
    digit = min(max(0.3 * stud.outer_radius, _LEAST_DIGIT), _MOST_DIGIT)
    deep = 2 * stud.outer_radius + digit + 8
    plate = _box((0.0, 0.0, 0.0), (wide * len(pairs), deep, _PLATE))
    nuts = []
    for k, pair in enumerate(pairs):
        middle = wide * (k + 0.5)
        text = f"{100 * allowances[k]:.4g}"
        own = _solid(pair.bodies[0].mesh(chord), chord)
        plate += own.translate((middle, deep - stud.outer_radius - 2, _PLATE - _EMBEDDED))
        plate += _written(text, digit).translate((middle, 2.0, _PLATE - _EMBEDDED))
        nuts.append((f"nut {text}", _marked(pair, chord, text).translate((middle, -wide / 2, 0.0))))
    grown = 1 / (1 - np.array([asked.shrinks_x, asked.shrinks_y, asked.shrinks_z]) / 100)
    rungs = [("plate of studs", plate), *nuts]
    return [Rung(name, _mesh(solid.scale(grown.tolist()))) for name, solid in rungs]


def _pair(part: ThreadedPart, allowance: float) -> ThreadedPart:
    """A stud and a nut of a thread, opened by an allowance, mm."""
    thread, typed = part.thread, part.typed
    diameter = 2 * part.profile.outer
    stud = max(_STUD * thread.pitch, 2 * thread.lead)
    nut = max(_NUT * thread.pitch, 1.5 * thread.lead)
    data: dict[str, Any] = typed.model_dump(mode="json", by_alias=True, exclude_none=True)
    kept = {key: value for key, value in data["thread"].items() if key not in _PLACED}
    recipe: dict[str, Any] = {
        **{key: data[key] for key in ("format", "unit", "variables", "material") if key in data},
        "thread": kept | {"allowance": f"{allowance} mm"},
        "host": {"kind": "rod", "length": f"{stud:.6g} mm"},
        "mate": {"length": f"{nut:.6g} mm", "across_flats": f"{_FLATS * diameter:.6g} mm"},
    }
    try:
        return make_threaded(ThreadRecipe.model_validate(recipe))
    except RecipeError as error:
        reason = f"with an allowance of {allowance:g} mm {error.problems[0].reason}"
        raise RecipeError(Problem("/ladder/step", reason, "use a smaller step, or fewer pairs")) from None


_PLACED = ("at", "length", "start", "end", "allowance", "side")


def _marked(pair: ThreadedPart, chord: float, text: str) -> manifold3d.Manifold:
    """The nut with its allowance on a flat that looks along −y."""
    nut = pair.bodies[1]
    mesh = nut.mesh(chord)
    solid = _solid(mesh, chord)
    corners = mesh.vertices[mesh.faces]
    normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    reach = np.hypot(corners[..., 0], corners[..., 1]).min(axis=1)
    outer = np.abs(normal[:, 2]) < 1e-6 * np.linalg.norm(normal, axis=1)
    outer &= reach > nut.loops[1].outer_radius
    flat = normal[outer][int(np.argmax(np.linalg.norm(normal[outer], axis=1)))]
    solid = solid.rotate((0.0, 0.0, -90 - math.degrees(math.atan2(flat[1], flat[0]))))
    apart = -float(nut.loops[0].inner_radius)
    low, high = solid.bounding_box()[2], solid.bounding_box()[5]
    digit = min(max(0.45 * (high - low), 1.5), _MOST_DIGIT)
    mark = _written(text, digit).rotate((90.0, 0.0, 0.0))
    return (solid + mark.translate((0.0, apart + _EMBEDDED, 0.5 * (low + high - digit)))).translate(
        (0.0, 0.0, -low)
    )


def _written(text: str, height: float) -> manifold3d.Manifold:
    """Digits in relief on z = 0, mm: their middle at x = 0, their foot on y = 0."""
    wide, stroke = 0.5 * height, _STROKE * height
    advance, x = wide + 1.2 * stroke, 0.0
    strokes = {
        "a": (0, height - stroke, wide, stroke),
        "g": (0, (height - stroke) / 2, wide, stroke),
        "d": (0, 0, wide, stroke),
        "f": (0, height / 2, stroke, height / 2),
        "e": (0, 0, stroke, height / 2),
        "b": (wide - stroke, height / 2, stroke, height / 2),
        "c": (wide - stroke, 0, stroke, height / 2),
        "p": (0, 0, stroke, stroke),
    }
    found = manifold3d.Manifold()
    for letter in text:
        for name in _SEGMENTS[letter]:
            left, foot, across, up = strokes[name]
            found += _box((x + left, foot, 0.0), (across, up, _EMBEDDED + _RELIEF))
        x += 2.2 * stroke if letter == "." else advance
    return found.translate((-(x - 1.2 * stroke) / 2, 0.0, 0.0))


def _box(corner: tuple[float, float, float], size: tuple[float, float, float]) -> manifold3d.Manifold:
    return manifold3d.Manifold.cube(size).translate(corner)


def _solid(mesh: Mesh, chord: float) -> manifold3d.Manifold:
    given = manifold3d.Mesh(mesh.vertices.astype(np.float32), mesh.faces.astype(np.uint32))
    return manifold3d.Manifold(given).simplify(_MERGED * chord)


def _mesh(solid: manifold3d.Manifold) -> Mesh:
    found = solid.to_mesh()
    vertices: Array = np.asarray(found.vert_properties[:, :3], dtype=np.float64)
    faces = np.asarray(found.tri_verts, dtype=np.int32)
    return Mesh(vertices, faces, vertices[:, 2], np.full(len(faces), -1, dtype=np.int32))
