"""Builds, worked on in this process by the function that the worker calls."""

import json
import multiprocessing

import pytest
from builds.models import Build
from builds.services import request_build
from designs import services as designs
from django.utils import timezone
from jobs import board, kinds, services
from jobs.files import kept
from jobs.services import looked_after
from jobs.working import work

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def build(spring, handed):
    return request_build(designs.create(spring).design_id)


def ask(client, design, body):
    path = f"/api/designs/{design}/builds"
    return client.post(path, json.dumps(body), content_type="application/json")


def test_a_build_keeps_proven_files(client, build, handed):
    work(*handed.pop())
    told = client.get(f"/api/jobs/{build.id}").json()
    assert told["state"] == "done"
    assert told["proofs"][".step"]["relative_error"] < 1e-6
    assert {file["suffix"] for file in told["files"]} == {".step", ".stl", ".glb"}
    file = client.get(f"/api/jobs/{build.id}/files/step")
    assert file["Content-Disposition"] == 'attachment; filename="test-spring.step"'
    assert len(b"".join(file.streaming_content)) == told["files"][0]["bytes"]
    assert client.get(f"/api/jobs/{build.id}/files/exe").status_code == 404


def test_a_build_is_of_the_revision_it_was_asked_for(build, spring, handed):
    design = build.revision.design_id
    designs.save(design, {**spring, "name": "Later"}, 1)
    work(*handed.pop())
    assert looked_after(Build, build.id).revision.number == 1


def test_a_waiting_build_can_be_cancelled(client, build, handed):
    told = client.post(f"/api/jobs/{build.id}/cancel").json()
    assert told["state"] == "cancelled"
    work(*handed.pop())
    build.refresh_from_db()
    assert build.state == Build.State.CANCELLED
    assert build.result == {}


def test_a_running_build_can_be_cancelled(build, handed, monkeypatch):
    real = kinds.build_files

    def cancel_then_build(*args, **kwargs):
        looked_after(Build, build.id)
        services.cancel(build)
        return real(*args, **kwargs)

    monkeypatch.setattr(kinds, "build_files", cancel_then_build)
    work(*handed.pop())
    assert looked_after(Build, build.id).state == Build.State.CANCELLED
    assert not kept().exists(f"{build.id}/1/part.step")


def test_a_stop_is_not_built(spring, handed):
    spring["path"]["pitch"] = 2
    build = request_build(designs.create(spring).design_id)
    work(*handed.pop())
    build = looked_after(Build, build.id)
    assert build.state == Build.State.FAILED
    assert "remedy" in build.error


def test_an_unusable_recipe_is_refused(client, spring, handed):
    spring["path"]["diameter"] = "8 *"
    design = designs.create(spring).design_id
    response = ask(client, design, {})
    assert response.status_code == 422
    assert json.loads(response.content)["problems"][0]["place"] == "/path/diameter"
    assert handed == []


def test_the_files_and_their_chord_error_are_chosen(client, spring, handed):
    design = designs.create(spring).design_id
    asked = ask(client, design, {"formats": [".3mf", ".ply"], "chord_error": 0.05}).json()
    work(*handed.pop())
    told = client.get(f"/api/jobs/{asked['id']}").json()
    assert [file["suffix"] for file in told["files"]] == [".3mf", ".ply"]
    assert client.get(f"/api/jobs/{asked['id']}/files/3mf").status_code == 200
    assert client.get(f"/api/jobs/{asked['id']}/files/step").status_code == 404
    for body, place in (
        ({"formats": [".doc"]}, "/formats"),
        ({"formats": []}, "/formats"),
        ({"chord_error": -1}, "/chord_error"),
    ):
        refused = ask(client, design, body)
        assert refused.status_code == 422
        assert refused.json()["problems"][0]["place"] == place


def silent(build, attempt):
    """As if the worker of an attempt had told once, and then no more."""
    board.Desk(str(build.id), attempt).progress(0.3, "building")
    looked_after(Build, build.id)
    Build.objects.filter(pk=build.id).update(beat_seen=timezone.now() - 2 * services.SILENT)


def test_a_build_whose_worker_was_lost_is_done_once_by_another(build, handed):
    lost = handed.pop()
    silent(build, 1)
    assert looked_after(Build, build.id).attempt == 2
    work(*handed.pop())
    done = looked_after(Build, build.id)
    assert done.state == Build.State.DONE
    assert done.result["files"][".step"] == f"{build.id}/2/part.step"
    work(*lost)
    assert looked_after(Build, build.id).result == done.result
    assert not kept().exists(f"{build.id}/1/part.step")


def test_a_build_whose_worker_is_stopped_is_done_by_another(build, handed, monkeypatch):
    """A worker that ends ends its children; that is no fault of the build."""
    real = kinds.build_files

    def end_children(share, step):
        for child in multiprocessing.active_children():
            child.terminate()

    def stopped(part, drafts, chord_error, progress, cancelled):
        monkeypatch.setattr(kinds, "build_files", real)
        return real(part, drafts, chord_error, end_children, cancelled)

    monkeypatch.setattr(kinds, "build_files", stopped)
    work(*handed.pop())
    assert looked_after(Build, build.id).state in Build.ACTIVE
    silent(build, 1)
    assert looked_after(Build, build.id).attempt == 2
    work(*handed.pop())
    assert looked_after(Build, build.id).state == Build.State.DONE


def test_a_late_worker_leaves_nothing_of_its_own(build, handed, monkeypatch):
    first = handed.pop()
    real = kinds.build_files

    def overtaken(*args, **kwargs):
        monkeypatch.setattr(kinds, "build_files", real)
        silent(build, 1)
        looked_after(Build, build.id)
        work(*handed.pop())
        return real(*args, **kwargs)

    monkeypatch.setattr(kinds, "build_files", overtaken)
    work(*first)
    done = looked_after(Build, build.id)
    assert done.result["files"][".stl"] == f"{build.id}/2/part.stl"
    assert not kept().exists(f"{build.id}/1/part.stl")


def test_a_build_that_kills_its_workers_is_given_up(build, handed):
    for attempt in range(1, services.MOST_ATTEMPTS + 1):
        handed.pop()
        silent(build, attempt)
        looked_after(Build, build.id)
    build.refresh_from_db()
    assert build.state == Build.State.FAILED
    assert "worker was stopped" in build.error
    assert handed == []


def test_a_build_lost_with_its_queue_is_handed_over_again(build, handed):
    handed.clear()
    Build.objects.filter(pk=build.id).update(beat_seen=timezone.now() - 2 * services.LOST)
    assert looked_after(Build, build.id).attempt == 2
    assert len(handed) == 1
