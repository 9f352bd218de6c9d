"""The ways through the whole product: from nothing to an answer, page to page, at every width."""

import re

import pytest
from playwright.sync_api import Page, expect

from e2e.conftest import open_bench, saved
from e2e.product import Product
from e2e.test_builds import findings
from e2e.test_match import tab_to


@pytest.mark.parametrize("width", [1280, 390])
def test_a_newcomer_reads_an_answer_for_a_vehicle_of_their_own(
    page: Page, own_product: Product, width: int
):
    """Four things typed from the shed: kind, weight, cells, KV; then one line is read."""
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(own_product.url)
    expect(page.get_by_role("heading", name="What do you want to move?")).to_be_visible()
    kind = page.get_by_label("Find a kind of vehicle")
    # Where one begins is on the first screen, without scrolling.
    box = kind.bounding_box()
    assert box
    assert box["y"] < 700
    kind.fill("trike")
    expect(page.get_by_role("button", name=re.compile("^Cargo trike"))).to_be_visible()
    kind.press("Enter")
    line = page.get_by_role("main").get_by_text("on the flat")
    expect(line).to_be_visible()
    before = page.get_by_role("main").locator("p").first.inner_text()
    vehicle = page.get_by_role("region", name="Vehicle and trip", exact=True)
    vehicle.get_by_role("button").first.click()
    mass = page.get_by_label("Rolling mass", exact=True)
    mass.fill("240")
    mass.press("Enter")
    page.keyboard.press("Escape")
    motor = page.get_by_role("region", name="Motor", exact=True)
    motor.get_by_role("button").first.click()
    kv = page.get_by_label("KV", exact=True)
    kv.fill("75")
    kv.press("Enter")
    page.keyboard.press("Escape")
    expect(page.get_by_role("main").locator("p").first).not_to_have_text(before)
    expect(page.get_by_role("main").locator("p").first).to_contain_text("a charge lasts")
    saved(page)


def test_one_frame_holds_brief_bench_and_gearing_by_keyboard(page: Page, product: Product):
    address = product.begin()
    open_bench(page, address)
    way = page.get_by_role("navigation", name="Pages of the build")
    expect(way.get_by_role("link", name=re.compile("^Bench"))).to_have_attribute(
        "aria-current", "page"
    )
    page.get_by_role("button", name="Cells in series up").click()
    saved(page)
    page.keyboard.press("g")
    expect(page.get_by_role("tab", name="Teeth")).to_be_visible()
    # What was done on the bench is taken back from here, by its key.
    expect(page.get_by_text("Ratio")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Redo")).to_be_enabled()
    assert product.build(address)["document"]["battery"]["series"] == 13
    page.keyboard.press("i")
    tab_to(page, "Write the brief of this vehicle")
    page.keyboard.press("Enter")
    least = page.get_by_role("textbox", name=re.compile("^Top speed at least"))
    expect(least).to_have_value("31")
    least.fill("44")
    least.press("Enter")
    expect(page.get_by_role("textbox", name=re.compile("^Top speed at most"))).to_be_visible()
    most = page.get_by_role("textbox", name=re.compile("^Top speed at most"))
    most.fill("")
    most.press("Enter")
    expect(way.get_by_role("link", name=re.compile("^Brief"))).to_have_attribute(
        "title", re.compile("missed"), timeout=20_000
    )
    page.get_by_role("heading", name="How fast?").click()
    page.keyboard.press("b")
    page.get_by_role("tab", name="Brief").click()
    met = page.get_by_role("tabpanel", name="Brief")
    expect(met).to_contain_text("the brief as it reads now")
    met.get_by_role("link", name=re.compile("^The brief")).click()
    expect(least).to_have_value("44")


def test_a_machine_that_disappoints_is_opened_on_what_would_help(page: Page, product: Product):
    page.goto(product.url)
    page.get_by_role("tab", name="I have a machine that disappoints me").click()
    page.get_by_label(re.compile("Which machine")).select_option(label="Powered barrow")
    page.get_by_role("button", name="The motor gets too hot").click()
    board = page.get_by_role("region", name="What would help")
    expect(board.get_by_label("Wish", exact=True)).to_have_value("winding_c")
    first = board.get_by_role("row").nth(1)
    expect(first).to_contain_text("better")


def test_parts_that_lie_there_are_searched_for_what_they_can_do(page: Page, product: Product):
    page.goto(product.url)
    page.get_by_role("tab", name="I have parts").click()
    page.get_by_role("button", name="Type its label or listing").click()
    page.get_by_label("What the shop says").fill("3548, 790 KV, 3S-6S, 60 A, 5 mm shaft")
    sheet = page.get_by_role("dialog", name="Read a listing")
    sheet.get_by_label("Resistance").fill("0.028")
    page.keyboard.press("Enter")
    sheet.get_by_role("button", name=re.compile("Take the guess .* A")).first.click()
    sheet.get_by_label("Name").fill("Can from the drawer")
    sheet.get_by_role("button", name="Put it on the shelf").click()
    motor = page.get_by_label("Motor", exact=True)
    expect(motor.locator("option:checked")).to_have_text("Can from the drawer")
    page.get_by_label("What should they move?").select_option(label="Fast model car")
    page.get_by_role("button", name="See what they can do").click()
    first = page.get_by_role("main").locator("ol > li").first
    expect(first).to_contain_text("Can from the drawer", timeout=60_000)


def pages_of(product: Product) -> dict[str, str]:
    build = product.begin()
    other = product.begin()
    named = ",".join(f"build:{one.rsplit('/', 1)[1]}" for one in (build, other))
    return {
        product.url: "Find a kind of vehicle",
        build: "",
        f"{build}/brief": "",
        f"{build}/gearing": "",
        f"{build}/ride": "",
        f"{build}/controller": "",
        f"{build}/controller?view=feel": "",
        f"{build}/controller?view=which": "",
        f"{build}/controller?view=wires": "",
        f"{build}/gearing?view=roads": "",
        f"{build}/gearing?view=chart": "",
        f"{product.url}/shelf": "Look for",
        f"{product.url}/compare?with={named}": "",
        f"{product.url}/kept": "",
    }


@pytest.mark.parametrize(("width", "theme"), [(320, "light"), (640, "dark")])
def test_every_page_reflows_at_twice_the_size_without_loss(
    page: Page, product: Product, width: int, theme: str
):
    """WCAG 2.2, 1.4.10: 320 px wide; 1280 px at 200 % are 640."""
    page.set_viewport_size({"width": width, "height": 500})
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")  # type: ignore[arg-type]
    for address in pages_of(product):
        page.goto(address)
        page.wait_for_load_state("networkidle")
        assert page.evaluate("document.documentElement.scrollWidth") <= width, address
        assert findings(page) == [], address
        moving = "[...document.getAnimations()].filter(a => a.playState === 'running').length"
        assert page.evaluate(moving) == 0, address
