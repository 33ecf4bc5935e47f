"""What is made of a run-through: a moving body in glTF, pictures, a video.

Every frame has a mesh of the same grid, stations at even shares of the wire by places around the section, so
that one frame turns into the next by moving its vertices: morph targets in glTF.
"""

from __future__ import annotations

import io
import zipfile
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from PIL import Image
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

from metaspira.formats.glb import UPRIGHT, Buffers, asset_of, material, packed
from metaspira.formats.picture import drawn_faces
from metaspira.numbers.jets import Array
from metaspira.parts import Part
from metaspira.studies.inputs import Input
from metaspira.sweep.mesh import Indices, grid_faces
from metaspira.sweep.mesh import Mesh as Surface
from metaspira.sweep.sweep import Sweep

_AROUND, _PER_TURN, _LEAST, _MOST = 20, 24, 33, 1200
_WIDE, _HIGH = 640, 440


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


@dataclass(frozen=True, eq=False)
class Film:
    """A run with the meshes of its frames: each wire's vertices (frames, n, 3), mm, and faces (m, 3). A frame
    that cannot be used keeps the shape of the one before it."""

    run: Run
    part: Part
    wires: list[tuple[str, Array, Indices]]


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


def stations_of(turning: float) -> int:
    return int(np.clip(_PER_TURN * turning / (2 * np.pi) + 1, _LEAST, _MOST))


def grid_of(part: Part, index: int, count: int) -> Array:
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


def faces_of(sweep: Sweep, count: int) -> Indices:
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
