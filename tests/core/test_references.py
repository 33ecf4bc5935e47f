"""Reference bodies: read from files, measured to, fitted around."""

import io
import math

import numpy as np
import pytest
import trimesh
from metaspira.checks import report_on
from metaspira.checks.reference import check_reference
from metaspira.formats.bodies import bodies_in, read_body
from metaspira.outputs.building import build_files
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.references.placed import PlacedBody, placed
from metaspira.studies.body import held_against
from metaspira.studies.fit_around import fitted


def stl(mesh):
    return mesh.export(file_type="stl")


def as_json(body, **more):
    return {**body.model_dump(mode="json"), **more}


@pytest.fixture
def post():
    """A post of 12 mm by 40 mm, its foot at z = −5, as a body of a recipe."""
    mesh = trimesh.creation.cylinder(
        6, 40, sections=180, transform=trimesh.transformations.translation_matrix((0, 0, 15))
    )
    return as_json(read_body(stl(mesh), ".stl", "mm", "post"))


def test_distances_are_signed_and_exact():
    box = trimesh.creation.box((2, 4, 6))
    body = placed(read_body(stl(box), ".stl", "mm"))
    points = np.array([[3, 0, 0], [0, 0, 0], [0.5, 0, 0], [4, 6, 0], [0, 0, 3.5], [1.5, 2.5, 3.5]])
    expected = [2, -1, -0.5, 5, 0.5, math.sqrt(0.75)]
    assert body.distance(points) == pytest.approx(expected, abs=1e-6)


def test_the_air_to_a_post_is_what_is_left_of_the_radius(spring, post):
    spring["fit"] = {"bodies": [post], "gap": 0.5}
    # Inside radius 10 − 1.25, the post's 6 (a polygon of 180 sides, its flats 1e-3 nearer).
    check = check_reference(part_of(spring))
    assert check.value == pytest.approx(10 - 1.25 - 6, abs=2e-3)
    assert check.verdict == "clear"
    moved = {**post, "at": [2.5, 0, 0], "turn": 90}
    spring["fit"]["bodies"] = [moved]
    check = check_reference(part_of(spring))
    assert check.value == pytest.approx(0.25, abs=0.02)
    assert check.verdict == "watch"
    spring["fit"]["bodies"] = [{**post, "at": [6, 0, 0]}]
    report = report_on(part_of(spring))
    found = next(check for check in report.checks if check.id == "reference")
    assert found.verdict == "stop"
    assert found.value == pytest.approx(-3.25, abs=0.02)
    assert found.where
    cured = found.remedies[0]
    assert cured.input in ("/path/diameter", "/fit/bodies/0/at/0")


@pytest.mark.parametrize(
    "section", [{"kind": "rectangle", "width": 3, "height": 2}, {"kind": "round", "diameter": 3}]
)
def test_any_section_is_measured_from_its_surface(spring, post, section):
    spring |= {"section": section, "fit": {"bodies": [post]}}
    assert check_reference(part_of(spring)).value == pytest.approx(10 - 1.5 - 6, abs=5e-3)


def test_a_coil_is_fitted_around_a_post(spring, post):
    spring["fit"] = {"bodies": [post], "gap": 0.4}
    spring["path"]["diameter_at"] = "inside"
    values = fitted(part_of(spring), 0.4)
    assert values == {"/path/diameter": pytest.approx(12.8, abs=0.02)}
    spring["path"]["diameter"] = values["/path/diameter"]
    assert check_reference(part_of(spring)).verdict == "clear"


def test_a_cone_is_fitted_around_a_cone(spring):
    cone = trimesh.creation.revolve([[0, -5], [15, -5], [5, 55], [0, 55]], sections=180)
    spring["fit"] = {"bodies": [as_json(read_body(stl(cone), ".stl", "mm"))]}
    spring["path"] |= {"diameter": 80, "end_diameter": 50}
    values = fitted(part_of(spring), 1.0)
    spring["path"] |= {
        "diameter": values["/path/diameter"],
        "end_diameter": values["/path/end_diameter"],
    }
    air = check_reference(part_of(spring)).value
    assert 1.0 <= air < 1.3
    slope = (values["/path/diameter"] - values["/path/end_diameter"]) / 48
    assert slope == pytest.approx(2 * 10 / 60, rel=0.1)


def test_what_cannot_be_fitted_says_why(spring, post):
    with pytest.raises(RecipeError, match="no reference body"):
        fitted(part_of(spring), 1)
    spring["fit"] = {"bodies": [{**post, "at": [0, 0, 500]}]}
    with pytest.raises(RecipeError, match="heights"):
        fitted(part_of(spring), 1)


def test_every_format_is_read_in_its_unit_and_as_it_stands(tmp_path, spring):
    ball = trimesh.creation.icosphere(3, 10.0)
    assert np.ptp(read_mesh(stl(ball), ".stl", "in").vertices[:, 0]) == pytest.approx(508, rel=1e-3)
    part = part_of(spring)
    suffixes = (".stl", ".glb", ".3mf", ".step")
    build_files(part, [tmp_path / f"part{suffix}" for suffix in suffixes])
    for suffix in suffixes:
        read = bodies_in((tmp_path / f"part{suffix}").read_bytes(), suffix, "mm", "part")
        mesh, light = read.mesh, read.light
        box = part.extents
        assert mesh.bounds[:, 2] == pytest.approx([box.low, box.high], abs=0.05)
        assert np.hypot(*mesh.vertices[:, :2].T).max() == pytest.approx(box.outside_radius, abs=0.05)
        assert len(light.mesh["faces"]) <= 8000 and light.error < 0.3


