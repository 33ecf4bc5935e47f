"""Bodies and paths brought in from files, on the bench."""

import pytest
import trimesh
from playwright.sync_api import expect

from tests.browser.test_bench import figure, open_step, verdict


@pytest.mark.thorough
def test_a_coil_is_fitted_around_a_body_from_a_file(bench, tmp_path):
    page = bench
    trimesh.creation.cylinder(9.5, 100, sections=64).export(tmp_path / "post.stl")
    open_step(page, "fit")
    page.get_by_label("Air to keep").fill("0.5")
    page.get_by_label("Bring a body in").set_input_files(tmp_path / "post.stl")
    expect(page.get_by_role("alert")).to_contain_text("does not say its unit")
    page.get_by_role("button", name="mm", exact=True).click()
    expect(page.get_by_role("button", name="Take post out")).to_be_visible()
    expect(verdict(page)).to_have_text("stop")
    page.get_by_role("button", name="Fit the coil around").click()
    expect(verdict(page)).to_have_text("clear")
    expect(figure(page, "inside_diameter")).to_contain_text("20")


@pytest.mark.thorough
def test_a_path_is_taken_from_a_table(bench, tmp_path):
    page = bench
    rows = "\n".join(f"{x},{x * x / 40},0" for x in range(0, 61, 3))
    (tmp_path / "way.csv").write_text(f"x mm,y mm,z mm\n{rows}\n")
    open_step(page, "path")
    page.get_by_role("combobox", name="Kind").first.click()
    page.get_by_role("option", name="points").click()
    page.get_by_label("Take the path from a file").set_input_files(tmp_path / "way.csv")
    expect(page.get_by_text("of the file’s curve")).to_be_visible()
    expect(figure(page, "wire_length")).to_contain_text("113.05")
