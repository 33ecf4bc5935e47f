"""A whole turn of a coil as hexahedra in space, independent of the plane solver: its end faces move alike but
for the pitch's own change, as they do in a long coil whose ends cannot turn."""

import math

import numpy as np
import scipy
import skfem
from skfem.models.elasticity import lame_parameters, linear_elasticity

ACROSS, ALONG = 4, 48


def rate_of_turn(width, height, radius, pitch, E, G):
    """N/mm of one turn of rectangular wire, mm, with moduli in MPa."""
    flat = skfem.MeshHex.init_tensor(
        np.linspace(-width / 2, width / 2, ACROSS + 1),
        np.linspace(-height / 2, height / 2, ACROSS + 1),
        np.linspace(0, 1, ALONG + 1),
    )
    element = skfem.ElementVector(skfem.ElementHex2())
    basis = skfem.Basis(skfem.MeshHex(_wound(flat.p, radius, pitch), flat.t), element, intorder=4)
    at = skfem.Basis(flat, element, intorder=4).doflocs
    axis = np.zeros(basis.N, dtype=int)
    for group in (basis.nodal_dofs, basis.edge_dofs, basis.facet_dofs, basis.interior_dofs):
        for k in range(3):
            axis[group[k]] = k
    first, last = (_face(at, axis, end) for end in (0.0, 1.0))
    stiffness = linear_elasticity(*lame_parameters(E, E / (2 * G) - 1)).assemble(basis)

    master = np.arange(basis.N)
    master[last] = first
    kept = np.setdiff1d(np.arange(basis.N), last)
    number = np.full(basis.N, -1)
    number[kept] = np.arange(len(kept))
    tied = scipy.sparse.csr_matrix((np.ones(basis.N), (np.arange(basis.N), number[master])))
    stretched = np.zeros(basis.N)
    stretched[last[axis[last] == 2]] = 1.0

    def nearest(place, k):
        own = kept[axis[kept] == k]
        return number[own[np.argmin(np.linalg.norm(at[:, own].T - place, axis=1))]]

    held = [*(nearest((0, 0, 0.25), k) for k in range(3)), nearest((0, 0, 0.75), 0)]
    free = np.setdiff1d(np.arange(len(kept)), held)
    matrix = (tied.T @ stiffness @ tied).tocsc()[free][:, free]
    solver = scipy.sparse.linalg.splu(matrix, permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True})
    moved = np.zeros(len(kept))
    moved[free] = solver.solve(-(tied.T @ (stiffness @ stretched))[free])
    whole = tied @ moved + stretched
    return float(whole @ (stiffness @ whole))


def _wound(places, radius, pitch):
    """Places (3, n) of the section and of the share of the turn, wound into a coil of the right hand."""
    u, v, share = places
    rise = pitch / (2 * math.pi)
    long = math.hypot(radius, rise)
    sine, cosine, angle = rise / long, radius / long, 2 * math.pi * share
    return np.array(
        [
            (radius + u) * np.cos(angle) + v * sine * np.sin(angle),
            (radius + u) * np.sin(angle) - v * sine * np.cos(angle),
            rise * angle + v * cosine,
        ]
    )


def _face(at, axis, end):
    """Degrees of freedom of an end face, in the same order for both."""
    own = np.flatnonzero(np.abs(at[2] - end) < 1e-9)
    return own[np.lexsort((np.round(at[1, own], 9), np.round(at[0, own], 9), axis[own]))]
