"""axe-core finds no violation (WCAG 2.2 A and AA) on any view, by day and by lamplight."""

from pathlib import Path

import pytest

AXE = Path(__file__).resolve().parents[2] / "web/node_modules/axe-core/axe.min.js"
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]


def violations(page):
    page.evaluate(AXE.read_text())
    found = page.evaluate("rules => axe.run({runOnly: rules})", RULES)
    return [
        (violation["id"], [node["html"][:160] for node in violation["nodes"]])
        for violation in found["violations"]
    ]


@pytest.fixture(params=["light", "dark"])
def browser_context_args(browser_context_args, request):
    return {**browser_context_args, "color_scheme": request.param, "bypass_csp": True}


def test_shelf(shelf):
    assert violations(shelf) == []


def test_bench_with_each_step_open(bench):
    for step in ("fit", "path", "section", "stance", "along", "ends", "checks", "solid"):
        header = bench.locator(f"#step-{step}")
        if header.get_attribute("aria-expanded") != "true":
            header.click()
        bench.wait_for_timeout(250)
        assert violations(bench) == [], step


def test_thread_finder_and_the_bench_of_a_thread(shelf):
    shelf.get_by_role("link", name="Find a thread").click()
    shelf.get_by_role("table", name="Sizes").wait_for()
    assert violations(shelf) == []
    shelf.get_by_role("tab", name="What is this thread?").click()
    shelf.wait_for_timeout(400)
    assert violations(shelf) == []
    shelf.get_by_role("button", name="Put it on the bench").click()
    shelf.locator("[data-figure=volume]").wait_for()
    for step in ("thread", "host", "ends", "mate", "gauging", "checks", "solid"):
        shelf.locator(f"#step-{step}").click()
        shelf.wait_for_timeout(250)
        assert violations(shelf) == [], step


def test_bench_that_stops(shelf):
    shelf.get_by_label("Open Hoist buffer, flat wire").click()
    shelf.locator("[data-remedy]").first.wait_for()
    assert violations(shelf) == []
