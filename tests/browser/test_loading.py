"""What the pages fetch: little for the shelf, and the rest when it is shown."""

import gzip

from playwright.sync_api import expect


def fetched_by(page, address):
    """The scripts that a page fetches until it is still, by name."""
    scripts = {}

    def note(response):
        if response.url.endswith(".js"):
            scripts[response.url.rpartition("/")[2]] = response.body()

    page.on("response", note)
    page.goto(address)
    page.wait_for_load_state("networkidle")
    page.remove_listener("response", note)
    return scripts


def test_the_shelf_and_the_finders_load_without_the_3d_part(page, server):
    for path in ("/", "/threads", "/springs"):
        scripts = fetched_by(page, server + path)
        if path == "/":
            assert sum(len(gzip.compress(body)) for body in scripts.values()) < 250_000
        assert not any(b"WebGLRenderer" in body for body in scripts.values()), path


def test_a_part_of_the_page_that_cannot_be_fetched_says_so(shelf):
    page = shelf
    page.route("**/assets/BenchPage*.js", lambda route: route.abort())
    page.get_by_role("link", name="Open Shutter return spring").click()
    expect(page.get_by_role("alert")).to_contain_text("could not be fetched")
    page.unroute("**/assets/BenchPage*.js")
    page.get_by_role("button", name="Load the page again").click()
    page.locator("[data-figure=wire_length]").wait_for()
