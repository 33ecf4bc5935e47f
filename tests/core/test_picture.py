"""Pictures: what is nearer covers what is further, smooth surfaces have no facets, edges stay."""

import io

import numpy as np
import trimesh
from metaspira.formats.picture import picture
from metaspira.formats.raster import rasterised
from metaspira.parts import part_of
from PIL import Image

from tests.demos import demo

GREY = 180.0


def drawn(mesh, size=200):
    places = np.asarray(mesh.vertices) * size * 0.4 + size / 2
    return rasterised(places, np.asarray(mesh.faces), np.full((len(mesh.faces), 3), GREY), size, size)


def test_the_nearer_face_is_seen_whichever_comes_first():
    square = np.array([[10, 10, 0], [90, 10, 0], [90, 90, 0], [10, 90, 0]], dtype=float)
    places = np.concatenate([square + np.array([0.0, 0.0, 5.0]), square])
    faces = np.array([[0, 1, 2], [0, 2, 3], [4, 5, 6], [4, 6, 7]])
    colours = np.array([[255.0, 0, 0]] * 2 + [[0, 0, 255.0]] * 2)
    for order in (slice(None), slice(None, None, -1)):
        image = rasterised(places, faces[order], colours[order], 100, 100)
        red, _, blue, opaque = image[50, 50]
        assert blue > red and opaque == 255
    assert image[2, 2, 3] == 0


def test_a_coarse_ball_is_smooth_and_a_cube_keeps_its_edges():
    ball = drawn(trimesh.creation.icosphere(subdivisions=2))
    steps = np.abs(np.diff(ball[100, 40:160, 0].astype(int)))
    assert steps.max() <= 6
    cube = drawn(
        trimesh.creation.box().apply_transform(trimesh.transformations.rotation_matrix(0.6, [1, 1, 0]))
    )
    shades = np.unique(cube[cube[..., 3] > 0][:, 0])
    assert len(shades) <= 3


def test_a_picture_is_in_the_parts_own_material():
    for number, redder in ((7, True), (1, False)):
        part = part_of(demo(number))
        image = np.asarray(Image.open(io.BytesIO(picture(part))).convert("RGBA"), dtype=float)
        red, _, blue = image[image[..., 3] > 200][:, :3].mean(axis=0)
        assert (red > 1.5 * blue) == redder
