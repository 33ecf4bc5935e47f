"""A run-through: inputs that move between values over time, with the whole part and all its checks at each
moment.

Where a working point of a spring moves, the spring is shown at that point, with the force and the stress
there.

Every frame has a mesh of the same grid, stations at even shares of the wire by places around the section, so
that one frame turns into the next by moving its vertices: morph targets in glTF.
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Annotated, Any, Literal

import numpy as np
from PIL import Image
from pydantic import Field
from pygltflib import (
    ARRAY_BUFFER,
    ELEMENT_ARRAY_BUFFER,
    FLOAT,
    GLTF2,
    SCALAR,
    UNSIGNED_INT,
    VEC3,
    Animation,
    AnimationChannel,
    AnimationChannelTarget,
    AnimationSampler,
    Attributes,
    Buffer,
    Mesh,
    Node,
    Primitive,
    Scene,
)

from metaspira.checks import Report, measured, report_on
from metaspira.formats.glb import UPRIGHT, Buffers, asset_of, material, packed
from metaspira.formats.picture import drawn_faces
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind
from metaspira.parts import Part
from metaspira.problems import Cancelled, Problem, RecipeError
from metaspira.processes import Progress
from metaspira.recipe.model import Recipe
from metaspira.studies.inputs import Input, input_at, with_values
from metaspira.sweep.mesh import Indices, grid_faces
from metaspira.sweep.mesh import Mesh as Surface
from metaspira.sweep.sweep import Sweep

MOST_FRAMES = 120
_AROUND, _PER_TURN, _LEAST, _MOST = 20, 24, 33, 1200
_WIDE, _HIGH = 640, 440

_Plain = Annotated[float, Field(allow_inf_nan=False, ge=-1e12, le=1e12)]


class Track(Kind):
    """An input, a JSON pointer, that moves through `values`, plain numbers as typed there, at even times; by
    straight lines, or smoothly."""

    input: str = Field(max_length=200)
    values: list[_Plain] = Field(min_length=2, max_length=20)
    ease: Literal["straight", "smooth"] = "smooth"


@dataclass(frozen=True)
class Frame:
    """One moment: the inputs' values, the verdict and, where it is not clear, why; figures; where along the
    wire."""

    values: list[float]
    verdict: str
    why: str
    figures: dict[str, float | None]
    where: list[list[float]]


@dataclass(frozen=True)
class Run:
    """Frames at even times over `seconds`; `clash` is the first that stops or cannot be used, None where none
    does."""

    inputs: list[Input]
    seconds: float
    frames: list[Frame]
    clash: int | None

    def as_dict(self) -> dict[str, Any]:
        """The run as JSON."""
        return asdict(self)


def demand(typed: Recipe, tracks: list[Track], frames: int, seconds: float) -> list[Input]:
    """The inputs that move. Raises RecipeError where they, or the recipe, cannot be used."""
    if not tracks:
        raise RecipeError(Problem("/tracks", "nothing moves", "let an input move"))
    if not 2 <= frames <= MOST_FRAMES:
        raise RecipeError(Problem("/frames", f"{frames} frames are asked for", f"take 2 to {MOST_FRAMES}"))
    if not 0.1 <= seconds <= 120:
        raise RecipeError(Problem("/seconds", f"{seconds:g} s are asked for", "take 0.1 to 120 s"))
    part = with_values(typed, {})
    if not isinstance(part, Part):
        raise RecipeError(Problem("/thread", "a thread is not run through", "take a coil"))
    inputs = [input_at(part, track.input, f"/tracks/{k}/input") for k, track in enumerate(tracks)]
    if len({one.place for one in inputs}) < len(inputs):
        raise RecipeError(Problem("/tracks", "an input moves twice", "let it move once"))
    return inputs


@dataclass(frozen=True, eq=False)
class Film:
    """A run with the meshes of its frames: each wire's vertices (frames, n, 3), mm, and faces (m, 3). A frame
    that cannot be used keeps the shape of the one before it."""

    run: Run
    part: Part
    wires: list[tuple[str, Array, Indices]]


def run_through(
    typed: Recipe,
    tracks: list[Track],
    frames: int = 40,
    seconds: float = 4.0,
    progress: Progress = lambda share, step: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Film:
    """Run a recipe through its tracks. Raises RecipeError, Cancelled."""
    inputs = demand(typed, tracks, frames, seconds)
    point = _point_in(inputs)
    told: list[Frame] = []
    shapes: list[list[Array]] = []
    first: Part | None = None
    counts: list[int] = []
    for k in range(frames):
        if cancelled():
            raise Cancelled
        progress(k / frames, f"frame {k + 1} of {frames}")
        values = [_at(track, one, k / (frames - 1)) for track, one in zip(tracks, inputs, strict=True)]
        try:
            part = with_values(typed, {one.parts: v for one, v in zip(inputs, values, strict=True)})
            assert isinstance(part, Part)
            report = report_on(part, with_remedies=False)
            shape, figures = (part, report.figures) if point is None else _at_work(part, point)
        except RecipeError as error:
            told.append(Frame(values, "unusable", error.problems[0].reason, {}, []))
            if shapes:
                shapes.append(shapes[-1])
            continue
        told.append(_frame(report, values, figures))
        if first is None:
            first, counts = shape, [_stations(body.sweep.turning) for body in shape.bodies]
        if len(part.bodies) != len(counts):
            raise RecipeError(Problem("/tracks", "the number of wires changes on the way", "keep it"))
        own = [_grid(shape, index, count) for index, count in enumerate(counts)]
        shapes += [own] * (k + 1 - len(shapes))
    if first is None:
        raise RecipeError(Problem("/tracks", f"no frame can be used: {told[0].why}", "let it move elsewhere"))
    clash = next((k for k, frame in enumerate(told) if frame.verdict in ("stop", "unusable")), None)
    wires = [
        (
            body.name,
            np.array([shape[index] for shape in shapes]),
            _faces(body.sweep, counts[index]),
        )
        for index, body in enumerate(first.bodies)
    ]
    return Film(Run(inputs, seconds, told, clash), first, wires)


def glb_of(film: Film) -> bytes:
    """A GLB file with an animation of morph targets, a frame each."""
    buffers = Buffers()
    nodes: list[Node] = []
    meshes: list[Mesh] = []
    channels: list[AnimationChannel] = []
    samplers: list[AnimationSampler] = []
    times = np.linspace(0.0, film.run.seconds, len(film.run.frames))
    clock = buffers.add(times.astype("<f4"), FLOAT, SCALAR, None)
    buffers.accessors[clock].min, buffers.accessors[clock].max = [0.0], [float(times[-1])]
    weights = np.eye(len(times), dtype="<f4")[:, 1:]
    output = buffers.add(np.ascontiguousarray(weights).ravel(), FLOAT, SCALAR, None)
    for name, vertices, faces in film.wires:
        index = buffers.add(faces.astype("<u4").ravel(), UNSIGNED_INT, SCALAR, ELEMENT_ARRAY_BUFFER)
        targets = [
            _shape(buffers, vertices[k] - vertices[0], faces, vertices[0]) for k in range(1, len(times))
        ]
        primitive = Primitive(
            attributes=_shape(buffers, vertices[0], faces), indices=index, material=0, targets=targets
        )
        meshes.append(Mesh(name=name, primitives=[primitive], weights=[0.0] * (len(times) - 1)))
        nodes.append(Node(mesh=len(nodes), name=name, rotation=UPRIGHT, scale=[1e-3] * 3))
        samplers.append(AnimationSampler(input=clock, output=output, interpolation="LINEAR"))
        target = AnimationChannelTarget(node=len(nodes) - 1, path="weights")
        channels.append(AnimationChannel(sampler=len(samplers) - 1, target=target))
    document = GLTF2(
        asset=asset_of(film.part),
        scene=0,
        scenes=[Scene(name=film.part.recipe.name, nodes=list(range(len(nodes))))],
        nodes=nodes,
        meshes=meshes,
        materials=[material(film.part, film.part.material.colour)],
        animations=[Animation(name="run-through", channels=channels, samplers=samplers)],
        accessors=buffers.accessors,
        bufferViews=buffers.views,
        buffers=[Buffer(byteLength=buffers.size)],
    )
    return packed(document, buffers)


def pictures_of(film: Film) -> list[Image.Image]:
    """A picture of each frame, from one place."""
    every = np.concatenate([vertices.reshape(-1, 3) for _, vertices, _ in film.wires])
    bounds = every[:: max(1, len(every) // 20_000)]
    images = []
    for k in range(len(film.run.frames)):
        surfaces = [
            Surface(vertices[k], faces, np.zeros(len(vertices[k])), np.full(len(faces), -1, dtype=np.int32))
            for _, vertices, faces in film.wires
        ]
        images.append(drawn_faces(surfaces, _WIDE, _HIGH, bounds))
    return images


def zip_of(images: list[Image.Image]) -> bytes:
    """The pictures as PNG files in a ZIP."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as file:
        for k, image in enumerate(images, 1):
            one = io.BytesIO()
            image.save(one, "PNG")
            file.writestr(f"frame-{k:03}.png", one.getvalue())
    return out.getvalue()


