"""A small picture (PNG) of a part for lists, in its own material."""

from __future__ import annotations

import io
import math

import numpy as np
from PIL import Image, ImageDraw

from metaspira.formats.meshes import rgb
from metaspira.formats.raster import rasterised
from metaspira.numbers.jets import Array
from metaspira.parts import AnyPart, Part
from metaspira.parts.threaded import ThreadedPart
from metaspira.sweep.ground import mesh_of
from metaspira.sweep.mesh import Fineness, Mesh, as_one
from metaspira.sweep.sweep import Sweep

_TURN, _TILT = math.radians(35), math.radians(28)
_MOST_FACES = 60_000
_AROUND = 16
_MOST_TURNS = 150
_OVER = 2
_ROUGH = 0.006
_GROUND = (250, 246, 236)
_COPPER = "#b8693d"


def picture(part: AnyPart, width: int = 320, height: int = 220) -> bytes:
    """The PNG file, `width` × `height` pixels on a clear ground."""
    colour = part.material.colour
    if isinstance(part, ThreadedPart):
        image = _drawn([b.mesh(_ROUGH * b.outer_radius) for b in part.bodies], colour, width, height)
    else:
        image = _drawn_wires(part, colour, width, height)
    file = io.BytesIO()
    image.resize((width, height), Image.Resampling.LANCZOS).save(file, "PNG")
    return file.getvalue()


def drawn_faces(meshes: list[Mesh], width: int, height: int, bounds: Array) -> Image.Image:
    """A picture of meshes on a plain ground that has room for all places (n, 3) in `bounds`."""
    image = Image.new("RGB", (width * _OVER, height * _OVER), _GROUND)
    drawn = _drawn(meshes, _COPPER, width, height, _seen(bounds))
    image.paste(drawn, mask=drawn)
    return image.resize((width, height), Image.Resampling.LANCZOS)


def _drawn_wires(part: Part, colour: str, width: int, height: int) -> Image.Image:
    turns = max(1.0, sum(body.sweep.turning for body in part.bodies) / (2 * math.pi))
    per_turn = int(min(60, max(12, _MOST_FACES / turns / _AROUND / 2)))
    if turns <= _MOST_TURNS:
        return _drawn([_coarse(body.sweep, per_turn) for body in part.bodies], colour, width, height)
    line = part.path.derivatives(part.sweep.stations(per_turn), 0)[0]
    pixels, scale = _pixels(_seen(line), width, height)
    image = Image.new("RGBA", (width * _OVER, height * _OVER), (0, 0, 0, 0))
    thick = max(1, round(2 * part.sweep.reach() * scale))
    ImageDraw.Draw(image).line([(x, y) for x, y, _ in pixels], fill=(*rgb(colour), 255), width=thick)
    return image


def _seen(vertices: Array) -> Array:
    """Places (n, 3) as seen: to the right, downward, away."""
    cos, sin = math.cos(_TURN), math.sin(_TURN)
    x, y, z = vertices.T
    across, away = cos * x + sin * y, -sin * x + cos * y
    up = z * math.cos(_TILT) + away * math.sin(_TILT)
    return np.stack([across, -up, away * math.cos(_TILT) - z * math.sin(_TILT)], axis=1)


def _pixels(seen: Array, width: int, height: int, bounds: Array | None = None) -> tuple[Array, float]:
    """Pixels (n, 3; the third is away) that centre what is seen, or the `bounds` seen, and pixels a mm."""
    whole = seen if bounds is None else bounds
    low, high = whole.min(axis=0), whole.max(axis=0)
    wide, tall = np.maximum(high[:2] - low[:2], 1e-9)
    scale = 0.9 * _OVER * min(width / wide, height / tall)
    centre = np.array([width * _OVER / 2, height * _OVER / 2, 0.0])
    return (seen - 0.5 * (low + high)) * scale + centre, scale


def _coarse(sweep: Sweep, per_turn: int) -> Mesh:
    hollow = sweep.changes.twist.constant is None or sweep.section.varies
    return mesh_of(sweep, Fineness(per_turn, _AROUND, 3 if hollow else 1))


def _drawn(
    meshes: list[Mesh], colour: str, width: int, height: int, bounds: Array | None = None
) -> Image.Image:
    vertices, faces = as_one(meshes)
    paint = np.concatenate([_face_colours(mesh, colour) for mesh in meshes])
    pixels, _ = _pixels(_seen(vertices), width, height, bounds)
    return Image.fromarray(rasterised(pixels, faces, paint, width * _OVER, height * _OVER), "RGBA")


def _face_colours(mesh: Mesh, colour: str) -> Array:
    palette = np.array([rgb(one) for one in (colour, *mesh.colours)], dtype=float)
    return palette[mesh.paint + 1]
