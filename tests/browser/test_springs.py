"""Springs in a real browser: from a bore, a rod and two loads to a proven solid and a data sheet."""

import re

import pytest
from metaspira.solids.step import measure
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.test_bench import built_step, figure, open_step, verdict
from tests.browser.test_kinds import choose


def test_from_a_bore_a_rod_and_two_loads_to_a_solid_and_a_sheet(shelf, tmp_path):
    page = shelf
    page.get_by_role("link", name="Find a spring").click()
    page.get_by_label("Bore around it").fill("22")
    page.get_by_label("Rod inside it").fill("11")
    page.get_by_label("Second force").fill("20")
    expect(page.get_by_text("is to be the larger one")).to_be_visible()
    page.get_by_label("Second force").fill("80")
    rows = page.get_by_role("table", name="Springs").get_by_role("row")
    expect(rows.nth(3)).to_be_visible()
    expect(page.get_by_text("a rate of 4.1667 N/mm")).to_be_visible()
    page.get_by_role("button", name="Put it on the bench").click()
    figure(page, "volume").wait_for()
    expect(verdict(page)).to_have_text("clear")

    open_step(page, "load")
    points = page.get_by_role("region", name="Working points", exact=True)
    expect(points).to_contain_text(re.compile(r"(80\.\d+|79\.9\d*|80) N"))
    handle = page.get_by_role("slider", name="Working point 2")
    handle.focus()
    page.keyboard.press("Shift+ArrowLeft")
    expect(page.get_by_label("Working point 2, length")).to_have_value("29")
    page.keyboard.press("Shift+ArrowRight")
    page.get_by_label("Working point 2, length").fill("10")
    expect(verdict(page)).to_have_text("stop")
    page.get_by_label("Working point 2, length").fill("28")
    expect(verdict(page)).to_have_text("clear")
    slider = page.get_by_role("slider", name="Length under load")
    slider.focus()
    page.keyboard.press("End")
    expect(page.get_by_role("group", name="Under load")).to_contain_text("drawn true to size")
    page.keyboard.press("Home")

    with page.expect_download() as download:
        page.get_by_role("button", name="Data sheet as PDF").click()
    sheet = tmp_path / "sheet.pdf"
    download.value.save_as(sheet)
    words = "".join(leaf.extract_text() for leaf in PdfReader(sheet).pages)
    assert "Compression spring" in words and "At 28 mm" in words

    open_step(page, "solid")
    file = tmp_path / "got.step"
    built_step(page, file)
    proof = measure(file, 1.0, cut=True)
    assert proof.closed and proof.valid


@pytest.mark.thorough
def test_a_coil_becomes_a_spring_and_a_life_is_asked_of_it(bench):
    page = bench
    open_step(page, "load")
    if page.get_by_role("button", name="It is a compression spring").count():
        page.get_by_role("button", name="It is a compression spring").click()
    expect(page.get_by_role("group", name="Force over length")).to_be_visible()
    page.get_by_label("Life, cycles").fill("1e7")
    expect(page.get_by_role("group", name=re.compile("Goodman"))).to_be_visible()
    choose(page, "Point 2", "force")
    expect(page.get_by_label("Working point 2, force")).to_be_visible()
    page.get_by_label("Wire", exact=True).fill("A313")
    page.get_by_role("option", name=re.compile("ASTM A313 stainless")).click()
    expect(page.get_by_role("table", name="Figures of the spring")).to_contain_text("69000")
    page.get_by_role("button", name="Leave the load out").click()
    expect(page.get_by_role("button", name="It is a compression spring")).to_be_visible()