def test_the_nearest_is_found_where_many_small_triangles_lie_beside_a_few_large_ones():
    """Held against every triangle, one by one."""
    plate, ball = trimesh.creation.box((100, 100, 2)), trimesh.creation.icosphere(4, radius=1.0)
    ball.apply_translation((13.3, 7.1, 4.5))
    both = trimesh.util.concatenate([plate, ball])
    body = PlacedBody("both", 0.0, np.array(both.vertices), np.array(both.faces, np.int32), True)
    around = np.random.default_rng(3).uniform(-1, 1, (400, 3)) * [3, 3, 1] + [13.3, 7.1, 2]
    triangles = both.triangles
    least = [
        np.linalg.norm(
            trimesh.triangles.closest_point(triangles, np.tile(point, (len(triangles), 1))) - point, axis=1
        ).min()
        for point in around
    ]
    assert np.abs(body.distance(around)) == pytest.approx(least, abs=1e-9)


def read_mesh(*given):
    return bodies_in(*given, "body").mesh


def test_a_part_is_held_against_a_body(spring):
    """The part's own fine mesh is the body; then a box with known moments, and an open one."""
    part = part_of(spring)
    fine = part.bodies[0].mesh(1e-2)
    mesh = trimesh.Trimesh(fine.vertices, fine.faces, process=False)
    same = held_against(part, bodies_in(stl(mesh), ".stl", "mm", "same"))
    for row in same.figures:
        assert row.before == pytest.approx(row.after, rel=5e-3, abs=0.02), row.title
    assert same.closed
    for apart in (same.part_beyond, same.body_beyond):
        assert apart.distance < 0.02 + same.body.error

    box = trimesh.creation.box((30, 20, 10))
    box.apply_translation((0, 0, 5))
    told = held_against(part, bodies_in(stl(box), ".stl", "mm", "box"))
    before = {row.name: row.before for row in told.figures}
    density = part.material.density
    assert before["volume"] == pytest.approx(6000)
    assert before["mass"] == pytest.approx(6000 * density)
    assert before["inertia_0"] == pytest.approx(6000 * density * (20**2 + 10**2) / 12)
    assert before["centre_z"] == pytest.approx(5)
    assert told.part_beyond.distance == pytest.approx(part.extents.high - 10, abs=0.05)

    box.update_faces(np.arange(len(box.faces)) > 1)
    opened = held_against(part, bodies_in(stl(box), ".stl", "mm", "open"))
    rows = {row.name: row.before for row in opened.figures}
    assert not opened.closed and rows["volume"] is None and rows["inertia_2"] is None
    assert rows["box_x"] == pytest.approx(30)


def test_a_heavy_body_is_lightened_within_its_error():
    fine = trimesh.creation.icosphere(6, 10.0)
    body = read_body(stl(fine), ".stl", "mm")
    assert len(body.mesh["faces"]) <= 8000
    assert 0 < body.error < 0.1
    lengths = np.linalg.norm(np.array(body.mesh["vertices"]), axis=1)
    assert np.abs(lengths - 10).max() <= body.error + 1e-3


def test_triangles_that_enclose_nothing_are_measured_to_as_well(spring):
    sheet = trimesh.Trimesh([[6, -30, -30], [6, 30, -30], [6, 30, 80], [6, -30, 80]], [[0, 1, 2], [0, 2, 3]])
    spring["fit"] = {"bodies": [as_json(read_body(stl(sheet), ".stl", "mm"))]}
    assert check_reference(part_of(spring)).value <= -1.2


HOSTILE = {
    "nothing": b"",
    "noise": bytes(range(256)) * 40,
    "an STL that claims too much": b"\0" * 80 + (4_000_000_000).to_bytes(4, "little") + b"\0" * 50,
    "an STL of NaN": b"\0" * 80 + (1).to_bytes(4, "little") + b"\xff" * 50,
    "a GLB cut short": trimesh.creation.box().export(file_type="glb")[:200],
    "a ZIP bomb": None,
    "a STEP without an end": b"ISO-10303-21;\nHEADER;\n" + b"#1=CARTESIAN_POINT('',(#1,#1,#1));\n" * 1000,
}


@pytest.mark.parametrize("suffix", [".stl", ".glb", ".3mf", ".step"])
@pytest.mark.parametrize("what", HOSTILE)
def test_hostile_files_are_refused(what, suffix):
    data = HOSTILE[what]
    if data is None:
        import zipfile

        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
            file.writestr("3D/3dmodel.model", b" " * 300_000_000)
        data = out.getvalue()
    with pytest.raises(RecipeError) as refused:
        read_body(data, suffix, "mm")
    assert refused.value.problems[0].remedy


def test_a_body_that_names_what_it_has_not_is_refused(spring, post):
    post["mesh"]["faces"][0] = [0, 1, 3999]
    spring["fit"] = {"bodies": [post]}
    with pytest.raises(RecipeError) as refused:
        part_of(spring)
    assert refused.value.problems[0].place.startswith("/fit/bodies/0")
