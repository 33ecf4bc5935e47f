"""GLB (glTF 2.0, Khronos): metres, y up, a node for each body and a primitive for each of its colours, with
the true length of the wire at each vertex as `_LENGTH`."""

from __future__ import annotations

import struct
from pathlib import Path as FilePath

import numpy as np
import trimesh
from numpy.typing import NDArray
from pygltflib import (
    ARRAY_BUFFER,
    ELEMENT_ARRAY_BUFFER,
    FLOAT,
    GLTF2,
    SCALAR,
    UNSIGNED_INT,
    VEC3,
    Accessor,
    Asset,
    Attributes,
    Buffer,
    BufferView,
    Material,
    Mesh,
    Node,
    PbrMetallicRoughness,
    Primitive,
    Scene,
)

from metaspira.formats.meshes import loaded, proven, rgb
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, bodies_of
from metaspira.parts.identity import SYSTEM, body_names, identity_of
from metaspira.problems import Problem, RecipeError
from metaspira.processes import Progress
from metaspira.solids.proof import Proof
from metaspira.sweep.mesh import Strips

_MOST_SHOWN = 1_500_000
UPRIGHT = [-(0.5**0.5), 0.0, 0.0, 0.5**0.5]
"""The turn that stands z up in a world where y is up."""


def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
    """Write the mesh within `chord_error` mm of the shape and prove it. Raises ProofError."""

    def made(error: float) -> trimesh.Trimesh:
        progress(0.1, "mesh")
        surfaces = [body.strips(error) for body in bodies_of(part)]
        progress(0.4, "writing GLB")
        file.write_bytes(glb_bytes(part, surfaces))
        progress(0.6, "reading back")
        return loaded(file)

    return proven(part, chord_error, made)


def preview_glb(part: AnyPart, chord_error: float | None = None) -> bytes:
    """The part as it is shown while it is being worked on, or as it would be exported within a chord
    error (mm), as the bytes of a GLB file. Raises RecipeError where that makes too large a mesh."""
    surfaces = []
    for body in bodies_of(part):
        error = None if chord_error is None else max(chord_error, 1e-6)
        count = body.vertex_count(error)
        if error is not None and count > _MOST_SHOWN:
            raise RecipeError(
                Problem(
                    "/chord_error",
                    f"a mesh within {chord_error:g} mm has {count} vertices, too many to show",
                    "look at a larger chord error; the file can still be made with this one",
                )
            )
        surfaces.append(body.strips(error))
    return glb_bytes(part, surfaces)


class Buffers:
    """Arrays one after another, with their glTF views and accessors."""

    def __init__(self) -> None:
        self.views: list[BufferView] = []
        self.accessors: list[Accessor] = []
        self.blobs: list[bytes] = []
        self.size = 0

    def add(self, array: NDArray[np.generic], component: int, kind: str, target: int | None) -> int:
        """The number of the accessor of a new array."""
        number = len(self.accessors)
        self.views.append(BufferView(buffer=0, byteOffset=self.size, byteLength=array.nbytes, target=target))
        accessor = Accessor(bufferView=number, componentType=component, count=len(array), type=kind)
        self.accessors.append(accessor)
        self.blobs.append(array.tobytes())
        self.size += array.nbytes
        return number

    def add_places(self, places: Array) -> int:
        """The number of the accessor of places (n, 3), with their bounds."""
        number = self.add(places.astype("<f4"), FLOAT, VEC3, ARRAY_BUFFER)
        columns = np.ascontiguousarray(places.T, dtype="<f4")
        accessor = self.accessors[number]
        accessor.min, accessor.max = columns.min(axis=1).tolist(), columns.max(axis=1).tolist()
        return number


def glb_bytes(part: AnyPart, surfaces: list[Strips]) -> bytes:
    """The GLB file of the surfaces of a part's bodies, in millimetres."""
    buffers = Buffers()
    colours = [part.material.colour]
    meshes: list[Mesh] = []
    nodes: list[Node] = []
    for name, surface in zip(body_names(part), surfaces, strict=True):
        meshes.append(_mesh(buffers, name, surface, colours))
        nodes.append(Node(mesh=len(nodes), name=name, rotation=UPRIGHT, scale=[1e-3] * 3))
    document = GLTF2(
        asset=asset_of(part),
        scene=0,
        scenes=[Scene(name=part.recipe.name, nodes=list(range(len(nodes))))],
        nodes=nodes,
        meshes=meshes,
        materials=[material(part, colour) for colour in colours],
        accessors=buffers.accessors,
        bufferViews=buffers.views,
        buffers=[Buffer(byteLength=buffers.size)],
    )
    return packed(document, buffers)


def asset_of(part: AnyPart) -> Asset:
    """What the file says of itself."""
    owner = identity_of(part).block.owner
    return Asset(version="2.0", generator=SYSTEM, copyright=owner or None)


def packed(document: GLTF2, buffers: Buffers) -> bytes:
    """The bytes of a GLB file."""
    text = document.gltf_to_json(separators=(",", ":")).encode()
    text += b" " * (-len(text) % 4)
    size = 12 + 8 + len(text) + 8 + buffers.size
    return b"".join(
        [
            struct.pack("<4sII", b"glTF", 2, size),
            struct.pack("<I4s", len(text), b"JSON"),
            text,
            struct.pack("<I4s", buffers.size, b"BIN\0"),
            *buffers.blobs,
        ]
    )


def _mesh(buffers: Buffers, name: str, surface: Strips, colours: list[str]) -> Mesh:
    mesh = surface.mesh
    attributes = Attributes(
        POSITION=buffers.add_places(mesh.vertices),
        NORMAL=buffers.add(surface.normals.astype("<f4"), FLOAT, VEC3, ARRAY_BUFFER),
    )
    attributes._LENGTH = buffers.add(mesh.length.astype("<f4"), FLOAT, SCALAR, ARRAY_BUFFER)
    primitives = []
    for paint in np.unique(mesh.paint) if mesh.colours else [-1]:
        colour = colours[0] if paint < 0 else mesh.colours[paint]
        if colour not in colours:
            colours.append(colour)
        faces = mesh.faces[mesh.paint == paint] if mesh.colours else mesh.faces
        indices = buffers.add(
            faces.astype("<u4", copy=False).ravel(), UNSIGNED_INT, SCALAR, ELEMENT_ARRAY_BUFFER
        )
        primitives.append(Primitive(attributes=attributes, indices=indices, material=colours.index(colour)))
    return Mesh(name=name, primitives=primitives)


def material(part: AnyPart, colour: str) -> Material:
    """The part's material, or a paint on it."""
    own = colour == part.material.colour
    metal, rough = part.material.shine if own else (0.0, 0.45)
    linear = [(c / 255) ** 2.2 for c in rgb(colour)]
    return Material(
        name=part.material.name if own else f"paint {colour}",
        doubleSided=part.is_skin,
        pbrMetallicRoughness=PbrMetallicRoughness(
            baseColorFactor=[*linear, 1.0], metallicFactor=metal, roughnessFactor=rough
        ),
    )
