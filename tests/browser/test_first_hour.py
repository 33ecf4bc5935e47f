"""What a stranger meets: units that change, edits that last, history, keys, the shelf, narrow windows."""

import json
import re
import zipfile

import pytest
from PIL import Image
from playwright.sync_api import expect
from scans import scan

from tests.browser.test_bench import answered, figure, open_step, verdict
from tests.running import LATER


def start(page, server, key, unit="mm"):
    page.goto(f"{server}/new/{key}?unit={unit}", wait_until="domcontentloaded")
    page.locator("[data-figure]").first.wait_for()


def choose_unit(page, words):
    open_step(page, "fit")
    page.get_by_role("combobox", name="Unit").click()
    page.get_by_role("option", name=words).click()


def test_a_change_of_unit_asks_and_converts_or_keeps(bench):
    page = bench
    height = figure(page, "outside_diameter")
    expect(height).to_contain_text("22.5")
    choose_unit(page, "inches")
    page.get_by_role("button", name="Convert the numbers").click()
    expect(height).to_contain_text("0.8858")
    open_step(page, "path")
    expect(page.get_by_label("Diameter", exact=True)).to_have_value("0.7874016")
    choose_unit(page, "millimetres")
    page.get_by_role("button", name="Convert the numbers").click()
    open_step(page, "path")
    expect(page.get_by_label("Diameter", exact=True)).to_have_value("20")
    choose_unit(page, "inches")
    page.get_by_role("button", name="Keep the numbers").click()
    expect(height).to_contain_text("22.5 in")


def test_figures_are_seen_in_inches_without_changing_the_design(bench):
    page = bench
    page.get_by_role("button", name="Figures in in").click()
    expect(figure(page, "outside_diameter")).to_contain_text("0.8858 in")
    open_step(page, "path")
    expect(page.get_by_label("Diameter", exact=True)).to_have_value("20")
    expect(page.get_by_test_id("saved")).to_have_text("saved, revision 1")


def test_a_new_design_comes_to_the_shelf_with_its_first_edit(shelf, server):
    page = shelf
    count = len(page.request.get(f"{server}/api/designs").json())
    start(page, server, "push", "in")
    expect(page.get_by_test_id("saved")).to_have_text("not on the shelf yet")
    expect(page.get_by_label("Diameter", exact=True)).to_have_value("0.7874016")
    assert len(page.request.get(f"{server}/api/designs").json()) == count
    page.get_by_label("Turns, held").fill("9")
    expect(page.get_by_test_id("saved")).to_have_text("saved, revision 1")
    expect(page).to_have_url(re.compile(r"/designs/[0-9a-f-]{36}$"))
    page.reload()
    expect(page.get_by_label("Turns, held")).to_have_value("9")
    assert len(page.request.get(f"{server}/api/designs").json()) == count + 1


def test_an_edit_that_the_server_never_had_is_still_there_after_a_reload(bench):
    page = bench
    page.route(
        "**/api/designs/*",
        lambda route: route.abort() if route.request.method == "PUT" else route.continue_(),
    )
    page.get_by_label("Turns, held").fill("9")
    expect(page.get_by_test_id("saved")).to_contain_text("not saved")
    page.on("dialog", lambda dialog: dialog.accept())
    page.reload()
    expect(page.get_by_label("Turns, held")).to_have_value("9")
    page.unroute("**/api/designs/*")
    expect(page.get_by_test_id("saved")).to_contain_text("saved, revision 2")
    page.reload()
    expect(page.get_by_label("Turns, held")).to_have_value("9")
    assert page.evaluate("Object.keys(localStorage).filter(k => k.includes('unsaved')).length") == 0


def test_history_goes_back_to_before_an_edit_and_to_a_revision(bench):
    page = bench
    for label, value in (("Turns, held", "7"), ("Diameter", "24")):
        page.get_by_label(label, exact=True).fill(value)
        expect(page.get_by_test_id("saved")).to_contain_text("saved, revision")
        answered(page)
    page.get_by_role("button", name="History").click()
    done = page.get_by_role("region", name="Done since it was opened")
    expect(done.get_by_role("button")).to_have_text(["Path › Diameter: 20 → 24", "Path › Turns: 8 → 7"])
    done.get_by_role("button").last.click()
    page.get_by_role("button", name="Close").click()
    expect(page.get_by_label("Turns, held")).to_have_value("8")
    expect(page.get_by_test_id("saved")).to_contain_text("saved, revision 4")
    page.get_by_role("button", name="History").click()
    page.get_by_role("button", name="Restore revision 2").click()
    page.get_by_role("button", name="Close").click()
    expect(page.get_by_label("Turns, held")).to_have_value("7")
    expect(page.get_by_label("Diameter", exact=True)).to_have_value("20")
    page.get_by_role("button", name="History").click()
    page.get_by_role("button", name="Lay over, revision 3").click()
    over = page.get_by_role("region", name="The revision that lies over the part")
    expect(over).to_contain_text("revision 3")
    over.get_by_role("button", name="Take it away").click()
    expect(over).to_have_count(0)


