"""The real server and the real worker on data of their own, and Debian's chromium without a screen."""

import shutil
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.running import demo_server

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

expect.set_options(timeout=30_000)


def pytest_collection_modifyitems(items):
    here = Path(__file__).parent
    for item in items:
        if here in item.path.parents:
            item.add_marker("processes")


@pytest.fixture(scope="session")
def server(tmp_path_factory):
    """Address of a running Metaspira with the demo designs on its shelf."""
    with demo_server(tmp_path_factory.mktemp("data")) as address:
        yield address


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    return {**browser_type_launch_args, "executable_path": shutil.which("chromium"), "args": QUIET}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}}


@pytest.fixture
def visit(page, server):
    """A page on nothing yet; what a test puts on the shelf is taken off at its end: the next finds the demo
    designs."""
    page.set_default_timeout(60_000)
    before = _designs(page, server)
    yield page
    page.goto("about:blank")
    for made in _designs(page, server) - before:
        assert page.request.delete(f"{server}/api/designs/{made}").ok


@pytest.fixture
def shelf(visit, server):
    """The shelf, open."""
    visit.goto(server, wait_until="domcontentloaded")
    visit.get_by_role("list", name="Designs").get_by_role("listitem").first.wait_for()
    return visit


def _designs(page, server):
    return {design["id"] for design in page.request.get(f"{server}/api/designs").json()}


@pytest.fixture
def bench(visit, server):
    """A new design, open on the bench with its part on show."""
    made = visit.request.post(f"{server}/api/designs", data={}).json()
    visit.goto(f"{server}/designs/{made['id']}", wait_until="domcontentloaded")
    visit.locator("[data-figure=wire_length]").wait_for()
    return visit
