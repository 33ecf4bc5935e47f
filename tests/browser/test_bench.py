"""The work itself, in a real browser: make a spring, break it, cure it, build it, take it away."""

import re

import pytest
import trimesh
from metaspira.solids.step import measure
from playwright.sync_api import expect

from tests.running import LATER


def figure(page, name):
    return page.locator(f"[data-figure={name}]")


def verdict(page):
    return page.get_by_test_id("verdict")


def answered(page):
    """Waits until what is shown answers what was typed last: figures, sentences and lengths stand still."""
    expect(verdict(page)).to_have_attribute("aria-busy", "false")


MOVING = ".MuiCollapse-root:not(.MuiCollapse-entered, .MuiCollapse-hidden)"


def open_step(page, name):
    """Opens a step, and waits until no step moves any more: a press on what moves may miss it."""
    answered(page)
    header = page.locator(f"#step-{name}")
    if header.get_attribute("aria-expanded") != "true":
        header.click()
    page.locator(f"#step-{name}-body").wait_for()
    expect(page.locator(MOVING)).to_have_count(0)


def built_step(page, file):
    """Builds the solid on the bench and saves its STEP file; the table of its proof and the file's own
    name."""
    page.get_by_role("button", name="Check and build the solid").click()
    proof = page.get_by_role("table", name="Proof of the solid")
    expect(proof).to_contain_text("Validyes", timeout=LATER)
    with page.expect_download() as download:
        page.get_by_role("link", name="STEP, exact solid").click()
    download.value.save_as(file)
    return proof, download.value.suggested_filename


@pytest.mark.thorough
def test_a_spring_from_typing_to_a_step_file(bench, tmp_path):
    page = bench
    page.get_by_label("Name of the design").fill("Browser spring")
    page.get_by_label("Diameter", exact=True).fill("24")
    page.get_by_label("Turns, held").fill("6")
    page.get_by_label("Pitch, held").fill("1/4 in")
    expect(page.get_by_text("= 6.35 mm")).to_be_visible()
    expect(figure(page, "outside_diameter")).to_contain_text("26.5")
    expect(figure(page, "height")).to_contain_text("38.1")
    expect(verdict(page)).to_have_text("clear")

    page.get_by_label("Pitch, held").fill("2.2")
    expect(verdict(page)).to_have_text("stop")
    trouble = page.get_by_role("status").filter(has_text="Self-contact")
    expect(trouble).to_contain_text("overlaps itself by")
    open_step(page, "checks")
    place = page.get_by_role("button", name=re.compile("Show the place")).first
    place.click()
    strip = page.get_by_role("slider", name="Place along the wire")
    assert float(strip.get_attribute("aria-valuenow")) > 0
    open_step(page, "solid")
    expect(page.get_by_role("button", name="Check and build the solid")).to_be_disabled()

    trouble.locator('[data-remedy="/path/pitch"]').click()
    expect(verdict(page)).to_have_text("clear")
    expect(page.get_by_test_id("saved")).to_contain_text("saved, revision")

    file = tmp_path / "got.step"
    proof, name = built_step(page, file)
    assert name == "browser-spring.step"
    volume = float(re.search(r"Predicted([\d.]+)", proof.inner_text().replace("\t", "").replace("\n", ""))[1])
    read = measure(file, volume)
    assert read.closed
    assert read.valid
    assert read.relative_error < 1e-6


def test_a_build_can_be_cancelled(bench):
    page = bench
    page.get_by_label("Turns, held").fill("600")
    expect(figure(page, "turns")).to_contain_text("600")
    open_step(page, "solid")
    page.get_by_role("button", name="Check and build the solid").click()
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_text("Stopped. Nothing was kept.")).to_be_visible()