@pytest.mark.thorough
def test_a_place_on_the_wire_tells_radius_pitch_and_gap_and_the_strip_grows(bench):
    page = bench
    place = page.get_by_role("slider", name="Place along the wire")
    place.focus()
    page.keyboard.press("End")
    page.keyboard.press("PageDown")
    expect(place).to_have_attribute(
        "aria-valuetext", re.compile(r"radius 10 mm, pitch [\d.]+ mm, bend radius")
    )
    before = place.bounding_box()["height"]
    edge = page.get_by_role("separator", name="Height of the wire strip")
    box = edge.bounding_box()
    page.mouse.move(box["x"] + 300, box["y"] + 4)
    page.mouse.down()
    page.mouse.move(box["x"] + 300, box["y"] - 36, steps=4)
    page.mouse.up()
    dragged = place.bounding_box()["height"]
    assert dragged > before + 20
    edge.focus()
    page.keyboard.press("ArrowUp")
    expect(edge).not_to_have_attribute("aria-valuenow", "32")
    page.reload()
    expect(place).to_be_visible()
    assert place.bounding_box()["height"] > dragged
    edge.dblclick()
    assert place.bounding_box()["height"] == before


def test_every_step_by_keys_and_the_list_of_commands(bench):
    page = bench
    page.keyboard.press("Alt+3")
    expect(page.locator("#step-section")).to_be_focused()
    expect(page.locator("#step-section")).to_have_attribute("aria-expanded", "true")
    page.keyboard.press("Alt+W")
    expect(page.get_by_role("slider", name="Place along the wire")).to_be_focused()
    page.keyboard.press("Control+.")
    page.get_by_role("combobox", name="What do you want to do?").fill("lamp")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Day")).to_be_visible()
    page.keyboard.press("Control+.")
    page.get_by_role("combobox", name="What do you want to do?").fill("surv")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/survey$"))


def test_the_focus_stays_where_the_work_is(bench):
    page = bench
    page.get_by_label("let follow: turns").press("Enter")
    expect(page.get_by_label("Height, held")).to_be_focused()
    open_step(page, "load")
    page.get_by_role("button", name="It is a compression spring").press("Enter")
    expect(page.locator("#step-load-body :focus")).to_have_count(1)


def test_a_fault_is_said_in_the_words_of_the_form(shelf, server):
    page = shelf
    start(page, server, "curve")
    page.get_by_label("Points 2, y").fill("")
    alert = page.get_by_role("alert").first
    expect(alert).to_contain_text("Path › Points › 2 › value 2: it is empty")
    page.get_by_label("Points 2, y").fill("1e999")
    expect(alert).to_contain_text("1e999")
    page.get_by_label("Points 2, y").fill("2,5")
    expect(verdict(page)).to_have_text("clear")


def test_a_built_file_is_still_offered_after_a_reload(bench):
    page = bench
    open_step(page, "solid")
    page.get_by_role("button", name="Check and build the solid").click()
    expect(page.get_by_role("link", name="STEP, exact solid")).to_be_visible(timeout=LATER)
    page.reload()
    open_step(page, "solid")
    expect(page.get_by_role("link", name="STEP, exact solid")).to_be_visible()


def test_the_shelf_finds_words_in_any_order_and_keeps_those_that_are_chosen(shelf, tmp_path):
    page = shelf
    page.get_by_role("button", name="List").click()
    rows = page.get_by_role("list", name="Designs").get_by_role("listitem")
    page.get_by_label("Search").fill("hoist rope")
    expect(rows).to_have_count(1)
    page.get_by_label("Search").fill("M10")
    expect(rows.filter(has_text="Lens clamp bolt")).to_have_count(1)
    page.get_by_label("Search").fill("")
    page.get_by_role("combobox", name="Verdict").click()
    page.get_by_role("option", name="stop").click()
    expect(rows.filter(has_text="Hoist buffer")).to_have_count(1)
    page.get_by_label("Choose Hoist buffer, flat wire").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Keep them as a file").click()
    download.value.save_as(tmp_path / "some.zip")
    with zipfile.ZipFile(tmp_path / "some.zip") as archive:
        recipes = [
            json.loads(archive.read(name)) for name in archive.namelist() if name.startswith("designs/")
        ]
    assert {recipe["name"] for recipe in recipes} == {"Hoist buffer, flat wire"}


