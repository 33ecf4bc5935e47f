"""Two recipes side by side over the API."""

import json

import pytest
import trimesh
from django.core.files.uploadedfile import SimpleUploadedFile

COIL = {
    "format": "metaspira/1",
    "path": {"kind": "coil", "diameter": 20, "turns": 8, "pitch": 6},
    "section": {"kind": "round", "diameter": 2.5},
}

pytestmark = pytest.mark.django_db


def compare(client, before, after):
    body = json.dumps({"before": before, "after": after})
    return client.post("/api/compare", body, content_type="application/json")


def test_two_recipes_are_compared_in_words_figures_and_checks(client):
    tight = {**COIL, "path": {**COIL["path"], "pitch": 2.2}}
    found = compare(client, COIL, tight).json()
    assert found["changes"] == [{"place": "/path/pitch", "words": "pitch 6 → 2.2 mm"}]
    assert found["verdicts"] == ["clear", "stop"] and not found["problems"]
    pitch = next(row for row in found["figures"] if row["name"] == "pitch")
    assert (pitch["before"], pitch["after"]) == (6, 2.2)
    assert "self-contact" in {check["id"] for check in found["checks"]}


def test_a_side_that_cannot_be_used_is_told_beside_its_changes(client):
    broken = {**COIL, "path": {**COIL["path"], "pitch": "wires * 2"}}
    found = compare(client, COIL, broken).json()
    assert found["verdicts"] == ["clear", "unusable"] and found["figures"] == []
    assert found["changes"][0]["words"] == "pitch 6 → wires * 2"
    assert found["problems"][0]["place"] == "/path/pitch"
    assert compare(client, COIL, 3).status_code == 422


def held(client, recipe, data, name="box.stl", unit="mm"):
    file = SimpleUploadedFile(name, data)
    return client.post("/api/compare/body", {"file": file, "unit": unit, "recipe": json.dumps(recipe)})


def test_a_recipe_is_held_against_a_body_from_a_file(client):
    box = trimesh.creation.box((30, 20, 10)).export(file_type="stl")
    found = held(client, COIL, box).json()
    volume = next(row for row in found["figures"] if row["name"] == "volume")
    assert volume["before"] == pytest.approx(6000) and volume["after"] > 0
    assert found["closed"] and len(found["body"]["mesh"]["faces"]) == 12
    places = [
        held(client, COIL, box, unit="").json()["problems"][0]["place"],
        held(client, COIL, b"solid nothing", "x.stl").json()["problems"][0]["place"],
        held(client, {**COIL, "path": {"kind": "coil"}}, box).json()["problems"][0]["place"],
    ]
    assert places[:2] == ["/unit", "/file"] and places[2].startswith("/path")


@pytest.mark.parametrize("recipe", ["{", "[" * 200_000, '{"format": NaN}', '{"a": "\\ud800"}', "3"])
def test_the_recipe_beside_a_body_is_read_as_strictly_as_any(client, recipe):
    box = SimpleUploadedFile("box.stl", trimesh.creation.box((30, 20, 10)).export(file_type="stl"))
    refused = client.post("/api/compare/body", {"file": box, "unit": "mm", "recipe": recipe})
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["remedy"]


def post(client, address, body):
    return client.post(address, json.dumps(body), content_type="application/json")


def test_a_part_is_weighed_and_a_variable_renamed(client):
    found = post(client, "/api/parts/weigh", COIL).json()
    assert found["mass"] == pytest.approx(19.457, rel=1e-4)
    assert len(found["inertia"]) == 3 and found["centre"][2] == pytest.approx(24, abs=0.01)
    recipe = {**COIL, "variables": {"d": 2.5}, "section": {"kind": "round", "diameter": "d"}}
    changed = post(client, "/api/parts/rename", {"recipe": recipe, "old": "d", "new": "wire"}).json()
    assert changed["variables"] == {"wire": 2.5} and changed["section"]["diameter"] == "wire"
    refused = post(client, "/api/parts/rename", {"recipe": recipe, "old": "x", "new": "wire"})
    assert refused.status_code == 422
    assert post(client, "/api/parts/check", recipe).json()["variables"] == [
        {"name": "d", "used": ["section diameter"]}
    ]


def test_a_path_is_kept_as_a_file(client):
    answer = client.post("/api/parts/files/path.svg", json.dumps(COIL), "application/json")
    assert answer.headers["Content-Type"] == "image/svg+xml"
    assert 'filename="path.svg"' in answer.headers["Content-Disposition"]
    assert answer.content.startswith(b"<svg")
    for unknown in ("path.exe", "step", "..%2fpath.svg"):
        answer = client.post(f"/api/parts/files/{unknown}", json.dumps(COIL), "application/json")
        assert answer.status_code in (404, 422)
