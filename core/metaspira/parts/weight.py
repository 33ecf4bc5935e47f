"""What a part weighs and how it is spread: mass, surface, box, centre of mass and inertia."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
import trimesh

from metaspira.materials import FINISHES
from metaspira.numbers.figure import Figure, Told
from metaspira.parts import AnyBody, AnyPart, Body, bodies_of
from metaspira.sweep.inertia import NOTHING, Moments, ground_area, moments_of
from metaspira.threads.moments import moments_of_body, surface_of_body

_FINE = 5e-3
_NOTHING = 1e-9


@dataclass(frozen=True)
class Weight:
    """Mass (g), volume (mm³), surface (mm²), box (from and to, mm), centre of mass (mm), inertia about it (3
    × 3, g mm²), and its principal values, ascending; of a finish with a thickness, the mass of its `coat`
    (g), which is not in `mass`."""

    mass: float
    volume: float
    surface: float
    low: tuple[float, ...]
    high: tuple[float, ...]
    centre: tuple[float, ...] | None
    inertia: tuple[tuple[float, ...], ...] | None
    principal: tuple[float, ...] | None
    coat: float | None = None

    @property
    def size(self) -> tuple[float, ...]:
        """The sides of the box, mm."""
        return tuple(high - low for low, high in zip(self.low, self.high, strict=True))


def weigh(part: AnyPart) -> Weight:
    """A part of one material. A skin that encloses nothing has a surface and no mass."""
    bodies = bodies_of(part)
    meshes = [_mesh(body) for body in bodies]
    surface = sum(map(_surface, bodies))
    low = np.min([mesh.bounds[0] for mesh in meshes], axis=0)
    high = np.max([mesh.bounds[1] for mesh in meshes], axis=0)
    if part.heights is not None:
        low[2], high[2] = part.heights
    box = tuple(low.tolist()), tuple(high.tolist())
    if part.is_skin:
        return Weight(0.0, 0.0, surface, *box, None, None, None, _coat(part, surface))
    moments = sum((_moments(body) for body in bodies), NOTHING)
    density = part.material.density
    centre = moments.first / moments.volume
    centre = np.where(np.abs(centre) < _NOTHING * np.ptp([low, high], axis=0).max(), 0.0, centre)
    spread = moments.second - moments.volume * np.outer(centre, centre)
    inertia = density * (np.trace(spread) * np.eye(3) - spread)
    return Weight(
        density * moments.volume, moments.volume, surface, *box, tuple(centre.tolist()),
        tuple(tuple(row) for row in inertia.tolist()), tuple(np.linalg.eigvalsh(inertia).tolist()),
        _coat(part, surface),
    )  # fmt: skip


def _coat(part: AnyPart, surface: float) -> float | None:
    """Mass of a thin coat, g: its thickness all over the surface."""
    finish = part.recipe.finish
    density = FINISHES[finish.kind].density if finish else None
    if finish is None or finish.thickness is None or density is None:
        return None
    return surface * finish.thickness * density


def _mesh(body: AnyBody) -> trimesh.Trimesh:
    mesh = body.mesh(_chord(body))
    return trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)


def _chord(body: AnyBody) -> float:
    return _FINE * (body.sweep.reach() if isinstance(body, Body) else body.outer_radius)


def _moments(body: AnyBody) -> Moments:
    return moments_of(body.sweep) if isinstance(body, Body) else moments_of_body(body)


def _surface(body: AnyBody) -> float:
    if not isinstance(body, Body):
        return surface_of_body(body)
    sweep = body.sweep
    ends = np.array([0.0, sweep.length])
    area, _, _ = sweep.section.moments(sweep.changes.shape.value(ends / sweep.length))
    width, _, depth, _ = sweep.scale(ends)
    capped = not sweep.path.closed
    faces = float((area * width * depth).sum()) if capped else 0.0
    return sweep.lateral_area + faces + ground_area(sweep)


def _axis(values: Callable[[Weight], Sequence[float] | None], k: int) -> Callable[[Weight], float | None]:
    def value(weight: Weight) -> float | None:
        found = values(weight)
        return None if found is None else found[k]

    return value


_INTEGRAL = "integrals over the shape; what is ground away, over a fine mesh"
_EIGEN = "eigenvalues of ∫ (r² E − r rᵀ) dm about the centre of mass"
_THIN = "thin beside the wire; densities not checked against a printed table"
_AXES = tuple(enumerate("xyz"))

FIGURES: tuple[Figure[Weight], ...] = (
    Figure("mass", "Mass", "m", "g", lambda w: w.mass, "volume · density", "volume, material", _INTEGRAL),
    Figure("coat", "Coat, beside the mass", "", "g", lambda w: w.coat, "surface · thickness · density", "finish", _THIN, "there"),
    Figure("volume", "Volume", "V", "mm³", lambda w: w.volume, "∫ dV", "shape", _INTEGRAL),
    Figure("surface", "Surface", "O", "mm²", lambda w: w.surface, "∫ dO", "shape", _INTEGRAL),
    *(Figure(f"size_{x}", f"Box along {x}", "", "mm", _axis(lambda w: w.size, k), f"max {x} − min {x}", "shape", "a fine mesh") for k, x in _AXES),
    *(Figure(f"centre_{x}", f"Centre of mass, {x}", "", "mm", _axis(lambda w: w.centre, k), f"∫ {x} dV / V", "shape", _INTEGRAL, "there") for k, x in _AXES),
    *(Figure(f"inertia_{k}", f"Principal inertia {k}", f"I{k}", "g mm²", _axis(lambda w: w.principal, k - 1), _EIGEN, "shape, material", _INTEGRAL, "there") for k in (1, 2, 3)),
)  # fmt: skip
"""In the order of use."""


def weight_figures(weight: Weight) -> list[Told]:
    """Those that there are."""
    told = (figure.told(weight) for figure in FIGURES)
    return [one for one in told if one.value is not None]
