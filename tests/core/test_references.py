"""Reference bodies: read from files, measured to, fitted around."""

import io
import math

import numpy as np
import pytest
import trimesh
from metaspira.checks import report_on
from metaspira.checks.reference import check_reference
from metaspira.fitting import fitted
from metaspira.part import part_of
from metaspira.problems import RecipeError
from metaspira.references.placed import placed
from metaspira.references.reading import read_body
from metaspira.solids.building import build_files


def stl(mesh):
    return mesh.export(file_type="stl")


def as_json(body, **more):
    return {**body.model_dump(mode="json"), **more}


@pytest.fixture
def post():
    """A post of 12 mm by 40 mm, its foot at z = −5, as a body of a recipe."""
    mesh = trimesh.creation.cylinder(6, 40, sections=180, transform=trimesh.transformations.translation_matrix((0, 0, 15)))  # fmt: skip
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


def test_every_format_is_read_in_its_unit(tmp_path, spring):
    ball = trimesh.creation.icosphere(3, 10.0)
    size = {}
    size["stl"] = read_body(stl(ball), ".stl", "in")
    metres = ball.copy()
    metres.apply_scale(0.001)
    size["glb"] = read_body(metres.export(file_type="glb"), ".glb", None)
    part = part_of(spring)
    build_files(part, [tmp_path / "part.3mf", tmp_path / "part.step"])
    for suffix in (".3mf", ".step"):
        size[suffix] = read_body((tmp_path / f"part{suffix}").read_bytes(), suffix, None)
    spans = {name: np.ptp(np.array(body.mesh["vertices"]), axis=0).max() for name, body in size.items()}
    assert spans["stl"] == pytest.approx(20 * 25.4, rel=1e-3)
    assert spans["glb"] == pytest.approx(20, rel=1e-3)
    for suffix in (".3mf", ".step"):
        assert spans[suffix] == pytest.approx(50.489, abs=0.05 + 2 * size[suffix].error)
        assert len(size[suffix].mesh["faces"]) <= 8000


def test_a_heavy_body_is_lightened_within_its_error():
    fine = trimesh.creation.icosphere(6, 10.0)
    body = read_body(stl(fine), ".stl", "mm")
    assert len(body.mesh["faces"]) <= 8000
    assert 0 < body.error < 0.1
    lengths = np.linalg.norm(np.array(body.mesh["vertices"]), axis=1)
    assert np.abs(lengths - 10).max() <= body.error + 1e-3


def test_triangles_that_enclose_nothing_are_measured_to_as_well(spring):
    sheet = trimesh.Trimesh(
        [[6, -30, -30], [6, 30, -30], [6, 30, 80], [6, -30, 80]], [[0, 1, 2], [0, 2, 3]]
    )
    spring["fit"] = {"bodies": [as_json(read_body(stl(sheet), ".stl", "mm"))]}
    assert check_reference(part_of(spring)).value <= -1.2


HOSTILE = {
    "nothing": b"",
    "noise": bytes(range(256)) * 40,
    "an STL that claims too much": b"\0" * 80 + (4_000_000_000).to_bytes(4, "little") + b"\0" * 50,
    "an STL of NaN": b"\0" * 80 + (1).to_bytes(4, "little") + b"\xff" * 50,
    "a GLB cut short": trimesh.creation.box().export(file_type="glb")[:200],
    "a ZIP bomb": None,
    "a STEP without an end": b"ISO-10303-21;\nHEADER;\n"
    + b"#1=CARTESIAN_POINT('',(#1,#1,#1));\n" * 1000,
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
