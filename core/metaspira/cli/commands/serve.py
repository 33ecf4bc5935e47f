"""The workbench in the browser, on this machine."""

from __future__ import annotations

import argparse
import os
import socket
import subprocess
import sys
from importlib.util import find_spec
from pathlib import Path as FilePath

import metaspira
from metaspira.problems import Problem, RecipeError

_NEEDED = ("django", "ninja", "huey", "gunicorn", "supervisor", "OCP")


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("--demo", action="store_true", help="put the sample designs on an empty shelf")
    parser.add_argument("--at", metavar="HOST:PORT", help="where it answers (127.0.0.1:8000)")
    parser.add_argument("--data", type=FilePath, help="the folder of its data (the user's own)")


def run(options: argparse.Namespace) -> int:
    """Bring the database up to date, and become the supervisor of the server and a worker."""
    missing = [name for name in _NEEDED if find_spec(name) is None]
    if missing:
        raise RecipeError(
            Problem("", f"the workbench needs {', '.join(missing)}", "pip install 'metaspira[solid,web]'")
        )
    kept = os.environ.get("METASPIRA_BIND", "")
    at = options.at or kept or "127.0.0.1:8000"
    if at != kept:  # a service that starts again waits for its own address
        _demand_free(at)
    data = (options.data or FilePath(os.environ.get("METASPIRA_DATA") or _own_folder())).resolve()
    try:
        data.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise RecipeError(Problem("--data", f"{data}: {error.strerror}", "name another folder")) from None
    env = {
        **os.environ,
        "METASPIRA_DATA": str(data),
        "METASPIRA_RUN": str(data),
        "METASPIRA_BIND": at,
        "METASPIRA_PYTHON": sys.executable,
    }
    os.chdir(_home())
    for command in ("migrate", *(["load_demo"] if options.demo else [])):  # the server checks itself
        quick = ["--verbosity", "0", "--skip-checks"]
        subprocess.run([sys.executable, "server/manage.py", command, *quick], env=env, check=True)
    print(f"Metaspira serves on http://{at}, its data in {data} (stop it with Ctrl-C)", flush=True)
    supervisor = ["-m", "supervisor.supervisord", "--configuration", "deploy/supervisord.conf"]
    os.execve(sys.executable, [sys.executable, *supervisor], env)


def _home() -> FilePath:
    """The folder with the server, the interface and the samples: in the package, or the checkout."""
    package = FilePath(metaspira.__file__).resolve().parent
    packed = package / "workbench"
    return packed if packed.is_dir() else package.parents[1]


def _own_folder() -> str:
    """Where the XDG Base Directory Specification has a user's data."""
    return os.path.join(os.environ.get("XDG_DATA_HOME") or os.path.expanduser("~/.local/share"), "metaspira")


def _demand_free(at: str) -> None:
    host, _, port = at.rpartition(":")
    try:
        with socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET) as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            probe.bind((host.strip("[]"), int(port)))
    except (OSError, ValueError, OverflowError) as error:
        reason = f"cannot answer at {at[:80]} ({error})"
        raise RecipeError(Problem("--at", reason, "use another, as in 127.0.0.1:9000")) from None
