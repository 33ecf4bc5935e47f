"""Arcs and rounded corners that several kinds of section are made of, and the lengths that fit them."""

from __future__ import annotations

import math

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.sections.outline import Edge, Outline, arc, fillet, line


def demand_most(value: float, most: float, place: str, reason: str) -> None:
    """Refuse a length above `most`, which works."""
    if value > most * (1 + 1e-12):
        works = math.floor(most * 1e6) / 1e6
        raise RecipeError(
            Problem(place, reason, f"use {works:.6g} mm or less", Fix(place, f"{works:.9g} mm"))
        )


def arcs(start: Array, end: Array, centre: Array, angle: float) -> list[Edge]:
    """The arc about `centre` from start to end through `angle` (signed, up to a full turn)."""
    halves = max(1, math.ceil(abs(angle) / math.pi - 1e-9))
    step = angle / halves
    spoke = start - centre
    cos, sin = math.cos(step), math.sin(step)
    edges: list[Edge] = []
    here = start
    for k in range(halves):
        spoke = np.array([cos * spoke[0] - sin * spoke[1], sin * spoke[0] + cos * spoke[1]])
        there = end if k == halves - 1 else centre + spoke
        edges += arc(here, there, math.tan(step / 4))
        here = there
    return edges


def rounded_polygon(corners: Array, radius: float, place: str) -> Outline:
    """The outline through corners (n, 2), each rounded by `radius`. Raises RecipeError at `place`."""
    n = len(corners)
    arcs, trims = [], []
    for i in range(n):
        edge, trim = fillet(corners[i - 1], corners[i], corners[(i + 1) % n], radius)
        arcs.append(edge)
        trims.append(trim)
    sides = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    taken = np.array(trims) + np.roll(trims, -1)
    share = float((taken / sides).max())
    if share > 1:
        demand_most(
            radius, 0.999 * radius / share, place, f"a radius of {radius:.6g} mm does not fit the sides"
        )
    edges: list[Edge] = []
    for i in range(n):
        edges.append(arcs[i])
        start, end = arcs[i].points[-1], arcs[(i + 1) % n].points[0]
        if np.linalg.norm(end - start) > 1e-9 * sides[i]:
            edges.append(line(tuple(start), tuple(end)))
    return Outline(tuple(edges))
