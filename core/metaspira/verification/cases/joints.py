"""Threaded joints: loads, torque, stripping, the share of each turn."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from metaspira.threads.joint.asked import AskedJoint
from metaspira.threads.joint.joint import Joint
from metaspira.threads.joint.turns import Pair, shares, stiffness_ratio
from metaspira.threads.lookup import read_thread
from metaspira.verification.row import Row, near, printed

_LOADS = {
    "M6": (11_600, 16_100), "M8": (21_200, 29_200), "M10": (33_700, 46_400), "M12": (48_900, 67_400),
    "M16": (91_000, 125_000),
}  # fmt: skip
_TORQUES = {
    "M8": (11, 17.2, 23.1),
    "M10": (13.5, 27.3, 46),
    "M12": (15.75, 39.9, 79),
    "M16": (20.75, 75.3, 194),
}
_AREAS = {"1/4-20 UNC": (0.368, 0.539), "3/8-16 UNC": (0.576, 0.828), "1/2-13 UNC": (0.779, 1.12)}


def rows() -> Iterator[Row]:
    for designation, (proof, breaking) in _LOADS.items():
        found, source = _joint(designation), "ISO 898-1, loads of coarse threads, class 8.8"
        case = f"{designation}, class 8.8"
        yield near(
            ("proof_load",), f"{case}, proof load", proof, found.proof_load, 6.5e-3, "N", source, "printed"
        )
        yield near(
            ("breaking_load",),
            f"{case}, breaking load",
            breaking,
            found.breaking_load,
            6.5e-3,
            "N",
            source,
            "printed",
        )
    for designation, (head, preload, torque) in _TORQUES.items():
        found, source = _joint(designation, head_diameter=head), "VDI 2230, table A1"
        case = f"{designation}, class 8.8, friction 0.12"
        ours = found.usual_preload
        yield near(("usual_preload",), case, preload, ours / 1e3, 4e-3, "kN", source, "printed")
        twist = ours * sum(found.torque_per_newton) / 1e3
        yield near(("usual_torque",), case, torque, twist, 0.02, "N m", source, "printed")
    for designation, areas in _AREAS.items():
        for which, value, ours in zip(
            ("external", "internal"), areas, _joint(designation).shear_areas, strict=True
        ):
            yield Row(
                (f"shear_area_{which}",),
                f"{designation}, {which} threads, for an inch",
                value,
                ours / 25.4,
                4e-3,
                "in²",
                "FED-STD-H28/2, shear areas, classes 2A and 2B",
                "printed",
            )
    yield from _power_screw()
    yield from _shares()


def _joint(designation: str, length: float = 10.0, **asked: float) -> Joint:
    return Joint(read_thread(designation), AskedJoint.model_validate(asked), length, None)


def _power_screw() -> Iterator[Row]:
    source = "Shigley, Mechanical Engineering Design, example 8-1"
    screw = _joint("Sq32x8P4", 4, friction=0.08, head_friction=0.08, head_diameter=40)
    up, down = screw.driving(6400)
    case = "square thread 32 × 4, two starts, 6.4 kN"
    for words, text, ours, unit in (
        ("torque to raise, thread", "15.94", up / 1e3, "N m"),
        ("torque to lower, thread", "-0.466", down / 1e3, "N m"),
        ("torque of the collar", "10.24", 6400 * screw.torque_per_newton[1] / 1e3, "N m"),
        ("bearing pressure, 38 % on a turn", "12.9", screw.pressure(0.38 * 6400), "MPa"),
        ("bending at the root, 38 % on a turn", "41.5", screw.root_bending(0.38 * 6400), "MPa"),
        ("efficiency", "0.311", 6400 * 8 / (2 * math.pi * (up + 6400 * screw.torque_per_newton[1])), ""),
    ):
        yield printed(("torque",), f"{case}, {words}", text, ours, unit, source)


def _shares() -> Iterator[Row]:
    """The load of each turn, beside a chain of springs: bolt and nut in slices, tied to each other."""
    pair = Pair(1.5, 9.026, 8.16, 16.0, math.pi / 6, 205e3, 205e3)
    length, count = 9.0, 402
    step = length / count
    bolt = math.pi / 4 * 8.16**2 * 205e3 / step
    nut = math.pi / 4 * (16.0**2 - 9.026**2) * 205e3 / step
    tied = step**2 * stiffness_ratio(pair) ** 2 / (step * (1 / (bolt * step) + 1 / (nut * step)))
    stiff, load = np.zeros((2 * count, 2 * count)), np.zeros(2 * count)
    for k in range(count):
        links = [(k, count + k, tied)]
        if k:
            links += [(k - 1, k, bolt), (count + k - 1, count + k, nut)]
        for i, j, spring in links:
            stiff[[i, j], [i, j]] += spring
            stiff[[i, j], [j, i]] -= spring
    stiff[count, count] += 1e12
    load[0] = 1.0
    moved = np.linalg.solve(stiff, load)
    each = (tied * (moved[:count] - moved[count:])).reshape(6, -1).sum(axis=1)
    for turn, (value, ours) in enumerate(zip(each, shares(pair, length), strict=True), 1):
        yield Row(
            ("first_share",),
            f"M10 in a nut of 9 mm, share of turn {turn}",
            float(value),
            float(ours),
            0.01,
            "",
            "a chain of 402 springs, solved by numpy",
            "computed",
        )
