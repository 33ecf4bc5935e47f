"""The real server and the real worker on data of their own, and Debian's chromium without a screen."""

import json
import shutil
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.running import LATER, demo_server

QUIET = [
    "--no-sandbox",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--disable-gpu-compositing",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--no-first-run",
]

ROUGH_EDGES = (
    "const get = HTMLCanvasElement.prototype.getContext;"
    "HTMLCanvasElement.prototype.getContext = function (kind, asked) {"
    "  return get.call(this, kind, { ...asked, antialias: false }); }"
)
"""Without a graphics card, smooth edges cost as much again as the whole picture."""

expect.set_options(timeout=30_000)


def pytest_collection_modifyitems(items):
    for item in items:
        if "server" in getattr(item, "fixturenames", ()) and Path(__file__).parent in item.path.parents:
            item.add_marker("browser")


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
    """Of a screen with few pixels, since without a graphics card each of them takes its time."""
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "device_scale_factor": 0.5}


@pytest.fixture(scope="session")
def kept(playwright, browser_type_launch_args, tmp_path_factory):
    """The browser of some options, which keeps the scripts that it compiled from test to test."""
    browsers = {}

    def context_of(options):
        key = json.dumps(options, sort_keys=True)
        if key not in browsers:
            browsers[key] = playwright.chromium.launch_persistent_context(
                tmp_path_factory.mktemp("browser"), **browser_type_launch_args, **options
            )
            browsers[key].add_init_script(ROUGH_EDGES)
        return browsers[key]

    yield context_of
    for browser in browsers.values():
        browser.close()


@pytest.fixture
def context(kept, browser_context_args, server):
    """A browser that knows nothing of the tests before."""
    own = kept(browser_context_args)
    yield own
    first, *pages = own.pages
    for page in pages:
        page.close()
    own.clear_cookies()
    session = own.new_cdp_session(first)
    session.send("Storage.clearDataForOrigin", {"origin": server, "storageTypes": "local_storage,indexeddb"})
    session.detach()


@pytest.fixture
def visit(page, server):
    """A page on nothing yet; what a test puts on the shelf is taken off at its end: the next finds the demo
    designs."""
    page.set_default_timeout(LATER)
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
