"""Made-up scans traced back, many of them: `python tests/bench/verify_tracing.py [COUNT]` writes
docs/verification-tracing.md."""

from __future__ import annotations

import multiprocessing
import sys
from collections import Counter
from pathlib import Path
from typing import Any

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "core"))

from metaspira.blas import on_one_thread
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.studies.trace import Traced, trace_surface
from scans import scan

OUT = Path(__file__).resolve().parents[2] / "docs/verification-tracing.md"
NOISE, MISSING = (0.0, 0.02, 0.05, 0.1), (0.0, 0.2, 0.4)
BOLTS = (
    "M6",
    "M8",
    "M10",
    "M10x1",
    "M12x1.25",
    "M16",
    "Tr20x4",
    "1/4-20 UNC",
    "3/8-16 UNC",
    "G 1/2",
    "R 1/2",
)


def coil(rng: np.random.Generator) -> dict[str, Any]:
    wire = float(rng.choice([1.0, 1.6, 2.0, 2.5, 3.2, 4.0]))
    return {
        "path": {
            "kind": "coil",
            "hand": str(rng.choice(["left", "right"])),
            "diameter": round(wire * float(rng.uniform(5, 12)), 1),
            "turns": round(float(rng.uniform(3, 12)) * 4) / 4,
            "pitch": round(wire * float(rng.uniform(1.5, 4)), 2),
        },
        "section": {"kind": "round", "diameter": wire},
    }


def flat(rng: np.random.Generator) -> dict[str, Any]:
    recipe = coil(rng)
    wire = recipe["section"]["diameter"]
    section = {"kind": "rectangle", "width": round(1.5 * wire, 2), "height": wire}
    return {**recipe, "section": section}


def legged(rng: np.random.Generator) -> dict[str, Any]:
    recipe = coil(rng)
    wire, path = recipe["section"]["diameter"], recipe["path"]
    straight = {"kind": "straight", "length": round(float(rng.uniform(0.5, 1.5)) * path["diameter"], 1)}
    hook = {"kind": "hook", "form": str(rng.choice(["full-loop", "half-loop", "side-loop"]))}
    bend = {"kind": "arc", "radius": 2 * wire, "angle": round(float(rng.uniform(30, 100))), "side": "outward"}
    kinds = ([straight], [{**hook, "bend_radius": 1.5 * wire}], [straight, bend, straight])
    leg = kinds[int(rng.integers(len(kinds)))]
    return {**recipe, "path": {**path, "legs": {"start": leg, "end": leg}}}


def bar(rng: np.random.Generator) -> dict[str, Any]:
    wide = round(float(rng.uniform(8, 16)), 1)
    sections: list[dict[str, Any]] = [
        {"kind": "rectangle", "width": wide, "height": wide},
        {"kind": "rectangle", "width": wide, "height": round(0.5 * wide, 1)},
        {"kind": "polygon", "sides": 6, "across_flats": wide},
        {"kind": "ellipse", "width": wide, "height": round(0.6 * wide, 1)},
    ]
    turned = round(float(rng.choice([-1, 1]) * rng.uniform(90, 720)), 0)
    thin = round(float(rng.uniform(0.6, 0.9)), 2)
    return {
        "path": {"kind": "straight", "length": round(wide * float(rng.uniform(5, 10)), 0)},
        "section": sections[int(rng.integers(len(sections)))],
        "along": {
            "twist": {"total": turned},
            **({"size": {"from": 1, "to": thin}} if rng.random() < 0.5 else {}),
        },
    }


def ring(rng: np.random.Generator) -> dict[str, Any]:
    angle, reach = np.linspace(0, 2 * np.pi, 8, endpoint=False), float(rng.uniform(20, 35))
    points = reach * np.column_stack([np.cos(angle), np.sin(angle), 0 * angle])
    return {"kind": "points", "points": np.round(points, 3).tolist(), "closed": True}


def line(rng: np.random.Generator) -> dict[str, Any]:
    """One that bends to one side and back."""
    step, aside = float(rng.uniform(25, 35)), float(rng.uniform(3, 8))
    points = [[0, 0, 0], [step, aside, aside], [2 * step, -aside, 0], [3 * step, aside, -aside]]
    return {"kind": "points", "points": np.round(points, 3).tolist()}


def length_of(path: dict[str, Any]) -> float:
    section = {"kind": "round", "diameter": 1}
    return float(part_of({"format": "metaspira/1", "path": path, "section": section}).path.length)


def winding(rng: np.random.Generator) -> dict[str, Any]:
    around = ring(rng) if rng.random() < 0.5 else line(rng)
    radius = round(float(rng.uniform(3, 5)), 2)
    turns = length_of(around) / (radius * float(rng.uniform(0.7, 1.0)))
    return {
        "path": {
            "kind": "winding",
            "around": around,
            "radius": radius,
            "turns": round(turns) if "closed" in around else round(turns, 2),
            "hand": str(rng.choice(["left", "right"])),
        },
        "section": {"kind": "round", "diameter": round(radius * float(rng.uniform(0.2, 0.3)), 2)},
    }


def bent_bar(rng: np.random.Generator) -> dict[str, Any]:
    made = bar(rng)
    return {**made, "path": line(rng), "along": {"twist": made["along"]["twist"]}}


def thread(rng: np.random.Generator) -> dict[str, Any]:
    name, hand = str(rng.choice(BOLTS)), str(rng.choice(["left", "right"]))
    return {"thread": {"designation": name, "hand": hand}, "host": {"kind": "rod", "length": 25}}


