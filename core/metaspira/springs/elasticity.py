"""One turn of a coil as it is: curvature, pitch and section of any shape, in exact linear elasticity.

Along a coil of constant pitch nothing depends on the arc length s, so that the three-dimensional answer is a
plane problem with three displacements u = (u_N, u_B, u_T) of x along N, towards the axis, and y along B
(Treyssède, Wave Motion 45 (2008); Frikha, Cartraud, Treyssède, Int. J. Solids Struct. 50 (2013)):

    κ = R/(R²+c²), τ = c/(R²+c²), c = p/2π, h = 1 − κx, L = −τ (x ∂_y − y ∂_x)
    D_N = (L u_N − τ u_B + κ u_T)/h     D_B = (L u_B + τ u_N)/h     D_T = (L u_T − κ u_N)/h
    ε_NN = ∂_x u_N   ε_BB = ∂_y u_B   ε_TT = D_T
    γ_NB = ∂_y u_N + ∂_x u_B   γ_NT = ∂_x u_T + D_N   γ_BT = ∂_y u_T + D_B

with the strains of the two whole movements, stretch along the axis and twist about it. The energy's density
times h, over the section, gives their stiffness for a length of wire; movement along and about the axis is
left out.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import scipy
import shapely
import skfem

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.problems import Problem, RecipeError
from metaspira.sections.outline import Outline

_ACROSS = 13.0
_FINEST, _THINNEST = 60.0, 5.0
_APART = 0.62
_SIDES = 8
_TRIES = 4
_MOST_POINTS = 6000
_ELEMENT = skfem.ElementVector(skfem.ElementTriP2(), 3)
_EVEN, _RADII = 1e-3, 5
_DIGITS = 9
_CORNERS = np.array([[0.0, 1.0, 0.0], [0.0, 0.0, 1.0]])


@dataclass(frozen=True, eq=False)
class Turn:
    """A turn of a `section` whose own centre is at `radius` from the axis, mm, with its u away from the axis
    and its v along it; `pitch` in mm a turn, of a right hand; moduli E and G in MPa."""

    section: Outline
    radius: float
    pitch: float
    E: float
    G: float

    @cached_property
    def _solved(self) -> tuple[Array, Array, skfem.Basis]:
        """Stiffness (2, 2) of a length of wire to stretch and to twist of the axis, N mm²; and the movements
        (k, 2) under 1 of either."""
        basis = skfem.Basis(mesh_of(self.section), _ELEMENT, intorder=4)
        x, y = basis.global_coordinates()
        strain = self._strains(basis)
        weight = (1 - self._bent * x) * basis.dx
        whole = self._whole(x, y)
        stress = np.einsum("ij,ajkq->aikq", self._elastic, strain) * weight
        count, cells = len(strain), strain.shape[2]
        rows = np.moveaxis(strain, 2, 0).reshape(cells, count, -1)
        local = rows @ np.moveaxis(stress, 2, 0).reshape(cells, count, -1).transpose(0, 2, 1)
        places = basis.element_dofs
        at = (
            np.broadcast_to(places.T[:, :, None], local.shape),
            np.broadcast_to(places.T[:, None, :], local.shape),
        )
        matrix = scipy.sparse.coo_array((local.ravel(), (at[0].ravel(), at[1].ravel())), shape=(basis.N,) * 2)

        def gathered(each: Array) -> Array:
            return np.asarray(np.bincount(places.ravel(), each.ravel(), basis.N), dtype=float)

        loads = np.stack([gathered(np.einsum("aikq,ikq->ak", stress, one)) for one in whole], axis=1)
        field = np.stack([np.asarray(one[0]) for one in basis.basis])
        still = np.stack(
            [gathered(np.einsum("aikq,ikq,kq->ak", field, one, basis.dx)) for one in self._moving(x, y)],
            axis=1,
        )
        held = scipy.sparse.csc_array(still)
        full = scipy.sparse.block_array([[matrix, held], [held.T, None]]).tocsc()
        right = np.concatenate([-loads, np.zeros((2, 2))])
        moved = scipy.sparse.linalg.splu(full).solve(right)[: basis.N]
        own = np.einsum("aikq,ij,bjkq,kq->ab", whole, self._elastic, whole, weight)
        return own + loads.T @ moved, moved, basis

    @property
    def _bent(self) -> float:
        return self.radius / (self.radius**2 + (self.pitch / (2 * math.pi)) ** 2)

    @property
    def _twisted(self) -> float:
        rise = self.pitch / (2 * math.pi)
        return rise / (self.radius**2 + rise**2)

    @property
    def _lead(self) -> tuple[float, float]:
        """Sine and cosine of the lead angle."""
        rise = self.pitch / (2 * math.pi)
        long = math.hypot(self.radius, rise)
        return rise / long, self.radius / long

    @property
    def _elastic(self) -> Array:
        """Stress over strain (6, 6): NN, BB, TT, NB, NT, BT."""
        first = self.G * (self.E - 2 * self.G) / (3 * self.G - self.E)
        stiff = np.diag([2 * self.G] * 3 + [self.G] * 3)
        stiff[:3, :3] += first
        return stiff

    def _strains(self, basis: skfem.Basis) -> Array:
        """Strains (a, 6, k, q) of each movement of a basis, which does not change along the wire."""
        x, y = basis.global_coordinates()
        bent, twisted = self._bent, self._twisted
        u = np.stack([np.asarray(one[0]) for one in basis.basis], axis=1)
        d = np.moveaxis(np.stack([one[0].grad for one in basis.basis]), 0, 2)
        turned = -twisted * (x * d[:, 1] - y * d[:, 0])
        h = 1 - bent * x
        along = (
            (turned[0] - twisted * u[1] + bent * u[2]) / h,
            (turned[1] + twisted * u[0]) / h,
            (turned[2] - bent * u[0]) / h,
        )
        return np.stack(
            [d[0, 0], d[1, 1], along[2], d[0, 1] + d[1, 0], d[2, 0] + along[0], d[2, 1] + along[1]], axis=1
        )

    def _about(self, x: Array, y: Array) -> Array:
        """e_z × X (3, ...) in N, B, T."""
        sine, cosine = self._lead
        return np.stack([-sine * y, sine * (x - self.radius), -cosine * (x - self.radius)])

    def _whole(self, x: Array, y: Array) -> Array:
        """Strains (2, 6, ...) of stretching the axis by 1, and of twisting by 1 a mm of it: of movements that
        grow with z at the wire's centre, s sin α, whose gradient is that of s alone, T/h."""
        rise = self._lead[0] / (1 - self._bent * x)
        still = np.zeros_like(x)
        return np.stack([np.stack([still, still, t, still, n, b]) * rise for n, b, t in self._moving(x, y)])

    def _moving(self, x: Array, y: Array) -> Array:
        """Movement (2, 3, ...) along the axis, and about it, which do nothing."""
        sine, cosine = self._lead
        return np.stack([np.stack([0 * x, cosine + 0 * x, sine + 0 * x]), self._about(x, y)])

    @property
    def rate(self) -> tuple[float, float]:
        """N/mm of one turn: whose ends cannot turn about the axis, and whose ends can."""
        stiffness, _, _ = self._solved
        held = float(stiffness[0, 0])
        free = held - float(stiffness[0, 1] ** 2 / stiffness[1, 1])
        sine, _ = self._lead
        return held / (sine * self.pitch), free / (sine * self.pitch)

    @property
    def winding(self) -> float:
        """N mm a radian of one turn whose ends are wound about the axis, free to move along it."""
        stiffness, _, _ = self._solved
        sine, _ = self._lead
        return float(stiffness[1, 1] - stiffness[0, 1] ** 2 / stiffness[0, 0]) / (sine * self.pitch)

    def _stresses(self, stretch: float, twist: float) -> Array:
        """Stresses (n, 6), MPa, at the places where the axis is stretched and twisted, a mm of it."""
        _, moved, _ = self._solved
        mesh = mesh_of(self.section)
        basis = _at_corners(mesh, _ELEMENT)
        whole = self._whole(*basis.global_coordinates())
        strain = np.einsum(
            "aikq,ak->ikq", self._strains(basis), (moved @ (stretch, twist))[basis.element_dofs]
        )
        strain = strain + stretch * whole[0] + twist * whole[1]
        return _averaged(mesh, np.einsum("ij,jkq->ikq", self._elastic, strain))

    @cached_property
    def _pushed(self) -> Array:
        """Stresses (n, 6), MPa, at the places under 1 N between ends that cannot turn."""
        return self._stresses(self._lead[0] / float(self._solved[0][0, 0]), 0.0)

    @cached_property
    def _wound(self) -> Array:
        """Stresses (n, 6), MPa, at the places, wound by 1 N mm, its ends free to move along the axis."""
        stiffness = self._solved[0]
        twist = 1 / (self.winding * self.pitch)
        return self._stresses(-twist * float(stiffness[0, 1] / stiffness[0, 0]), twist)

    @property
    def bending(self) -> Array:
        """Stress along the wire at the places, MPa (n,), wound by 1 N mm, its ends free to move along the
        axis."""
        return self._wound[:, 2]

    @property
    def equivalent_wound(self) -> Array:
        """Equivalent stress by von Mises at the places, MPa (n,), wound by 1 N mm, its ends free to move
        along the axis."""
        return _von_mises(self._wound)

    @property
    def places(self) -> Array:
        """Places (n, 2) on the section, mm: u away from the axis, v along it."""
        mesh = mesh_of(self.section)
        return mesh.p.T[: int(mesh.t.max()) + 1] * [-1.0, 1.0]

    @property
    def corners(self) -> Array:
        """The triangles of the section (m, 3), as rows of the places."""
        return mesh_of(self.section).t.T

    @property
    def shear(self) -> Array:
        """Shear across the wire at the places, MPa (n,), under 1 N between ends that cannot turn."""
        return np.hypot(self._pushed[:, 4], self._pushed[:, 5])

    @property
    def equivalent(self) -> Array:
        """Equivalent stress by von Mises at the places, MPa (n,), under 1 N between ends that cannot turn."""
        return _von_mises(self._pushed)


