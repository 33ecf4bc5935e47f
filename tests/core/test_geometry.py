"""Lengths, sections, frames and volumes, against closed forms and quadrature that is not ours."""

import math

import mpmath
import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st
from metaspira.formats.glb import preview_glb
from metaspira.parts import part_of
from metaspira.sections.planes import across_from_axial, axial_from_across
from metaspira.sweep.mesh import Fineness, fineness_for, strips, tessellate


def coil(**path):
    return {"kind": "coil", **path}


def mp_length(r0, r1, height, turns):
    """∫ √((r₀+kθ)² + k² + c²) dθ by mpmath, 30 digits."""
    mpmath.mp.dps = 30
    sweep = 2 * mpmath.pi * turns
    k, c = (r1 - r0) / sweep, height / sweep
    return float(
        mpmath.quad(lambda t: mpmath.sqrt((r0 + k * t) ** 2 + k * k + c * c), mpmath.linspace(0, sweep, 33))
    )


@pytest.mark.parametrize("turns", [0.3, 1, 8, 240])
def test_helix_length_is_the_closed_form(spring, turns):
    spring["path"] = coil(diameter=20, turns=turns, pitch=6)
    exact = turns * math.hypot(20 * math.pi, 6)  # unrolled helix
    assert part_of(spring).path.length == pytest.approx(exact, rel=1e-13)


@pytest.mark.parametrize(("end", "height"), [(12, 48), (64, 30), (90, 0), (20.5, 200)])
def test_cone_and_flat_spiral_lengths_agree_with_mpmath(spring, end, height):
    spring["path"] = coil(diameter=20, end_diameter=end, turns=7, height=height)
    assert part_of(spring).path.length == pytest.approx(mp_length(10, end / 2, height, 7), rel=1e-12)


def test_cone_by_half_angle_inward_and_outward(spring):
    for angle in (-8, 8):
        spring["path"] = coil(diameter=40, cone_angle=angle, turns=6, height=60)
        assert part_of(spring).path.coil.end_radius == pytest.approx(20 + 60 * math.tan(math.radians(angle)))


def test_left_hand_is_the_mirror_image_of_right_hand(spring):
    right = part_of(spring)
    spring["path"]["hand"] = "left"
    left = part_of(spring)
    s = np.linspace(0, right.path.length, 50)
    mirrored = right.path.at(s).position * [1, -1, 1]
    assert np.allclose(left.path.at(s).position, mirrored, atol=1e-10)
    assert left.sweep.volume == pytest.approx(right.sweep.volume, rel=1e-13)


def test_start_angle(spring):
    spring["path"]["start_angle"] = 90
    assert part_of(spring).path.at(np.zeros(1)).position[0] == pytest.approx([0, 10, 0], abs=1e-12)


@pytest.mark.parametrize(("place", "mean"), [("mean", 20), ("outside", 17.5), ("inside", 22.5)])
def test_where_the_diameter_is_measured(spring, place, mean):
    spring["path"] = coil(diameter=20, diameter_at=place, turns=4, pitch=6)
    assert 2 * part_of(spring).path.coil.start_radius == pytest.approx(mean)


def test_true_length_tangent_and_curvature_agree_with_differences(spring):
    spring["path"] = coil(diameter=20, end_diameter=50, turns=5, pitch=9)
    path = part_of(spring).path
    s = np.linspace(1, path.length - 1, 40)
    h = 1e-4
    before, here, after = (path.at(s + d) for d in (-h, 0, h))
    assert np.allclose((after.position - before.position) / (2 * h), here.tangent, atol=1e-7)
    assert np.allclose((after.tangent - before.tangent) / (2 * h), here.curvature, atol=1e-7)


SECTIONS = {  # area: elementary geometry
    "round": ({"kind": "round", "diameter": 3}, math.pi * 2.25),
    "ellipse": ({"kind": "ellipse", "width": 5, "height": 2}, math.pi * 2.5),
    "rectangle": ({"kind": "rectangle", "width": 5, "height": 2}, 10),
    "rounded": (
        {"kind": "rectangle", "width": 5, "height": 2, "corner_radius": 0.5},
        10 - (4 - math.pi) * 0.25,
    ),
    "stadium": ({"kind": "rectangle", "width": 5, "height": 2, "corner_radius": 1}, 6 + math.pi),
    "hexagon": ({"kind": "polygon", "sides": 6, "across_flats": 4}, 8 * math.sqrt(3)),
    "triangle": ({"kind": "polygon", "sides": 3, "across_flats": 2}, 3 * math.sqrt(3)),
}


@pytest.mark.parametrize("name", SECTIONS)
def test_section_area_and_pappus_volume(spring, name):
    section, area = SECTIONS[name]
    spring["section"] = section
    spring["path"] = coil(diameter=40, turns=3, pitch=12)
    part = part_of(spring)
    assert part.outline.area == pytest.approx(area, rel=1e-13)
    # Pappus–Guldin: the centroid rides on the path
    assert part.sweep.volume == pytest.approx(area * part.path.length, rel=1e-12)


