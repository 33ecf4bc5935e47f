"""Team mode through the API: signing in, roles, tokens, limits, and what is written down."""

import io
import json

import pytest
from designs import services as designs
from django.contrib.auth import get_user_model
from django.core.cache import caches
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import Client, RequestFactory
from people.limits import MinuteThrottle

pytestmark = pytest.mark.django_db

PASSWORD = "lamp oil and brass polish"


@pytest.fixture(autouse=True)
def members(team):
    for name in ("ada", "ben"):
        get_user_model().objects.create_user(name, password=PASSWORD)


class Person:
    """Somebody at a browser, with the mark that the page sends."""

    def __init__(self, name=None):
        self.client = Client(enforce_csrf_checks=True)
        self.mark = self.client.get("/api/session").json()["mark"]
        if name:
            assert self.post("/api/session", {"name": name, "password": PASSWORD}).status_code == 200
            self.mark = self.client.get("/api/session").json()["mark"]

    def get(self, address):
        return self.client.get(address)

    def send(self, method, address, body=None, **headers):
        data = json.dumps(body if body is not None else {})
        return self.client.generic(
            method, address, data, "application/json", headers={"X-CSRFToken": self.mark, **headers}
        )

    def post(self, address, body=None):
        return self.send("POST", address, body)


@pytest.fixture
def ada():
    return Person("ada")


@pytest.fixture
def ben():
    return Person("ben")


@pytest.fixture
def design(ada, spring):
    return ada.post("/api/designs", {"recipe": spring}).json()["id"]


def test_nobody_sees_anything_before_signing_in(design):
    stranger = Person()
    for address in (
        "/api/designs",
        f"/api/designs/{design}",
        "/api/shelf/archive",
        "/api/parts/schema",
    ):
        refused = stranger.get(address)
        assert refused.status_code == 401
        assert refused.json()["problems"][0]["remedy"]
    told = stranger.get("/api/session").json()
    assert (told["team"], told["name"]) == (True, None)
    assert stranger.post("/api/session", {"name": "ada", "password": "wrong"}).status_code == 401


def test_signing_in_and_out(ada):
    assert ada.get("/api/session").json()["name"] == "ada"
    assert ada.send("DELETE", "/api/session").status_code == 204
    assert ada.get("/api/designs").status_code == 401


def test_guessing_passwords_is_slowed_down():
    stranger = Person()
    answers = [
        stranger.post("/api/session", {"name": "ada", "password": str(k)}).status_code for k in range(14)
    ]
    assert answers[0] == 401
    assert answers[-1] == 429
    assert stranger.post("/api/session", {"name": "ada", "password": PASSWORD}).status_code == 429


def test_a_design_is_its_owners_until_it_is_shared(ada, ben, design, spring):
    address = f"/api/designs/{design}"
    saved = {"recipe": {**spring, "name": "Ben's"}, "based_on": 1}
    assert ben.get("/api/designs").json() == []
    assert ben.get(address).status_code == 404
    assert ben.send("PUT", address, saved).status_code == 404
    for role, read, edit, delete in (("read", 200, 403, 403), ("edit", 200, 200, 403)):
        assert ada.send("PUT", f"{address}/share", {"name": "ben", "role": role}).status_code == 200
        assert ben.get(address).status_code == read
        assert ben.send("PUT", address, saved).status_code == edit
        assert ben.send("DELETE", address).status_code == delete
        assert ben.send("PUT", f"{address}/share", {"name": "ben", "role": "own"}).status_code == 403
    assert [item["id"] for item in ben.get("/api/designs").json()] == [design]
    assert ada.send("PUT", f"{address}/share", {"name": "ben", "role": None}).status_code == 200
    assert ben.get(address).status_code == 404


def test_somebody_always_owns_a_design(ada, design):
    refused = ada.send("PUT", f"/api/designs/{design}/share", {"name": "ada", "role": "read"})
    assert refused.status_code == 422
    assert "own" in refused.json()["problems"][0]["reason"]
    assert (
        ada.send("PUT", f"/api/designs/{design}/share", {"name": "cleo", "role": "read"}).status_code == 422
    )


def test_builds_surveys_and_archives_keep_to_the_roles(ada, ben, design, spring, handed):
    build = ada.post(f"/api/designs/{design}/builds").json()["id"]
    over = [{"input": "/path/pitch", "low": 5, "high": 6, "count": 2}]
    survey = ada.post("/api/jobs", {"kind": "survey", "recipe": spring, "over": over}).json()["id"]
    for address in (
        f"/api/jobs/{build}",
        f"/api/jobs/{build}/files/step",
        f"/api/jobs/{survey}",
    ):
        assert ben.get(address).status_code == 404
    assert ben.post(f"/api/jobs/{build}/cancel").status_code == 404
    assert ada.get(f"/api/jobs/{survey}").status_code == 200
    theirs = ben.client.get("/api/shelf/archive").content
    assert design.encode() not in theirs
    mine = ada.client.get("/api/shelf/archive").content
    brought = ben.client.post(
        "/api/shelf/archive",
        {"file": SimpleUploadedFile("shelf.zip", mine)},
        headers={"X-CSRFToken": ben.mark},
    )
    assert brought.json()["added"] == ["Test spring"]
    (own,) = ben.get("/api/designs").json()
    assert own["id"] != design


