"""Takes the README's pictures, all or those named, from the demo that `bin/demo` serves on this machine.

.venv/bin/python docs/screenshots/take.py [NAME ...]
"""

import shutil
import sys
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parents[1]))

from playwright.sync_api import Page, sync_playwright  # noqa: E402

from tests.browser.conftest import QUIET  # noqa: E402
from tests.browser.test_bench import open_step  # noqa: E402

ADDRESS = "http://127.0.0.1:8000"
DRAWN = "[...document.images].every(i => i.getBoundingClientRect().top > innerHeight || i.naturalWidth > 0)"


class Start(NamedTuple):
    address: str
    stage: Callable[[Page], object] = lambda page: None


class View(NamedTuple):
    design: str
    step: str | None = None
    scroll: int = 0
    stage: Callable[[Page], object] = lambda page: None


def slid(page: Page) -> None:
    slider = page.get_by_role("slider", name="under load")
    slider.focus()
    for _ in range(8):
        page.keyboard.press("PageUp")


def press(name: str) -> Callable[[Page], None]:
    return lambda page: page.get_by_role("button", name=name, exact=True).click()


def handed_over(page: Page) -> None:
    page.get_by_role("button", name="Hand over").click()
    page.get_by_role("button", name="Make the archive", exact=True).click()
    page.locator("code").first.wait_for(timeout=90_000)


def expected(page: Page) -> None:
    for name in ("volume", "mass"):
        page.get_by_role("combobox", name="Expect a value of").click()
        page.get_by_role("option", name=name, exact=True).click()
    page.get_by_role("textbox", name="Expected mass").fill("36.9")
    page.get_by_role("button", name="Take material brass").first.wait_for()


def changed(page: Page) -> None:
    for label, value in (("Pitch, held", "7"), ("Diameter", "18")):
        page.get_by_label(label, exact=True).fill(value)
    page.wait_for_timeout(2500)
    page.get_by_role("button", name="Compare").click()
    page.get_by_role("combobox", name="Before").click()
    page.get_by_role("option", name="revision 1", exact=True).click()
    page.get_by_role("button", name="cut through the axis").click()


def surveyed(page: Page) -> None:
    page.get_by_role("button", name="Survey").click()
    page.get_by_role("button", name="Add a second input").click()
    page.get_by_role("combobox", name="Second input").click()
    page.get_by_role("option", name="variable wire").click()
    page.get_by_role("button", name="Try them all").click()
    page.get_by_role("link", name="Table as CSV").wait_for(timeout=120_000)
    page.get_by_role("group", name="by pitch").get_by_role("button").nth(250).click()


def wound(page: Page) -> None:
    page.get_by_role("button", name="Winding").click()
    page.get_by_role("button", name="Wind it on the simulated former").click()
    page.get_by_role("table", name="Measured beside the design").wait_for()
    page.get_by_role("button", name="Load it on the simulated tester").click()
    page.get_by_role("table", name="Readings of the load tester").wait_for()


def ran(page: Page) -> None:
    page.get_by_role("button", name="Run-through").click()
    page.get_by_role("combobox", name="Input 1").click()
    page.get_by_role("option", name="spring point 2 length").click()
    page.get_by_label("Moves through").fill("50 18 50")
    page.get_by_role("button", name="Run it through").click()
    page.get_by_role("button", name="Show the first clash").click(timeout=60_000)


def traced(page: Page) -> None:
    page.get_by_role("button", name="or a made-up scan").click()
    page.get_by_role("button", name="Take the rounded numbers").click(timeout=120_000)
    page.get_by_role("region", name="The scan that it was traced from").wait_for()


def sought(page: Page) -> None:
    page.get_by_role("textbox").first.fill("1/4-20 UNC-2A")


BENCHES = {
    "bench-clear": View("Shutter return spring"),
    "bench-lamplight": View("Shutter return spring", stage=press("Lamplight")),
    "bench-stop": View("Hoist buffer, flat wire", "checks"),
    "along-points": View("Fog horn, star tube that blends", "along"),
    "wires-rope": View("Boat hoist, rope of seven", "wires"),
    "hand-over": View("Damper spring, closed and ground", stage=handed_over),
    "spring-load": View("Hinge damper, measured", "load", 420, slid),
    "survey": View("Shutter return spring", stage=surveyed),
    "winding": View("Damper spring, closed and ground", stage=wound),
    "run-through": View("Shutter return spring", stage=ran),
    "weigh": View("Hinge damper, measured", "weigh", 480, expected),
    "changes": View("Shutter return spring", "path", 0, changed),
    "thread-bench": View("Lens clamp bolt, M10 and its nut", "joint", 0, press("Section plane")),
}
PAGES = {
    "shelf": Start("/"),
    "start": Start("/new"),
    "trace": Start("/new", traced),
    "spring-finder": Start("/springs"),
    "thread-finder": Start("/threads", sought),
    "verification": Start("/verification"),
}


def take(page: Page, name: str) -> None:
    if name in PAGES:
        address, stage = PAGES[name]
        page.goto(ADDRESS + address)
        stage(page)
    else:
        view = BENCHES[name]
        page.goto(ADDRESS)
        page.get_by_role("link", name=view.design).first.click()
        page.locator("canvas").first.wait_for()
        if view.step:
            open_step(page, view.step)
        page.wait_for_timeout(1500)
        view.stage(page)
        page.wait_for_timeout(500)
        if view.scroll:
            page.get_by_role("navigation", name="Steps").evaluate(
                "(nav, to) => nav.scrollTo(0, to)", view.scroll
            )
    page.wait_for_load_state("networkidle")
    page.wait_for_function(DRAWN)
    page.wait_for_timeout(2500)
    page.mouse.move(640, 20)
    page.screenshot(path=HERE / f"{name}.png")


with sync_playwright() as player:
    browser = player.chromium.launch(executable_path=shutil.which("chromium"), args=QUIET)
    for name in sys.argv[1:] or [*PAGES, *BENCHES]:
        fresh = browser.new_page(viewport={"width": 1280, "height": 800})
        fresh.set_default_timeout(60_000)
        take(fresh, name)
        fresh.close()
        print(name)
