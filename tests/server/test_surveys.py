"""Surveys through the API, worked on in this process by the function that the worker calls."""

import csv
import io
import json

import pytest
from jobs.board import Desk
from jobs.working import work

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def ask(client, handed):
    def asked(recipe, *over):
        body = json.dumps({"kind": "survey", "recipe": recipe, "over": over})
        answer = client.post("/api/jobs", body, content_type="application/json")
        return answer, handed

    return asked


def test_a_survey_is_followed_and_kept_as_a_table(client, ask, spring):
    over = {"input": "/path/pitch", "low": 2, "high": 6, "count": 5}
    answer, waiting = ask(spring, over, {"input": "/path/turns", "low": 4, "high": 8, "count": 2})
    assert answer.status_code == 202
    address = f"/api/jobs/{answer.json()['id']}"
    assert client.get(f"{address}/files/csv").status_code == 404
    work(*waiting.pop())
    told = client.get(address).json()
    assert told["state"] == "done"
    assert told["found"]["steps"] == [[2, 3, 4, 5, 6], [4, 8]]
    assert told["found"]["verdicts"][:2] == ["stop", "stop"]
    assert told["found"]["verdicts"][-1] == "clear"
    rows = list(csv.DictReader(io.StringIO(client.get(f"{address}/files/csv").getvalue().decode())))
    assert [row["verdict"] for row in rows] == told["found"]["verdicts"]
    assert float(rows[-1]["Turns"]) == 8


def test_what_is_found_is_shown_while_it_runs(client, ask, spring, monkeypatch):
    seen = []
    answer, waiting = ask(spring, {"input": "/path/pitch", "low": 2, "high": 6, "count": 5})
    address = f"/api/jobs/{answer.json()['id']}"
    monkeypatch.setattr("jobs.board._SHOW_SECONDS", -1.0)
    monkeypatch.setattr("jobs.board._TELL_SECONDS", -1.0)
    show = Desk.show

    def shown(desk, found):
        show(desk, found)
        seen.append(client.get(address).json())

    monkeypatch.setattr(Desk, "show", shown)
    work(*waiting.pop())
    assert [one["state"] for one in seen] == ["running"] * 5
    assert [len(one["found"]["verdicts"]) for one in seen] == [1, 2, 3, 4, 5]
    assert client.get(address).json()["found"] == seen[-1]["found"]


def test_a_survey_can_be_stopped(client, ask, spring):
    answer, waiting = ask(spring, {"input": "/path/pitch", "low": 2, "high": 6, "count": 500})
    address = f"/api/jobs/{answer.json()['id']}"
    client.post(f"{address}/cancel")
    work(*waiting.pop())
    assert client.get(address).json()["state"] == "cancelled"


@pytest.mark.parametrize(
    ("over", "place"),
    [
        ([{"input": "/path/pich", "low": 2, "high": 6, "count": 5}], "/over/0/input"),
        ([{"input": "/path/kind", "low": 2, "high": 6, "count": 5}], "/over/0/input"),
        ([{"input": "/path/pitch", "low": 2, "high": 6, "count": 1}], "/over/0/count"),
        ([{"input": "/path/pitch", "low": 2, "high": 6, "count": 9}] * 2, "/over/1/input"),
        ([{"input": "/path/pitch", "low": 2, "high": 6, "count": 900}] * 2, "/over"),
        ([], "/over"),
    ],
)
def test_what_cannot_be_surveyed_is_refused(ask, spring, over, place):
    answer, waiting = ask(spring, *over)
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["place"] == place
    assert waiting == []
