"""What a person waits for in the browser: `python tests/bench/browser.py` writes docs/benchmarks-browser.md.

The server, the worker and Chromium are the real ones; the graphics are drawn by the processor.
"""

from __future__ import annotations

import shutil
import statistics
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[2]))

from tests.browser.conftest import QUIET
from tests.conftest import SPRING
from tests.running import ROOT, demo_server

OUT = ROOT / "docs/benchmarks-browser.md"
EDITS, MANY = 15, 1000
CHANGED = "part changed"
FRAMES = """async () => {
  const waits = [];
  let last = performance.now();
  for (let step = 0; step < 120; step++) {
    window.scrollBy(0, 240);
    await new Promise(requestAnimationFrame);
    waits.push(performance.now() - last);
    last = performance.now();
  }
  return waits.sort((a, b) => a - b);
}"""
PLAIN = """() => {
  document.body.innerHTML = '<p>A plain page of text beside the shelf</p>'.repeat(1500);
}"""
ASKED = """async () => {
  const start = performance.now();
  await (await fetch('/api/session')).json();
  return performance.now() - start;
}"""

FRAME = "a frame while it is scrolled, the 95th of 100"
BESIDE = {
    "until the first card": "with the demo's alone",
    "until a search is answered": "with the demo's alone",
    FRAME: "a page of plain text",
}


def put(page: Page, server: str, recipe: dict[str, Any]) -> str:
    made = page.request.post(f"{server}/api/designs", data={"recipe": recipe}, timeout=60_000)
    assert made.ok, made.text()
    return str(made.json()["id"])


def key_to_part(page: Page, server: str, turns: int) -> tuple[float, float]:
    """Milliseconds from a typed value to the part that answers it, and those of an empty question."""
    design = put(page, server, {**SPRING, "path": {**SPRING["path"], "turns": turns, "pitch": 6}})
    page.goto(f"{server}/designs/{design}", wait_until="domcontentloaded")
    page.locator("[data-figure=wire_length]").wait_for()
    field = page.get_by_role("textbox", name="Pitch, held", exact=True)
    took, asked = [], []
    for count in range(EDITS):
        page.wait_for_timeout(600)
        page.evaluate(f"performance.clearMeasures('{CHANGED}')")
        field.fill(f"{6 + 0.1 * (count % 5 + 1):g}")
        page.wait_for_function(f"performance.getEntriesByName('{CHANGED}').length > 0")
        took.append(page.evaluate(f"performance.getEntriesByName('{CHANGED}')[0].duration"))
        asked.append(page.evaluate(ASKED))
    return statistics.median(took), statistics.median(asked)


def scrolled(page: Page) -> float:
    """Milliseconds of a frame while a page is scrolled, the 95th of 100; a page of plain text is drawn by the
    same processors."""
    waits = page.evaluate(FRAMES)
    return float(waits[int(0.95 * len(waits))])


def shelf(page: Page, server: str) -> dict[str, float]:
    """Milliseconds until the shelf stands, of a frame while it is scrolled, until a search is answered."""
    cards = page.get_by_role("list", name="Designs").get_by_role("listitem")
    start = time.perf_counter()
    page.goto(server, wait_until="domcontentloaded")
    cards.first.wait_for()
    stands = 1e3 * (time.perf_counter() - start)
    page.wait_for_timeout(3000)
    frame = scrolled(page)
    page.evaluate("window.scrollTo(0, 0)")
    start = time.perf_counter()
    page.get_by_label("Search").fill("bumper gate 777")
    page.wait_for_function("document.querySelectorAll('[aria-label=Designs] > li').length < 2")
    return {
        "until the first card": stands,
        "until a search is answered": 1e3 * (time.perf_counter() - start),
        FRAME: frame,
    }


def main() -> None:
    rows = []
    with (
        tempfile.TemporaryDirectory() as data,
        demo_server(Path(data)) as server,
        sync_playwright() as playwright,
    ):
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=QUIET)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
        few = shelf(page, server)
        for turns, aim in ((10, 50), (200, 100)):
            took, asked = key_to_part(page, server, turns)
            rows.append(
                f"| a typed pitch to the changed part, {turns} turns | {took:.0f} ms | "
                f"an empty question and its answer {asked:.0f} ms | {took / asked:.1f} | {aim} ms |"
            )
        for number in range(MANY):
            put(page, server, {**SPRING, "name": f"Bumper for a gate {number}"})
        many = shelf(page, server)
        page.evaluate(PLAIN)
        few[FRAME] = scrolled(page)
        browser.close()
    rows += [
        f"| the shelf with {MANY} designs more: {name} | {many[name]:.0f} ms | "
        f"{beside} {few[name]:.0f} ms | {many[name] / few[name]:.1f} | |"
        for name, beside in BESIDE.items()
    ]
    OUT.write_text(
        "# What a person waits for in the browser\n\n"
        "Written by `python tests/bench/browser.py`; both columns of a row are measured in the same run on "
        "two processors, which draw the graphics as well, so read the ratio. From a typed value to the part: "
        "by marks in the page, without the time in which it is drawn.\n\n"
        "| what | figure | beside it | ratio | aim |\n| --- | ---: | ---: | ---: | ---: |\n"
        + "\n".join(rows)
        + "\n"
    )


if __name__ == "__main__":
    main()
