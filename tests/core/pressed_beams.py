"""A coil pressed between two plates by another model than the core's: beams in space along the sloping wire,
six movements a node, with one-sided contact from turn to turn and from turn to plate along the axis. Small
movements, no friction, plates that do not tilt."""

import numpy as np
import scipy
from metaspira.springs.beam import Beams

A_TURN = 20
STIFF = 300.0


def pressed(turns, elastic, shear, plates, deflections):
    """The forces, N, at deflections, mm."""
    count = int(np.floor(turns.turns * A_TURN + 1e-9)) + 1
    share = np.arange(count) / A_TURN / turns.turns
    if share[-1] < 1 - 1e-9:
        share = np.append(share, 1.0)
    angle = 2 * np.pi * turns.turns * share
    bend, twist = elastic * turns.shape.inertia[1], shear * turns.shape.stiffness
    half = np.pi / A_TURN
    wider = (half / (np.sin(half) * (np.cos(half) ** 2 + np.sin(half) ** 2 * twist / 3 / bend))) ** (1 / 3)
    radius = turns.radius.value(np.clip(share, 1e-9, 1 - 1e-9))
    fine = np.linspace(0, 1, 20001)
    z = np.interp(share, fine, turns.heights(fine))
    nodes = np.stack([wider * radius * np.cos(angle), wider * radius * np.sin(angle), z], axis=1)
    stiffness = Beams(nodes, turns.shape, elastic, shear).stiffness().tocsc()
    size, high = stiffness.shape[0], turns.shape.height
    weak = 1e-7 * twist / radius.mean() * np.tile([radius.mean() ** -2.0] * 3 + [1.0] * 3, len(share))
    stiffness = stiffness + scipy.sparse.diags_array(weak)
    first = np.arange(count - A_TURN)
    touch = turns.touching(0.5 * (share[first] + share[first + A_TURN]))
    meet = touch > 0
    first, touch = first[meet], touch[meet]
    second, every = first + A_TURN, np.arange(len(share))
    rows = len(share) * 2 + len(first)
    number = np.arange(len(first)) + 2 * len(share)
    on = scipy.sparse.csc_array(
        (
            np.concatenate(
                [np.ones(len(share)), -np.ones(len(share)), np.ones(len(first)), -np.ones(len(first))]
            ),
            (
                np.concatenate([every, every + len(share), number, number]),
                6 * np.concatenate([every, every, second, first]) + 2,
            ),
        ),
        shape=(rows, size),
    )
    between = z[second] - z[first] - touch
    free = np.concatenate(
        [z - high / 2 - plates[0], plates[1] - high / 2 - z, np.where(between < 1e-3 * high, 0, between)]
    )
    free = np.maximum(free, 0.0)
    stiff = STIFF * twist / (2 * np.pi * radius.mean() ** 3)
    moved, forces = np.zeros(size), []
    for deflection in deflections:
        start = free - deflection * (np.arange(rows) // len(share) == 1)
        for _ in range(200):
            gap = start + on @ moved
            slope = stiffness @ moved + stiff * (on.T @ np.minimum(gap, 0))
            active = on[np.flatnonzero(gap < 0)]
            step = -scipy.sparse.linalg.splu((stiffness + stiff * (active.T @ active)).tocsc()).solve(slope)
            if -step @ slope < 1e-10 * (
                moved @ slope + 0.5 * stiff * np.sum(np.minimum(gap, 0) ** 2) + 1e-12
            ):
                break
            pull, change = stiffness @ step, on @ step

            def along(t, moved=moved, gap=gap, pull=pull, change=change, rise=float(pull @ step)):
                return pull @ moved + t * rise + stiff * change @ np.minimum(gap + t * change, 0)

            far = 1.0
            while along(far) < 0:
                far *= 2
            moved = moved + scipy.optimize.brentq(along, 0.0, far, xtol=1e-12) * step
        else:
            raise AssertionError("the beams found no rest")
        forces.append(-stiff * np.minimum((start + on @ moved)[len(share) : 2 * len(share)], 0).sum())
    return np.array(forces)
