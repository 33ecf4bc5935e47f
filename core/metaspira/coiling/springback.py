"""How far bent wire springs back.

Wire of an elastic, perfectly plastic material (modulus E, flow stress σ) bent to a curvature κ carries the
moment

    M(κ) = ∫ clip(E κ u, −σ, σ) u dA      about the section's centre, u towards the outside of the bend,

and loses the elastic part of its curvature when it is let go: κ' = κ − M(κ) / (E I). Of a rectangle this is
the formula of Gardiner, The spring back of metals, Trans. ASME 79 (1957): κ'/κ = 1 − 3ξ + 4ξ³ with ξ = σ / (E
κ h) for plane stress. The integral is taken around the outline by Green's theorem, so that any section will
do.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from metaspira.numbers.jets import Array
from metaspira.sections import Outline

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(24)
_PIECES = 16


@dataclass(frozen=True, eq=False)
class Bending:
    """A section that is bent about its second axis: the places u and the steps dv of its outline, for Green's
    theorem; modulus and flow stress in MPa."""

    u: Array
    dv: Array
    modulus: float
    flow: float

    @property
    def inertia(self) -> float:
        """∫ u² dA, mm⁴."""
        return float((self.u**3 / 3) @ self.dv)

    def moment(self, curvature: float) -> float:
        """N mm at a curvature, 1/mm."""
        if curvature == 0:
            return 0.0
        core = min(self.flow / (self.modulus * abs(curvature)), 1e9)
        size = np.abs(self.u)
        elastic = self.modulus * abs(curvature) * np.minimum(size, core) ** 3 / 3
        plastic = self.flow * np.maximum(size**2 - core**2, 0.0) / 2
        return float(np.sign(curvature) * ((np.sign(self.u) * (elastic + plastic)) @ self.dv))

    def released(self, curvature: float) -> float:
        """Curvature that is left of one, 1/mm."""
        return curvature - self.moment(curvature) / (self.modulus * self.inertia)

    def needed(self, curvature: float) -> float:
        """Curvature to bend to for one to be left, 1/mm."""
        if curvature == 0:
            return 0.0
        # The elastic part is at most the plastic moment's, so the way there ends before twice that.
        most = abs(curvature) + 4 * self.moment(1e6) / (self.modulus * self.inertia)
        bent = scipy.optimize.brentq(
            lambda k: self.released(k) - abs(curvature), abs(curvature), most, xtol=1e-14, rtol=1e-13
        )
        return float(np.copysign(bent, curvature))


def bending(outline: Outline, modulus: float, flow: float) -> Bending:
    """A section bent about its own second axis through its centre, as in a coil that it faces outward."""
    centre = outline.centroid[0]
    t = ((np.arange(_PIECES)[:, None] + 0.5 + _NODES / 2) / _PIECES).ravel()
    weight = np.tile(_WEIGHTS / (2 * _PIECES), _PIECES)
    places, steps = [], []
    for sign, loop in zip((1.0, *(-1.0 for _ in outline.holes)), outline.loops, strict=True):
        for edge in loop.edges:
            point, slope = edge.at(t)
            places.append(point[:, 0] - centre)
            steps.append(sign * weight * slope[:, 1])
    return Bending(np.concatenate(places), np.concatenate(steps), modulus, flow)
