"""Speeds, each beside something else on the same shape in the same run: `python tests/bench/run.py`.

Writes docs/benchmarks.md. Ratios are what counts; seconds are of the machine that ran it.
"""

from __future__ import annotations

import itertools
import json
import math
import multiprocessing
import platform
import queue
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import fcl
import numpy as np
import trimesh
from lasting import second_part
from metaspira.checks import report_on, run_checks
from metaspira.checks.bend import stretch_along
from metaspira.checks.gaps import _part_gaps
from metaspira.formats.glb import preview_glb
from metaspira.gaps.bends import least_stretch, tightest_bend
from metaspira.gaps.extents import extents
from metaspira.gaps.hulls import _hulls_of
from metaspira.parts import Part, part_of
from metaspira.sections import section_along
from metaspira.solids.brep import build_shape
from metaspira.solids.nets import control_nets
from metaspira.solids.proof import Proof
from metaspira.solids.step import write
from metaspira.springs.elasticity import Turn
from metaspira.studies.find_spring import Wish, find_springs
from metaspira.sweep.mesh import Fineness, tessellate
from metaspira.threads.lookup import measured, nearest_threads
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.BRepLib import BRepLib
from OCP.BRepOffsetAPI import BRepOffsetAPI_MakePipe
from OCP.Geom import Geom_CylindricalSurface
from OCP.Geom2d import Geom2d_Line
from OCP.gp import gp_Ax2, gp_Ax3, gp_Circ, gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d
from OCP.GProp import GProp_GProps
from shapely import Point

OUT = Path(__file__).resolve().parents[2] / "docs/benchmarks.md"
_PATIENCE = 60.0
RADIUS, PITCH, WIRE = 10.0, 6.0, 2.5


def recipe(turns: float, general: bool = False) -> dict[str, Any]:
    section = (
        {"kind": "rectangle", "width": WIRE, "height": WIRE}
        if general
        else {"kind": "round", "diameter": WIRE}
    )
    return {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 2 * RADIUS, "turns": turns, "pitch": PITCH},
        "section": section,
    }


def star_tube(turns: float) -> dict[str, Any]:
    """Three five-pointed tubes that blend along a coil."""

    def star(outer: float, inner: float) -> dict[str, Any]:
        hole = {"kind": "round", "diameter": 3}
        return {
            "kind": "star",
            "points": 5,
            "outer_diameter": outer,
            "inner_diameter": inner,
            "fillet": 0.3,
            "holes": [hole],
        }

    sections = [(0, star(10, 6)), (0.5, star(8, 6)), (1, star(10, 5))]
    return {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 40, "turns": turns, "pitch": 12},
        "section": {"kind": "blend", "sections": [{"at": at, "section": s} for at, s in sections]},
    }


def coiled_coil() -> dict[str, Any]:
    core = {"kind": "coil", "diameter": 60, "turns": 40, "pitch": 14}
    return {
        "format": "metaspira/1",
        "path": {"kind": "winding", "around": core, "radius": 4, "turns": 40 * 50},
        "section": {"kind": "round", "diameter": 1},
    }


def strands(count: int, turns: float) -> dict[str, Any]:
    """A coil of so many strands side by side."""
    path = {"kind": "coil", "diameter": 60, "turns": turns, "pitch": 20}
    return {
        "format": "metaspira/1",
        "path": path,
        "section": {"kind": "round", "diameter": 0.5},
        "strands": {"count": count, "lay": 60, "radius": 5},
    }


def rope(lays: int) -> dict[str, Any]:
    """A straight rope of six wires around a core."""
    return {
        "format": "metaspira/1",
        "path": {"kind": "straight", "length": 30 * lays},
        "section": {"kind": "round", "diameter": 2},
        "strands": {"count": 6, "lay": 30, "core": True},
    }


def free_path() -> dict[str, Any]:
    points = [[0, 0, 0], [30, 0, 10], [40, 30, 20], [10, 40, 40], [0, 0, 60]]
    return {
        "format": "metaspira/1",
        "path": {"kind": "points", "points": points},
        "section": {"kind": "round", "diameter": 4},
    }


def timed(work: Callable[[], Any], runs: int = 5) -> float:
    """Median seconds of a few runs after a first one, every cache emptied before each."""
    seconds = []
    if runs > 1:
        work()
    for _ in range(runs):
        for cached in (_part_gaps, stretch_along, extents, _hulls_of, least_stretch, tightest_bend):
            cached.cache_clear()
        start = time.perf_counter()
        work()
        seconds.append(time.perf_counter() - start)
    return statistics.median(seconds)