def video_of(images: list[Image.Image], seconds: float) -> bytes:
    """The pictures as an animated WebP."""
    out = io.BytesIO()
    still = max(20, round(1000 * seconds / len(images)))
    images[0].save(out, "WEBP", save_all=True, append_images=images[1:], duration=still, loop=0, quality=80)
    return out.getvalue()


def _at(track: Track, one: Input, share: float) -> float:
    legs = len(track.values) - 1
    leg = min(int(share * legs), legs - 1)
    t = share * legs - leg
    if track.ease == "smooth":
        t = t * t * (3 - 2 * t)
    value = track.values[leg] + t * (track.values[leg + 1] - track.values[leg])
    return float(round(value)) if one.whole else float(f"{value:.12g}")


def _point_in(inputs: list[Input]) -> int | None:
    """Which working point of the spring moves; the first where several do."""
    points = (int(one.parts[2]) for one in inputs if one.parts[:2] == ("spring", "points"))
    return next(points, None)


def _at_work(part: Part, point: int) -> tuple[Part, dict[str, float | None]]:
    """The spring at a working point, and its figures there, with what it takes and its corrected stress.
    Raises RecipeError."""
    spring = part.spring
    assert spring is not None
    worked = spring.points[point]
    shape = part.worked_to(worked.place)
    effort = "force" if spring.units[1] == "N" else "torque"
    return shape, {**measured(shape), effort: worked.effort, "stress": worked.corrected}


