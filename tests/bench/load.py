"""Fifty people edit 200-turn designs on one server, with builds behind: how long they wait, and whether
anything is lost.

python tests/bench/load.py [PEOPLE [SECONDS]]

Each person changes a number, three keys a number, looks for about eight seconds, and goes on: three previews,
a check and a save a change, and a build at every tenth. The server and the worker are the real ones, on data
of their own and on this machine alone. The last line gives the 95th percentile of the previews, against the
aim of 300 ms on two cores.
"""

import gzip
import json
import random
import signal
import sys
import tempfile
import threading
import time
import urllib.request
from http.client import HTTPException
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[2]))

from tests.running import call, end, environment, free_port, manage, wait_for, web, worker

PEOPLE = int(sys.argv[1]) if len(sys.argv) > 1 else 50
SECONDS = float(sys.argv[2]) if len(sys.argv) > 2 else 60.0
THINKING = 8.0
KEYS = 3
AIM = 0.3

RECIPE = {
    "format": "metaspira/1",
    "name": "Long spring",
    "path": {"kind": "coil", "diameter": 20, "turns": 200, "pitch": 6},
    "section": {"kind": "round", "diameter": 2.5},
}


class Somebody(threading.Thread):
    """One person at a bench."""

    def __init__(self, address: str, number: int, until: float) -> None:
        super().__init__(daemon=True)
        self.address, self.until = address, until
        self.chance = random.Random(number)
        self.waits: dict[str, list[float]] = {"preview": [], "check": [], "save": []}
        self.errors: list[str] = []
        self.builds: list[str] = []
        self.recipe = json.loads(json.dumps(RECIPE))
        self.design = call(f"{address}/api/designs", {"recipe": self.recipe})
        self.head = self.design["revision"]

    def run(self) -> None:
        time.sleep(self.chance.uniform(0, THINKING))
        while time.monotonic() < self.until:
            for _ in range(KEYS):
                self.recipe["path"]["pitch"] = round(self.chance.uniform(4, 8), 3)
                self.timed("preview", "/api/parts/preview", self.recipe)
                time.sleep(self.chance.uniform(0.1, 0.4))
            self.timed("check", "/api/parts/check?remedies=false", self.recipe)
            own = f"/api/designs/{self.design['id']}"
            saved = self.timed("save", own, {"recipe": self.recipe, "based_on": self.head}, "PUT")
            if saved:
                self.head = json.loads(saved)["revision"]
            if self.chance.random() < 0.1:
                asked = self.timed("save", f"{own}/builds", {"formats": [".step"]})
                if asked:
                    self.builds.append(json.loads(asked)["id"])
            time.sleep(self.chance.expovariate(1 / THINKING))

    def timed(self, what: str, path: str, body: object, method: str = "POST") -> bytes:
        headers = {"Content-Type": "application/json", "Accept-Encoding": "gzip"}
        request = urllib.request.Request(
            self.address + path, json.dumps(body).encode(), headers, method=method
        )
        start = time.monotonic()
        try:
            with urllib.request.urlopen(request, timeout=60) as answer:
                data = answer.read()
                packed = answer.headers.get("Content-Encoding") == "gzip"
        except (OSError, HTTPException) as error:
            self.errors.append(f"{path}: {error}")
            return b""
        self.waits[what].append(time.monotonic() - start)
        if what == "save" and packed:
            data = gzip.decompress(data)
        return data


def main() -> int:
    with tempfile.TemporaryDirectory(prefix="metaspira-load-") as folder:
        env = environment(Path(folder))
        manage("migrate", env)
        port = free_port()
        address = f"http://127.0.0.1:{port}"
        processes = [web(env, port), worker(env)]
        try:
            wait_for(f"{address}/api/designs")
            people = [Somebody(address, k, time.monotonic() + SECONDS) for k in range(PEOPLE)]
            for somebody in people:
                somebody.until = time.monotonic() + SECONDS
                somebody.start()
            for somebody in people:
                somebody.join()
            lost = [
                somebody.design["id"]
                for somebody in people
                if call(f"{address}/api/designs/{somebody.design['id']}")["revision"] != somebody.head
            ]
        finally:
            for process in processes:
                end(process, signal.SIGKILL)
    errors = [error for somebody in people for error in somebody.errors]
    for what in ("preview", "check", "save"):
        waits = np.array([wait for somebody in people for wait in somebody.waits[what]])
        told = ", ".join(f"p{p} {1000 * np.percentile(waits, p):.0f} ms" for p in (50, 95, 99))
        print(f"{what:8} {len(waits):5} {told}")
    print(
        f"builds asked {sum(len(s.builds) for s in people)}, errors {len(errors)}, designs that lost "
        f"a save {len(lost)}"
    )
    print(*errors[:5], sep="\n")
    previews = np.array([wait for somebody in people for wait in somebody.waits["preview"]])
    slow = float(np.percentile(previews, 95))
    print(f"p95 of the preview is {slow / AIM:.2f} of the aim")
    return 1 if errors or lost else 0


if __name__ == "__main__":
    sys.exit(main())
