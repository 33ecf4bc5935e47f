"""The coiling table and the simulated devices on their page."""

import pytest
from playwright.sync_api import expect


def test_a_spring_is_wound_and_loaded_on_simulated_devices(shelf):
    page = shelf
    page.get_by_role("link", name="Damper spring, closed and ground").first.click()
    page.get_by_role("button", name="Winding").click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Take the table, CSV").click()
    assert "diameter setting mm" in download.value.path().read_text()
    page.get_by_role("button", name="Wind it on the simulated former").click()
    measured = page.get_by_role("table", name="Measured beside the design")
    expect(measured).to_contain_text("Outside diameter")
    expect(page.get_by_text("simulated: no wire was wound")).to_be_visible()
    before = measured.inner_text()
    page.get_by_role("textbox", name="Seed").fill("2")
    page.get_by_role("button", name="Wind it on the simulated former").click()
    expect(measured).not_to_have_text(before, use_inner_text=True)
    page.get_by_role("button", name="Load it on the simulated tester").click()
    expect(page.get_by_text("simulated: no spring was pressed")).to_be_visible()
    expect(page.get_by_role("table", name="Readings of the load tester")).to_contain_text("52")


@pytest.mark.thorough
def test_what_a_former_cannot_wind_says_why(shelf):
    page = shelf
    page.get_by_role("link", name="Gallery baluster, twisted").first.click()
    page.get_by_role("button", name="Winding").click()
    expect(page.get_by_role("alert")).to_contain_text("switch its schedules off")
    expect(page.get_by_role("button", name="Wind it on the simulated former")).to_be_disabled()
