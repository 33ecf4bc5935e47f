"""The walks of the guide, played as they are told; none can go stale."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.test_bench import answered, figure, open_step, verdict
from tests.running import LATER
from tools.guide import PAGES, pages

ROOT = Path(__file__).resolve().parents[2]
WALKS = json.loads((ROOT / "web/src/guide/walks.json").read_text())


def play(page, step):
    match step:
        case {"press": name, "role": role}:
            page.get_by_role(role, name=re.compile(rf"^{re.escape(name)}")).first.click()
        case {"type": text, "into": label}:
            page.get_by_role("textbox", name=label, exact=True).fill(text)
        case {"choose": option, "in": label}:
            page.get_by_role("combobox", name=label).click()
            page.get_by_role("option", name=option, exact=True).click()
        case {"open": name}:
            open_step(page, name)
        case {"remedy": place}:
            answered(page)
            page.locator(f'[data-remedy^="{place}"]').first.click()
            answered(page)
        case {"figure": name, "shows": text}:
            expect(figure(page, name)).to_contain_text(text)
        case {"verdict": word}:
            expect(verdict(page)).to_have_text(word)
        case {"see": text}:
            expect(page.get_by_text(text).first).to_be_visible(timeout=LATER)
        case {"file": name, "ends": suffix}:
            with page.expect_download() as download:
                page.get_by_role("button", name=name).click()
            assert download.value.suggested_filename.endswith(suffix)
        case _:
            pytest.fail(f"{step} cannot be played")


@pytest.mark.thorough(but=["chromium-first-spring", "chromium-odd-thread", "chromium-track"])
@pytest.mark.parametrize("walk", WALKS, ids=lambda walk: walk["key"])
def test_a_walk(shelf, walk):
    for step in walk["steps"]:
        play(shelf, step)


def test_the_guide_is_shown_and_written_from_the_same_walks(shelf):
    page = shelf
    page.get_by_role("link", name="Guide").click()
    for walk in WALKS:
        page.get_by_role("link", name=walk["title"]).click()
        says = [step["say"] for step in walk["steps"] if "say" in step]
        expect(page.get_by_role("listitem")).to_have_text(says)
    assert {name: (PAGES / name).read_text() for name in pages()} == pages()