@pytest.mark.thorough
def test_several_designs_are_tagged_and_built_at_once(shelf):
    page, names = shelf, ("Hatch spring, hexagon wire", "Hoist buffer, flat wire")
    cards = page.get_by_role("list", name="Designs").get_by_role("listitem")
    for name in names:
        page.get_by_label(f"Choose {name}").click()
    page.get_by_role("button", name="Tag them").click()
    page.get_by_label("New tag").fill("for the winch")
    page.get_by_label("New tag").press("Enter")
    expect(page.get_by_role("dialog").get_by_text("for the winch (2)")).to_be_visible()
    page.get_by_role("button", name="Close").click()
    cards.get_by_role("button", name="for the winch").first.click()
    expect(cards).to_have_count(2)
    page.get_by_role("button", name="Build them").click()
    built = page.get_by_role("dialog")
    hatch = built.get_by_role("listitem").filter(has_text=names[0])
    with page.expect_download() as download:
        hatch.get_by_role("link", name=re.compile("^STEP")).click()
    assert download.value.suggested_filename.endswith(".step")
    buffer = built.get_by_role("listitem").filter(has_text=names[1])
    expect(buffer.get_by_role("alert")).to_contain_text("stop", timeout=LATER)
    page.get_by_role("button", name="Close").click()
    page.get_by_role("button", name="Tag them").click()
    page.get_by_role("dialog").get_by_role("button", name="for the winch (2)").press("Delete")
    expect(page.get_by_role("dialog")).to_contain_text("No tag yet")


@pytest.mark.thorough
def test_the_figures_in_sight_are_chosen_and_kept(shelf):
    page = shelf
    page.get_by_role("link", name="Open Shutter return spring").click()
    rail = page.get_by_role("region", name="Figures", exact=True)
    expect(rail.locator("[data-figure=lead_angle]")).to_be_visible()
    page.get_by_role("button", name="Choose figures").click()
    page.get_by_role("checkbox", name="Lead angle").uncheck()
    page.get_by_role("checkbox", name="Solid length", exact=True).check()
    for _ in range(3):
        page.get_by_role("button", name="Mass up").click()
    page.keyboard.press("Escape")
    page.reload()
    expect(rail.locator("[data-figure=spring-solid_length]")).to_contain_text("mm")
    expect(rail.locator("[data-figure=lead_angle]")).to_have_count(0)
    names = [one.get_attribute("data-figure") for one in rail.locator("[data-figure]").all()]
    assert names.index("mass") < names.index("volume")
    page.get_by_role("button", name="Choose figures").click()
    page.get_by_role("button", name="As usual").click()
    page.keyboard.press("Escape")
    expect(rail.locator("[data-figure=lead_angle]")).to_be_visible()
    expect(rail.locator("[data-figure=spring-solid_length]")).to_have_count(0)


@pytest.mark.thorough
def test_a_picture_of_the_part_is_large_and_on_a_clear_ground(bench, tmp_path):
    page = bench
    with page.expect_download() as download:
        page.get_by_role("button", name="Picture").click()
    download.value.save_as(tmp_path / "part.png")
    image = Image.open(tmp_path / "part.png")
    assert image.width == 3840 and image.mode == "RGBA"
    low, high = image.getchannel("A").getextrema()
    assert (low, high) == (0, 255)


def test_two_places_are_measured(bench):
    page = bench
    page.get_by_role("button", name="Front", exact=True).click()
    page.get_by_role("button", name="Measure").click()
    box = page.get_by_role("group", name=re.compile("^3D view")).bounding_box()
    told = page.get_by_role("status").filter(has_text="Press on")
    for share in (0.25, 0.75):
        for across in (0.5, 0.45, 0.4, 0.35, 0.55, 0.6):
            before = told.count() and told.inner_text()
            page.mouse.click(box["x"] + across * box["width"], box["y"] + share * box["height"])
            page.wait_for_timeout(150)
            if (told.count() and told.inner_text()) != before:
                break
    expect(page.get_by_text(re.compile("; along x .* mm, y .* mm"))).to_be_visible()
    page.get_by_label("Turns, held").fill("9")
    expect(page.get_by_text("Press on two places of the part")).to_be_visible()


def test_without_webgl_the_work_goes_on(browser, server):
    context = browser.new_context()
    page = context.new_page()
    page.add_init_script(
        "const get = HTMLCanvasElement.prototype.getContext;"
        "HTMLCanvasElement.prototype.getContext = function (kind, ...more) {"
        "  return kind.startsWith('webgl') ? null : get.call(this, kind, ...more); }"
    )
    start(page, server, "push")
    expect(page.get_by_text("This browser cannot show the part in 3D")).to_be_visible()
    page.get_by_label("Turns, held").fill("9")
    expect(figure(page, "turns")).to_contain_text("9")
    context.close()