def _at_corners(mesh: skfem.MeshTri2, element: skfem.Element) -> skfem.Basis:
    """A basis that is asked at the corners of its triangles."""
    return skfem.Basis(mesh, element, quadrature=(_CORNERS, np.full(3, 1 / 6)))


def _averaged(mesh: skfem.MeshTri2, values: Array) -> Array:
    """Values (i, k, 3) at the corners of triangles as one value (n, i) at each place, the mean of those that
    meet there."""
    corner = mesh.t.T.ravel()
    count = np.bincount(corner)
    return np.stack([np.bincount(corner, one.ravel()) / count for one in values], axis=1)


def _von_mises(stress: Array) -> Array:
    nn, bb, tt, nb, nt, bt = stress.T
    direct = (nn - bb) ** 2 + (bb - tt) ** 2 + (tt - nn) ** 2
    return np.sqrt(0.5 * direct + 3 * (nb**2 + nt**2 + bt**2))


@dataclass(frozen=True, eq=False)
class _Same:
    """A section that is equal to another of the same edges."""

    section: Outline

    @cached_property
    def _edges(self) -> tuple[bytes, ...]:
        return tuple(
            np.round(np.column_stack([edge.points, edge.weights]), _DIGITS).tobytes()
            for loop in self.section.loops
            for edge in loop.edges
        )

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and self._edges == other._edges

    def __hash__(self) -> int:
        return hash(self._edges)