def traced(seed: int) -> tuple[str, float, float, dict[str, bool | None]]:
    """What was traced, its noise and what is missing of it, and whether each thing is right; None where it
    was refused."""
    noise, missing = NOISE[seed // len(KINDS) % 4], MISSING[seed // len(KINDS) // 4 % 3]
    kind, make, told = KINDS[seed % len(KINDS)]
    recipe = make(np.random.default_rng(seed))
    try:
        found = trace_surface(scan(recipe, noise, missing, seed), kind)
    except RecipeError:
        return kind, noise, missing, {"traced": None}
    return kind, noise, missing, {"traced": True, **told(found, recipe, noise)}


def of_thread(found: Traced, recipe: dict[str, Any], noise: float) -> dict[str, bool | None]:
    asked = recipe["thread"]
    return {
        "hand": found.recipe["thread"].get("hand", "right") == asked["hand"],
        "first in the list": [one.designation for one in found.designations[:1]] == [asked["designation"]],
    }


def of_bar(found: Traced, recipe: dict[str, Any], noise: float) -> dict[str, bool | None]:
    length, change = length_of(recipe["path"]), recipe["along"]
    truth = {
        "length": (length, max(2e-3 * length, 3 * noise)),
        "twist": (change["twist"]["total"], 2.0),
        "size": (change.get("size", {}).get("to", 1.0), 0.01),
    }
    same = found.kind == "bar" and found.recipe["section"]["kind"] == recipe["section"]["kind"]
    return {"section": same, **held(found, truth, {"size": 1.0})}


def of_winding(found: Traced, recipe: dict[str, Any], noise: float) -> dict[str, bool | None]:
    path, wire = recipe["path"], recipe["section"]["diameter"]
    truth = {
        "turns": (path["turns"], 0.01),
        "radius": (path["radius"], max(2e-3 * path["radius"], 3 * noise)),
        "wire_diameter": (wire, max(2e-3 * wire, 3 * noise)),
    }
    hand = found.kind == "winding" and found.recipe["path"]["hand"] == path["hand"]
    return {"hand": hand, **held(found, truth, {})}


def of_coil(found: Traced, recipe: dict[str, Any], noise: float) -> dict[str, bool | None]:
    path, section = recipe["path"], recipe["section"]
    key = "diameter" if section["kind"] == "round" else "width"
    wire = section[key]
    truth = {
        "turns": (path["turns"], 0.01),
        "diameter": (path["diameter"], max(2e-3 * path["diameter"], 3 * noise)),
        "pitch": (path["pitch"], max(2e-3 * path["pitch"], 3 * noise)),
        f"wire_{key}": (wire, max(2e-3 * wire, 3 * noise)),
    }
    hand = found.kind == "coil" and found.recipe["path"].get("hand", "right") == path["hand"]
    numbers = {"hand": hand, **held(found, truth, {})}
    if "legs" not in path:
        return numbers
    legs = found.recipe["path"].get("legs", {}) if found.kind == "coil" else {}
    kinds = [[one["kind"] for one in legs.get(end, [])] for end in ("start", "end")]
    return {**numbers, "both legs": kinds == [[one["kind"] for one in path["legs"]["start"]]] * 2}


KINDS = (
    ("coil", coil, of_coil),
    ("coil of flat wire", flat, of_coil),
    ("coil with legs or hooks", legged, of_coil),
    ("coil around a curve or a ring", winding, of_winding),
    ("bar", bar, of_bar),
    ("bar along a curve", bent_bar, of_bar),
    ("thread", thread, of_thread),
)


def held(
    found: Traced, truth: dict[str, tuple[float, float]], untold: dict[str, float]
) -> dict[str, bool | None]:
    """Whether each number is within what is aimed at and within its interval; what is `untold` has a value as
    well."""
    numbers = {one.key: (one.value, one.sure) for one in found.figures}
    told: dict[str, bool | None] = {}
    for key, (true, allowed) in truth.items():
        value, sure = numbers.get(key, (untold.get(key, np.inf), 0.0))
        words = key.replace("_", " ")
        told[f"{words} within what is aimed at"] = bool(abs(value - true) <= allowed)
        told[f"{words} within its interval"] = bool(abs(value - true) <= sure)
    return told


def table(rows: list[tuple[str, float, float, dict[str, bool | None]]], kind: str) -> str:
    of = [row for row in rows if row[0] == kind]
    keys = list(max((told for *_, told in of), key=len))
    lines = [f"| {kind}: noise | {' | '.join(keys)} |", "| --- |" + " ---: |" * len(keys)]
    for noise in NOISE:
        here = [told for _, n, _, told in of if n == noise]
        if not here:
            continue
        right = Counter(key for told in here for key, value in told.items() if value)
        done = right["traced"]
        cells = [f"{done} of {len(here)}", *(f"{right[key]} of {done}" for key in keys[1:])]
        lines.append(f"| {noise} mm | {' | '.join(cells)} |")
    return "\n".join(lines)


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 12 * len(KINDS)
    on_one_thread()
    with multiprocessing.get_context("spawn").Pool() as pool:
        rows = pool.map(traced, range(count), chunksize=1)
    OUT.write_text(
        "# Verification of tracing\n\n"
        f"Written by `python tests/bench/verify_tracing.py`: {count} scans of our own making, of coils, "
        "of standard threads and of twisted bars, at any place, with noise (standard deviation), "
        "each with all of the surface, with 20 % and with 40 % missing: what faces furthest away from one "
        "side. Aimed at: turns "
        "within 0.01; lengths, diameters and pitch within 0.2 % or three times the noise; the twist of a bar "
        "within 2° and its size within 0.01. The interval of a number is to hold the truth 19 times of 20."
        "\n\n" + "\n\n".join(table(rows, kind) for kind, *_ in KINDS) + "\n"
    )
    print(OUT.read_text())


if __name__ == "__main__":
    main()