@pytest.mark.thorough
@pytest.mark.parametrize("width", [640, 900])
def test_in_a_narrow_window_the_panels_are_drawers(browser, server, width):
    context = browser.new_context(viewport={"width": width, "height": 800})
    page = context.new_page()
    page.goto(f"{server}/new/push", wait_until="domcontentloaded")
    page.get_by_role("button", name="Steps", exact=True).click()
    page.get_by_label("Turns, held").fill("9")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Figures", exact=True).click()
    expect(figure(page, "turns")).to_contain_text("9")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    context.close()


def test_a_figure_leads_to_the_cases_that_verified_it(bench):
    page = bench
    figure(page, "min_gap").click()
    with page.expect_popup() as opened:
        page.get_by_role("link", name=re.compile("cases$")).click()
    book = opened.value
    expect(book.get_by_role("status")).to_have_text(re.compile("[3-9][0-9] rows of “min gap”"))
    book.get_by_label("Search cases and sources").fill("manifold TUBE")
    expect(book.get_by_role("status")).to_contain_text(re.compile("^[0-9]{1,2} rows"))
    assert all("tube" in row for row in book.get_by_role("row").filter(has_text="beside").all_inner_texts())
    book.get_by_label("Search cases and sources").fill("no such case")
    expect(book.get_by_text("No row fits")).to_be_visible()
    book.get_by_role("link", name="Show every figure").click()
    book.get_by_label("Search cases and sources").fill("")
    expect(book.get_by_role("status")).to_have_text(re.compile("^[0-9]{3} rows$"))


def test_a_scanned_spring_becomes_a_design_without_a_number_typed(shelf, server, tmp_path):
    page = shelf
    path = {"kind": "coil", "diameter": 20, "turns": 6, "height": 40, "closed": {"start": 1, "end": 1}}
    ends = {"start": {"kind": "ground"}, "end": {"kind": "ground"}}
    section = {"kind": "round", "diameter": 2.5}
    scan({"path": path, "section": section, "ends": ends}, 0.02).export(tmp_path / "drawer.stl")
    page.goto(f"{server}/new", wait_until="domcontentloaded")
    page.get_by_label("Trace a scanned body").set_input_files(tmp_path / "drawer.stl")
    page.get_by_role("button", name="mm", exact=True).click()
    traced = page.get_by_role("region", name="What was traced")
    expect(traced.get_by_role("row", name=re.compile("^Turns (5.9|6)"))).to_be_visible(timeout=LATER)
    expect(traced).to_contain_text("mm off on average")
    traced.get_by_role("button", name="Take the rounded numbers").click()
    ghost = page.get_by_role("region", name="The scan that it was traced from")
    expect(ghost).to_contain_text("mm off on average")
    expect(page).to_have_url(re.compile(r"\?scan=[0-9a-f-]{36}&rounded=1$"))
    expect(page.get_by_label("Diameter", exact=True)).to_have_value("20")
    expect(page.get_by_label("Turns, held")).to_have_value("6")
    expect(figure(page, "first-rate")).to_be_visible()
    answered(page)
    expect(verdict(page)).not_to_have_text("stop")
    ghost.get_by_role("button", name="Leave the scan").click()
    expect(ghost).to_have_count(0)


def test_a_spring_from_its_numbers_by_keys_alone(shelf):
    page, pressed = shelf, 0

    def press(key, count=1):
        nonlocal pressed
        for _ in range(count):
            page.keyboard.press(key)
        pressed += count

    def tab_to(there):
        for _ in range(12):
            press("Tab")
            if page.evaluate(f"document.activeElement.matches({there!r})"):
                return
        raise AssertionError(f"12 presses of Tab do not lead to {there}")

    tab_to("a[href='/new']")
    press("Enter")
    page.get_by_role("link", name="A rope or a cable").wait_for()
    tab_to("a[href^='/new/push']")
    press("Enter")
    figure(page, "wire_length").wait_for()
    for step, places in (("Alt+2", ("diameter", "turns", "height")), ("Alt+3", ("diameter",))):
        press(step)
        group = "path" if step == "Alt+2" else "section"
        page.locator(f"[data-place='/{group}/diameter']").wait_for()
        for place in places:
            tab_to(f"[data-place='/{group}/{place}']")
            press("Control+a")
            page.keyboard.type({"turns": "7", "height": "40"}.get(place, "18" if group == "path" else "2"))
    answered(page)
    expect(figure(page, "wire_length")).to_contain_text("398.29")
    assert pressed <= 30
