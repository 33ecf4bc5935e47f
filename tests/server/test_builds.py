"""Builds, run in this process through the same service that the worker calls."""

import json

import pytest
from builds import services
from builds.models import Build
from designs import services as designs

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def no_worker(monkeypatch):
    monkeypatch.setattr("builds.tasks.run_build", lambda build_id: None)


@pytest.fixture
def build(spring, no_worker):
    return services.request_build(designs.create(spring).design_id)


def test_a_build_keeps_proven_files(client, build):
    services.run(build.id)
    told = client.get(f"/api/builds/{build.id}").json()
    assert told["state"] == "done"
    assert told["proofs"][".step"]["relative_error"] < 1e-6
    assert {file["suffix"] for file in told["files"]} == {".step", ".stl", ".glb"}
    file = client.get(f"/api/builds/{build.id}/files/step")
    assert file["Content-Disposition"] == 'attachment; filename="test-spring.step"'
    assert b"".join(file.streaming_content).startswith(b"ISO-10303-21")
    assert client.get(f"/api/builds/{build.id}/files/exe").status_code == 404


def test_a_build_is_of_the_revision_it_was_asked_for(build, spring):
    design = build.revision.design_id
    designs.save(design, {**spring, "name": "Later"}, 1)
    services.run(build.id)
    build.refresh_from_db()
    assert build.revision.number == 1


def test_a_waiting_build_can_be_cancelled(client, build):
    told = client.post(f"/api/builds/{build.id}/cancel").json()
    assert told["state"] == "cancelled"
    services.run(build.id)
    build.refresh_from_db()
    assert build.state == Build.State.CANCELLED


def test_a_running_build_can_be_cancelled(build, monkeypatch):
    real = services.build_files

    def cancel_then_build(*args, **kwargs):
        services.cancel(build.id)
        return real(*args, **kwargs)

    monkeypatch.setattr(services, "build_files", cancel_then_build)
    services.run(build.id)
    build.refresh_from_db()
    assert build.state == Build.State.CANCELLED
    assert not build.file(".step").exists()


def test_a_stop_is_not_built(client, spring, no_worker):
    spring["path"]["pitch"] = 2
    build = services.request_build(designs.create(spring).design_id)
    services.run(build.id)
    build.refresh_from_db()
    assert build.state == Build.State.FAILED
    assert "remedy" in build.error


def test_an_unusable_recipe_is_refused(client, spring, no_worker):
    spring["path"]["diameter"] = "8 *"
    design = designs.create(spring).design_id
    response = ask(client, design, {})
    assert response.status_code == 422
    assert json.loads(response.content)["problems"][0]["place"] == "/path/diameter"


def ask(client, design, body):
    path = f"/api/designs/{design}/builds"
    return client.post(path, json.dumps(body), content_type="application/json")


def test_the_files_and_their_chord_error_are_chosen(client, spring, no_worker):
    design = designs.create(spring).design_id
    build = Build.objects.get(
        pk=ask(client, design, {"formats": [".3mf", ".ply"], "chord_error": 0.05}).json()["id"]
    )
    services.run(build.id)
    told = client.get(f"/api/builds/{build.id}").json()
    assert [file["suffix"] for file in told["files"]] == [".3mf", ".ply"]
    assert client.get(f"/api/builds/{build.id}/files/3mf").status_code == 200
    assert client.get(f"/api/builds/{build.id}/files/step").status_code == 404
    for body, place in (
        ({"formats": [".doc"]}, "/formats"),
        ({"formats": []}, "/formats"),
        ({"chord_error": -1}, "/chord_error"),
    ):
        refused = ask(client, design, body)
        assert refused.status_code == 422
        assert refused.json()["problems"][0]["place"] == place


def test_builds_that_a_worker_left_are_told_as_failed(build):
    Build.objects.filter(pk=build.pk).update(state=Build.State.RUNNING)
    services.fail_interrupted()
    build.refresh_from_db()
    assert build.state == Build.State.FAILED
    assert "build again" in build.error
