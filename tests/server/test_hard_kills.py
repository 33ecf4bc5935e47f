"""kill -9 of the server, the worker and their supervisor at random moments, during saves and builds.

METASPIRA_KILLS says how often; twice by default, to keep the run short, and four times in the thorough one.
"""

import contextlib
import os
import random
import signal
import sqlite3
import subprocess
import threading
import time
import urllib.error
from http.client import HTTPException
from pathlib import Path

import pytest

from tests.conftest import SPRING
from tests.running import call, children_of, end, environment, free_port, manage, serve, wait_for

pytestmark = pytest.mark.processes


class Typist(threading.Thread):
    """Saves a design over and over, and has it built now and then; keeps what was acknowledged."""

    def __init__(self, address):
        super().__init__(daemon=True)
        self.address = address
        self.done = threading.Event()
        self.saved: dict[int, str] = {}
        self.builds: list[str] = []
        first = call(f"{address}/api/designs", {"recipe": self.recipe(0)})
        self.design, self.head = first["id"], first["revision"]

    def recipe(self, count):
        return {**SPRING, "note": f"save {count}", "path": {**SPRING["path"], "turns": 20}}

    def run(self):
        own = f"{self.address}/api/designs/{self.design}"
        for count in range(1, 10**6):
            if self.done.is_set():
                return
            try:
                body = {"recipe": self.recipe(count), "based_on": self.head}
                self.head = call(own, body, "PUT")["revision"]
                self.saved[self.head] = body["recipe"]["note"]
                if count % 80 == 0:
                    asked = call(f"{own}/builds", {"formats": [".step", ".stl"]})
                    self.builds.append(asked["id"])
            except urllib.error.HTTPError as error:
                assert error.code == 409, error.read()
                self.head = call(own)["revision"]
            except (OSError, HTTPException):
                self.catch_up(own)

    def save_on(self, count):
        """Wait for that many saves more."""
        goal, until = len(self.saved) + count, time.monotonic() + 120
        while len(self.saved) < goal:
            assert self.is_alive() and time.monotonic() < until, self.saved
            time.sleep(0.02)

    def catch_up(self, own):
        """Wait until the server is there again, and go on from what it has."""
        while not self.done.is_set():
            try:
                self.head = call(own)["revision"]
                return
            except (OSError, HTTPException):
                time.sleep(0.1)


@pytest.mark.skipif(not Path("/proc").exists(), reason="needs process groups")
def test_no_acknowledged_save_is_lost_and_every_build_ends(tmp_path, pytestconfig):
    kills = int(os.environ.get("METASPIRA_KILLS", 4 if pytestconfig.getoption("--all") else 2))
    chance = random.Random(7)
    env = environment(tmp_path)
    manage("migrate", env)
    port = free_port()
    address = f"http://127.0.0.1:{port}"
    supervisor = serve(env, port)
    killed = dict.fromkeys(("gunicorn", "run_huey", "supervisord"), 0)
    try:
        wait_for(f"{address}/api/designs")
        typist = Typist(address)
        typist.start()
        for _ in range(kills):
            typist.save_on(6)
            time.sleep(chance.uniform(0.0, 2.0))
            name = chance.choice(list(killed))
            killed[name] += 1
            if name == "supervisord":
                supervisor.kill()
                supervisor.wait()
                supervisor = serve(env, port)
            for child in children_of(supervisor.pid, name):
                with contextlib.suppress(ProcessLookupError):
                    os.kill(child, signal.SIGKILL)
            wait_for(f"{address}/api/designs")
        typist.save_on(6)
        typist.done.set()
        typist.join(30)
        settle(supervisor.pid, port)
        for number, note in typist.saved.items():
            kept = call(f"{address}/api/designs/{typist.design}/revisions/{number}")
            assert kept["recipe"]["note"] == note
        for build in typist.builds:
            ended(address, build, tmp_path / "builds")
        print(f"{killed}; {len(typist.saved)} saves and {len(typist.builds)} builds, none lost")
    finally:
        end(supervisor)
    for name in ("metaspira.sqlite3", "tasks.sqlite3"):
        with sqlite3.connect(tmp_path / name) as database:
            assert database.execute("PRAGMA integrity_check").fetchone() == ("ok",)


def settle(supervisor, port):
    """Wait until all that answers was started by the supervisor: what a killed server leaves behind answers
    for a moment more, and ends with its requests."""
    until = time.monotonic() + 60
    while time.monotonic() < until:
        masters = children_of(supervisor, "gunicorn")
        own = {*masters, *(child for pid in masters for child in children_of(pid, "gunicorn"))}
        command = ["pgrep", "-f", f"gunicorn metaspira_server.wsgi .*:{port}$"]
        found = subprocess.run(command, capture_output=True, text=True).stdout.split()
        if own and own == {int(pid) for pid in found}:
            return wait_for(f"http://127.0.0.1:{port}/api/designs")
        time.sleep(0.2)
    raise AssertionError("the server was not started again")


def ended(address, build, files):
    """A build is done, and its files are whole, or it says why it is not."""
    until = time.monotonic() + 240
    while (told := call(f"{address}/api/jobs/{build}"))["state"] in ("queued", "running"):
        assert time.monotonic() < until, told
        time.sleep(0.2)
    if told["state"] == "failed":
        assert "worker was stopped" in told["error"]
        return
    for file in told["files"]:
        found = list(files.glob(f"{build}/*/part{file['suffix']}"))
        assert [path.stat().st_size for path in found] == [file["bytes"]]
