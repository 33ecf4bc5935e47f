"""A run-through on its page: run, played, its first clash shown, its files kept."""

from playwright.sync_api import expect


def test_a_run_through_is_played_and_kept(bench):
    page = bench
    page.get_by_role("button", name="Run-through").click()
    page.get_by_label("Moves through").fill("6 2")
    page.get_by_label("Frames").fill("12")
    page.get_by_role("button", name="Run it through").click()
    page.get_by_role("button", name="Show the first clash").click()
    expect(page.get_by_text("stop", exact=True).first).to_be_visible()
    slider = page.get_by_role("slider", name="Frame")
    expect(slider).not_to_have_value("0")
    slider.press("Home")
    expect(page.get_by_role("table", name="This frame")).to_contain_text("6")
    page.get_by_role("button", name="Play").click()
    expect(slider).not_to_have_value("0")
    page.get_by_role("button", name="Hold").click()
    for name, start in (("Animation, GLB", b"glTF"), ("Video, WebP", b"RIFF"), ("Pictures", b"PK")):
        with page.expect_download() as download:
            page.get_by_role("link", name=name).click()
        assert download.value.path().read_bytes().startswith(start)
