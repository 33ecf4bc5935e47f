"""A part on a sheet: its views, notes and tables, placed where they fit, and a title block.

Scales are those of ISO 5455, sheets those of ISO 216 (A4 to A1), or beside inches of ASME Y14.1 (A to D): the
smallest on which the wire is drawn wide enough to be seen.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np

from metaspira.drawings.kinds import plan_of
from metaspira.drawings.marks import Drawing, Line, Mark
from metaspira.drawings.tables import Notes
from metaspira.drawings.title import BLOCK, title_block
from metaspira.drawings.view import SCALES
from metaspira.parts import AnyPart

_SIZES = ((210.0, 297.0), (420.0, 297.0), (594.0, 420.0), (841.0, 594.0))
_INCHES = ((215.9, 279.4), (431.8, 279.4), (558.8, 431.8), (863.6, 558.8))
_LEFT, _EDGE, _APART = 20.0, 10.0, 6.0
_GRID = 4.0
_SMALLER = (1.0, 0.7, 0.5, 0.35, 0.2)
_SEEN, _BOLD = 2.0, 22.0
"""How wide the wire is drawn at the least and at the most, mm."""


class Block(Protocol):
    """Something that stands on a sheet, its size by the sheet's scale."""

    def size(self, main: float) -> tuple[float, float]: ...
    def placed(self, main: float, x: float, y: float) -> list[Mark]: ...


@dataclass(frozen=True)
class _Laid:
    size: tuple[float, float]
    scale: float
    corners: list[tuple[float, float]]


def drawing_of(part: AnyPart) -> Drawing:
    """The sheet of a part."""
    plan = plan_of(part)
    sizes = _INCHES if part.typed.unit == "in" else _SIZES
    laid = None
    for share in _SMALLER:
        blocks = [*plan.views, *(_in_type(block, share) for block in plan.blocks)]
        laid = _laid(blocks, plan.fine, sizes)
        if laid is not None:
            break
    assert laid is not None
    wide, tall = laid.size
    marks: list[Mark] = [*_border(wide, tall), *title_block(part, laid.scale, wide - _EDGE, _EDGE)]
    for block, (x, y) in zip(blocks, laid.corners, strict=True):
        marks += block.placed(laid.scale, x, y)
    return Drawing(part.typed.name, wide, tall, tuple(marks))


def _in_type(block: Block, share: float) -> Block:
    """A block with its notes in smaller type."""
    return replace(block, type=block.type * share) if isinstance(block, Notes) else block


def _laid(blocks: Sequence[Block], fine: float, sizes: Sequence[tuple[float, float]]) -> _Laid | None:
    """The smallest sheet on which `fine` mm of the part are seen; else the largest that holds it all, if
    one does."""
    found = None
    for size in sizes:
        for scale in SCALES:
            if scale * fine > _BOLD and scale > SCALES[-1]:
                continue
            corners = _packed(blocks, scale, *size)
            if corners is not None:
                if found is None or scale > found.scale:
                    found = _Laid(size, scale, corners)
                break
        if found is not None and found.scale * fine >= _SEEN:
            return found
    return found


def _packed(
    blocks: Sequence[Block], scale: float, wide: float, tall: float
) -> list[tuple[float, float]] | None:
    """The lower left corner of each block, in their order from the upper left on, clear of each other and of
    the title block; None where they do not fit."""
    taken = [(wide - _EDGE - BLOCK[0] - _APART, 0.0, wide, _EDGE + BLOCK[1] + _APART)]
    corners = []
    for block in blocks:
        w, h = block.size(scale)
        xs = np.arange(_LEFT + _APART / 2, wide - _EDGE - _APART / 2 - w, _GRID)
        ys = np.arange(tall - _EDGE - _APART / 2 - h, _EDGE, -_GRID)
        if not len(xs) or not len(ys):
            return None
        x, y = (grid.ravel() for grid in np.meshgrid(xs, ys))
        free = np.ones(len(x), dtype=bool)
        for left, low, right, high in taken:
            free &= (x >= right) | (x + w <= left) | (y >= high) | (y + h <= low)
        place = np.flatnonzero(free)
        if not len(place):
            return None
        corner = float(x[place[0]]), float(y[place[0]])
        corners.append(corner)
        taken.append((corner[0] - _APART, corner[1] - _APART, corner[0] + w + _APART, corner[1] + h + _APART))
    return corners


def _border(wide: float, tall: float) -> list[Mark]:
    right, top = wide - _EDGE, tall - _EDGE
    return [Line(((_LEFT, _EDGE), (right, _EDGE), (right, top), (_LEFT, top), (_LEFT, _EDGE)))]
