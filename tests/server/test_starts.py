"""Starting points and the conversion of units as the interface asks for them."""

import io

import pytest
import trimesh

pytestmark = pytest.mark.django_db


def test_they_are_listed_with_pictures_and_given_in_the_unit_that_is_asked_for(client):
    told = client.get("/api/starts").json()
    assert len(told) >= 12 and all(one["sentence"] for one in told)
    picture = client.get(f"/api/starts/{told[0]['key']}/picture")
    assert picture["Content-Type"] == "image/png" and picture.content.startswith(b"\x89PNG")
    drawing = client.get(f"/api/starts/{told[0]['key']}/drawing")
    assert drawing["Content-Type"] == "image/svg+xml" and b"<svg" in drawing.content
    scan = client.get("/api/starts/scan/sample")
    assert len(trimesh.load(io.BytesIO(scan.content), file_type="stl").faces) > 10_000
    recipe = client.get("/api/starts/rope?unit=in").json()
    assert (recipe["unit"], recipe["section"]["diameter"]) == ("in", 0.1968504)


def test_an_unknown_one_is_refused(client):
    answer = client.get("/api/starts/rop")
    assert answer.status_code == 422
    assert "did you mean “rope”" in answer.json()["problems"][0]["remedy"]


def test_a_recipe_is_converted_and_a_faulty_one_refused(client, spring):
    ask = {"content_type": "application/json"}
    converted = client.post("/api/parts/converted?unit=in", spring, **ask).json()
    assert converted["path"]["pitch"] == "(2.4 * wire) * 1 mm"
    answer = client.post("/api/parts/converted?unit=in", spring | {"variables": {}}, **ask)
    assert answer.status_code == 422 and answer.json()["problems"][0]["place"] == "/path/diameter"


def test_a_design_is_kept_only_when_it_is_saved(client):
    before = len(client.get("/api/designs").json())
    client.get("/api/starts/push")
    assert len(client.get("/api/designs").json()) == before


def test_the_book_of_proof_tells_all_rows_or_those_of_a_figure(client):
    book = client.get("/api/verification").json()
    rows = [row for family in book["families"] for row in family["rows"]]
    assert len(rows) >= 400 and all(row["within"] for row in rows)
    assert {row["standing"] for row in rows} == set(book["standings"])
    some = client.get("/api/verification?figure=rate_1").json()["families"]
    assert some and all("rate" in row["figures"] for family in some for row in family["rows"])
    assert client.get("/api/verification?figure=colour").json()["families"] == []
