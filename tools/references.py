"""What other libraries say of parts, for the book of proof: `python tools/references.py` writes
core/metaspira/verification/data/references.json, each value with the recipe that it is of. The values stand
on mpmath, fluids and FCL alone; nothing of the product is asked. With --check it changes nothing, and fails
where the file is not what it would write."""

from __future__ import annotations

import json
import math
import sys
from collections.abc import Callable, Iterator
from importlib.metadata import version
from pathlib import Path
from typing import Any

import fcl
import mpmath
import numpy as np
from fluids.geometry import HelicalCoil

OUT = Path(__file__).resolve().parents[1] / "core/metaspira/verification/data/references.json"
DIGITS = 30
ROUND = {"kind": "round", "diameter": 1.0}


def held(
    figure: str, case: str, recipe: dict[str, Any], value: float, unit: str, share: float, source: str
) -> dict[str, Any]:
    """An entry: a figure of a recipe, what it is elsewhere, and the share of it by which ours may be off."""
    value = float(f"{value:.12g}")
    return {
        "figure": figure,
        "case": case,
        "recipe": recipe,
        "value": value,
        "unit": unit,
        "share": share,
        "source": source,
    }


def coils() -> Iterator[dict[str, Any]]:
    """Coils of tube by their outside diameter, pitch and height, which fluids has in metres."""
    for outside, wire, pitch, turns in (
        (22.5, 2.5, 6, 8),
        (60, 10, 14, 5.5),
        (12, 1, 1.4, 42),
        (500, 25, 80, 3.25),
        (9.6, 3, 3.3, 11),
        (31.8, 0.8, 40, 2),
    ):
        coil = HelicalCoil(
            Do_total=outside / 1e3,
            pitch=pitch / 1e3,
            H_total=(turns * pitch + wire) / 1e3,
            Dt=wire / 1e3,
        )
        path = {"kind": "coil", "diameter": outside, "diameter_at": "outside", "turns": turns, "pitch": pitch}
        recipe = {"path": path, "section": {"kind": "round", "diameter": wire}}
        case = f"coil of ⌀{outside:g} outside, wire {wire:g}, pitch {pitch:g}, {turns:g} turns"
        for figure, value, unit, share, name in (
            ("wire_length", coil.tube_length * 1e3, "mm", 1e-10, "tube_length"),
            ("turns", coil.N, "", 1e-10, "N"),
            ("lead_angle", math.degrees(coil.helix_angle), "°", 1e-10, "helix_angle"),
            ("volume", coil.total_volume * 1e9, "mm³", 1e-9, "total_volume"),
            ("section_area", coil.total_inlet_area * 1e6, "mm²", 1e-10, "total_inlet_area"),
            ("inside_diameter", (2 * coil.Do - coil.Do_total) * 1e3, "mm", 1e-9, "2 Do − Do_total"),
        ):
            source = f"fluids {version('fluids')}, HelicalCoil: {name}"
            yield held(figure, case, recipe, value, unit, share, source)


def _length(ways: tuple[Callable[[Any], Any], ...], end: Any, pieces: int) -> Any:
    def speed(t: Any) -> Any:
        return mpmath.sqrt(sum(mpmath.diff(way, t) ** 2 for way in ways))

    return mpmath.quad(speed, mpmath.linspace(0, end, pieces + 1))


