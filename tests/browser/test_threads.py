"""Threads in a real browser: found, put on the bench, placed, built and taken away."""

import re

import pytest
from metaspira.solids.step import measure
from playwright.sync_api import expect

from tests.browser.test_bench import built_step, figure, open_step, verdict
from tests.browser.test_kinds import choose


@pytest.mark.thorough
def test_a_thread_from_its_name_to_a_step_file(shelf, tmp_path):
    page = shelf
    page.get_by_role("link", name="Find a thread").click()
    name = page.get_by_label("Designation")
    name.fill("M10q")
    expect(page.get_by_text(re.compile("did you mean"))).to_be_visible()
    page.get_by_role("table", name="Threads").get_by_role("button", name="M10", exact=True).click()
    expect(page.get_by_role("table", name="Sizes")).to_contain_text("9.206")
    expect(page.get_by_role("img", name="Profile of the thread")).to_be_visible()
    page.get_by_role("button", name="Put it on the bench").click()
    expect(figure(page, "pitch_diameter")).to_contain_text("9.026")
    expect(verdict(page)).to_have_text("clear")

    open_step(page, "ends")
    page.get_by_label("Length, or to the end").fill("40")
    expect(page.get_by_role("alert")).to_contain_text("beyond its host")
    page.locator('[data-remedy="/thread/length"]').click()
    page.get_by_label("Length, or to the end").fill("18")
    open_step(page, "mate")
    choose(page, "Built at", "middle of its limits")
    expect(figure(page, "pitch_diameter")).to_contain_text("8.928")
    page.get_by_role("button", name="Build its mate beside it").click()
    open_step(page, "gauging")
    expect(page.get_by_role("table", name="Gauging")).to_contain_text("8.5 mm")

    open_step(page, "solid")
    file = tmp_path / "got.step"
    built_step(page, file)
    volume = float(
        re.sub(r"[^\d.]", "", figure(page, "volume").inner_text().split("mm")[0].split("Volume")[1])
    )
    proof = measure(file, volume, bodies=2)
    assert proof.closed and proof.valid
    assert proof.relative_error < 1e-3


def test_what_is_this_thread(shelf):
    page = shelf
    page.get_by_role("link", name="Find a thread").click()
    page.get_by_role("tab", name="What is this thread?").click()
    page.get_by_label("Measured diameter").fill("6.2")
    choose(page, "Given as", "turns in an inch")
    page.get_by_label("Turns in an inch").fill("20")
    rows = page.get_by_role("table", name="Threads").get_by_role("row")
    expect(rows.nth(1)).to_contain_text("1/4-20")
    rows.nth(1).get_by_role("button").click()
    expect(page.get_by_role("heading", name=re.compile("1.4-20"))).to_be_visible()
    expect(page.get_by_role("table", name="Sizes")).to_contain_text("inches")


def thread_at_its_host(page):
    """The thread that the finder begins with, on the bench."""
    page.goto(page.url.rstrip("/") + "/threads")
    page.get_by_role("button", name="Put it on the bench").click()
    figure(page, "volume").wait_for()
    open_step(page, "host")
    return page


@pytest.mark.thorough
def test_every_host_and_form_can_be_chosen(shelf):
    page = thread_at_its_host(shelf)
    for host in ("a bore, with the body around it", "a turned body", "a cone", "a rod"):
        choose(page, "On or in", host)
        expect(page.get_by_role("alert")).to_have_count(0)
        expect(page.locator("#step-host")).to_contain_text(host)
    open_step(page, "thread")
    for form in ("its own, by flanks", "its own, by points"):
        choose(page, "Its form is", form)
        expect(page.get_by_role("alert")).to_have_count(0)
        expect(page.locator("#step-thread")).to_contain_text("own form")
    forms = page.get_by_role("region", name="Library of forms")
    page.get_by_label("Keep this form as").fill("Trial form")
    forms.get_by_role("button", name="Keep", exact=True).click()
    expect(forms.get_by_role("button", name="Trial form", exact=True)).to_be_visible()
    forms.get_by_role("button", name=re.compile("^Oil can neck")).click()
    expect(page.get_by_label("Starts")).to_have_value("3")
    forms.get_by_label("Take Trial form out of the library").click()
    expect(forms.get_by_role("button", name="Trial form", exact=True)).to_have_count(0)
    open_step(page, "ends")
    for end in ("a run-out", "cut square", "blunt, a full form at once", "chamfer at a face, else a run-out"):
        choose(page, "The end is", end)
        expect(page.get_by_role("alert")).to_have_count(0)
    open_step(page, "mate")
    page.get_by_role("button", name="Set limits of its own").click()
    page.get_by_label("external, pitch, lower").fill("-0.2")
    open_step(page, "gauging")
    expect(page.get_by_role("table", name="Sizes")).to_contain_text("own limits")
    expect(page.get_by_role("table", name="Sizes")).to_contain_text("38.400")