def trimesh_sweep(turns: float) -> trimesh.Trimesh:
    angle = np.linspace(0, 2 * math.pi * turns, int(32 * turns) + 1)
    path = np.stack([RADIUS * np.cos(angle), RADIUS * np.sin(angle), PITCH * angle / (2 * math.pi)], axis=1)
    return trimesh.creation.sweep_polygon(Point(0, 0).buffer(WIRE / 2, quad_segs=8), path)


def collision_model(vertices: Any, faces: Any) -> fcl.CollisionObject:
    """A mesh as FCL has it."""
    model = fcl.BVHModel()
    model.beginModel(len(vertices), len(faces))
    model.addSubModel(vertices, faces)
    model.endModel()
    return fcl.CollisionObject(model)


def mesh_search(part: Part, turns: int) -> float:
    """Least distance of the mesh to itself, by FCL: each half turn against those one turn on."""
    mesh = tessellate(part.sweep, Fineness(32, 32))
    piece_of = (mesh.length[mesh.faces].mean(axis=1) / part.path.length * 2 * turns).astype(int)
    order = np.argsort(piece_of, kind="stable")
    starts = np.searchsorted(piece_of[order], np.arange(2 * turns + 1))
    models = []
    for low, high in itertools.pairwise(starts):
        used, faces = np.unique(mesh.faces[order[low:high]], return_inverse=True)
        models.append(collision_model(mesh.vertices[used], faces.reshape(-1, 3)))
    return min(
        fcl.distance(models[i], models[j], fcl.DistanceRequest(), fcl.DistanceResult())
        for i in range(len(models))
        for j in (i + 2, i + 3)
        if j < len(models)
    )


def mesh_pairs(part: Part) -> float:
    """Least distance of the meshes of neighbouring wires, by FCL."""
    meshes = [tessellate(body.sweep, Fineness(32, 32)) for body in part.bodies]
    models = [collision_model(mesh.vertices, mesh.faces) for mesh in meshes]
    pairs = zip(models, models[1:] + models[:1], strict=True)
    return min(fcl.distance(a, b, fcl.DistanceRequest(), fcl.DistanceResult()) for a, b in pairs)


def own_solid(turns: float) -> float:
    part = part_of(recipe(turns))
    solid = build_shape(control_nets(part.sweep)).shape
    assert BRepCheck_Analyzer(solid).IsValid()
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(solid, properties)
    return Proof(True, True, properties.Mass(), part.sweep.volume, 1e-5).relative_error


def bolt(length: float) -> dict[str, Any]:
    """An M10 rod, chamfered at both ends."""
    return {
        "format": "metaspira/1",
        "thread": {"designation": "M10"},
        "host": {"kind": "rod", "length": length},
    }


def spiral() -> dict[str, Any]:
    """A flat spiral strip on an arbor."""
    return {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 24, "end_diameter": 96, "turns": 9, "height": 0},
        "section": {"kind": "rectangle", "width": 1.2, "height": 18},
        "spring": {"kind": "spiral"},
    }


def own_thread(length: float) -> None:
    with tempfile.TemporaryDirectory() as folder:
        write(part_of(bolt(length)), Path(folder) / "part.step", 0.01, lambda share, step: None)


def kernel_pipe(turns: float, answer: Any) -> None:
    """The kernel's own pipe sweep of the same coil, with its volume."""
    start = time.perf_counter()
    surface = Geom_CylindricalSurface(gp_Ax3(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), RADIUS)
    slope = math.hypot(2 * math.pi, PITCH)
    line = Geom2d_Line(gp_Pnt2d(0, 0), gp_Dir2d(2 * math.pi, PITCH))
    edge = BRepBuilderAPI_MakeEdge(line, surface, 0.0, turns * slope).Edge()
    BRepLib.BuildCurves3d_s(edge)
    spine = BRepBuilderAPI_MakeWire(edge).Wire()
    tangent = gp_Dir(0, RADIUS, PITCH / (2 * math.pi))
    circle = gp_Circ(gp_Ax2(gp_Pnt(RADIUS, 0, 0), tangent), WIRE / 2)
    ring = BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(circle).Edge()).Wire()
    shape = BRepOffsetAPI_MakePipe(spine, BRepBuilderAPI_MakeFace(ring).Face()).Shape()
    valid = BRepCheck_Analyzer(shape).IsValid()
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, properties)
    answer.put((time.perf_counter() - start, valid, abs(properties.Mass())))


def long_coil(turns: float, answer: Any) -> None:
    """Peak memory, GiB, of a process that checks and meshes a coil."""
    part = part_of(recipe(turns))
    run_checks(part)
    tessellate(part.sweep, Fineness(32, 32))
    answer.put(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 2**20)


