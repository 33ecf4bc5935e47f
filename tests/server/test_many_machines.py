"""Two workers without a database on a real Redis; one is killed in mid-build."""

import shutil
import signal
import subprocess
import time
from pathlib import Path

import pytest

from tests.conftest import SPRING
from tests.running import call, end, environment, free_port, manage, started, wait_for, web, worker

pytestmark = pytest.mark.processes


@pytest.fixture
def machines(tmp_path):
    """Address of a server, and two workers by name, each on data of its own; the storage is all they
    share."""
    redis = shutil.which("redis-server")
    assert redis, "bin/test sets Redis up"
    port, queue = free_port(), free_port()
    shared = {
        "REDIS_URL": f"redis://127.0.0.1:{queue}/0",
        "METASPIRA_STORAGE_OPTIONS": f'{{"location": "{tmp_path / "shared"}"}}',
    }
    at_home = environment(tmp_path / "home", **shared)
    manage("migrate", at_home)
    processes = [
        started(
            [redis, "--port", str(queue), "--bind", "127.0.0.1", "--save", "", "--dir", str(tmp_path)],
            at_home,
        ),
        web(at_home, port),
    ]
    workers = {name: worker(environment(tmp_path / name, **shared)) for name in ("east", "west")}
    try:
        wait_for(f"http://127.0.0.1:{port}/api/designs")
        yield f"http://127.0.0.1:{port}", workers
    finally:
        for process in (*workers.values(), *processes):
            end(process, signal.SIGKILL)


def descendants(pid: int) -> int:
    """How many processes a process has started, theirs counted too."""
    table = subprocess.run(["ps", "-eo", "pid=,ppid="], capture_output=True, text=True, check=True)
    parent = {int(a): int(b) for a, b in (line.split() for line in table.stdout.splitlines())}
    found, at = 0, {pid}
    while at:
        at = {child for child, its in parent.items() if its in at}
        found += len(at)
    return found


def test_a_build_is_done_once_though_its_worker_is_killed(machines, tmp_path):
    address, workers = machines
    recipe = {**SPRING, "path": {**SPRING["path"], "turns": 400}}
    design = call(f"{address}/api/designs", {"recipe": recipe})["id"]
    before = {name: descendants(process.pid) for name, process in workers.items()}
    build = call(f"{address}/api/designs/{design}/builds", {"formats": [".step"]})["id"]
    until = time.monotonic() + 300
    while (told := call(f"{address}/api/jobs/{build}"))["progress"] == 0:
        assert told["state"] in ("queued", "running")
        assert time.monotonic() < until
        time.sleep(0.05)
    busy = max(workers, key=lambda name: descendants(workers[name].pid) - before[name])
    end(workers[busy], signal.SIGKILL)
    until = time.monotonic() + 600
    while (told := call(f"{address}/api/jobs/{build}"))["state"] in ("queued", "running"):
        assert time.monotonic() < until
        time.sleep(0.3)
    assert told["state"] == "done", told["error"]
    assert told["proofs"][".step"]["valid"]
    kept = [file for file in (tmp_path / "shared").rglob("*") if file.is_file()]
    assert [file.relative_to(tmp_path / "shared") for file in kept] == [Path(build, "2", "part.step")]
    assert kept[0].stat().st_size == told["files"][0]["bytes"]
    assert not any((tmp_path / name / "metaspira.sqlite3").exists() for name in workers)


def test_without_redis_one_works_on_and_long_work_waits_for_it(tmp_path):
    port, queue = free_port(), free_port()
    env = environment(tmp_path, REDIS_URL=f"redis://127.0.0.1:{queue}/0")
    manage("migrate", env)
    address = f"http://127.0.0.1:{port}"
    processes = [web(env, port)]
    try:
        wait_for(f"{address}/api/designs")
        design = call(f"{address}/api/designs", {"recipe": SPRING})["id"]
        assert call(f"{address}/api/parts/check", SPRING)["verdict"] == "clear"
        told = call(
            f"{address}/api/designs/{design}",
            {"recipe": {**SPRING, "note": "more"}, "based_on": 1},
            "PUT",
        )
        assert told["revision"] == 2
        build = call(f"{address}/api/designs/{design}/builds", {"formats": [".stl"]})
        for _ in range(2):
            assert (build["state"], build["step"]) == ("queued", "the queue cannot be reached")
            build = call(f"{address}/api/jobs/{build['id']}")
        redis = [
            "redis-server",
            "--port",
            str(queue),
            "--bind",
            "127.0.0.1",
            "--save",
            "",
            "--dir",
            str(tmp_path),
        ]
        processes += [started(redis, env), worker(env)]
        until = time.monotonic() + 600
        while build["state"] in ("queued", "running"):
            assert time.monotonic() < until, build
            time.sleep(0.3)
            build = call(f"{address}/api/jobs/{build['id']}")
        assert build["state"] == "done", build
    finally:
        for process in processes:
            end(process, signal.SIGKILL)