def test_a_change_without_the_sites_mark_is_refused(ada, design):
    ada.mark = "forged"
    assert ada.send("DELETE", f"/api/designs/{design}").status_code == 403
    assert ada.get(f"/api/designs/{design}").status_code == 200


def test_a_token_signs_a_program_in_until_it_is_taken_back(ada, ben, design):
    made = ada.post("/api/tokens", {"name": "night build", "may_edit": True}).json()
    program = Client(enforce_csrf_checks=True, headers={"Authorization": f"Bearer {made['token']}"})
    assert program.get(f"/api/designs/{design}").status_code == 200
    assert program.delete(f"/api/designs/{design}").status_code == 204
    (listed,) = ada.get("/api/tokens").json()
    assert listed["used"]
    assert made["token"] not in json.dumps(listed)
    assert ben.send("DELETE", f"/api/tokens/{made['id']}").status_code == 404
    assert ada.send("DELETE", f"/api/tokens/{made['id']}").status_code == 204
    assert program.get("/api/designs").status_code == 401
    wrong = Client(headers={"Authorization": "Bearer mtsp_guess"})
    assert wrong.get("/api/designs").status_code == 401


def test_changes_are_written_down(ada, ben, design):
    ada.send("PUT", f"/api/designs/{design}/share", {"name": "ben", "role": "read"})
    ben.send("DELETE", f"/api/designs/{design}")
    deeds = ada.get(f"/api/designs/{design}/deeds").json()
    assert [(deed["person"], deed["method"], deed["status"]) for deed in deeds] == [
        ("ben", "DELETE", 403),
        ("ada", "PUT", 200),
    ]
    (last,) = ada.get(f"/api/designs/{design}/deeds?limit=1").json()
    assert ada.get(f"/api/designs/{design}/deeds?before={last['id']}").json() == deeds[1:]


def test_too_many_requests_are_refused(ada, settings):
    settings.RATE = 30
    answers = [ada.get("/api/session") for _ in range(70)]
    refused = next(answer for answer in answers if answer.status_code == 429)
    assert 1 <= int(refused["Retry-After"]) <= 60


def test_wrong_tokens_count_too_by_the_address_and_not_by_what_it_says_of_itself(settings):
    settings.RATE = 30
    flood = [
        Client().get(
            "/api/designs", headers={"Authorization": f"Bearer mtsp_{k}", "X-Forwarded-For": f"10.0.0.{k}"}
        )
        for k in range(70)
    ]
    assert flood[0].status_code == 401
    assert any(answer.status_code == 429 for answer in flood)


def test_too_large_an_upload_is_refused(ada, settings):
    settings.MOST_UPLOAD = 1000
    refused = ada.post("/api/designs", {"recipe": {"note": "x" * 2000}})
    assert refused.status_code == 413


def test_the_first_person_owns_what_nobody_owned(monkeypatch, spring):
    designs.create(spring)
    monkeypatch.setattr("sys.stdin", io.StringIO("a long and odd pass phrase\n"))
    call_command("person", "cleo")
    client = Client()
    client.post(
        "/api/session",
        json.dumps({"name": "cleo", "password": "a long and odd pass phrase"}),
        content_type="application/json",
    )
    assert len(client.get("/api/designs").json()) == 1
    monkeypatch.setattr("sys.stdin", io.StringIO("12345\n"))
    with pytest.raises(CommandError):
        call_command("person", "dora")


def test_without_a_team_nobody_signs_in(settings, client, spring):
    settings.TEAM = False
    told = client.get("/api/session").json()
    assert set(told.pop("workshop").values()) == {""}
    assert told == {"team": False, "name": None, "mark": ""}
    made = client.post("/api/designs", json.dumps({"recipe": spring}), content_type="application/json")
    assert made.status_code == 201
    assert client.post("/api/tokens", "{}", content_type="application/json").status_code == 422


def test_answers_carry_what_keeps_a_browser_safe(ada, settings):
    answer = ada.get("/api/designs")
    for header in (
        "X-Content-Type-Options",
        "X-Frame-Options",
        "Content-Security-Policy",
        "Referrer-Policy",
    ):
        assert answer[header]


def test_odd_names_are_refused_like_wrong_ones(ada, design):
    for name in ("\ud800", "\0", "ada\u202e", " " * 150):
        assert Person().post("/api/session", {"name": name, "password": name}).status_code in (401, 422)
        shared = ada.send("PUT", f"/api/designs/{design}/share", {"name": name, "role": "read"})
        assert shared.status_code == 422


def test_a_count_that_is_cleared_while_it_counts_begins_anew(monkeypatch):
    limits = caches["limits"]
    monkeypatch.setattr(limits, "add", lambda *_: limits.clear())
    assert MinuteThrottle().allow_request(RequestFactory().get("/"))
