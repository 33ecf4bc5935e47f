"""Faults of the machine told in words, health, and the data kept and put back while people save."""

import os
import sqlite3
import subprocess
import sys
import tarfile
import threading
import time
from datetime import timedelta

import pytest
from builds.models import Build
from builds.services import request_build
from designs import services
from designs.models import Design
from django.core.management import call_command
from django.db import connection
from django.test import Client
from django.utils import timezone
from jobs.files import keep, kept

from tests.conftest import SPRING
from tests.running import ROOT, call, end, environment, free_port, manage, wait_for, web

pytestmark = pytest.mark.processes


@pytest.fixture
def quiet_client():
    return Client(raise_request_exception=False)


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("pragma", "after", "status", "word"),
    [
        ("max_page_count = 1", "max_page_count = 1073741823", 507, "full"),
        ("query_only = ON", "query_only = OFF", 503, "written"),
    ],
)
def test_a_database_that_cannot_be_written_says_so(quiet_client, spring, pragma, after, status, word):
    with connection.cursor() as cursor:
        cursor.execute(f"PRAGMA {pragma}")
    try:
        big = {"recipe": {**spring, "note": "x" * 500_000}}
        answer = quiet_client.post("/api/designs", big, content_type="application/json")
    finally:
        with connection.cursor() as cursor:
            cursor.execute(f"PRAGMA {after}")
    assert answer.status_code == status
    assert word in answer.json()["problems"][0]["reason"]
    assert answer["Retry-After"]


@pytest.mark.django_db
def test_what_nobody_thought_of_keeps_the_shape(quiet_client, monkeypatch):
    def broken(*_):
        raise ZeroDivisionError

    monkeypatch.setattr(services, "shelf", broken)
    answer = quiet_client.get("/api/designs")
    assert answer.status_code == 500
    assert answer.json()["problems"][0]["remedy"]


@pytest.mark.django_db
def test_health_and_metrics(client, spring, monkeypatch, settings, tmp_path):
    settings.DATA = tmp_path
    services.create(spring)
    assert client.get("/health/live").status_code == 200
    told = client.get("/health/ready")
    assert told.json() == {"database": True, "queue": True, "disk": True}
    text = client.get("/metrics").content.decode()
    assert 'metaspira_kept{what="designs"} 1.0' in text
    assert client.get("/metrics", REMOTE_ADDR="10.0.0.4").status_code == 403
    monkeypatch.setattr("metaspira_server.health.HUEY.pending_count", lambda: 1 / 0)
    told = client.get("/health/ready")
    assert (told.status_code, told.json()["queue"]) == (503, False)


class Typist(threading.Thread):
    """Saves a design over and over, and keeps what was acknowledged."""

    def __init__(self, address, design):
        super().__init__(daemon=True)
        self.address, self.done, self.head = f"{address}/api/designs/{design}", threading.Event(), 1

    def run(self):
        while not self.done.is_set():
            body = {"recipe": {**SPRING, "note": str(self.head)}, "based_on": self.head}
            self.head = call(self.address, body, "PUT")["revision"]


def command(env, *words):
    return subprocess.run(
        [sys.executable, "server/manage.py", *words], cwd=ROOT, env=env, capture_output=True, text=True
    )


def test_a_backup_during_saves_holds_all_that_was_acknowledged(tmp_path):
    data, kept = tmp_path / "data", tmp_path / "kept.tar.gz"
    env = environment(data)
    manage("migrate", env)
    port = free_port()
    address = f"http://127.0.0.1:{port}"
    process = web(env, port)
    try:
        wait_for(f"{address}/api/designs")
        design = call(f"{address}/api/designs", {"recipe": SPRING})["id"]
        typist = Typist(address, design)
        typist.start()
        while typist.head < 5:
            time.sleep(0.05)
        acknowledged = typist.head
        assert command(env, "backup", str(kept)).returncode == 0
        assert typist.is_alive()
        typist.done.set()
        typist.join()
        assert not os.stat(kept).st_mode & 0o077
        with tarfile.open(kept) as file:
            file.extract("metaspira.sqlite3", tmp_path, filter="data")
        database = sqlite3.connect(tmp_path / "metaspira.sqlite3")
        (count,) = database.execute("SELECT count(*) FROM designs_revision").fetchone()
        assert acknowledged <= count <= typist.head

        other = Typist(address, call(f"{address}/api/designs", {"recipe": SPRING})["id"])
        other.run = lambda: [call(f"{address}/api/designs") for _ in range(40)]
        other.start()
        told = command(env, "restore", str(kept))
        assert told.returncode == 0, told.stderr
        other.join()
        listed = call(f"{address}/api/designs")
        assert [(item["id"], item["revision"]) for item in listed] == [(design, count)]
        call(f"{address}/api/designs/{design}", {"recipe": SPRING, "based_on": count}, "PUT")
    finally:
        end(process)


def test_what_is_no_backup_changes_nothing(tmp_path):
    data = tmp_path / "data"
    env = environment(data)
    manage("migrate", env)
    before = (data / "metaspira.sqlite3").read_bytes()
    for content in (b"", b"no tar", b"\x1f\x8b" + b"\0" * 100):
        (tmp_path / "bad").write_bytes(content)
        told = command(env, "restore", str(tmp_path / "bad"))
        assert told.returncode == 1
        assert "no whole backup" in told.stderr
    assert (data / "metaspira.sqlite3").read_bytes() == before


@pytest.mark.django_db
def test_what_is_off_the_shelf_is_listed_comes_back_and_is_destroyed(client, spring, handed):
    design = services.create(spring).design_id
    address = f"/api/designs/{design}"
    assert client.delete(f"{address}/forever").status_code == 422
    build = request_build(design)
    name = keep(str(build.pk), 1, "part.step", b"solid")
    Build.objects.update(state="done", finished=timezone.now(), result={"files": {".step": name}})
    client.delete(address)
    (gone,) = client.get("/api/designs/gone").json()
    assert gone["id"] == str(design)
    assert client.post(f"{address}/restore").status_code == 200
    client.delete(address)
    assert client.delete(f"{address}/forever").status_code == 204
    assert client.get("/api/designs/gone").json() == []
    assert client.post(f"{address}/restore").status_code == 404
    assert not Build.objects.exists()
    assert not kept().exists(name)


@pytest.mark.django_db
def test_tidying_takes_out_what_is_old_and_nothing_else(spring, handed, capsys):
    now = timezone.now()
    old, young = services.create(spring).design_id, services.create(spring).design_id
    builds = [request_build(key) for key in (old, young, young)]
    names = [keep(str(build.pk), 1, "part.step", b"solid") for build in builds]
    for build, days in zip(builds[:2], (31, 29), strict=True):
        ended = {"state": "done", "finished": now - timedelta(days=days)}
        Build.objects.filter(pk=build.pk).update(**ended)
    Design.objects.filter(pk=old).update(deleted=now - timedelta(days=91))
    Design.objects.filter(pk=young).update(deleted=now - timedelta(days=89))
    call_command("tidy")
    told = capsys.readouterr().out
    assert "1 designs" in told and "database" in told
    assert [design.pk for design in Design.objects.all()] == [young]
    assert {build.pk for build in Build.objects.all()} == {build.pk for build in builds[1:]}
    assert [kept().exists(name) for name in names] == [False, True, True]


def test_the_deployment_check_is_silent(tmp_path):
    env = environment(tmp_path, METASPIRA_TEAM="1", METASPIRA_HTTPS="1")
    told = command(env, "check", "--deploy", "--fail-level", "WARNING")
    assert (told.returncode, told.stderr) == (0, "")
