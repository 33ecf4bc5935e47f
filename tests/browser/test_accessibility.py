"""axe-core finds no violation (WCAG 2.2 A and AA) on any view, by day and by lamplight."""

from pathlib import Path

import pytest

AXE = Path(__file__).resolve().parents[2] / "web/node_modules/axe-core/axe.min.js"
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
STEP = "xpath=ancestor::*[contains(@class, 'MuiAccordion-root')]"


def violations(page, within=None):
    """Of the whole page, or within an element of it."""
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(AXE.read_text())
    found = page.evaluate(
        "([rules, within]) => axe.run(within ?? document, {runOnly: rules, resultTypes: ['violations']})",
        [RULES, within],
    )
    return [
        (violation["id"], [node["html"][:160] for node in violation["nodes"]])
        for violation in found["violations"]
    ]


def of_step(page, step):
    """What is at fault within a step, opened."""
    header = page.locator(f"#step-{step}")
    if header.get_attribute("aria-expanded") != "true":
        header.click()
    page.wait_for_timeout(250)
    return violations(page, header.locator(STEP).element_handle())


@pytest.fixture(params=["light", "dark"])
def browser_context_args(browser_context_args, request):
    return {**browser_context_args, "color_scheme": request.param, "bypass_csp": True}


def test_shelf(shelf):
    assert violations(shelf) == []


@pytest.mark.thorough(only=["dark-chromium"])
def test_bench_with_each_step_open(bench):
    for step in ("fit", "path", "section", "stance", "along", "ends", "checks", "solid"):
        assert of_step(bench, step) == [], step
    assert violations(bench) == []


@pytest.mark.thorough(only=["dark-chromium"])
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
        assert of_step(shelf, step) == [], step
    assert violations(shelf) == []


@pytest.mark.thorough
def test_bench_that_stops(shelf):
    shelf.get_by_label("Open Hoist buffer, flat wire").click()
    shelf.locator("[data-remedy]").first.wait_for()
    assert violations(shelf) == []


@pytest.mark.thorough(only=["light-chromium"])
def test_where_a_design_begins_and_the_guide(shelf, server):
    shelf.get_by_role("link", name="New design").click()
    shelf.get_by_role("link", name="A rope or a cable").wait_for()
    assert violations(shelf) == []
    shelf.goto(f"{server}/guide")
    shelf.get_by_role("heading", name="A first spring").wait_for()
    assert violations(shelf) == []


@pytest.mark.thorough(only=["dark-chromium"])
def test_the_book_of_proof(shelf, server):
    shelf.goto(f"{server}/verification?figure=load_stress")
    shelf.get_by_role("table").first.wait_for()
    assert violations(shelf) == []


@pytest.mark.thorough
def test_history_commands_and_the_question_of_units(bench):
    bench.get_by_label("Turns, held").fill("7")
    bench.get_by_role("button", name="History").click()
    bench.get_by_text("Turns: 8 → 7").wait_for()
    assert violations(bench) == []
    bench.keyboard.press("Escape")
    bench.keyboard.press("Control+.")
    bench.get_by_role("combobox", name="What do you want to do?").wait_for()
    bench.wait_for_timeout(400)
    assert violations(bench) == []


@pytest.mark.thorough(only=["light-chromium"])
def test_a_list_with_some_chosen(shelf):
    shelf.get_by_role("button", name="List").click()
    shelf.get_by_label("Choose Boat hoist, rope of seven").click()
    assert violations(shelf) == []
