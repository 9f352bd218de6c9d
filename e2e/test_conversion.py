"""Conversions in the browser: a plate, gears, fit to scale, high volts, price, the keyboard."""

import re

from playwright.sync_api import Page, expect

from e2e.conftest import find, open_bench, open_part, part, saved
from e2e.product import Product
from e2e.test_answers import demo
from e2e.test_builds import findings


def fill(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True).first
    field.fill(text)
    field.press("Enter")


def test_a_tractor_with_a_motor_from_a_hoist(page: Page, product: Product):
    """640 kg, a plate of 72 V, 180 A, 10 kW, 1,850 rpm, S2 30 min; 28/16/9, a wheel 2.1 m round."""
    page.goto(product.url)
    page.get_by_placeholder(re.compile("Type what it is")).fill("tractor")
    page.get_by_role("link", name="Farm tractor").or_(
        page.get_by_role("button", name="Farm tractor")
    ).first.click()
    expect(page.get_by_role("tab").first).to_be_visible(timeout=20_000)
    editor = open_part(page, "Motor")
    editor.get_by_text("Work it out from what you know").click()
    editor.get_by_role("button", name="A plate").click()
    known = editor.locator("fieldset")
    for label, text in (
        ("Rated volts", "72"),
        ("Rated speed", "1850"),
        ("Rated amps", "180"),
        ("Rated watts", "10000"),
        ("For", "30"),
    ):
        known.get_by_label(re.compile(rf"^{label}\b")).fill(text)
    known.get_by_label("Those watts are").select_option("shaft")
    known.get_by_label("Duty").select_option("S2")
    expect(editor).to_contain_text("126")
    editor.get_by_role("button", name=re.compile("^Use")).click()
    saved(page)
    page.keyboard.press("Escape")
    page.keyboard.press("v")
    expect(page.get_by_role("heading", name="The engine that comes out")).to_be_visible()
    rows = page.get_by_role("row")
    expect(rows.filter(has_text="Gear 1")).to_contain_text("N")
    assert findings(page) == []


def test_both_ways_of_the_old_tractor(page: Page, product: Product):
    open_bench(page, demo(product, "ruff-tractor"))
    expect(part(page, "Motor")).to_contain_text("Motor of a goods hoist")
    # What runs along leaves the stream beside the heat.
    expect(page.get_by_text("beside it")).to_be_visible()
    gear = page.get_by_role("group", name=re.compile("^Gear engaged"))
    expect(gear).to_contain_text("best")
    gear.get_by_role("button").last.click()
    expect(part(page, "Gearing")).to_contain_text("88")
    expect(part(page, "Gearing")).to_contain_text("gear 1")
    gear.get_by_role("button").first.press("ArrowUp")
    expect(part(page, "Gearing")).to_contain_text("gear 2")
    page.keyboard.press("v")
    expect(page.get_by_text("alone does both hill and trip")).to_be_visible()
    expect(
        page.get_by_role("img", name=re.compile("in 4 gears, of the motor and of the engine"))
    ).to_be_visible()
    assert findings(page) == []

    page.get_by_role("tab", name="Does it fit?").click()
    drawing = page.get_by_role("img", name=re.compile("to scale: Adapter plate 22 mm"))
    expect(drawing).to_contain_text("502 mm needed")
    fill(page, "Free length", "480")
    expect(page.get_by_text("22 mm too long: 502 mm where 480 mm are free")).to_be_visible()
    expect(drawing).to_contain_text("480 mm free")
    assert findings(page) == []

    page.get_by_role("tab", name="Other volts, other field").click()
    volts = page.get_by_role("region", name="The same torque at other volts")
    expect(volts.get_by_role("row").filter(has_text="96.0 V")).to_contain_text("Within")
    page.get_by_role("button", name="Join it so: in parallel").click()
    saved(page)
    expect(page.get_by_text("4 coils in series: each coil carries all amps")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_text("4 coils in parallel: a coil carries 1/4")).to_be_visible()
    assert findings(page) == []

    page.get_by_role("tab", name="Switching it on").click()
    expect(page.get_by_text("licensed practice and local codes come first")).to_be_visible()
    # 87.6 V over 24 x 0.7 + 3 mohm
    expect(page.get_by_role("region", name="Pack, fuse, contactor")).to_contain_text("4,424 A")
    assert findings(page) == []

    page.get_by_role("tab", name="What runs along, and the price").click()
    expect(page.get_by_text("All of it is told.")).to_be_visible()
    fill(page, "What", "Seat heating")
    page.get_by_label("watts").fill("260")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_text("350 W hang on it: a larger one")).to_be_visible()
    page.get_by_role("button", name="Take Seat heating out").click()
    expect(page.get_by_text("210 W more than hang on it")).to_be_visible()
    assert findings(page) == []


def test_a_conversion_on_a_phone_in_the_dark(page: Page, product: Product):
    page.set_viewport_size({"width": 390, "height": 844})
    page.emulate_media(color_scheme="dark")
    open_bench(page, demo(product, "ruff-tractor-packaged"))
    page.get_by_role("link", name="Conversion").click()
    for view in ("fit", "volts", "high", "along", "gears"):
        page.locator(f"[data-view={view}]").click()
        page.wait_for_timeout(300)
        assert page.evaluate("document.documentElement.scrollWidth") <= 390
        assert findings(page) == []


def test_a_bicycle_is_not_asked_what_engine_came_out(trike: Page):
    expect(trike.get_by_role("link", name="Gearing")).to_be_visible()
    expect(trike.get_by_role("link", name="Conversion")).to_have_count(0)


def test_the_tractors_brief_is_answered(page: Page, product: Product):
    find(page, product, "Old Ruff, hoist motor")
    page.get_by_role("link", name="Old Ruff, hoist motor", exact=True).click()
    expect(page.get_by_role("tab").first).to_be_visible()
    page.keyboard.press("i")
    expect(page.get_by_text(re.compile("28/16|gearbox|Gearbox")).first).to_be_visible()
