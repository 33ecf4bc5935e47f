"""GLB (glTF 2.0, Khronos): metres, y up, with the true length of the wire at each vertex as `_LENGTH`."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path as FilePath

import numpy as np
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

from metaspira import __version__
from metaspira.formats.stl import measure_mesh
from metaspira.part import Part
from metaspira.solids.proof import Proof
from metaspira.sweep.mesh import Strips, fineness_for, preview_fineness, strips

_UPRIGHT = [-(0.5**0.5), 0.0, 0.0, 0.5**0.5]


def write(
    part: Part, file: FilePath, chord_error: float, progress: Callable[[float, str], None]
) -> Proof:
    """Write the mesh within `chord_error` mm of the shape and prove it. Raises ProofError."""
    progress(0.1, "mesh")
    surface = strips(part.sweep, fineness_for(part.sweep, chord_error))
    progress(0.4, "writing GLB")
    file.write_bytes(glb_bytes(part, surface))
    progress(0.6, "reading back")
    return measure_mesh(file, part, chord_error).demand("mesh")


def preview_glb(part: Part) -> bytes:
    """The part as it is shown while it is being worked on, as the bytes of a GLB file."""
    return glb_bytes(part, strips(part.sweep, preview_fineness(part.sweep)))


def glb_bytes(part: Part, surface: Strips) -> bytes:
    """The GLB file of a surface in millimetres."""
    mesh = surface.mesh
    position = mesh.vertices.astype("<f4")
    arrays: list[tuple[NDArray[np.generic], int, str, int]] = [
        (position, FLOAT, VEC3, ARRAY_BUFFER),
        (surface.normals.astype("<f4"), FLOAT, VEC3, ARRAY_BUFFER),
        (mesh.length.astype("<f4"), FLOAT, SCALAR, ARRAY_BUFFER),
        (mesh.faces.astype("<u4").ravel(), UNSIGNED_INT, SCALAR, ELEMENT_ARRAY_BUFFER),
    ]
    views, accessors, offset = [], [], 0
    for index, (array, component, kind, target) in enumerate(arrays):
        views.append(BufferView(buffer=0, byteOffset=offset, byteLength=array.nbytes, target=target))
        accessors.append(
            Accessor(bufferView=index, componentType=component, count=len(array), type=kind)
        )
        offset += array.nbytes
    accessors[0].min = position.min(axis=0).tolist()
    accessors[0].max = position.max(axis=0).tolist()
    attributes = Attributes(POSITION=0, NORMAL=1)
    attributes._LENGTH = 2
    red, green, blue = (int(part.material.colour[i : i + 2], 16) / 255 for i in (1, 3, 5))
    metal = 0.9 if part.material.density > 2e-3 else 0.0
    document = GLTF2(
        asset=Asset(version="2.0", generator=f"Metaspira {__version__}"),
        scene=0,
        scenes=[Scene(nodes=[0])],
        nodes=[Node(mesh=0, name=part.recipe.name, rotation=_UPRIGHT, scale=[1e-3] * 3)],
        meshes=[Mesh(primitives=[Primitive(attributes=attributes, indices=3, material=0)])],
        materials=[
            Material(
                name=part.material.name,
                pbrMetallicRoughness=PbrMetallicRoughness(
                    baseColorFactor=[red**2.2, green**2.2, blue**2.2, 1.0],
                    metallicFactor=metal,
                    roughnessFactor=0.45,
                ),
            )
        ],
        accessors=accessors,
        bufferViews=views,
        buffers=[Buffer(byteLength=offset)],
    )
    document.set_binary_blob(b"".join(array.tobytes() for array, *_ in arrays))
    return b"".join(document.save_to_bytes())
