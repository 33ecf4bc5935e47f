"""Surveys on the page: a curve, a map, a point taken."""

import csv
from xml.etree import ElementTree

import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.test_bench import figure


def test_a_curve_a_table_and_a_point_taken(bench):
    page = bench
    page.get_by_role("button", name="Survey").click()
    page.get_by_role("textbox", name="First input, From").fill("2")
    page.get_by_role("textbox", name="First input, Steps").fill("7")
    page.get_by_role("button", name="Try them all").click()
    chart = page.get_by_role("group", name="over pitch")
    points = chart.get_by_role("button")
    expect(points).to_have_count(7)
    expect(points.first).to_have_attribute("aria-label", "pitch 2 mm: 502.91 stop")
    with page.expect_download() as download:
        page.get_by_role("link", name="Table as CSV").click()
    assert download.value.path().read_text().count("\n") == 8
    page.get_by_role("combobox", name="On the other axis").click()
    page.get_by_role("option", name="Mass").click()
    both = page.get_by_role("group", name="Wire length and Mass over pitch")
    expect(both.get_by_text("Mass, g")).to_be_visible()
    points.first.focus()
    for _ in range(6):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_role("table", name="Figures at this point")).to_contain_text("Wire length")
    page.get_by_role("button", name="Take these values").click()
    expect(figure(page, "pitch")).to_contain_text("8")
    expect(page.get_by_test_id("saved")).to_contain_text("revision 2")


@pytest.mark.thorough
def test_two_inputs_make_a_map_and_a_long_survey_is_stopped(bench):
    page = bench
    page.get_by_role("button", name="Survey").click()
    page.get_by_role("textbox", name="First input, Steps").fill("4")
    page.get_by_role("button", name="Add a second input").click()
    page.get_by_role("textbox", name="Second input, Steps").fill("3")
    page.get_by_role("button", name="Try them all").click()
    cells = page.get_by_role("group", name="by pitch and turns").get_by_role("button")
    expect(cells).to_have_count(12)
    page.get_by_role("textbox", name="First input, Steps").fill("800")
    page.get_by_role("button", name="Try them all").click()
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_text("Stopped. Nothing was kept.")).to_be_visible()
    page.get_by_role("textbox", name="First input, Steps").fill("3000")
    page.get_by_role("button", name="Try them all").click()
    expect(page.get_by_role("alert")).to_contain_text("2500")


def test_coming_back_to_the_bench_saves_nothing(bench):
    page = bench
    expect(page.get_by_test_id("saved")).to_have_text("saved, revision 1")
    page.get_by_role("button", name="Survey", exact=True).click()
    page.get_by_role("button", name="Try them all").wait_for()
    page.go_back()
    figure(page, "wire_length").wait_for()
    expect(page.get_by_test_id("saved")).to_have_text("saved, revision 1")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()


@pytest.mark.thorough
def test_points_are_shown_as_they_are_tried(bench):
    """With a server that is slow to tell that it is done, what is known stands on the page."""
    page = bench
    page.get_by_role("button", name="Survey", exact=True).click()
    page.get_by_role("button", name="Try them all").click()
    page.get_by_role("link", name="Table as CSV").wait_for()
    whole = page.get_by_role("group", name="over").get_by_role("button").count()

    def half(route):
        told = route.fetch().json()
        found = told["found"]
        if found:
            for column in (*found["figures"].values(), *found["checks"].values()):
                column["values"] = column["values"][:5]
            found["verdicts"] = found["verdicts"][:5]
        route.fulfill(json={**told, "state": "running", "progress": 0.5})

    page.route("**/api/jobs/*", half)
    page.get_by_role("button", name="Try them all").click()
    expect(page.get_by_text("5 points so far")).to_be_visible()
    expect(page.get_by_role("group", name="over").get_by_role("button")).to_have_count(5)
    expect(page.get_by_role("link", name="Table as CSV")).to_have_count(0)
    page.unroute_all(behavior="wait")  # what is still asked would fail with the page, in the next test
    assert whole > 5


def test_stop_is_never_offered_for_the_survey_before(bench):
    page = bench
    page.get_by_role("button", name="Survey").click()
    page.get_by_role("textbox", name="First input, Steps").fill("3")
    page.get_by_role("button", name="Try them all").click()
    page.get_by_role("link", name="Table as CSV").wait_for()
    held = []
    page.route("**/api/jobs", lambda route: held.append(route))
    page.get_by_role("textbox", name="First input, Steps").fill("900")
    page.get_by_role("button", name="Try them all").click()
    expect(page.get_by_role("progressbar")).to_be_visible()
    expect(page.get_by_role("button", name="Stop", exact=True)).to_have_count(0)
    held.pop().continue_()
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_text("Stopped. Nothing was kept.")).to_be_visible()


@pytest.mark.thorough
def test_a_chart_is_kept_as_a_drawing_a_picture_and_a_table(bench, tmp_path):
    page = bench
    page.get_by_role("button", name="Survey").click()
    page.get_by_role("textbox", name="First input, Steps").fill("4")
    page.get_by_role("button", name="Try them all").click()
    page.get_by_role("link", name="Table as CSV").wait_for()
    kept = {}
    for name, suffix in (("Drawing, SVG", "svg"), ("Picture, PNG", "png"), ("Values, CSV", "csv")):
        page.get_by_role("button", name="Keep", exact=True).click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name=name).click()
        assert download.value.suggested_filename.endswith(f"over pitch.{suffix}")
        kept[suffix] = tmp_path / suffix
        download.value.save_as(kept[suffix])
    drawing = ElementTree.parse(kept["svg"]).getroot()
    drawn = "".join(drawing.itertext())
    assert "pitch, mm" in drawn and "var(" not in kept["svg"].read_text()
    assert max(Image.open(kept["png"]).size) > 600
    rows = list(csv.reader(kept["csv"].open()))
    assert rows[0][0] == "pitch, mm" and rows[0][-1] == "verdict"
    assert [float(row[0]) for row in rows[1:]] == pytest.approx([4, 16 / 3, 20 / 3, 8])