@pytest.mark.thorough
def test_a_turned_host_is_read_from_a_drawing_without_its_axis_side(shelf, tmp_path):
    page = thread_at_its_host(shelf)
    choose(page, "On or in", "a turned body")
    drawing = tmp_path / "knob.svg"
    drawing.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="60mm" viewBox="0 -60 40 60">'
        '<path d="M0 0h8v-30h-8z"/></svg>'
    )
    page.get_by_label("Read the outline from a DXF or SVG").set_input_files(drawing)
    expect(page.get_by_role("button", name=re.compile("Remove outline"))).to_have_count(2)
    for row, (radius, height) in enumerate([("8", "0"), ("8", "30")], 1):
        expect(page.get_by_label(f"Outline {row}, radius")).to_have_value(radius)
        expect(page.get_by_label(f"Outline {row}, height")).to_have_value(height)
    drawing.write_text(drawing.read_text().replace("M0 0h8v-30h-8z", "M-5 0h10v-30h-10z"))
    page.get_by_label("Read the outline from a DXF or SVG").set_input_files(drawing)
    expect(page.get_by_role("alert").first).to_contain_text("both sides of the axis")


@pytest.mark.thorough
def test_what_the_bench_proposes_is_the_same_in_every_unit(shelf):
    """M10-6g by ISO 965-2: major diameter 9.732 to 9.968."""
    page = thread_at_its_host(shelf)
    choose(page, "Unit", "centimetres")
    page.get_by_role("button", name="Convert the numbers").click()
    open_step(page, "mate")
    page.get_by_role("button", name="Set limits of its own").click()
    open_step(page, "gauging")
    sizes = page.get_by_role("table", name="Sizes")
    expect(sizes).to_contain_text("own limits")
    expect(sizes).to_contain_text("9.968")
    expect(sizes).to_contain_text("9.732")
    page.get_by_role("button", name="Judge a made one").click()
    page.get_by_label("Major diameter, mm").fill("9,95")
    page.get_by_label("Over wires, mm").fill("10.1")
    page.get_by_label("Wires of, mm").fill("0.866")
    judged = page.get_by_role("table", name="Measured against its class")
    expect(judged.get_by_role("row", name=re.compile("^Major diameter: within"))).to_contain_text("9.968")
    expect(judged).to_contain_text("beyond")
    page.get_by_label("Wires of, mm").fill("5")
    expect(page.get_by_role("alert")).to_contain_text("does not bear on the flanks")
    open_step(page, "ends")
    choose(page, "The end is", "an undercut")
    expect(page.get_by_label("Width")).to_have_value("0.45")


@pytest.mark.thorough
def test_a_joint_says_what_it_bears_and_what_strips(shelf):
    page = shelf
    page.get_by_role("link", name="Lens clamp bolt").first.click()
    figure(page, "volume").wait_for()
    open_step(page, "joint")
    expect(page.get_by_text("The bolt breaks before a thread strips.")).to_be_visible()
    figures = page.get_by_role("table", name="Figures of the joint")
    expect(figures).to_contain_text("40594 N")
    expect(page.get_by_role("region", name="Load on the turns").get_by_role("listitem")).to_have_count(6)
    choose(page, "Internal member", "aluminium EN AW-6082 T6")
    expect(page.get_by_text("The internal threads strip before the bolt breaks.")).to_be_visible()
    expect(verdict(page)).to_have_text("watch")
    page.get_by_label("Load along the axis").fill("35000")
    expect(verdict(page)).to_have_text("stop")
    page.get_by_label("Load along the axis").fill("3000 lbf")
    expect(verdict(page)).not_to_have_text("stop")
    page.get_by_role("button", name="Leave the joint out").click()
    expect(page.get_by_role("button", name="It is a joint")).to_be_visible()
    expect(verdict(page)).to_have_text("clear")


def test_a_fit_ladder_is_made_and_the_step_that_fits_is_offered_from_then_on(shelf, tmp_path):
    page = shelf
    page.get_by_role("link", name="Oil can neck").first.click()
    figure(page, "volume").wait_for()
    open_step(page, "mate")
    page.get_by_role("button", name="Leave the ladder out").click()
    page.get_by_role("button", name="Find that out by a fit ladder").click()
    page.get_by_label("Pairs").fill("2")
    page.get_by_label("Which step fits").fill("0.06")
    page.get_by_label("On which printer").fill("Press 2")
    page.get_by_role("button", name="Keep", exact=True).click()
    page.get_by_role("button", name=re.compile("0.06 mm, Press 2")).click()
    expect(page.get_by_label("Opened for printing or casting by")).to_have_value("0.06")
