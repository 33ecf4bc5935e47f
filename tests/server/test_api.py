"""The API over the real application: designs, revisions, conflicts, refusals, the published schema."""

import copy
import json
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import numpy as np
import pytest
from api import api
from designs import verdicts
from designs.models import Revision
from django.core.files.uploadedfile import SimpleUploadedFile
from metaspira.checks import report_on
from metaspira.parts import part_of
from pygltflib import GLTF2

ROOT = Path(__file__).resolve().parents[2]
pytestmark = pytest.mark.django_db


def send(client, method, path, body=None, **headers):
    return getattr(client, method)(
        f"/api{path}", data=json.dumps(body), content_type="application/json", headers=headers
    )


@pytest.fixture
def design(client, spring):
    return send(client, "post", "/designs", {"recipe": spring}).json()


def problems(response, status):
    assert response.status_code == status, response.content[:500]
    found = response.json()["problems"]
    assert found
    assert all(p["reason"] and p["remedy"] for p in found)
    return found


def test_a_new_design_is_clear_and_on_the_shelf(client):
    made = send(client, "post", "/designs", {})
    assert made.status_code == 201
    shelf = client.get("/api/designs").json()
    assert [item["id"] for item in shelf] == [made.json()["id"]]
    assert shelf[0]["verdict"] == "clear"
    assert shelf[0]["wire_length"] == pytest.approx(504.94, abs=0.01)


def test_revisions_are_never_overwritten(client, design):
    first = copy.deepcopy(design["recipe"])
    for number, turns in enumerate((9, 10, 11), start=1):
        recipe = {**first, "path": {**first["path"], "turns": turns}}
        body = {"recipe": recipe, "based_on": number}
        assert send(client, "put", f"/designs/{design['id']}", body).json()["revision"] == number + 1
    revisions = client.get(f"/api/designs/{design['id']}/revisions").json()
    assert [r["number"] for r in revisions] == [1, 2, 3, 4]
    old = client.get(f"/api/designs/{design['id']}/revisions/1").json()
    assert old["recipe"] == first


def test_two_tabs_cannot_lose_each_others_work(client, design):
    path = f"/designs/{design['id']}"
    mine = {**design["recipe"], "name": "Mine"}
    theirs = {**design["recipe"], "name": "Theirs"}
    assert send(client, "put", path, {"recipe": theirs, "based_on": 1}).status_code == 200
    refused = send(client, "put", path, {"recipe": mine, "based_on": 1})
    problems(refused, 409)
    assert refused.json()["head"] == 2
    assert client.get(f"/api{path}").json()["name"] == "Theirs"


def test_saving_the_same_again_makes_no_revision(client, design):
    body = {"recipe": design["recipe"], "based_on": 1}
    assert send(client, "put", f"/designs/{design['id']}", body).json()["revision"] == 1


def test_what_cannot_be_used_yet_is_kept_as_typed(client, design):
    recipe = {**design["recipe"], "path": {"kind": "coil", "diameter": "8 * "}}
    saved = send(client, "put", f"/designs/{design['id']}", {"recipe": recipe, "based_on": 1}).json()
    assert saved["verdict"] == "unusable"
    assert client.get(f"/api/designs/{design['id']}").json()["recipe"] == recipe
    picture = client.get(f"/api/designs/{design['id']}/revisions/2/picture")
    assert picture.status_code == 404


def test_rename_duplicate_delete_and_put_back(client, design):
    path = f"/designs/{design['id']}"
    assert send(client, "put", f"{path}/name", {"name": "Renamed"}).json()["name"] == "Renamed"
    copied = send(client, "post", f"{path}/copy").json()
    assert copied["name"] == "Renamed, copy"
    assert copied["recipe"]["path"] == design["recipe"]["path"]
    assert client.delete(f"/api{path}").status_code == 204
    problems(client.get(f"/api{path}"), 404)
    assert [item["id"] for item in client.get("/api/designs?search=renam").json()] == [copied["id"]]
    assert send(client, "post", f"{path}/restore").status_code == 200
    assert len(client.get("/api/designs?search=RENAM").json()) == 2
    assert client.get("/api/designs?search=nothing").json() == []
    assert Revision.objects.filter(design=design["id"]).count() == 2


def test_a_design_is_found_by_its_tags_and_a_copy_has_them(client, design):
    path = f"/designs/{design['id']}"
    assert send(client, "put", f"{path}/tags", {"tags": ["Öl", " hoist ", "hoist"]}).status_code == 204
    send(client, "post", f"{path}/copy")
    assert [item["tags"] for item in client.get("/api/designs?search=öl HOI").json()] == [["hoist", "Öl"]] * 2
    assert send(client, "put", f"{path}/tags", {"tags": ["other"]}).status_code == 204
    assert [item["id"] for item in client.get("/api/designs?search=other").json()] == [design["id"]]
    for wrong in ([""], ["a, b"], ["x" * 41], ["x"] * 21, "hoist", None):
        (problem,) = problems(send(client, "put", f"{path}/tags", {"tags": wrong}), 422)
        assert problem["place"].startswith("/tags"), problem


def test_picture_is_a_png(client, design):
    picture = client.get(f"/api/designs/{design['id']}/revisions/1/picture")
    assert picture.content.startswith(b"\x89PNG")
    assert "immutable" in picture["Cache-Control"]