def test_two_are_held_and_the_third_follows(bench):
    page = bench
    expect(page.get_by_text("height follows")).to_be_visible()
    page.get_by_role("button", name="let follow: turns").click()
    expect(page.get_by_label("Height, held")).to_have_value("48")
    page.get_by_label("Height, held").fill("54")
    expect(figure(page, "turns")).to_contain_text("9")
    corner = page.get_by_role("slider", name=re.compile("Corner of the pitch triangle"))
    corner.press("ArrowUp")
    expect(page.get_by_label("Height, held")).to_have_value("54.54")
    answered(page)
    expect(figure(page, "height")).to_contain_text("54.54")
    box = corner.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 25, steps=8)
    page.mouse.up()
    expect(figure(page, "height")).not_to_contain_text("54.54")


def test_a_fault_keeps_the_last_good_part_and_one_press_cures_it(bench):
    page = bench
    open_step(page, "section")
    page.get_by_role("combobox", name="Shape").click()
    page.get_by_role("option", name="rectangle").click()
    page.get_by_label("Corner radius").fill("9")
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("Section › Corner radius")
    expect(alert).to_contain_text("The last good part stays")
    expect(verdict(page)).to_have_text("not usable yet")
    expect(figure(page, "wire_length")).to_contain_text("504.94")
    alert.locator("[data-remedy]").click()
    expect(verdict(page)).to_have_text("clear")


def test_undo_and_redo_by_keys(bench):
    page = bench
    turns = page.get_by_label("Turns, held")
    turns.fill("12")
    expect(figure(page, "turns")).to_contain_text("12")
    page.locator("#step-path").focus()
    page.keyboard.press("Control+z")
    expect(turns).to_have_value("8")
    page.keyboard.press("Control+Shift+z")
    expect(turns).to_have_value("12")


def test_two_tabs_cannot_lose_each_others_work(bench, context):
    first = bench
    second = context.new_page()
    second.goto(first.url)
    second.get_by_label("Turns, held").fill("11")
    expect(second.get_by_test_id("saved")).to_contain_text("saved, revision 2")
    first.get_by_label("Turns, held").fill("5")
    dialog = first.get_by_role("dialog")
    expect(dialog).to_contain_text("changed elsewhere")
    dialog.get_by_role("button", name="Keep mine as a new design").click()
    expect(dialog).to_be_hidden()
    expect(first.get_by_label("Turns, held")).to_have_value("5")
    second.reload()
    expect(second.get_by_label("Turns, held")).to_have_value("11")


def slow_save(page):
    """Holds the answer to the next save; given back is what lets it come."""
    held = []
    page.route("**/api/designs/*", lambda route: held.append((route, route.fetch())), times=1)

    def come():
        ((route, answer),) = held
        route.fulfill(response=answer)

    return come


def test_a_slow_save_is_no_conflict_with_what_is_typed_meanwhile(bench):
    page = bench
    come = slow_save(page)
    for turns in ("11", "12", "13"):
        page.get_by_label("Turns, held").fill(turns)
        page.wait_for_timeout(1000)
    come()
    expect(page.get_by_test_id("saved")).to_contain_text("saved, revision 3")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_what_is_typed_during_a_save_is_kept_on_leaving(bench):
    page = bench
    come = slow_save(page)
    page.get_by_label("Turns, held").fill("11")
    page.wait_for_timeout(1000)
    page.get_by_label("Turns, held").fill("12")
    page.get_by_role("link", name="Shelf").click()
    page.get_by_role("list", name="Designs").wait_for()
    page.go_back()
    come()
    expect(page.get_by_label("Turns, held")).to_have_value("12")
    expect(page.get_by_test_id("saved")).to_contain_text("saved, revision 3")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_what_was_typed_last_is_kept_on_leaving(bench):
    page = bench
    page.get_by_label("Turns, held").fill("13")
    page.get_by_role("link", name="Shelf").click()
    page.get_by_role("list", name="Designs").wait_for()
    page.go_back()
    expect(page.get_by_label("Turns, held")).to_have_value("13")


def test_every_figure_says_why(bench):
    page = bench
    figure(page, "min_gap").click()
    expect(page.get_by_text("Gonzalez and Maddocks")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_text("Gonzalez and Maddocks")).to_be_hidden()