def test_volume_of_an_offset_section_agrees_with_a_fine_mesh(spring):
    spring["section"] = {"kind": "rectangle", "width": 4, "height": 2, "rides_at": "inside"}
    spring["path"] = coil(diameter=40, end_diameter=30, turns=2, pitch=9)
    spring["along"] = {"twist": {"total": 400}, "size": {"from": 1, "to": 0.5}}
    part = part_of(spring)
    mesh = tessellate(part.sweep, Fineness(600, 32, 24))
    measured = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
    assert measured.is_watertight
    assert measured.volume == pytest.approx(part.sweep.volume, rel=1e-4)
    centroid_path = part.sweep.frames(np.linspace(0, part.path.length, 40_001))
    line = centroid_path.points(np.array([part.outline.centroid]))[:, 0]
    assert part.sweep.wire_length == pytest.approx(
        np.linalg.norm(np.diff(line, axis=0), axis=1).sum(), rel=1e-7
    )


@settings(deadline=None, max_examples=40)
@given(u=st.floats(-3, 3), v=st.floats(-5, 5), radius=st.floats(6, 60), pitch=st.floats(0.1, 60))
def test_planes_across_and_axial_are_each_others_inverse(u, v, radius, pitch):
    points = np.array([[u, v]])
    there = axial_from_across(points, radius, pitch)
    assert np.allclose(across_from_axial(there, radius, pitch), points, atol=1e-9)
    # the axial point, screwed forward, is the same place in space
    lead = math.atan2(pitch, 2 * math.pi * radius)
    space = np.array([radius + u, -v * math.sin(lead), v * math.cos(lead)])
    back = -math.atan2(space[1], space[0])
    assert math.hypot(space[0], space[1]) == pytest.approx(radius + there[0, 0], rel=1e-12)
    assert space[2] + pitch * back / (2 * math.pi) == pytest.approx(there[0, 1], abs=1e-9)


def test_an_axial_section_is_found_in_the_plane_through_the_axis(spring):
    spring["section"] = {"kind": "rectangle", "width": 3, "height": 4, "plane": "axial"}
    part = part_of(spring)
    frames = part.sweep.frames(np.linspace(0, part.path.length, 9))
    radial = frames.origin * [1, 1, 0]
    assert np.allclose(np.cross(frames.first, radial), 0, atol=1e-9)
    assert np.allclose(frames.second, [0, 0, 1])


def test_steady_stance_does_not_roll(spring):
    """Roll of a rotation minimizing frame is zero: a'·b = 0 (Wang et al., ACM TOG 27, 2008)."""
    spring["stance"] = {"kind": "steady"}
    spring["path"] = coil(diameter=30, end_diameter=60, turns=3, pitch=14)
    part = part_of(spring)
    frames = part.sweep.frames(np.linspace(0, part.path.length, 200))
    assert np.abs(np.einsum("ij,ij->i", frames.d_first, frames.second)).max() < 1e-12
    # over a helix the steady frame turns by −2π sin α a turn against the outward one
    spring["path"] = coil(diameter=30, turns=1, pitch=14)
    steady = part_of(spring)
    spring["stance"] = {"kind": "outward"}
    outward = part_of(spring)
    end = np.array([steady.path.length])
    a, b = steady.sweep.frames(end).first[0], outward.sweep.frames(end)
    turned = math.atan2(a @ b.second[0], a @ b.first[0])
    expected = 2 * math.pi * math.sin(math.atan2(14, 30 * math.pi))
    assert abs(turned) == pytest.approx(expected, rel=1e-9)


@pytest.mark.parametrize("stance", ["outward", "steady"])
@pytest.mark.parametrize("hand", ["left", "right"])
def test_meshes_are_watertight_and_face_outward(spring, stance, hand):
    spring["stance"] = {"kind": stance}
    spring["path"]["hand"] = hand
    spring["section"] = {"kind": "rectangle", "width": 3, "height": 2, "corner_radius": 0.4}
    spring["along"] = {"twist": {"total": "1 turn"}, "size": {"from": 1, "to": 0.7}}
    part = part_of(spring)
    mesh = tessellate(part.sweep, fineness_for(part.sweep, 0.02))
    measured = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
    assert measured.is_watertight
    assert measured.is_winding_consistent
    assert measured.volume == pytest.approx(part.sweep.volume, rel=0.02)
    assert mesh.length.min() == 0
    assert mesh.length.max() == pytest.approx(part.path.length)
    surface = strips(part.sweep, Fineness())
    corners = surface.mesh.vertices[surface.mesh.faces]
    faces = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    agree = np.einsum("ij,ij->i", faces, surface.normals[surface.mesh.faces[:, 0]])
    assert (agree > 0).mean() > 0.999


@settings(deadline=None, max_examples=25)
@given(
    diameter=st.floats(8, 80),
    end=st.floats(8, 80),
    turns=st.floats(0.5, 12),
    height=st.floats(0, 200),
)
def test_wire_length_of_any_cone_lies_between_its_cylinders(diameter, end, turns, height):
    recipe = {
        "format": "metaspira/1",
        "path": coil(diameter=diameter, end_diameter=end, turns=turns, height=height),
        "section": {"kind": "round", "diameter": 1},
    }
    part = part_of(recipe)
    low, high = sorted((diameter, end))
    least = math.hypot(math.pi * low * turns, height)
    most = math.hypot(math.pi * high * turns, height) + (high - low) / 2
    assert least - 1e-9 <= part.path.length <= most + 1e-9


@pytest.mark.parametrize("turns", [3000, 20_000])
def test_previews_of_very_long_coils_stay_small(spring, turns):
    spring["path"]["turns"] = turns
    assert len(preview_glb(part_of(spring))) < 64e6
