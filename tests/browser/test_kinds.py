"""Every path, section, stance and schedule on the bench: chosen, dragged, typed, drawn and built."""

import io
import re

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect
from scipy import ndimage

from tests.browser.test_bench import answered, figure, open_step, verdict
from tests.running import LATER


def choose(page, label, option):
    page.get_by_role("combobox", name=label, exact=True).first.click()
    page.get_by_role("option", name=option, exact=True).click()


PATHS = {
    "through points": "through 4 points",
    "by formula": "by formula, t from 0 to 12 * pi",
    "winding around a path": "winding, 40 turns, around",
    "wrap on a turned body": "wrap on a turned body",
    "straight": "straight,",
}


SECTIONS = {
    "tube": "tube ⌀",
    "rectangle": "rectangle",
    "polygon": "6 sides",
    "ellipse": "ellipse",
    "flatted round": "flatted round",
    "star": "star of 5",
    "lobed": "3 lobes",
    "half-round trough": "trough",
    "channel": "channel",
    "trapezoid": "trapezoid",
    "free, by points or drawing": "one drawn loop",
    "several that blend": "2 sections that blend",
}


def settled(page, wanted="clear"):
    answered(page)
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(verdict(page)).to_have_text(wanted)


@pytest.mark.thorough
def test_every_path_can_be_chosen_and_is_clear(bench):
    for kind, sentence in PATHS.items():
        choose(bench, "Kind", kind)
        expect(bench.locator("#step-path")).to_contain_text(sentence)
        settled(bench)


@pytest.mark.thorough
def test_every_section_can_be_chosen_and_is_clear(bench):
    open_step(bench, "section")
    for kind, sentence in SECTIONS.items():
        choose(bench, "Shape", kind)
        expect(bench.locator("#step-section")).to_contain_text(sentence)
        settled(bench)


@pytest.mark.thorough
def test_every_stance_can_be_chosen(bench):
    open_step(bench, "stance")
    for kind in ("steady", "upright", "plumb", "aimed", "seated", "fixed"):
        bench.get_by_role("radio", name=re.compile(f"^{kind}")).check()
        expect(bench.locator("#step-stance")).to_contain_text(kind)
        settled(bench, "stop" if kind == "fixed" else "clear")


@pytest.mark.thorough
def test_every_shape_of_a_coil_can_be_chosen(bench):
    for shape in (
        "a barrel",
        "an hourglass",
        "a dome",
        "a horn",
        "a diameter by points",
        "a diameter by formula",
    ):
        choose(bench, "Winds on", shape)
        expect(bench.locator("#step-path")).not_to_contain_text("⌀ 20 mm")
        settled(bench)


@pytest.mark.thorough
def test_points_are_dragged_added_typed_and_removed(bench):
    page = bench
    choose(page, "Kind", "through points")
    rows = page.get_by_label(re.compile(r"^Points \d+, x$"))
    expect(rows).to_have_count(4)
    settled(page)
    before = (
        figure(page, "path_length") if figure(page, "path_length").count() else figure(page, "wire_length")
    )
    length = before.inner_text()
    handle = page.get_by_role("slider", name="Point 3")
    box = handle.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 22, y - 12, steps=6)
    page.mouse.up()
    expect(before).not_to_have_text(length)
    handle.press("ArrowLeft")
    page.get_by_role("region", name="Points").get_by_role("button", name="Add").click()
    expect(rows).to_have_count(5)
    page.get_by_label("Points 5, z").fill("55")
    page.get_by_role("button", name="Remove points 2").click()
    expect(rows).to_have_count(4)
    expect(page.get_by_text(re.compile("needs .* of straight on each side")).first).to_be_visible()
    expect(verdict(page)).to_have_text("clear")


@pytest.mark.thorough
def test_a_point_is_dragged_in_space(bench):
    page = bench
    choose(page, "Kind", "through points")
    settled(page)
    canvas = page.locator("canvas").first
    fields = [page.get_by_label(f"Points {k}, {axis}") for k in (1, 2, 3, 4) for axis in "xyz"]
    values = [field.input_value() for field in fields]
    box = canvas.bounding_box()
    for attempt in range(4):
        x, y = settled_handles(page, canvas)[attempt]
        page.mouse.move(box["x"] + x, box["y"] + y)
        page.mouse.down()
        page.mouse.move(box["x"] + x + 24, box["y"] + y - 18, steps=6)
        page.mouse.up()
        if [field.input_value() for field in fields] != values:
            break
    moved = [i for i, field in enumerate(fields) if field.input_value() != values[i]]
    assert 1 <= len(moved) <= 3, "one point moved, in the plane that faces the eye"
    settled(page)


