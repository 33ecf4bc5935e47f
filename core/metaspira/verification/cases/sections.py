"""Areas and centroids of sections."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from shapely import Polygon

from metaspira.sections.outline import Outline
from metaspira.verification.parts import wound
from metaspira.verification.row import Row, near

_CLOSED: dict[str, tuple[dict[str, Any], float]] = {
    "round 3": ({"kind": "round", "diameter": 3}, math.pi * 2.25),
    "ellipse 5 × 2": ({"kind": "ellipse", "width": 5, "height": 2}, math.pi * 2.5),
    "rectangle 5 × 2": ({"kind": "rectangle", "width": 5, "height": 2}, 10),
    "rectangle 5 × 2, corners 0.5": (
        {"kind": "rectangle", "width": 5, "height": 2, "corner_radius": 0.5}, 10 - (4 - math.pi) * 0.25,
    ),
    "stadium 5 × 2": ({"kind": "rectangle", "width": 5, "height": 2, "corner_radius": 1}, 6 + math.pi),
    "hexagon 4": ({"kind": "polygon", "sides": 6, "across_flats": 4}, 8 * math.sqrt(3)),
    "triangle 2": ({"kind": "polygon", "sides": 3, "across_flats": 2}, 3 * math.sqrt(3)),
    "tube 10 × 1": ({"kind": "tube", "diameter": 10, "wall": 1}, math.pi * (25 - 16)),
    "trapezoid 3 to 2, 2.5": ({"kind": "trapezoid", "base": 3, "top": 2, "height": 2.5}, 2.5 * 2.5),
    "channel 6 × 4, wall 0.8": (
        {"kind": "channel", "width": 6, "depth": 4, "wall": 0.8}, 6 * 4 - (6 - 1.6) * (4 - 0.8),
    ),
    "star of 5, sharp": (
        {"kind": "star", "points": 5, "outer_diameter": 4, "inner_diameter": 2},
        5 * 2 * math.sin(math.pi / 5),
    ),
}  # fmt: skip
_DRAWN: dict[str, dict[str, Any]] = {
    "flatted round 3, flat 2.5": {"kind": "flatted", "diameter": 3, "flat": 2.5},
    "trough 6 × 3": {"kind": "trough", "width": 6, "depth": 3, "wall": 0.6},
    "star of 7, rounded": {
        "kind": "star", "points": 7, "outer_diameter": 5, "inner_diameter": 3, "fillet": 0.15,
    },
    "lobed 3": {"kind": "lobed", "lobes": 3, "core_diameter": 4, "lobe_diameter": 1.5},
    "square 6 with two holes": {
        "kind": "rectangle", "width": 6, "height": 6,
        "holes": [
            {"kind": "round", "diameter": 1.5, "centre": [-1.5, 0]},
            {"kind": "rectangle", "width": 1, "height": 2, "centre": [1.5, 0.5]},
        ],
    },
    "drawn loop with arcs": {
        "kind": "free", "loops": [{"points": [[0, 0], [4, 0, 0.4], [4, 3], [0, 3, -0.2]]}],
    },
    "drawn loop, smooth": {
        "kind": "free", "loops": [{"points": [[-2, 0], [0, -1.5], [2.5, 0], [0.4, 2]], "ease": "smooth"}],
    },
}  # fmt: skip


def rows() -> Iterator[Row]:
    for name, (section, area) in _CLOSED.items():
        ours = _outline(section).area
        yield near(("section_area",), name, area, ours, 1e-11, "mm²", "elementary geometry", "formula")
    for name, section in _DRAWN.items():
        outline = _outline(section)
        area = Polygon(outline.ring(4000, 2).points, [hole.ring(4000, 2).points for hole in outline.holes])
        source = "polygon of 4,000 points an edge (shapely)"
        yield near(("section_area",), name, area.area, outline.area, 1e-6, "mm²", source)
        for axis, words in enumerate(("across", "up")):
            value = (area.centroid.x, area.centroid.y)[axis]
            ours = float(outline.centroid[axis])
            yield Row(
                ("wire_length",), f"{name}, centroid {words}", value, ours, 1e-5, "mm", source, "computed"
            )


def _outline(section: dict[str, Any]) -> Outline:
    return wound({"path": {"kind": "straight", "length": 20}, "section": section}).outline