@pytest.mark.thorough
def test_the_part_is_drawn_and_its_views_change_it(bench):
    page = bench
    canvas = page.locator("canvas")
    page.wait_for_timeout(1500)
    seen = {canvas.screenshot()}
    for name in ("Top", "Front", "Parallel", "Wire-frame", "Section plane"):
        page.get_by_role("button", name=name, exact=True).click()
        page.wait_for_timeout(900)
        shot = canvas.screenshot()
        assert shot not in seen, name
        seen.add(shot)


@pytest.mark.thorough
def test_an_eye_that_comes_near_sees_a_finer_mesh(bench):
    page = bench
    box = page.locator("[data-space] canvas").bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    with page.expect_response(re.compile(r"/preview\?chord_error=")) as finer:
        for _ in range(40):
            page.mouse.wheel(0, -300)
            page.wait_for_timeout(30)
    assert finer.value.ok
    with page.expect_response(re.compile(r"/preview\?$")) as plain:
        page.get_by_label("Turns, held").fill("9")
    assert plain.value.ok
    expect(figure(page, "turns")).to_contain_text("9")


def test_the_shelf_makes_renames_duplicates_deletes_and_finds(shelf):
    page = shelf
    page.get_by_role("button", name="Duplicate Lens carriage cone").click()
    copied = page.get_by_role("heading", name="Lens carriage cone, copy")
    expect(copied).to_be_visible()
    page.get_by_role("button", name="Rename Lens carriage cone, copy").click()
    page.get_by_label("Name", exact=True).fill("Zebra spring")
    page.keyboard.press("Enter")
    page.get_by_label("Search").fill("zebra")
    items = page.get_by_role("list", name="Designs").get_by_role("listitem")
    expect(items).to_have_count(1)
    page.get_by_role("button", name="Delete Zebra spring").click()
    expect(page.get_by_text("No design matches.")).to_be_visible()
    page.get_by_role("button", name="Put it back").click()
    expect(page.get_by_role("heading", name="Zebra spring")).to_be_visible()
    page.get_by_label("Search").fill("a")
    for name in ("Zebra spring", "Lens carriage cone"):
        page.get_by_label(f"Choose {name}", exact=True).click()
    page.get_by_role("button", name="Delete them").click()
    expect(page.get_by_text("2 designs were taken off the shelf.")).to_be_visible()
    page.get_by_role("button", name="Put them back").click()
    for name in ("Zebra spring", "Lens carriage cone"):
        expect(page.get_by_role("heading", name=name, exact=True)).to_be_visible()


def test_a_design_that_is_not_there(page, server):
    page.goto(f"{server}/designs/00000000-0000-0000-0000-000000000000")
    expect(page.get_by_role("heading", name="This design cannot be opened")).to_be_visible()
    page.get_by_role("link", name="Go to the shelf").click()
    expect(page.get_by_role("link", name="New design")).to_be_visible()


@pytest.mark.thorough(but=["chromium-path", "chromium-solid"])
@pytest.mark.parametrize(
    "step", ["fit", "path", "section", "stance", "along", "ends", "wires", "checks", "solid"]
)
def test_every_step_opens_by_keyboard(bench, step):
    header = bench.locator(f"#step-{step}")
    if header.get_attribute("aria-expanded") == "true":
        header.press("Enter")
    header.press("Enter")
    expect(bench.locator(f"#step-{step}-body")).to_be_visible()


@pytest.mark.thorough
def test_what_a_part_weighs_is_held_against_what_was_expected(bench):
    page = bench
    open_step(page, "weigh")
    for name in ("volume", "mass"):
        page.get_by_role("combobox", name="Expect a value of").click()
        page.get_by_role("option", name=name, exact=True).click()
    expect(page.get_by_role("region", name="Expected mass")).to_contain_text("g")
    mass = page.get_by_role("textbox", name="Expected mass")
    mass.fill(f"{float(mass.input_value()) * 8.5 / 7.85:.4g}")
    expect(verdict(page)).to_have_text("watch")
    expect(figure(page, "mass")).to_contain_text("less")
    brass = page.get_by_role("region", name="Expected mass").get_by_role("button", name="Take")
    brass.click()
    expect(verdict(page)).to_have_text("clear")
    expect(page.get_by_text("2 of 2 as expected")).to_be_visible()
    expect(page.get_by_role("table", name="How it is spread")).to_contain_text("Centre of mass")
    open_step(page, "solid")
    with page.expect_download() as download:
        page.get_by_role("button", name="Path of the wire as DXF").click()
    assert download.value.suggested_filename.endswith(".dxf")