@pytest.mark.thorough
def test_a_spiral_is_wound_up_and_held_against_its_elastica(shelf):
    page = shelf
    page.get_by_role("link", name=re.compile("Clockwork drive spiral")).first.click()
    expect(verdict(page)).to_have_text("clear")
    open_step(page, "load")
    page.get_by_role("button", name="Compare with the elastica").click()
    expect(page.get_by_role("region", name="Beam model")).to_contain_text("N mm/°")
    page.get_by_role("slider", name="Angle under load").focus()
    page.keyboard.press("PageUp")
    group = page.get_by_role("group", name="Under load")
    expect(group).to_contain_text("N mm")
    group.get_by_role("button", name="drawn true to size").click()
    expect(group).to_contain_text("enlarged 5 times")
    page.get_by_label("Working point 2, angle").fill("1900")
    expect(verdict(page)).to_have_text("stop")
    page.get_by_label("Working point 2, angle").fill("200")
    expect(verdict(page)).to_have_text("clear")


@pytest.mark.thorough
def test_springs_one_in_the_other_share_the_load(shelf):
    page = shelf
    page.get_by_role("link", name=re.compile("Valve springs, one in the other")).first.click()
    expect(verdict(page)).to_have_text("clear")
    open_step(page, "load")
    table = page.get_by_role("table", name="Figures of the spring")
    expect(table).to_contain_text("Share of the load, wire 2")
    page.get_by_label("Working point 2, length").fill("30")
    expect(verdict(page)).to_have_text("stop")


@pytest.mark.thorough
def test_the_standard_stands_beside_what_is_drawn_and_a_turn_is_solved_exactly(shelf):
    page = shelf
    page.get_by_role("link", name=re.compile("Damper spring")).first.click()
    expect(verdict(page)).to_have_text("clear")
    open_step(page, "load")
    beside = page.get_by_role("region", name="Standard and as drawn")
    expect(beside).to_contain_text("EN 13906-1")
    expect(beside.get_by_role("row", name=re.compile("^Rate"))).to_contain_text("8.802 N/mm")
    choose(page, "Rate and forces by", "contact of the drawn turns")
    expect(page.get_by_role("region", name="Standard and as drawn")).to_contain_text("The figures come from")
    choose(page, "Rate and forces by", "EN 13906-1")
    page.get_by_role("button", name="Solve a turn exactly").click()
    table = page.get_by_role("table", name="Exact elasticity beside the formulas")
    expect(table).to_contain_text("Greatest shear at 160 N")
    expect(page.get_by_role("img", name=re.compile("Shear over the section"))).to_be_visible()


@pytest.mark.thorough
def test_a_spring_that_pulls_is_found_chosen_in_the_plot_and_put_on_the_bench(shelf):
    page = shelf
    page.get_by_role("link", name="Find a spring").click()
    choose(page, "The spring", "pulls")
    expect(page.get_by_text("a rate of 1.4 N/mm")).to_be_visible()
    rows = page.get_by_role("table", name="Springs").get_by_role("row")
    expect(rows.nth(5)).to_be_visible()
    dots = page.get_by_role("group", name="Springs found, mass over use").locator("..").locator("circle")
    dots.nth(0).click(force=True)
    page.get_by_label("Bore around it").fill("2")
    expect(page.get_by_role("status")).to_contain_text("a bore of")
    page.get_by_label("Bore around it").fill("30")
    expect(rows.nth(5)).to_be_visible()
    page.get_by_role("button", name="Put it on the bench").click()
    figure(page, "volume").wait_for()
    expect(verdict(page)).not_to_have_text("stop")


@pytest.mark.thorough
def test_three_found_springs_stand_side_by_side_and_one_is_taken(shelf):
    page = shelf
    page.get_by_role("link", name="Find a spring").click()
    boxes = page.get_by_role("table", name="Springs", exact=True).get_by_role("checkbox")
    for k in (0, 1, 3, 2):
        boxes.nth(k).check()
    table = page.get_by_role("table", name="Springs side by side")
    expect(table.get_by_role("button")).to_have_count(3)
    expect(boxes.nth(0)).not_to_be_checked()
    mass = table.get_by_role("row", name=re.compile("^Mass")).get_by_role("cell")
    first, second, off = (mass.nth(k).inner_text() for k in (1, 2, 3))
    told = 100 * (float(second.split()[0]) / float(first.split()[0]) - 1)
    assert float(off.split()[0].replace("−", "-") if off else 0) == pytest.approx(told, abs=0.1)
    page.get_by_role("button", name="Back to the plot").click()
    expect(page.get_by_role("group", name="Springs found, mass over use")).to_be_visible()
    boxes.nth(1).check()
    boxes.nth(2).check()
    table.get_by_role("button").last.click()
    figure(page, "volume").wait_for()