def settled_handles(page, canvas):
    found, before = handles(canvas), None
    while found != before:
        page.wait_for_timeout(500)
        found, before = handles(canvas), found
    return found


def handles(canvas):
    """Centres of the dark discs in the 3D view, by its picture."""
    image = np.asarray(Image.open(io.BytesIO(canvas.screenshot())).convert("RGB"), dtype=int)
    pixel = canvas.bounding_box()["width"] / image.shape[1]
    red, green, blue = np.moveaxis(image, 2, 0)
    labels, count = ndimage.label((red < 80) & (red - green < 22) & (green - blue < 22))
    areas = ndimage.sum_labels(np.ones(labels.shape), labels, np.arange(1, count + 1))
    discs = 1 + np.flatnonzero(areas * pixel**2 > 60)
    return [(x * pixel, y * pixel) for y, x in ndimage.center_of_mass(labels > 0, labels, discs)]


def test_a_schedule_is_edited_in_the_wire_strip(bench):
    page = bench
    open_step(page, "section")
    choose(page, "Shape", "star")
    open_step(page, "along")
    page.get_by_role("switch", name="Twist, even in true length").check()
    choose(page, "Twist, given", "by points")
    points = page.locator("[data-lane-point^=twist]")
    expect(points).to_have_count(3)
    expect(page.get_by_text("0 … 360 °")).to_be_visible()
    answered(page)
    middle = page.locator("[data-lane-point=twist-1]")
    value = middle.get_attribute("aria-valuetext")
    box = middle.bounding_box()
    page.mouse.move(box["x"] + 4, box["y"] + 4)
    page.mouse.down()
    page.mouse.move(box["x"] + 44, box["y"] - 3, steps=6)
    page.mouse.up()
    expect(middle).not_to_have_attribute("aria-valuetext", value)
    answered(page)
    lane = page.locator("[data-lane=twist]").bounding_box()
    page.mouse.dblclick(lane["x"] + lane["width"] * 0.8, lane["y"] + 8)
    expect(points).to_have_count(4)
    expect(page.get_by_label("Twist points 4, twist")).to_be_visible()
    points.nth(2).press("Delete")
    expect(points).to_have_count(3)
    points.nth(0).press("+")
    expect(points).to_have_count(4)
    expect(points.nth(0)).to_be_focused()
    points.nth(1).press("Delete")
    expect(points).to_have_count(3)
    page.get_by_role("switch", name="Twist, even in true length").uncheck()
    expect(page.locator("#step-along")).to_contain_text("no twist")
    page.get_by_role("switch", name="Twist, even in true length").check()
    expect(points).to_have_count(3)


@pytest.mark.thorough
def test_a_blend_has_a_hole_through_all_of_its_sections(bench):
    page = bench
    open_step(page, "section")
    choose(page, "Shape", "several that blend")
    settled(page)
    page.get_by_role("button", name="Add a section between").click()
    solid = figure_value(page, "section_area")
    page.get_by_role("button", name="Add a hole through all of them").click()
    expect(page.get_by_role("region", name="Hole 1")).to_have_count(3)
    settled(page)
    assert figure_value(page, "section_area") < solid
    page.get_by_role("button", name="Remove hole 1").first.click()
    expect(page.get_by_role("region", name="Hole 1")).to_have_count(0)
    settled(page)
    assert figure_value(page, "section_area") == solid


