"""A part from the front and along its axis, with its overall sizes."""

from __future__ import annotations

from metaspira.drawings.seen import FRONT, TOP
from metaspira.drawings.shape import box_of, meshes_of, reach_of, seen, span
from metaspira.drawings.view import Measure, Pointer, Projected, View, upright
from metaspira.parts import AnyPart
from metaspira.sweep.mesh import Mesh

Box = tuple[float, float, float, float]


def front_and_top(
    part: AnyPart, turned: bool, tall: float | None = None, pitch: float | None = None
) -> Projected:
    """Both views; `turned` where it runs around the axis, so that it has diameters; `tall` is its height, mm,
    where another than its figure is meant, and `pitch`, mm, that of its turns, where it is one."""
    meshes, fine = meshes_of(part), reach_of(part) / 100
    front, top = box_of(meshes, FRONT), box_of(meshes, TOP)
    along = upright(front[1], front[3])
    across = *upright(top[1], top[3]), ((top[0], 0.0), (top[2], 0.0))
    sizes = (*_sizes(part, meshes, front, turned, tall), *_pitch(part, front, pitch))
    return Projected(
        View("Front", front, tuple(seen(meshes, FRONT, fine)), sizes, axes=along if turned else ()),
        View(
            "Top",
            top,
            tuple(seen(meshes, TOP, fine)),
            () if turned else (_deep(part, meshes, top),),
            _inside(part) if turned else (),
            axes=across if turned else (),
        ),
    )


def _sizes(part: AnyPart, meshes: list[Mesh], box: Box, turned: bool, tall: float | None) -> list[Measure]:
    """Overall sizes: figures of the part, and how far the surface reaches."""
    _, low, right, high = box
    figures = part.quick_figures
    tall = tall or figures.get("overall_height", figures.get("height"))
    found = [] if not tall else [Measure((right, low), (right, low + tall), "right", part.length_shown(tall))]
    outside = figures["outside_diameter"]
    if turned and outside:
        half = outside / 2
        found.append(Measure((-half, high), (half, high), "above", f"⌀{part.length_shown(outside)}"))
    else:
        first, last = span(part, meshes, 0)
        found.append(Measure((first, high), (last, high), "above", part.length_shown(last - first)))
    return found


def _pitch(part: AnyPart, box: Box, pitch: float | None) -> list[Measure]:
    """Between two centres of wire, in the middle."""
    if pitch is None:
        return []
    left, middle = box[0], (box[1] + box[3]) / 2
    ends = (left, middle - pitch / 2), (left, middle + pitch / 2)
    return [Measure(*ends, "left", f"p {part.length_shown(pitch)}")]


def _deep(part: AnyPart, meshes: list[Mesh], box: Box) -> Measure:
    """How deep it is."""
    first, last = span(part, meshes, 1)
    return Measure((box[2], first), (box[2], last), "right", part.length_shown(last - first))


def _inside(part: AnyPart) -> tuple[Pointer, ...]:
    inside = part.quick_figures["inside_diameter"]
    if not inside:
        return ()
    return (Pointer((inside / 2, 0.0), f"inside ⌀{part.length_shown(inside)}"),)