def lengths() -> Iterator[dict[str, Any]]:
    """Lengths of curves whose integral has no short form."""
    source = f"∫ |x′| dt to {DIGITS} digits, mpmath {version('mpmath')}"
    mpmath.mp.dps = DIGITS
    tau = 2 * mpmath.pi
    for start, end, turns, height in ((30, 10, 6, 45), (16, 90, 4, 20), (40, 39, 10, 120), (8, 64, 7, 0)):
        sweep = turns * tau

        def radius(t: Any, start: int = start, end: int = end, sweep: Any = sweep) -> Any:
            return mpmath.mpf(start) / 2 + mpmath.mpf(end - start) / 2 * t / sweep

        ways = (
            lambda t, r=radius: r(t) * mpmath.cos(t),
            lambda t, r=radius: r(t) * mpmath.sin(t),
            lambda t, h=height, s=sweep: h * t / s,
        )
        path = {"kind": "coil", "diameter": start, "end_diameter": end, "turns": turns, "height": height}
        case = f"coil from ⌀{start} to ⌀{end}, {turns} turns, {height} high"
        value = float(_length(ways, sweep, 4 * turns))
        yield held("wire_length", case, {"path": path, "section": ROUND}, value, "mm", 1e-10, source)
    for case, texts, ways, end in (
        (
            "a curve on a torus",
            ("(30 + 8 * cos(3 * t)) * cos(t)", "(30 + 8 * cos(3 * t)) * sin(t)", "8 * sin(3 * t)"),
            (
                lambda t: (30 + 8 * mpmath.cos(3 * t)) * mpmath.cos(t),
                lambda t: (30 + 8 * mpmath.cos(3 * t)) * mpmath.sin(t),
                lambda t: 8 * mpmath.sin(3 * t),
            ),
            6.0,
        ),
        (
            "a spherical spiral",
            ("25 * cos(8 * t) * sin(t)", "25 * sin(8 * t) * sin(t)", "25 * cos(t)"),
            (
                lambda t: 25 * mpmath.cos(8 * t) * mpmath.sin(t),
                lambda t: 25 * mpmath.sin(8 * t) * mpmath.sin(t),
                lambda t: 25 * mpmath.cos(t),
            ),
            2.5,
        ),
        (
            "a catenary",
            ("t", "0", "15 * (exp(t / 15) + exp(-t / 15)) / 2"),
            (lambda t: t, lambda t: mpmath.mpf(0), lambda t: 15 * mpmath.cosh(t / 15)),
            30.0,
        ),
    ):
        x, y, z = texts
        path = {"kind": "formula", "x": x, "y": y, "z": z, "from": 0, "to": end}
        value = float(_length(ways, mpmath.mpf(end), 24))
        recipe = {"path": path, "section": {"kind": "round", "diameter": 0.2}}
        yield held("wire_length", case, recipe, value, "mm", 1e-9, source)


def rods() -> Iterator[dict[str, Any]]:
    """Straight wires with domed ends, which FCL knows as capsules."""
    rng = np.random.default_rng(41)
    source = f"distance of two capsules, FCL (python-fcl {version('python-fcl')})"
    made = 0
    while made < 12:
        ends = rng.uniform(-12, 12, (2, 2, 3)).round(2)
        sizes = rng.uniform(1, 4, 2).round(2)
        distance = fcl.distance(
            *(_capsule(*ends[k], sizes[k] / 2) for k in (0, 1)), fcl.DistanceRequest(), fcl.DistanceResult()
        )
        if distance < 0.5:
            continue
        made += 1
        wires = [
            {
                "path": {"kind": "points", "points": ends[k].tolist()},
                "section": {"kind": "round", "diameter": float(sizes[k])},
                "ends": {"start": {"kind": "dome"}, "end": {"kind": "dome"}},
            }
            for k in (0, 1)
        ]
        recipe = {**wires[0], "wires": wires[1:]}
        yield held("min_gap", f"two domed rods, {made}", recipe, distance, "mm", 1e-4, source)


def _capsule(start: Any, end: Any, radius: float) -> fcl.CollisionObject:
    """The balls along a line from end to end, the domes within it."""
    way = end - start
    long = float(np.linalg.norm(way))
    z = way / long
    x = np.cross(z, [1.0, 0, 0] if abs(z[0]) < 0.9 else [0, 1.0, 0])
    x /= np.linalg.norm(x)
    turn = np.column_stack([x, np.cross(z, x), z])
    shape = fcl.Capsule(radius, long - 2 * radius)
    return fcl.CollisionObject(shape, fcl.Transform(turn, (start + end) / 2))


def _alike(one: dict[str, Any], other: dict[str, Any]) -> bool:
    """The same entry, but for what another processor rounds otherwise."""
    same = {**one, "value": 0} == {**other, "value": 0}
    return same and math.isclose(one["value"], other["value"], rel_tol=1e-7)


def main() -> int:
    """Write the file, or hold it against what would be written."""
    entries = [*coils(), *lengths(), *rods()]
    if "--check" in sys.argv:
        kept = json.loads(OUT.read_text(encoding="utf-8"))
        if len(kept) == len(entries) and all(map(_alike, kept, entries)):
            return 0
        print(f"{OUT.name} is stale; run python tools/references.py", file=sys.stderr)
        return 1
    text = "[\n" + ",\n".join(json.dumps(one, ensure_ascii=False) for one in entries) + "\n]\n"
    OUT.write_text(text, encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
