"""Springs over the API: the report, the shape under load, the search and the data sheet."""

import json

import pytest
import trimesh
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.running import ROOT

RECIPE = {
    "format": "metaspira/1",
    "name": "Spring",
    "path": {
        "kind": "coil",
        "diameter": 20,
        "turns": 10,
        "height": 48,
        "closed": {"start": 1, "end": 1},
    },
    "section": {"kind": "round", "diameter": 2},
    "ends": {"start": {"kind": "ground"}, "end": {"kind": "ground"}},
    "spring": {"kind": "compression", "points": [{"length": 40}, {"force": 50}], "cycles": 1e6},
}


def post(client, address, body):
    return client.post(address, json.dumps(body), content_type="application/json")


def test_the_report_tells_of_the_spring(client):
    told = post(client, "/api/parts/check", RECIPE).json()
    assert told["spring"]["loads"][1]["force"] == 50
    assert told["spring"]["curve"][0] == [told["spring"]["free_length"], 0]
    assert {check["id"] for check in told["checks"]} >= {
        "spring-stress",
        "spring-travel",
        "spring-fatigue",
    }
    without = {key: value for key, value in RECIPE.items() if key != "spring"}
    assert post(client, "/api/parts/check", without).json()["spring"] is None


def test_the_preview_is_pressed_as_far_as_it_goes(client):
    heights = []
    for length in ("", "?at=35", "?at=1"):
        glb = post(client, f"/api/parts/preview{length}", RECIPE)
        assert glb.status_code == 200
        scene = trimesh.load(trimesh.util.wrap_as_stream(glb.content), file_type="glb")
        heights.append(1000 * float(max(scene.extents)))
    told = post(client, "/api/parts/check", RECIPE).json()["spring"]
    assert heights[0] == pytest.approx(told["free_length"], abs=0.1)
    assert heights[1] == pytest.approx(35, abs=0.1)
    assert heights[2] == pytest.approx(max(told["solid_length"], 22.1), abs=0.15)


def test_springs_are_found_and_refused_with_their_place(client):
    wish = {
        "format": "metaspira/1",
        "bore": 24,
        "loads": [{"length": 40, "force": 30}, {"length": 28, "force": 90}],
    }
    found = post(client, "/api/springs/find", wish).json()
    assert found["rate"] == pytest.approx(5)
    assert post(client, "/api/parts/check", found["springs"][0]["recipe"]).json()["verdict"] == "clear"
    wish["loads"][1]["length"] = "28 kg"
    refused = post(client, "/api/springs/find", wish)
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["place"] == "/loads/1/length"
    assert len(client.get("/api/springs/wires").json()) > 15


def test_a_nest_is_pressed_on_the_load_tester(client):
    """Springs one in the other: their forces add up."""
    demo = json.loads((ROOT / "demo/19-valve-spring-pair.spira.json").read_text())
    told = post(client, "/api/workshop/load", {"recipe": demo, "seed": 1, "scatter": 0}).json()
    calculated = [reading["calculated"] for reading in told["readings"]]
    assert calculated[0] == pytest.approx(0, abs=1e-6)
    assert calculated == sorted(calculated)
    assert told["rate"] == pytest.approx(told["calculated_rate"], rel=0.01)


@pytest.mark.thorough
def test_the_sheet_is_a_download(client):
    for suffix, start in (("pdf", b"%PDF"), ("html", b"<!doctype html>")):
        answer = post(client, f"/api/parts/files/sheet.{suffix}", RECIPE)
        assert answer.content.startswith(start)
        assert answer["Content-Disposition"].startswith("attachment")
    without = {key: value for key, value in RECIPE.items() if key != "spring"}
    assert post(client, "/api/parts/files/sheet.pdf", without).content.startswith(b"%PDF")
    refused = post(client, "/api/parts/files/ladder.3mf", without)
    assert refused.json()["problems"][0]["place"] == "/path"


def test_beams_stand_beside_the_sums(client):
    found = post(client, "/api/springs/beams", RECIPE).json()
    assert found["rate"] == pytest.approx(found["closed_rate"], rel=0.03)
    many = {**RECIPE, "path": {**RECIPE["path"], "turns": 100, "height": 600}}
    assert post(client, "/api/springs/beams", many).json()["problems"][0]["place"] == "/spring/kind"


def test_a_turn_is_solved_exactly_or_refused_with_its_place(client):
    found = post(client, "/api/springs/exact", RECIPE).json()
    assert found["rate"] == pytest.approx(found["formula_rate"], rel=0.02)
    assert len(found["field"]) == len(found["places"]) > 50
    assert max(max(corner) for corner in found["corners"]) < len(found["places"])
    refused = post(client, "/api/springs/exact", {key: RECIPE[key] for key in RECIPE if key != "spring"})
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["place"] == "/spring/kind"


def test_what_is_in_the_way_of_a_spring_is_told(client):
    loads = [{"length": 40, "force": 30}, {"length": 28, "force": 90}]
    found = post(client, "/api/springs/find", {"loads": loads, "bore": 3}).json()
    assert found["springs"] == [] and found["blocking"][0]["free"].startswith("a bore of")
    unknown = post(client, "/api/springs/find", {"loads": loads, "bor": 3})
    assert unknown.status_code == 422 and unknown.json()["problems"][0]["place"] == "/bor"


def test_tolerances_are_carried_through_or_refused_with_their_place(client):
    found = post(client, "/api/springs/scatter", RECIPE).json()
    assert 0 < found["within"] <= 1 and len(found["kept"]) == 5
    refused = post(client, "/api/springs/scatter", {key: RECIPE[key] for key in RECIPE if key != "spring"})
    assert refused.status_code == 422 and refused.json()["problems"][0]["place"] == "/spring"


def test_a_made_spring_is_read_and_laid_over_its_design(client):
    table = client.post(
        "/api/workshop/readings",
        json.dumps({"recipe": RECIPE, "seed": 2, "scatter": 0.02}),
        content_type="application/json",
    )
    assert table.headers["Content-Disposition"].startswith("attachment")
    file = SimpleUploadedFile("readings.csv", table.content)
    found = client.post("/api/springs/readings", {"file": file}).json()
    sprung = {**RECIPE, "spring": {**RECIPE["spring"], "measured": found}}
    measured = post(client, "/api/parts/check", sprung).json()["spring"]["measured"]
    assert measured["rate"] > 0 and measured["hysteresis"] > 0 and len(measured["explained"]) == 5
    bare = SimpleUploadedFile("readings.csv", b"50,10\n40,30\n30,50\n")
    refused = client.post("/api/springs/readings", {"file": bare})
    assert refused.status_code == 422 and refused.json()["problems"][0]["place"] == "/unit"
