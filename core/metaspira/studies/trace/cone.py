"""The cone that fits a surface best: its axis is that of a thread or a bar, whichever side of it was seen."""

from __future__ import annotations

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.studies.trace.scan import Scan, spread_of
from metaspira.studies.trace.screw import Screw

_BESIDE, _FEWEST, _ROUNDS = 0.9, 1000, 6


def around_cone(scan: Scan, screw: Screw) -> Screw:
    """The screw around the axis of the cone that fits the surface beside it best."""
    for _ in range(_ROUNDS):
        points, across = screw.upright(scan.points), np.abs(scan.normals @ screw.axis)
        wall = points[across < _BESIDE]
        if len(wall) < _FEWEST:
            break
        shift, tilt = np.split(off_cone(wall)[1][:4], 2)
        screw = screw.moved(shift, tilt, float(wall[:, 2].mean()))
    return screw


def off_cone(points: Array) -> tuple[Array, Array]:
    """How far, mm, upright places (n, 3) lie off the cone that fits them best; and its axis by the shift at
    their middle height and the tilt, its radius there, and how much that grows along it, (6,)."""
    up = points[:, 2] - points[:, 2].mean()
    cone = np.column_stack([toward(points, up), np.ones(len(points)), up])
    rho = np.hypot(points[:, 0], points[:, 1])
    weight = np.ones(len(points))
    for _ in range(_ROUNDS):
        heeded = (cone * weight[:, None]).T
        found = np.linalg.lstsq(heeded @ cone, heeded @ rho, rcond=None)[0]
        off = rho - cone @ found
        weight = 1 / np.maximum(1.0, np.abs(off) / max(2 * spread_of(off), 1e-9))
    return off, found


def toward(points: Array, up: Array) -> Array:
    """How much farther out upright places (n, 3) lie, (n, 4), for each millimetre by which an axis is shifted
    the other way at the height of 0, and for each unit by which it leans, `up` (n,) being their heights."""
    theta = np.arctan2(points[:, 1], points[:, 0])
    cosine, sine = np.cos(theta), np.sin(theta)
    return np.stack([cosine, sine, up * cosine, up * sine], axis=1)


def beside(points: Array, shift: Array, tilt: Array, height: float) -> Array:
    """Where upright places (n, 3) lie beside an axis, (n, 2), that goes through `shift` (2,), mm, at a
    `height`, and leans by `tilt` (2,)."""
    return points[:, :2] - shift - (points[:, 2:] - height) * tilt
