"""Threads over the API: named, measured, checked, shown, kept and refused."""

import json

import pytest
from pygltflib import GLTF2

from tests.server.test_api import problems, send

pytestmark = pytest.mark.django_db

BOLT = {
    "format": "metaspira/1",
    "name": "Bolt",
    "thread": {"designation": "M10-6g", "length": 14},
    "host": {"kind": "rod", "length": 20},
}


def test_a_designation_answers_with_sizes_and_profiles(client):
    answer = client.get("/api/threads", {"designation": "m10 x 1,25 - 6g"}).json()
    assert answer["standard"]["designation"] == "M10x1.25-6g"
    assert answer["standard"]["external"]["pitch"]["max"] == 9.16
    assert set(answer["profiles"]["internal"]) == {"basic", "max", "min"}
    refused = problems(client.get("/api/threads", {"designation": "M10q"}), 422)
    assert refused[0]["place"] == "/designation"


def test_the_nearest_and_the_measured_are_offered(client):
    near = client.get("/api/threads/nearest", {"text": "tr 40"}).json()
    assert near[0]["designation"].startswith("Tr40")
    found = client.get("/api/threads/measured", {"diameter": 20.9, "pitch": 25.4 / 14}).json()
    assert found[0]["designation"] == "G 1/2"
    shares = [round(row["probable"], 9) for row in found]
    assert shares == sorted(shares, reverse=True) and sum(shares) <= 1 + 1e-9
    problems(client.get("/api/threads/measured", {"diameter": 20, "pitch": 1, "pitch_error": 0}), 422)
    problems(client.get("/api/threads/measured", {"diameter": 1e9, "pitch": 1}), 422)


def test_a_made_thread_is_judged_by_its_class_and_by_limits_of_its_own(client):
    """M10-6g: pitch diameter 8.862 to 8.994, major diameter 9.732 to 9.968 (ISO 965-2, from memory)."""

    def judged(readings, recipe=BOLT, side="external"):
        body = {"recipe": recipe, "side": side, "readings": readings}
        return send(client, "post", "/threads/judged", body)

    found = judged({"crest": 9.7, "pitch_diameter": 8.9}).json()
    rows = {row["key"]: row for row in found["measured"]}
    assert (rows["crest"]["within"], rows["pitch"]["within"]) == (False, True)
    assert rows["crest"]["off"] == pytest.approx(0.032)
    assert (rows["pitch"]["least"], rows["pitch"]["most"]) == (8.862, 8.994)
    felt = judged({"pitch_diameter": 8.98, "pitch_error": 0.02}).json()["measured"]
    assert [row["within"] for row in felt] == [True, False], "a perfect nut feels what the pitch is off"
    over = judged({"wire": 0.866}).json()["over_wires"]
    by_wires = judged({"wire": 0.866, "over": over["basic"]}).json()["measured"][0]
    assert by_wires["value"] == pytest.approx(9.026, abs=5e-4)
    own = {"external": {"pitch": {"upper": -0.03, "lower": -0.05}}}
    tight = {**BOLT, "thread": {**BOLT["thread"], "limits": own}}
    assert not judged({"pitch_diameter": 8.9}, tight).json()["measured"][0]["within"]
    for readings, place in (
        ({"over": 10.2}, "/wire"),
        ({"wire": 5}, "/wire"),
        ({"crest": -1}, "/readings/crest"),
        ({"colour": 1}, "/readings/colour"),
    ):
        assert problems(judged(readings), 422)[0]["place"] == place, readings
    refused = problems(judged({"over": 10.2, "wire": 0.866}, side="internal"), 422)
    assert refused[0]["place"] == "/over"


def test_a_threaded_part_is_checked_shown_and_kept(client):
    report = send(client, "post", "/threads/check", BOLT).json()
    assert report["verdict"] == "clear"
    assert report["values"]["/thread/length"] == 14
    assert report["thread"]["side"] == "external"
    shown = send(client, "post", "/parts/preview", BOLT)
    document = GLTF2.load_from_bytes(shown.content)
    assert document.meshes[0].name == "Bolt"
    made = send(client, "post", "/designs", {"recipe": BOLT}).json()
    assert (made["verdict"], made["wire_length"]) == ("clear", None)
    picture = client.get(f"/api/designs/{made['id']}/revisions/1/picture")
    assert picture["Content-Type"] == "image/png"


def test_a_threaded_part_that_cannot_be_is_refused_at_its_place(client):
    wrong = json.loads(json.dumps(BOLT))
    wrong["thread"]["lenght"] = 3
    assert problems(send(client, "post", "/threads/check", wrong), 422)[0]["place"] == "/thread/lenght"
    wrong = {**BOLT, "host": {"kind": "bore", "length": 9}}
    refused = problems(send(client, "post", "/parts/preview", wrong), 422)[0]
    assert refused["place"] == "/host/kind"
    assert refused["fix"] == {"input": "/host/kind", "value": "rod"}


def test_a_form_is_kept_in_the_library_and_taken_out(client):
    own = {"form": {"kind": "flanks", "height": 1, "crest": 0.5}, "diameter": 20, "pitch": 3}
    kept = send(client, "post", "/library/forms", {"name": "Jar", "thread": {**own, "length": 9}})
    assert kept.status_code == 201
    assert kept.json()["thread"] == own
    send(client, "post", "/library/forms", {"name": "Jar", "thread": {**own, "pitch": 4}})
    forms = client.get("/api/library/forms").json()
    assert [(form["name"], form["thread"]["pitch"]) for form in forms] == [("Jar", 4)]
    refused = send(client, "post", "/library/forms", {"name": "Jar", "thread": {**own, "pitch": 1}})
    assert problems(refused, 422)[0]["place"] == "/thread/form/height"
    problems(send(client, "post", "/library/forms", {"name": " ", "thread": own}), 422)
    assert client.delete(f"/api/library/forms/{forms[0]['id']}").status_code == 204
    assert client.get("/api/library/forms").json() == []


def test_a_printed_fit_is_kept_offered_and_taken_out(client):
    asked = {"printer": "Press 2", "material": "polylactide", "allowance": 0.06}
    kept = send(client, "post", "/library/fits", asked)
    assert kept.status_code == 201
    again = send(client, "post", "/library/fits", asked | {"allowance": 0.08})
    assert again.json()["id"] == kept.json()["id"]
    (fit,) = client.get("/api/library/fits").json()
    assert (fit["printer"], fit["material"], fit["allowance"]) == ("Press 2", "polylactide", 0.08)
    for wrong in ({"printer": " "}, {"allowance": -1}, {"allowance": 1e9}):
        problems(send(client, "post", "/library/fits", asked | wrong), 422)
    assert client.delete(f"/api/library/fits/{fit['id']}").status_code == 204
    assert client.get("/api/library/fits").json() == []


def test_a_fit_ladder_is_handed_over(client):
    answer = send(client, "post", "/parts/files/ladder.stl", BOLT | {"ladder": {"pairs": 2}})
    assert answer.status_code == 200
    assert int.from_bytes(answer.content[80:84], "little") * 50 + 84 == len(answer.content)
    refused = send(client, "post", "/parts/files/ladder.stl", BOLT | {"ladder": {"step": 3}})
    assert problems(refused, 422)[0]["place"] == "/ladder/step"