def _frame(report: Report, values: list[float], figures: dict[str, float | None]) -> Frame:
    worst = [check for check in report.checks if check.verdict == report.verdict != "clear"]
    where = [list(span) for span in worst[0].where] if worst else []
    return Frame(values, report.verdict, worst[0].why if worst else "", figures, where)


def _stations(turning: float) -> int:
    return int(np.clip(_PER_TURN * turning / (2 * np.pi) + 1, _LEAST, _MOST))


def _grid(part: Part, index: int, count: int) -> Array:
    """Vertices (n, 3) of a wire: rings at even shares of its length, and the middles of both ends."""
    sweep = part.bodies[index].sweep
    s = np.linspace(0.0, sweep.length, count)
    rings = sweep.frames(s).points(_ring(sweep.ring(s, 4 * _AROUND, 4)))
    flat = rings.reshape(-1, 3)
    return np.vstack([flat, rings[0].mean(axis=0), rings[-1].mean(axis=0)])


def _ring(ring: Array) -> Array:
    """A ring of `_AROUND` places, at even shares of its perimeter: (k, 2), or (n, k, 2) where it changes."""
    if ring.ndim == 3:
        return np.array([_ring(one) for one in ring])
    closed = np.vstack([ring, ring[:1]])
    steps = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    at = np.linspace(0.0, steps[-1], _AROUND, endpoint=False)
    return np.column_stack([np.interp(at, steps, closed[:, k]) for k in range(2)])


def _faces(sweep: Sweep, count: int) -> Indices:
    """Faces of the grid, seen from outside counter-clockwise."""
    sides = grid_faces(count, _AROUND, closed=True, around=False)
    around = np.arange(_AROUND)
    beside = (around + 1) % _AROUND
    start, last = count * _AROUND, (count - 1) * _AROUND
    caps = [
        np.column_stack([np.full(_AROUND, start), beside, around]),
        np.column_stack([np.full(_AROUND, start + 1), last + around, last + beside]),
    ]
    faces = np.concatenate([sides, *caps]).astype(np.int32)
    return faces if sweep.orientation > 0 else faces[:, ::-1]


def _shape(buffers: Buffers, vertices: Array, faces: Indices, base: Array | None = None) -> Attributes:
    """Positions and normals; of a target those that are added to the `base`'s."""
    normal = (
        _normals(vertices, faces)
        if base is None
        else _normals(base + vertices, faces) - _normals(base, faces)
    )
    names = {
        "POSITION": buffers.add_places(vertices),
        "NORMAL": buffers.add(normal.astype("<f4"), FLOAT, VEC3, ARRAY_BUFFER),
    }
    return Attributes(**names)


def _normals(vertices: Array, faces: Indices) -> Array:
    a, b, c = (vertices[faces[:, k]] for k in range(3))
    normal = np.zeros_like(vertices)
    face = np.cross(b - a, c - a)
    for k in range(3):
        np.add.at(normal, faces[:, k], face)
    return normal / np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-300)
