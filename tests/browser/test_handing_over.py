"""The page of everything that a part can become."""

import hashlib
import json
import re
import zipfile

import pytest
from playwright.sync_api import expect

from tests.browser.test_accessibility import violations
from tests.running import LATER


@pytest.mark.thorough
def test_everything_is_handed_over_as_one_archive(shelf, tmp_path):
    page = shelf
    page.get_by_role("link", name="Shutter return spring").first.click()
    page.get_by_role("button", name="Hand over").click()
    table = page.get_by_role("table", name="Files of this part")
    step = table.get_by_role("row", name=re.compile("^Solid, STEP, exact solid"))
    expect(step).to_contain_text("CAD and machining")
    ladder = table.get_by_role("row", name=re.compile("^Fit ladder, 3MF"))
    expect(ladder).to_contain_text("not made: a fit ladder is of a thread")
    expect(ladder.get_by_role("button")).to_have_count(0)
    with page.expect_download() as download:
        page.get_by_role("button", name="Take Path of the wire, CSV").click()
    assert download.value.suggested_filename == "Shutter return spring.path.csv"

    page.get_by_role("button", name="Make the archive", exact=True).click()
    taken = page.get_by_role("link", name=re.compile("^Take the archive"))
    expect(taken).to_be_visible(timeout=LATER)
    expect(step.locator("code")).to_have_text(re.compile("^[0-9a-f]{8}$"))
    with page.expect_download() as download:
        taken.click()
    file = tmp_path / "all.zip"
    download.value.save_as(file)
    with zipfile.ZipFile(file) as archive:
        told = json.loads(archive.read("manifest.json"))
        (entry,) = (one for one in told["files"] if one["key"] == "step")
        digest = hashlib.sha256(archive.read(entry["name"])).hexdigest()
    assert entry["sha256"] == digest == step.locator("code").get_attribute("title")
    assert violations(page) == []

    page.reload()
    expect(page.get_by_role("link", name=re.compile("^Take the archive"))).to_be_visible()


def test_a_part_that_stops_is_not_handed_over(bench):
    page = bench
    page.get_by_label("Pitch, held").fill("2.2")
    expect(page.get_by_test_id("verdict")).to_have_text("stop")
    page.get_by_role("button", name="Hand over").click()
    expect(page.get_by_role("alert")).to_contain_text("take its remedy on the bench first")
    expect(page.get_by_role("button", name="Make the archive")).to_be_disabled()
