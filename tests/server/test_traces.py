"""Scanned bodies traced through the API, worked on in this process by the function that the worker calls."""

import pytest
import trimesh
from django.core.files.uploadedfile import SimpleUploadedFile
from jobs.files import kept
from jobs.models import find_job
from jobs.services import forget
from jobs.working import work
from scans import scan

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(scope="module")
def spring_scan():
    path = {"kind": "coil", "diameter": 24, "turns": 2.5, "pitch": 9}
    return scan({"path": path, "section": {"kind": "round", "diameter": 4}}, 0.01)


@pytest.fixture
def ask(client, handed):
    def asked(name, data, **fields):
        return client.post("/api/jobs/traces", {"file": SimpleUploadedFile(name, data), **fields})

    return asked


def told(client, answer):
    return client.get(f"/api/jobs/{answer.json()['id']}").json()


@pytest.mark.parametrize("suffix", ["stl", "xyz"])
def test_a_scanned_body_becomes_a_recipe(client, ask, handed, spring_scan, suffix, monkeypatch):
    monkeypatch.setattr("jobs.board._TELL_SECONDS", -1.0)
    if suffix == "stl":
        data = spring_scan.export(file_type="stl")
    else:
        rows, _ = trimesh.sample.sample_surface(spring_scan, 12_000, seed=1)
        data = "\n".join(f"{x:.4f} {y:.4f} {z:.4f}" for x, y, z in rows).encode()
    answer = ask(f"drawer.{suffix}", data, unit="mm")
    assert answer.status_code == 202
    (job,) = handed
    kept_under = job[3]["surface"]
    assert kept().exists(kept_under)
    work(*handed.pop())
    found = told(client, answer)
    assert found["state"] == "done" and found["found"]["kind"] == "coil"
    even = found["found"]["rounded"]
    assert even["name"] == "drawer" and even["path"]["turns"] == 2.5
    checked = client.post("/api/parts/check", even, content_type="application/json").json()
    assert checked["verdict"] == "clear"
    assert not kept().exists(kept_under)
    forget(find_job(answer.json()["id"]))
    assert client.get(f"/api/jobs/{answer.json()['id']}").status_code == 404


@pytest.mark.thorough
def test_what_is_no_coil_and_no_thread_fails_with_a_reason(client, ask, handed):
    box = trimesh.creation.box((9, 8, 7)).export(file_type="stl")
    answer = ask("box.stl", box, unit="mm")
    work(*handed.pop())
    found = told(client, answer)
    assert found["state"] == "failed" and found["found"] is None
    assert "no" in found["error"] and "give" in found["error"]


def test_a_trace_can_be_stopped(client, ask, handed, spring_scan, monkeypatch):
    monkeypatch.setattr("jobs.board._TELL_SECONDS", -1.0)
    answer = ask("drawer.stl", spring_scan.export(file_type="stl"), unit="mm")
    stops = iter([False, True])
    monkeypatch.setattr("jobs.board.cancel_wanted", lambda key: next(stops, True))
    work(*handed.pop())
    assert told(client, answer)["state"] == "cancelled"


def test_how_far_it_is_stands_on_the_board(client, ask, handed, spring_scan, monkeypatch):
    steps = []
    answer = ask("drawer.stl", spring_scan.export(file_type="stl"), unit="mm")
    monkeypatch.setattr("jobs.board.Desk.progress", lambda desk, share, step: steps.append((share, step)))
    work(*handed.pop())
    assert told(client, answer)["state"] == "done"
    assert "looking for its axis" in [step for _, step in steps]
    assert [share for share, _ in steps] == sorted(share for share, _ in steps)


@pytest.mark.parametrize(
    ("name", "data", "unit", "place"),
    [
        ("drawer.xyz", "\n".join(f"{k} 0 {k % 7}" for k in range(300)).encode(), "", "/unit"),
        ("notes.csv", b"a,b\n1,2\n", "mm", "/file"),
        ("box.stl", trimesh.creation.box((9, 8, 7)).export(file_type="stl"), "", "/unit"),
        ("box.stl", b"solid nothing", "", "/file"),
        ("box.doc", b"x", "mm", "/file"),
    ],
)
def test_a_file_that_cannot_be_read_is_refused_at_once(client, ask, handed, name, data, unit, place):
    answer = ask(name, data, unit=unit)
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["place"] == place
    assert handed == []


def test_one_more_than_may_be_under_way_leaves_nothing_behind(ask, settings, spring_scan, tmp_path):
    settings.MOST_JOBS = 0
    answer = ask("drawer.stl", spring_scan.export(file_type="stl"), unit="mm")
    assert answer.status_code == 422
    assert [file for file in (tmp_path / "builds").rglob("*") if file.is_file()] == []