def test_preview_is_a_glb_with_the_true_length_at_each_vertex(client, spring):
    answer = send(client, "post", "/parts/preview", spring)
    assert answer["Content-Type"] == "model/gltf-binary"
    document = GLTF2.load_from_bytes(answer.content)
    assert document.meshes[0].primitives[0].attributes._LENGTH is not None


def test_check_is_what_the_command_line_says_and_more(client, spring):
    report = send(client, "post", "/parts/check", spring).json()
    assert report["verdict"] == "clear"
    assert report["values"]["/path/diameter"] == 20
    assert report["values"]["/variables/mean"] == 20
    assert len(report["strip"]["s"]) == len(report["strip"]["gap"])
    spring["path"]["pitch"] = 2
    quick, full = (
        send(client, "post", f"/parts/check?remedies={wanted}", spring).json() for wanted in ("false", "true")
    )
    assert quick["verdict"] == full["verdict"] == "stop"
    assert not any(check["remedies"] for check in quick["checks"])
    assert any(check["remedies"] for check in full["checks"])


def test_a_save_waits_for_the_verdict_that_is_being_worked_out(spring, monkeypatch):
    def worked_out(part):
        raise AssertionError("worked out beside the check")

    monkeypatch.setattr(verdicts, "verdict_of", worked_out)
    recipe = {**spring, "name": "just checked"}
    with ThreadPoolExecutor() as pool:
        with verdicts.being_checked(recipe):
            saved = pool.submit(verdicts.verdict_on, recipe)
            verdicts.remember(recipe, report_on(part_of(recipe), with_remedies=False))
        assert saved.result()[0] == "clear"


def test_faults_of_a_recipe_read_as_on_the_command_line(client, spring):
    spring["path"]["pich"] = 3
    [problem] = problems(send(client, "post", "/parts/check", spring), 422)
    assert problem["place"] == "/path/pich"
    assert "pitch" in problem["remedy"]


@pytest.mark.parametrize(
    "body", [b"", b"{", b"[]", b"null", b'"x"', b"\xff", b'{"format": "metaspira/1"}', b"[" * 50_000]
)
def test_bodies_that_are_no_recipe(client, body):
    for path in ("/api/parts/check", "/api/parts/preview", "/api/designs"):
        response = client.post(path, body, content_type="application/json")
        if not (path == "/api/designs" and response.status_code == 201):
            assert response.status_code in (400, 422)
            problems(response, response.status_code)


def test_a_body_over_the_limit_is_refused(client):
    response = client.post("/api/parts/check", b" " * 1_100_000, content_type="application/json")
    assert response.status_code in (400, 413)


def test_requests_of_other_sites_are_refused(client, design):
    refused = send(client, "post", "/designs", {}, Origin="https://elsewhere.example")
    problems(refused, 403)
    assert send(client, "post", "/designs", {}, Origin="http://testserver").status_code == 201
    assert client.get("/api/designs", headers={"Host": "elsewhere.example"}).status_code == 400


def test_the_published_schema_is_the_servers_own():
    published = json.loads((ROOT / "docs/api/openapi.json").read_text())
    assert published == json.loads(json.dumps(api.get_openapi_schema(), default=str))


def test_a_slice_shows_the_outline_and_its_neighbours(client, spring):
    spring["path"]["pitch"] = 3
    answer = send(client, "post", "/parts/slice?at=250", spring).json()
    assert answer["s"] == 250
    own = np.array(answer["own"])
    assert np.hypot(*own.T) == pytest.approx(1.25)
    near = np.array(answer["segments"]).reshape(-1, 2)
    # the next turns stand a pitch away, nearly along the section's second axis
    assert np.abs(near[:, 1]).max() == pytest.approx(2 * 3 + 1.25, abs=0.2)


def test_the_report_holds_what_the_bench_draws(client, spring):
    spring["path"] = {"kind": "points", "points": [[0, 0, 0], [30, 0, 10], [40, 30, 20], [10, 40, 40]]}
    spring["stance"] = {"kind": "seated", "body": {"profile": [[5, 0], [9, 30]]}}
    answer = send(client, "post", "/parts/check", spring).json()
    assert len(answer["ribs"]) == 24
    assert answer["guides"]["body"][-1] == [9, 30]
    assert answer["guides"]["points"][1] == [30, 0, 10]
    assert [point["keep"] is None for point in answer["points"]] == [True, False, False, True]
    assert answer["bodies"] == ["wire"]


def test_drawings_are_read_and_refused(client):
    drawn = (
        b'<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm" viewBox="0 0 20 20"><path '
        b'd="M0 0h9v4h-9z"/></svg>'
    )

    def upload(name, data, **fields):
        return client.post("/api/parts/drawing", {"file": SimpleUploadedFile(name, data), **fields})

    read = upload("plate.svg", drawn).json()
    assert len(read["loops"][0]["points"]) == 5
    assert len(read["profile"]) == 2
    both = upload("plate.svg", drawn.replace(b"M0 0h9", b"M-4 0h9")).json()
    assert both["profile"] is None
    assert "both sides" in both["profile_fault"]
    assert problems(upload("plate.svg", drawn.replace(b'width="20mm"', b"")), 422)[0]["place"] == "/unit"
    assert upload("plate.svg", drawn.replace(b'width="20mm"', b""), unit="in").status_code == 200
    assert problems(upload("plate.doc", b"x"), 422)[0]["place"] == "/file"
    assert problems(client.post("/api/parts/drawing", {"unit": "mm"}), 422)
