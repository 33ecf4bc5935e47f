"""A small picture (PNG) of a part for lists: its faces, far ones first, shaded by one light."""

from __future__ import annotations

import io
import math

import numpy as np
from PIL import Image, ImageDraw

from metaspira.formats.meshes import rgb
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, Part
from metaspira.parts.threaded import ThreadedPart
from metaspira.sweep.ground import mesh_of
from metaspira.sweep.mesh import Fineness, Mesh, as_one
from metaspira.sweep.sweep import Sweep

_COPPER = np.array([184.0, 105.0, 61.0])
_TURN, _TILT = math.radians(35), math.radians(28)
_MOST_FACES = 9000
_MOST_TURNS = 150
_OVER = 2
_ROUGH = 0.02


def picture(part: AnyPart, width: int = 320, height: int = 220) -> bytes:
    """The PNG file, `width` × `height` pixels on a clear ground."""
    image = Image.new("RGBA", (width * _OVER, height * _OVER), (0, 0, 0, 0))
    draw = ImageDraw.Draw(image)
    if isinstance(part, ThreadedPart):
        meshes = [body.mesh(_ROUGH * body.outer_radius) for body in part.bodies]
        _draw_faces(draw, meshes, width, height, False)
    else:
        _draw_wires(draw, part, width, height)
    file = io.BytesIO()
    image.resize((width, height), Image.Resampling.LANCZOS).save(file, "PNG")
    return file.getvalue()


def drawn_faces(meshes: list[Mesh], width: int, height: int, is_skin: bool, bounds: Array) -> Image.Image:
    """A picture of meshes on a white ground that has room for all places (n, 3) in `bounds`."""
    image = Image.new("RGB", (width * _OVER, height * _OVER), (250, 246, 236))
    _draw_faces(ImageDraw.Draw(image), meshes, width, height, is_skin, _seen(bounds))
    return image.resize((width, height), Image.Resampling.LANCZOS)


def _draw_wires(draw: ImageDraw.ImageDraw, part: Part, width: int, height: int) -> None:
    turns = max(1.0, sum(body.sweep.turning for body in part.bodies) / (2 * math.pi))
    per_turn = int(min(28, max(8, _MOST_FACES / turns / 24)))
    if turns > _MOST_TURNS:
        line = part.path.derivatives(part.sweep.stations(per_turn), 0)[0]
        flat, scale = _flat(_seen(line), width, height)
        thick = max(1, round(2 * part.sweep.reach() * scale))
        draw.line([tuple(p) for p in flat], fill=(*(int(c) for c in _COPPER), 255), width=thick)
    else:
        meshes = [_coarse(body.sweep, per_turn) for body in part.bodies]
        _draw_faces(draw, meshes, width, height, part.is_skin)


def _seen(vertices: Array) -> Array:
    """Places (n, 3) as seen: to the right, downward, away."""
    cos, sin = math.cos(_TURN), math.sin(_TURN)
    x, y, z = vertices.T
    across, away = cos * x + sin * y, -sin * x + cos * y
    up = z * math.cos(_TILT) + away * math.sin(_TILT)
    return np.stack([across, -up, away * math.cos(_TILT) - z * math.sin(_TILT)], axis=1)


def _flat(seen: Array, width: int, height: int, bounds: Array | None = None) -> tuple[Array, float]:
    """Pixels (n, 2) that centre what is seen, or the `bounds` seen, and pixels a mm."""
    whole = seen if bounds is None else bounds
    low, high = whole.min(axis=0), whole.max(axis=0)
    wide, tall = np.maximum(high[:2] - low[:2], 1e-9)
    scale = 0.9 * _OVER * min(width / wide, height / tall)
    centred = seen[:, :2] - 0.5 * (low[:2] + high[:2])
    return centred * scale + np.array([width, height]) * _OVER / 2, scale


def _coarse(sweep: Sweep, per_turn: int) -> Mesh:
    hollow = sweep.changes.twist.constant is None or sweep.section.varies
    return mesh_of(sweep, Fineness(per_turn, 12, 3 if hollow else 1))


def _draw_faces(
    draw: ImageDraw.ImageDraw,
    meshes: list[Mesh],
    width: int,
    height: int,
    is_skin: bool,
    bounds: Array | None = None,
) -> None:
    vertices, faces = as_one(meshes)
    seen = _seen(vertices)
    paint = np.concatenate([_face_colours(mesh) for mesh in meshes])
    flat, _ = _flat(seen, width, height, bounds)
    corners = seen[faces]
    normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-300)
    away = normal[:, 2] > 0
    light = np.abs(normal @ np.array([-0.35, -0.75, 0.55]))
    shade = 0.42 + 0.62 * light
    order = np.argsort(-corners[:, :, 2].mean(axis=1))
    for face in order if is_skin else order[~away[order]]:
        r, g, b = np.clip(paint[face] * shade[face], 0, 255).astype(int)
        draw.polygon([tuple(p) for p in flat[faces[face]]], fill=(int(r), int(g), int(b), 255))


def _face_colours(mesh: Mesh) -> Array:
    palette = np.array([_COPPER, *(np.array(rgb(colour), dtype=float) for colour in mesh.colours)])
    return palette[mesh.paint + 1]