@pytest.mark.thorough
def test_two_revisions_stand_side_by_side_and_the_older_is_taken_up_again(bench):
    page = bench
    page.get_by_label("Pitch, held").fill("7.5")
    expect(figure(page, "pitch")).to_contain_text("7.5")
    expect(page.get_by_test_id("saved")).to_contain_text("saved, revision 2")
    page.get_by_role("button", name="Compare").click()
    expect(page.get_by_text("→ 7.5 mm")).to_be_visible()
    expect(page.get_by_role("table", name="Figures that changed")).to_contain_text("Pitch")
    page.get_by_role("button", name="before", exact=True).click()
    page.get_by_role("combobox", name="Beside").click()
    page.get_by_role("option", name="Shutter return spring").first.click()
    expect(page.get_by_text("diameter", exact=False).first).to_be_visible()
    page.get_by_role("combobox", name="Beside").click()
    page.get_by_role("option", name="itself, as it was").click()
    page.get_by_role("button", name="cut through the axis").click()
    cut = page.get_by_role("img", name="Both parts cut by one plane").locator("path")
    expect(cut).to_have_count(3)
    page.get_by_role("button", name="before", exact=True).click()
    expect(cut).to_have_count(2)
    page.get_by_role("button", name="Take revision 1 up again").click()
    expect(page.get_by_test_id("saved")).to_contain_text("revision 3")
    expect(page.get_by_text("→ 7.5 mm")).to_have_count(0)
    expect(figure(page, "pitch")).not_to_contain_text("7.5")


@pytest.mark.thorough
def test_a_design_is_held_against_a_body_and_its_volume_is_expected(bench, tmp_path):
    page = bench
    trimesh.creation.box((22, 22, 5)).export(tmp_path / "block.stl")
    page.get_by_role("button", name="Compare").click()
    page.get_by_label("Hold it against a body from a file").set_input_files(tmp_path / "block.stl")
    page.get_by_role("button", name="mm", exact=True).click()
    figures = page.get_by_role("table", name="Figures of both")
    expect(figures).to_contain_text("2420")
    expect(page.get_by_text("The part reaches beyond the body by")).to_be_visible()
    page.get_by_role("button", name="Expect its volume on the bench").click()
    figure(page, "wire_length").wait_for()
    open_step(page, "weigh")
    expect(page.get_by_text("0 of 1 as expected")).to_be_visible()


def test_a_variable_is_renamed_wherever_it_stands(shelf):
    page = shelf
    page.get_by_role("link", name="Shutter return spring").first.click()
    figure(page, "wire_length").wait_for()
    open_step(page, "fit")
    variables = page.get_by_role("region", name="Variables")
    expect(variables).to_contain_text("used in")
    name = page.get_by_label("Name of the variable wire")
    name.fill("thick")
    name.press("Enter")
    expect(page.get_by_label("Name of the variable thick")).to_be_visible()
    open_step(page, "path")
    expect(page.get_by_label("Pitch, held")).to_have_value("2.4 * thick")
    expect(verdict(page)).to_have_text("clear")


def test_a_design_that_is_not_there_is_told_on_every_page_of_it(shelf, server):
    for page_of in ("", "/changes"):
        shelf.goto(f"{server}/designs/00000000-0000-4000-8000-000000000000{page_of}")
        expect(shelf.get_by_text("There is no such design")).to_be_visible()
        expect(shelf.get_by_role("link", name="Go to the shelf")).to_be_visible()
