"""What keeping things costs, and what it withstands: `python tests/bench/lasting.py [KILLS]` rewrites the
second part of docs/benchmarks.md. The server and the worker are the real ones, on data of their own and on
this machine alone."""

from __future__ import annotations

import os
import re
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[2]))

from tests.conftest import SPRING
from tests.running import ROOT, call, end, environment, free_port, manage, wait_for, web
from tests.server.test_staying_up import drip

OUT = ROOT / "docs/benchmarks.md"
HEAD = "\n## What keeping costs, and what it withstands\n"
CLIENTS = 200
COMMITS = 400


def second_part(text: str) -> str:
    """What this bench wrote into a text of benchmarks."""
    _, found, rest = text.partition(HEAD)
    return found + rest


def commits(folder: Path, synchronous: str) -> float:
    """Seconds of a commit of one revision, median."""
    database = sqlite3.connect(folder / f"{synchronous}.sqlite3", isolation_level=None)
    database.execute("PRAGMA journal_mode=WAL")
    database.execute(f"PRAGMA synchronous={synchronous}")
    database.execute("CREATE TABLE revision (kept TEXT)")
    seconds = []
    for _ in range(COMMITS):
        start = time.perf_counter()
        database.execute("BEGIN IMMEDIATE")
        database.execute("INSERT INTO revision VALUES (?)", ("x" * 1500,))
        database.execute("COMMIT")
        seconds.append(time.perf_counter() - start)
    database.close()
    return float(np.median(seconds))


def shelf_waits(port: int, count: int = 200) -> float:
    """The 95th percentile of the shelf's answers, s."""
    waits = []
    for _ in range(count):
        start = time.perf_counter()
        call(f"http://127.0.0.1:{port}/api/designs")
        waits.append(time.perf_counter() - start)
    return float(np.percentile(waits, 95))


def with_slow_clients(folder: Path) -> tuple[float, float]:
    """The same, with nobody else and with clients that send a byte a second."""
    env = environment(folder)
    manage("migrate", env)
    port, done = free_port(), threading.Event()
    server = web(env, port)
    try:
        wait_for(f"http://127.0.0.1:{port}/api/designs")
        call(f"http://127.0.0.1:{port}/api/designs", {"recipe": SPRING})
        alone = shelf_waits(port)
        for n in range(CLIENTS):
            threading.Thread(target=drip, args=(port, n % 2, done), daemon=True).start()
        time.sleep(5)
        return alone, shelf_waits(port)
    finally:
        done.set()
        end(server)


def kills(count: int) -> str:
    """What the test of hard kills says of so many."""
    told = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "-s", "tests/server/test_hard_kills.py"],
        cwd=ROOT,
        env={**os.environ, "METASPIRA_KILLS": str(count)},
        capture_output=True,
        text=True,
    )
    found = re.search(r"^(\{.*none lost)$", told.stdout, re.MULTILINE)
    return found[1] if found and told.returncode == 0 else f"FAILED: {told.stdout[-400:]}"


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    with tempfile.TemporaryDirectory(prefix="metaspira-lasting-", dir=ROOT / "var") as name:
        full, normal = (commits(Path(name), mode) for mode in ("FULL", "NORMAL"))
        alone, slow = with_slow_clients(Path(name) / "data")
    rows = [
        "| what | figure | beside it | ratio |",
        "| --- | ---: | ---: | ---: |",
        f"| a commit of a revision with `synchronous=FULL`, as it runs | {1e3 * full:.2f} ms "
        f"| with NORMAL {1e3 * normal:.2f} ms | {full / normal:.1f} |",
        f"| p95 of the shelf while {CLIENTS} clients send a byte a second | {1e3 * slow:.0f} ms "
        f"| with nobody else {1e3 * alone:.0f} ms | {slow / alone:.1f} |",
    ]
    first = OUT.read_text().partition(HEAD)[0].rstrip("\n")
    told = f"{count} kills (SIGKILL) at random moments during saves and builds: {kills(count)}."
    OUT.write_text(
        f"{first}\n{HEAD}\nWritten by `python tests/bench/lasting.py {count}`.\n\n"
        + "\n".join(rows)
        + f"\n\n{told}\n"
    )


if __name__ == "__main__":
    main()