def in_child(work: Callable[[float, Any], None], turns: float) -> Any:
    """What `work` answers in a process of its own; None where it takes too long."""
    context = multiprocessing.get_context("spawn")
    answer = context.Queue()
    child = context.Process(target=work, args=(turns, answer))
    child.start()
    try:
        return answer.get(timeout=_PATIENCE)
    except queue.Empty:
        return None
    finally:
        child.kill()


def process(*command: str) -> float:
    """Seconds of a process from its start to its end, the median of some."""

    def run() -> None:
        subprocess.run([sys.executable, *command], check=True, capture_output=True, cwd=OUT.parents[1])

    return timed(run, runs=3)


def main() -> None:
    rows: list[str] = []

    def row(work: str, ours: float, other: str, theirs: float | None, remark: str = "") -> None:
        ratio = "–" if theirs is None else f"{theirs / ours:.1f} ×"
        beside = "–" if theirs is None else f"{theirs * 1e3:.1f} ms"
        rows.append(f"| {work} | {ours * 1e3:.1f} ms | {other} | {beside} | {ratio} | {remark} |")
        print(rows[-1], flush=True)

    base = process("-c", "import numpy, scipy, pydantic")
    with tempfile.TemporaryDirectory() as folder:
        coil = Path(folder) / "coil.spira.json"
        coil.write_text(json.dumps(recipe(8)))
        for told, aim in (
            ("--help", "0.25 s"),
            ("thread M10", "0.5 s"),
            (f"check {coil}", "0.9 s"),
            (f"build {coil} -o {folder}/coil.step", "2.5 s"),
        ):
            ours = process("-m", "metaspira.cli", *told.split())
            name = f"`metaspira {told.replace(f'{folder}/', '')}`, a process"
            row(name, ours, "importing numpy, scipy and pydantic", base, f"aim {aim}")

    for turns in (10, 200):
        ours = timed(lambda n=turns: tessellate(part_of(recipe(n)).sweep, Fineness(32, 32)))
        theirs = timed(lambda n=turns: trimesh_sweep(n), runs=3)
        row(f"recipe to mesh, {turns} turns × 32", ours, "trimesh's sweep", theirs, "aim 10 ms, 60 ms")
        row(
            f"recipe to preview file, {turns} turns",
            timed(lambda n=turns: preview_glb(part_of(recipe(n)))),
            "–",
            None,
        )
    for general in (False, True):
        ours = timed(lambda g=general: run_checks(part_of(recipe(10, g))))
        theirs = timed(lambda g=general: mesh_search(part_of(recipe(10, g)), 10), runs=3)
        name = "a general section" if general else "round wire"
        aim = "aim 50 ms" if general else "aim 10 ms"
        row(f"all checks, 10 turns, {name}", ours, "mesh distance search (FCL)", theirs, aim)
    ours = timed(lambda: run_checks(part_of(recipe(1000))), runs=3)
    row(
        "all checks, 1,000 turns",
        ours,
        "mesh distance search (FCL)",
        timed(lambda: mesh_search(part_of(recipe(1000)), 1000), runs=1),
        "aim 500 ms",
    )
    ours = timed(lambda: run_checks(part_of(recipe(3000, True))), runs=3)
    theirs = timed(lambda: mesh_search(part_of(recipe(3000, True)), 3000), runs=1)
    row("all checks, 3,000 turns, square wire", ours, "mesh distance search (FCL)", theirs, "aim 4 s")
    for work, made, aim in (
        ("36 strands on 5 turns", strands(36, 5), "aim 2 s"),
        ("a rope of 7 over 20 lays", rope(20), "aim 0.5 s"),
    ):
        ours = timed(lambda made=made: run_checks(part_of(made)), runs=3)
        theirs = timed(lambda made=made: mesh_pairs(part_of(made)), runs=1)
        row(f"all checks, {work}", ours, "neighbours' meshes (FCL)", theirs, aim)
    row(
        "figures and checks, 6,000 turns",
        timed(lambda: report_on(part_of(recipe(6000))), runs=3),
        "–",
        None,
    )

    tube, made = star_tube(50), section_along
    made.cache_clear()
    first = timed(lambda: part_of(tube), runs=1)
    ours = timed(lambda: preview_glb(part_of(tube)))
    row(
        "recipe to preview file, blended star tube, 50 turns",
        ours,
        "matching the sections, once",
        first,
        "aim 60 ms",
    )
    ours = timed(lambda: run_checks(part_of(coiled_coil())), runs=3)
    straight = timed(lambda: run_checks(part_of(recipe(2000))), runs=3)
    row("all checks, coiled coil of 40 × 50 turns", ours, "a coil of 2,000 turns", straight, "aim 1 s")
    points = part_of(free_path())
    ours = timed(lambda: (preview_glb(part_of(free_path())), report_on(points, with_remedies=False)))
    row("a point of a free path moves: preview and checks", ours, "–", None, "aim 33 ms, 30 a second")

    predicted = math.pi * WIRE**2 / 4 * math.hypot(2 * math.pi * RADIUS, PITCH)
    for turns in (10, 25, 50):
        ours = timed(lambda n=turns: own_solid(n), runs=3)
        kernel = in_child(kernel_pipe, turns)
        if kernel is None:
            remark = f"the kernel gave nothing in {_PATIENCE:g} s, so the ratio is at least this"
            theirs = _PATIENCE
        else:
            theirs = kernel[0]
            lost = 1 - kernel[2] / (predicted * turns)
            remark = (
                f"kernel: valid {kernel[1]}, {100 * lost:.2g} % of the volume lost; ours off by "
                f"{own_solid(turns):.0e}"
            )
        row(f"solid with proof, {turns} turns", ours, "the kernel's pipe sweep", theirs, remark)

    for length, aim in ((30, "aim 3 s"), (750, "500 turns; aim 20 s")):
        ours = timed(lambda n=length: own_thread(n), runs=1)
        mesh = timed(lambda n=length: preview_glb(part_of(bolt(n))), runs=3)
        row(f"M10 × {length} with proof, chamfered", ours, "its preview file", mesh, aim)
    ours = timed(lambda: nearest_threads("M10x1.2"))
    read = timed(lambda: measured(9.9, 1.5))
    row("nearest threads while typing", ours, "the ranking of a measured one", read)

    loads = [{"length": 40, "force": 30}, {"length": 28, "force": 80}]
    wish = Wish.model_validate({"format": "metaspira/1", "loads": loads, "bore": 22, "rod": 11})
    answers = [found.recipe for found in find_springs(wish).springs]
    ours = timed(lambda: find_springs(wish), runs=3)
    drawn = timed(lambda: [run_checks(part_of(found)) for found in answers], runs=3)
    row("springs found over all wires", ours, f"checking its {len(answers)} answers", drawn, "aim 1 s")
    coil = part_of(answers[0]).spring
    curve = timed(lambda: part_of(answers[0]).spring.drawn.rate, runs=3)
    straight = timed(lambda: part_of(answers[0]).spring.rate, runs=3)
    row("a spring as drawn, from free to solid length", curve, "the standard's line", straight)
    radii, pitches = (float(each.mean()) for each in coil.turns.open)
    one = coil.shape.section, radii, pitches, coil.elastic_modulus, coil.shear_modulus
    turn = timed(lambda: Turn(*one).shear.max(), runs=3)
    row("a turn in exact elasticity", turn, "the spring as drawn", curve, "aim 0.15 s")
    pressed = timed(lambda: preview_glb(part_of(answers[0]).worked_to(30)))
    free = timed(lambda: preview_glb(part_of(answers[0])))
    row("a pressed spring: preview file", pressed, "the free one's", free)
    wound = timed(lambda: preview_glb(part_of(spiral()).worked_to(200)))
    free = timed(lambda: preview_glb(part_of(spiral())))
    row("a wound spiral: preview file", wound, "the free one's", free)

    counts = [10, 100, 1000, 10_000]
    seconds = [timed(lambda n=n: run_checks(part_of(recipe(n))), runs=3) for n in counts]
    slope = np.polyfit(np.log(counts[1:]), np.log(seconds[1:]), 1)[0]
    peak = in_child(long_coil, 10_000)
    growth = (
        f"All checks at {', '.join(f'{n:,}' for n in counts)} turns: "
        f"{', '.join(f'{s * 1e3:.0f} ms' for s in seconds)}; log-log slope {slope:.2f} from 100 turns on "
        "(aim 1.15 at most). Peak memory of a process that checks and meshes 10,000 turns: "
        f"{peak:.2f} GiB (aim 2 GiB)."
    )
    print(growth)
    head = (
        "# Benchmarks\n\nWritten by `python tests/bench/run.py`; both columns of a row are measured "
        "in the same run, "
        f"so read the ratio. Machine: {platform.machine()}, Python {platform.python_version()}, one "
        "process.\n\n"
        "| work | Metaspira | beside it | takes | ratio | remark |\n| --- | ---: | --- | ---: | ---: "
        "| --- |\n"
    )
    rest = second_part(OUT.read_text()) if OUT.exists() else ""
    OUT.write_text(head + "\n".join(rows) + f"\n\n{growth}\n{rest}")


if __name__ == "__main__":
    main()
