"""A small picture (PNG) of a part for lists: its faces, far ones first, shaded by one light."""

from __future__ import annotations

import io
import math

import numpy as np
from PIL import Image, ImageDraw

from metaspira.part import Part
from metaspira.sweep.mesh import Fineness, tessellate

_COPPER = np.array([184.0, 105.0, 61.0])
_TURN, _TILT = math.radians(35), math.radians(28)
_MOST_FACES = 9000


def picture(part: Part, width: int = 320, height: int = 220) -> bytes:
    """The PNG file, `width` × `height` pixels on a clear ground."""
    turns = max(1.0, part.sweep.turning / (2 * math.pi))
    per_turn = int(min(28, max(8, _MOST_FACES / turns / 24)))
    mesh = tessellate(part.sweep, Fineness(per_turn, 12, 1 if part.sweep.twist.constant else 3))
    cos, sin = math.cos(_TURN), math.sin(_TURN)
    x, y, z = mesh.vertices.T
    across, away = cos * x + sin * y, -sin * x + cos * y
    up = z * math.cos(_TILT) + away * math.sin(_TILT)
    depth = away * math.cos(_TILT) - z * math.sin(_TILT)
    seen = np.stack([across, -up, depth], axis=1)
    low, high = seen.min(axis=0), seen.max(axis=0)
    over = 2
    scale = 0.9 * over * min(width / (high[0] - low[0]), height / (high[1] - low[1]))
    middle = 0.5 * (low + high)
    flat = (seen - middle)[:, :2] * scale + np.array([width, height]) * over / 2
    corners = seen[mesh.faces]
    normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-300)
    facing = normal[:, 2] > 0
    light = np.abs(normal @ np.array([-0.35, -0.75, 0.55]))
    shade = 0.42 + 0.62 * light
    order = np.argsort(-corners[:, :, 2].mean(axis=1))
    image = Image.new("RGBA", (width * over, height * over), (0, 0, 0, 0))
    draw = ImageDraw.Draw(image)
    for face in order[~facing[order]]:
        r, g, b = np.clip(_COPPER * shade[face], 0, 255).astype(int)
        draw.polygon([tuple(p) for p in flat[mesh.faces[face]]], fill=(int(r), int(g), int(b), 255))
    file = io.BytesIO()
    image.resize((width, height), Image.Resampling.LANCZOS).save(file, "PNG")
    return file.getvalue()