@pytest.mark.thorough
def test_a_hole_without_a_centre_can_be_moved_off_it(shelf, server):
    page = shelf
    hole = {"kind": "round", "diameter": 0.5}
    path = {"kind": "coil", "diameter": 20, "turns": 6, "pitch": 6}
    section = {"kind": "rectangle", "width": 3, "height": 3, "holes": [hole]}
    recipe = {"format": "metaspira/1", "path": path, "section": section}
    made = page.request.post(f"{server}/api/designs", data={"recipe": recipe}).json()
    page.goto(f"{server}/designs/{made['id']}", wait_until="domcontentloaded")
    page.locator("[data-figure=wire_length]").wait_for()
    open_step(page, "section")
    page.get_by_role("button", name="Move it off the centre").click()
    page.get_by_label("Hole 1, centre across").fill("0.6")
    settled(page)
    expect(page.get_by_label("Hole 1, centre up")).to_have_value("0")


def figure_value(page, key):
    return float(re.search(r"[\d.]+", figure(page, key).inner_text()).group())


def test_a_drawing_becomes_the_section_and_its_unit_is_asked_for(bench, tmp_path):
    page = bench
    drawing = tmp_path / "plate.svg"
    drawing.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">'
        '<path d="M0 0h3v1.5h-3z M0.5 0.5h1v0.5h-1z"/><path d="M5 5l2 1"/></svg>'
    )
    open_step(page, "section")
    choose(page, "Shape", "free, by points or drawing")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Read a DXF or SVG drawing").click()
    chooser.value.set_files(drawing)
    expect(page.get_by_role("alert")).to_contain_text("does not say its unit")
    page.get_by_role("button", name="mm", exact=True).click()
    expect(page.get_by_text(re.compile("is open"))).to_be_visible()
    expect(page.locator("#step-section")).to_contain_text("2 drawn loops")
    expect(figure(page, "section_area")).to_contain_text("4 mm²")


@pytest.mark.thorough
def test_a_rope_and_hooks_and_ground_ends(bench):
    page = bench
    open_step(page, "ends")
    choose(page, "The end is", "ground, square to the axis")
    page.get_by_role("button", name="Add hook").first.click()
    expect(page.locator("#step-path")).to_contain_text("1 leg")
    expect(page.locator("#step-ends")).to_contain_text("flat start, ground end")
    open_step(page, "wires")
    choose(page, "This wire is", "strands laid around the path")
    expect(page.get_by_text("3 bodies: strand 1, strand 2, strand 3")).to_be_visible()
    page.get_by_role("button", name=re.compile("Add a further wire")).click()
    expect(page.locator("#step-wires")).to_contain_text("and 1 more")
    expect(page.get_by_text(re.compile("4 bodies"))).to_be_visible()


def test_a_stop_shows_the_slice_and_the_stance_that_holds(bench):
    page = bench
    open_step(page, "section")
    choose(page, "Shape", "rectangle")
    open_step(page, "stance")
    page.get_by_role("radio", name=re.compile("^fixed")).check()
    expect(verdict(page)).to_have_text("stop")
    open_step(page, "checks")
    expect(page.get_by_role("img", name="Slice")).to_be_visible()
    page.locator('#step-checks-body [data-remedy="/stance/kind"]').first.click()
    expect(verdict(page)).to_have_text("clear")


@pytest.mark.thorough
def test_a_painted_part_is_built_in_the_files_that_were_chosen(bench):
    page = bench
    open_step(page, "section")
    choose(page, "Shape", "polygon")
    page.get_by_role("button", name="Paint an edge").click()
    open_step(page, "solid")
    for name in ("STL", "GLB"):
        page.get_by_role("checkbox", name=name).uncheck()
    for name in ("3MF", "PLY"):
        page.get_by_role("checkbox", name=name).check()
    page.get_by_label("Chord error of meshes").fill("0.05")
    page.get_by_role("button", name="Show its wire-frame").click()
    expect(page.get_by_role("button", name="Back to the preview")).to_be_visible()
    page.get_by_role("button", name="Check and build the solid").click()
    files = page.get_by_role("table", name="Files")
    expect(files).to_contain_text("3MF, mesh", timeout=LATER)
    expect(files).to_contain_text("PLY, mesh")
    expect(files).not_to_contain_text("STL")


@pytest.mark.thorough
def test_a_skin_is_proven_by_its_area(bench):
    page = bench
    open_step(page, "solid")
    choose(page, "Becomes", "a skin")
    page.get_by_role("button", name="Check and build the solid").click()
    proof = page.get_by_role("table", name="Proof of the solid")
    expect(proof).to_contain_text("Area", timeout=LATER)
