"""The real server and the real worker on data of their own, and Debian's chromium without a screen."""

import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
QUIET = [
    "--no-sandbox",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--no-first-run",
]


@pytest.fixture(scope="session")
def server(tmp_path_factory):
    """Address of a running Metaspira with the demo designs on its shelf."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        bind = f"127.0.0.1:{probe.getsockname()[1]}"
    bin_folder = Path(sys.executable).parent
    environment = {
        **os.environ,
        "METASPIRA_DATA": str(tmp_path_factory.mktemp("data")),
        "METASPIRA_BIND": bind,
        "PATH": f"{bin_folder}{os.pathsep}{os.environ['PATH']}",
    }
    environment.pop("DJANGO_SETTINGS_MODULE", None)
    for command in ("migrate", "load_demo"):
        subprocess.run(
            [sys.executable, "server/manage.py", command], cwd=ROOT, env=environment, check=True
        )
    process = subprocess.Popen(
        [bin_folder / "honcho", "--no-colour", "start"],
        cwd=ROOT,
        env=environment,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    address = f"http://{bind}"
    try:
        _wait_for(f"{address}/api/designs")
        yield address
    finally:
        os.killpg(process.pid, signal.SIGTERM)
        process.wait(timeout=20)


def _wait_for(address):
    for _ in range(300):
        try:
            urllib.request.urlopen(address, timeout=5).close()
        except OSError:
            time.sleep(0.2)
        else:
            return
    raise RuntimeError("the server did not start")


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    return {**browser_type_launch_args, "executable_path": shutil.which("chromium"), "args": QUIET}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}}


@pytest.fixture
def shelf(page, server):
    """The shelf, open."""
    page.set_default_timeout(60_000)
    page.goto(server, wait_until="domcontentloaded")
    page.get_by_role("list", name="Designs").get_by_role("listitem").first.wait_for()
    return page


@pytest.fixture
def bench(shelf):
    """A new design, open on the bench with its part on show."""
    shelf.get_by_role("button", name="New design").click()
    shelf.locator("[data-figure=wire_length]").wait_for()
    return shelf