def turns_at(section: Outline, radii: Array, pitches: Array, E: float, G: float) -> list[Turn]:
    """Turns that stand for a coil of radii and pitches, mm (n,), by rising radius: one of a cylinder, a few
    of other shapes."""
    if float(np.ptp(radii)) <= _EVEN * float(radii.max()):
        at = [(float(radii.mean()), float(np.median(pitches)))]
    else:
        order = np.argsort(radii)
        some = np.linspace(radii.min(), radii.max(), _RADII)
        at = [
            (float(r), float(p))
            for r, p in zip(some, np.interp(some, radii[order], pitches[order]), strict=True)
        ]
    return [_turn(_Same(section), round(r, _DIGITS), round(p, _DIGITS), E, G) for r, p in at]


@lru_cache(maxsize=64)
def _turn(same: _Same, radius: float, pitch: float, E: float, G: float) -> Turn:
    return Turn(same.section, radius, pitch, E, G)


def bar_of(section: Outline) -> tuple[float, float, tuple[float, float]]:
    """A straight bar of a section around its centre: J (mm⁴) and W (mm³) of Saint-Venant's torsion, and I
    (mm⁴) bent along u and along v. Raises RecipeError where the section cannot be meshed.

    The warping ω solves ∇²ω = 0 with ∂ω/∂n = y n_x − x n_y; J = ∫ x² + y² + x ∂ω/∂y − y ∂ω/∂x (Timoshenko
    and Goodier, Theory of Elasticity; not checked against the printed book)."""
    return _bar(_Same(section))


@lru_cache(maxsize=64)
def _bar(same: _Same) -> tuple[float, float, tuple[float, float]]:
    mesh = mesh_of(same.section)
    basis = skfem.Basis(mesh, skfem.ElementTriP2(), intorder=4)
    matrix = skfem.BilinearForm(lambda u, v, w: u.grad[0] * v.grad[0] + u.grad[1] * v.grad[1]).assemble(basis)
    right = skfem.LinearForm(lambda v, w: w.x[1] * v.grad[0] - w.x[0] * v.grad[1]).assemble(basis)
    warped = skfem.solve(*skfem.condense(matrix, right, D=np.array([0])))

    def shears(basis: skfem.Basis) -> tuple[Array, Array, Array, Array]:
        x, y = basis.global_coordinates()
        slope = basis.interpolate(warped).grad
        return np.asarray(x), np.asarray(y), np.asarray(slope[0] - y), np.asarray(slope[1] + x)

    x, y, across, along = shears(basis)
    stiffness = float(((x * along - y * across) * basis.dx).sum())
    _, _, *both = shears(_at_corners(mesh, skfem.ElementTriP2()))
    shear = _averaged(mesh, np.stack(both))
    inertia = float((x**2 * basis.dx).sum()), float((y**2 * basis.dx).sum())
    return stiffness, stiffness / float(np.hypot(*shear.T).max()), inertia


