"""The real server and the real workers as processes of their own, for tests."""

from __future__ import annotations

import contextlib
import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

LATER = 300_000
"""How long, ms, what a worker makes may take beside all that else goes on on few processors."""

ROOT = Path(__file__).resolve().parents[1]
BIN = Path(sys.executable).parent


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def environment(data: Path, **more: str) -> dict[str, str]:
    """That of this process, with data of its own."""
    own = {**os.environ, "METASPIRA_DATA": str(data), "PATH": f"{BIN}{os.pathsep}{os.environ['PATH']}"}
    own.pop("DJANGO_SETTINGS_MODULE", None)
    return {**own, **more}


def manage(command: str, env: dict[str, str]) -> None:
    command_line = [sys.executable, "server/manage.py", command, "--verbosity", "0", "--skip-checks"]
    subprocess.run(command_line, cwd=ROOT, env=env, check=True)


def started(command: list[str | Path], env: dict[str, str]) -> subprocess.Popen[bytes]:
    """A process that leads a group of its own."""
    return subprocess.Popen(
        command,
        cwd=ROOT,
        env=env,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )


@contextlib.contextmanager
def demo_server(data: Path) -> Iterator[str]:
    """The address of a running Metaspira with the demo designs on its shelf."""
    port = free_port()
    address = f"http://127.0.0.1:{port}"
    process = started([ROOT / "bin/serve", "--demo"], environment(data, METASPIRA_BIND=f"127.0.0.1:{port}"))
    try:
        wait_for(f"{address}/api/designs", 180)
        yield address
    finally:
        end(process)


def worker(env: dict[str, str]) -> subprocess.Popen[bytes]:
    return started([ROOT / "bin/worker"], env)


def web(env: dict[str, str], port: int) -> subprocess.Popen[bytes]:
    return started([ROOT / "bin/web"], {**env, "METASPIRA_BIND": f"127.0.0.1:{port}"})


def serve(env: dict[str, str], port: int) -> subprocess.Popen[bytes]:
    """The supervisor, with a server and a worker."""
    return started([ROOT / "bin/serve"], {**env, "METASPIRA_BIND": f"127.0.0.1:{port}"})


def children_of(pid: int, what: str) -> list[int]:
    """The processes that a process started whose command lines hold `what`."""
    found = subprocess.run(["pgrep", "-P", str(pid), "-f", what], capture_output=True, text=True)
    return [int(line) for line in found.stdout.split()]


def end(process: subprocess.Popen[bytes], how: int = signal.SIGTERM) -> None:
    """Stop a process with its group."""
    with contextlib.suppress(ProcessLookupError):
        os.killpg(process.pid, how)
    process.wait(timeout=120)


def wait_for(address: str, seconds: float = 60.0) -> None:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        try:
            urllib.request.urlopen(address, timeout=5).close()
        except OSError:
            time.sleep(0.2)
        else:
            return
    raise RuntimeError("the server did not start")


def call(address: str, body: Any = None, method: str | None = None, timeout: float = 30.0) -> Any:
    """The JSON answer. Raises OSError, urllib.error.HTTPError among them."""
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(address, data, {"Content-Type": "application/json"}, method=method)
    with urllib.request.urlopen(request, timeout=timeout) as answer:
        return json.load(answer)