@pytest.mark.thorough
def test_a_pair_of_springs_is_found_and_put_on_the_bench(shelf):
    page = shelf
    page.get_by_role("link", name="Find a spring").click()
    choose(page, "The spring", "pair that pushes")
    expect(page.get_by_text("a rate of 46 N/mm")).to_be_visible()
    row = page.get_by_role("table", name="Springs").get_by_role("row").nth(1)
    expect(row.get_by_role("cell").nth(1)).to_have_text(re.compile(r"^[\d.]+ mm[\d.]+ mm$"))
    page.get_by_role("button", name="Put it on the bench").click()
    figure(page, "volume").wait_for()
    expect(verdict(page)).to_have_text("clear")
    open_step(page, "wires")
    expect(page.get_by_text("inner spring").first).to_be_visible()


def test_tolerances_are_typed_and_carried_through(shelf):
    page = shelf
    page.get_by_role("link", name="Signal key spring").first.click()
    open_step(page, "load")
    page.get_by_role("button", name="Carry the tolerances through").click()
    kept = page.get_by_role("table", name="Tolerances that are kept")
    expect(kept).to_contain_text("Wire diameter ± 0.02 mm")
    share = page.get_by_role("region", name="Springs that are made").get_by_role("status")
    before = share.inner_text()
    page.get_by_label("Wire diameter, typed tolerance").fill("0.005")
    expect(kept).to_contain_text("Wire diameter ± 0.005 mm")
    expect(share).not_to_have_text(before)


@pytest.mark.thorough
def test_a_measured_spring_is_laid_over_the_diagram(shelf, tmp_path):
    page = shelf
    page.get_by_role("link", name="Damper spring, closed").first.click()
    open_step(page, "load")
    readings = tmp_path / "made.csv"
    readings.write_text("50,20\n46,55\n42,91\n38,127\n34,163\n")
    page.get_by_label("Lay a measured spring over it, CSV").set_input_files(readings)
    page.get_by_role("button", name="mm N", exact=True).click()
    explained = page.get_by_role("table", name="What would explain it")
    expect(explained).to_contain_text("Free length")
    expect(page.locator("[data-reading]")).to_have_count(5)
    page.get_by_role("button", name="Take the readings away").click()
    expect(explained).to_have_count(0)


def test_a_torsion_spring_is_solved_exactly(shelf):
    page = shelf
    page.get_by_role("link", name="Lantern door spring").first.click()
    open_step(page, "load")
    page.get_by_role("button", name="Solve a turn exactly").click()
    solved = page.get_by_role("table", name="Exact elasticity beside the formulas")
    expect(solved).to_contain_text("N mm/°")
    expect(page.get_by_role("img", name=re.compile("Stress along the wire over the section"))).to_be_visible()


@pytest.mark.thorough
def test_the_cheapest_spring_is_found_by_prices(shelf):
    page = shelf
    page.get_by_role("link", name="Find a spring").click()
    rows = page.get_by_role("table", name="Springs").get_by_role("row")
    expect(rows.nth(3)).to_be_visible()
    page.get_by_label("Prices a kilogram, a wire a line").fill("EN 10270-1 SH 3.20\nEN 10270-1 DM 2.9")
    choose(page, "Best is", "cheapest")
    expect(page.get_by_role("columnheader", name="Price")).to_be_visible()
    expect(rows.nth(1)).to_contain_text(re.compile("EN 10270-1 (SH|DM)"))
