"""The cone that fits a surface best: its axis is that of a thread or a bar, whichever side of it was seen."""

from __future__ import annotations

from dataclasses import replace

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
        shift, tilt = np.split(off_cone(wall)[1], 2)
        back = screw.turned.T
        axis = back @ np.append(tilt, 1.0)
        centre = screw.centre + back @ np.append(shift - wall[:, 2].mean() * tilt, 0.0)
        screw = replace(screw, axis=axis / np.linalg.norm(axis), centre=centre)
    return screw


def off_cone(points: Array) -> tuple[Array, Array]:
    """How far, mm, upright places (n, 3) lie off the cone that fits them best; its axis by the shift at their
    middle height and the tilt, (4,)."""
    theta = np.arctan2(points[:, 1], points[:, 0])
    up, cosine, sine = points[:, 2] - points[:, 2].mean(), np.cos(theta), np.sin(theta)
    cone = np.stack([cosine, sine, up * cosine, up * sine, np.ones(len(points)), up], axis=1)
    rho = np.hypot(points[:, 0], points[:, 1])
    weight = np.ones(len(points))
    for _ in range(_ROUNDS):
        heeded = (cone * weight[:, None]).T
        found = np.linalg.lstsq(heeded @ cone, heeded @ rho, rcond=None)[0]
        off = rho - cone @ found
        weight = 1 / np.maximum(1.0, np.abs(off) / max(2 * spread_of(off), 1e-9))
    return off, found[:4]
