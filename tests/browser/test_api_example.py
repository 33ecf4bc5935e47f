"""The API as a program uses it: its example script, and its reference page in the browser."""

import subprocess
import sys

import pytest
from playwright.sync_api import expect

from tests.running import ROOT


@pytest.mark.thorough
def test_the_example_script_makes_a_step_file(server, tmp_path):
    done = subprocess.run(
        [sys.executable, ROOT / "docs/api/example.py", server],
        cwd=tmp_path,
        capture_output=True,
        text=True,
        timeout=120,
    )
    assert done.returncode == 0, done.stderr
    assert "pitch 1.5: stop" in done.stdout
    assert (tmp_path / "spring.step").read_text().startswith("ISO-10303-21")


def test_the_reference_page_lists_every_call(page, server):
    page.goto(f"{server}/api/reference")
    expect(page.get_by_role("heading", name="/api/jobs/{job_id}/files/{suffix}")).to_be_visible()
    page.get_by_role("link", name="WantedSurvey").first.click()
    expect(page.locator("#WantedSurvey")).to_be_visible()