def mesh_of(section: Outline) -> skfem.MeshTri2:
    """Triangles of a section, in x = −u and y = v, their sides on its outline curved. Raises RecipeError
    where it cannot be meshed."""
    return _mesh(_Same(section))


@lru_cache(maxsize=16)
def _mesh(same: _Same) -> skfem.MeshTri2:
    section = same.section
    bounds = shapely.Polygon(section.ring(48).points, [hole.ring(48).points for hole in section.holes])
    thin = 2 * section.area / max(section.perimeter, 1e-12)
    size = max(
        min(math.sqrt(section.area) / _ACROSS, thin / _THINNEST * 2), math.sqrt(section.area) / _FINEST
    )
    for _ in range(_TRIES):
        found = _meshed(section, bounds, size)
        if found is not None:
            return found
        size *= 0.7
    raise RecipeError(
        Problem("/section", "its outline is too fine to be solved", "use a section with fewer small corners")
    )


def _meshed(section: Outline, bounds: shapely.Polygon, size: float) -> skfem.MeshTri2 | None:
    rim, middles = [], []
    chords = []
    start = 0
    for loop in section.loops:
        points, inner = [], []
        for edge in loop.edges:
            t = np.linspace(0.0, 1.0, 33)
            length = float(np.hypot(*np.diff(edge.at(t)[0], axis=0).T).sum())
            pieces = max(1 if edge.is_line else _SIDES // 4, math.ceil(length / size))
            t = np.linspace(0.0, 1.0, pieces + 1)
            points.append(edge.at(t)[0][:-1])
            inner.append(edge.at(0.5 * (t[1:] + t[:-1]))[0])
        own = np.concatenate(points)
        rim.append(own)
        middles.append(np.concatenate(inner))
        index = start + np.arange(len(own))
        chords.append(np.stack([index, np.roll(index, -1)], axis=1))
        start += len(own)
    outline = np.concatenate(rim)
    low, high = outline.min(axis=0), outline.max(axis=0)
    row = math.sqrt(3) / 2 * size
    v = np.arange(low[1], high[1], row)
    u = np.arange(low[0] - size, high[0] + size, size)
    if len(u) * len(v) + len(outline) > _MOST_POINTS:
        return None
    grid = np.stack(np.meshgrid(u, v), axis=-1)
    grid[1::2, :, 0] += size / 2
    inside = grid.reshape(-1, 2)
    inside = inside[shapely.contains_xy(bounds, *inside.T)]
    if len(inside):
        away = shapely.distance(shapely.points(inside), bounds.boundary)
        inside = inside[away > _APART * size]
    every = np.concatenate([outline, inside])
    corners = scipy.spatial.Delaunay(every).simplices
    middle = every[corners].mean(axis=1)
    polygon = shapely.Polygon(rim[0], rim[1:])
    corners = corners[shapely.contains_xy(polygon, *middle.T)]
    a, b, c = every[corners[:, 0]], every[corners[:, 1]], every[corners[:, 2]]
    area = 0.5 * ((b - a)[:, 0] * (c - a)[:, 1] - (b - a)[:, 1] * (c - a)[:, 0])
    corners, area = corners[np.abs(area) > 1e-6 * size**2], area[np.abs(area) > 1e-6 * size**2]
    if abs(float(np.abs(area).sum()) - polygon.area) > 1e-6 * polygon.area:
        return None
    used, corners = np.unique(corners, return_inverse=True)
    flat = every[used] * [-1.0, 1.0]
    straight = skfem.MeshTri(flat.T, corners.reshape(-1, 3).T)
    curved = skfem.MeshTri2.from_mesh(straight)
    places = curved.doflocs.copy()
    pairs = np.concatenate(chords)
    chord = outline[pairs].mean(axis=1) * [-1.0, 1.0]
    near, at = scipy.spatial.cKDTree(places.T).query(chord)
    if float(near.max()) > 1e-6 * size:
        return None
    places[:, at] = (np.concatenate(middles) * [-1.0, 1.0]).T
    return skfem.MeshTri2(places, curved.t)
