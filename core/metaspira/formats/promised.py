"""How much a file of a body says that it holds, counted before anything is made of it."""

from __future__ import annotations

import json
import re
import struct
from typing import Any

MOST_TRIANGLES = 500_000
_MOST_ENTITIES = 400_000
_MOST_NODES = 10_000
_STL_HEAD = 84
_GLB_JSON = b"JSON"


def demand_bounded(data: bytes, suffix: str) -> None:
    """Raises ValueError where the file says that it holds more than is read here, or what it cannot hold."""
    count = _COUNTS[suffix](data)
    if count > MOST_TRIANGLES:
        raise ValueError(f"the file holds {count} triangles, more than {MOST_TRIANGLES}")


def _stl(data: bytes) -> int:
    if len(data) >= _STL_HEAD:
        (count,) = struct.unpack_from("<I", data, _STL_HEAD - 4)
        if len(data) == _STL_HEAD + 50 * count:
            return int(count)
    if data.lstrip()[:5].lower() == b"solid":
        return data.lower().count(b"endfacet")
    raise ValueError("the file is cut short, or no STL")


def _glb(data: bytes) -> int:
    told = _gltf(data)
    nodes, meshes, accessors = (_rows(told, name) for name in ("nodes", "meshes", "accessors"))
    seen = 0
    parents = [0] * len(nodes)
    for node in nodes:
        for child in _rows(node, "children"):
            if not isinstance(child, int) or not 0 <= child < len(nodes):
                raise ValueError("the file names nodes that it does not hold")
            parents[child] += 1
    if len(nodes) > _MOST_NODES or any(count > 1 for count in parents):
        raise ValueError("the file's nodes are no tree, or too many")
    total = 0
    for node in nodes:
        mesh = node.get("mesh") if isinstance(node, dict) else None
        if isinstance(mesh, int) and 0 <= mesh < len(meshes):
            for primitive in _rows(meshes[mesh], "primitives"):
                total += _points(primitive, accessors) // 3
                seen += 1
                if seen > _MOST_NODES or total > MOST_TRIANGLES:
                    return max(total, MOST_TRIANGLES + 1)
    return total


def _points(primitive: Any, accessors: list[Any]) -> int:
    """How many corners a primitive says that it has, by its indices or its vertices."""
    if not isinstance(primitive, dict):
        return 0
    named = primitive.get("attributes")
    used = [primitive.get("indices"), named.get("POSITION") if isinstance(named, dict) else None]
    counts = [
        accessors[at].get("count", 0)
        for at in used
        if isinstance(at, int) and 0 <= at < len(accessors) and isinstance(accessors[at], dict)
    ]
    return max((count for count in counts if isinstance(count, int)), default=0)


def _gltf(data: bytes) -> dict[str, Any]:
    if data[:4] != b"glTF" or data[16:20] != _GLB_JSON:
        raise ValueError("this is no GLB file")
    (length,) = struct.unpack_from("<I", data, 12)
    try:
        told = json.loads(data[20 : 20 + length])
    except (ValueError, RecursionError):
        raise ValueError("the description in the GLB file is damaged") from None
    if not isinstance(told, dict):
        raise ValueError("the description in the GLB file is damaged")
    return told


def _rows(holder: Any, name: str) -> list[Any]:
    rows = holder.get(name) if isinstance(holder, dict) else None
    return rows if isinstance(rows, list) else []


def _step(data: bytes) -> int:
    """No triangles yet; what counts are the entities. ISO 10303-21 begins and ends with its number."""
    if b"ISO-10303-21" not in data[:4096] or b"END-ISO-10303-21" not in data[-4096:]:
        raise ValueError("the file is cut short, or no STEP")
    count = len(re.findall(rb"#\d+\s*=", data))
    if count > _MOST_ENTITIES:
        raise ValueError(f"the file holds {count} entities, more than {_MOST_ENTITIES}")
    return 0


def _obj(data: bytes) -> int:
    """Its faces; corners beyond three of each are counted once it is read."""
    return data.count(b"\nf ") + data.startswith(b"f ")


def ply_faces(data: bytes) -> int | None:
    """How many faces a PLY file says that it has; None of what is no such file."""
    head = data[:4096]
    if not head.startswith(b"ply"):
        return None
    told = re.search(rb"element\s+face\s+(\d{1,12})", head)
    return int(told[1]) if told else 0


def _ply(data: bytes) -> int:
    count = ply_faces(data)
    if count is None:
        raise ValueError("the file is no PLY")
    return count


def _threemf(data: bytes) -> int:
    """What it builds is counted while it is read."""
    return 0


_COUNTS = {
    ".stl": _stl,
    ".glb": _glb,
    ".step": _step,
    ".3mf": _threemf,
    ".obj": _obj,
    ".ply": _ply,
}
