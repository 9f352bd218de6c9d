"""The controller's page: set, felt, chosen and wired, by mouse and by keyboard."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from e2e.conftest import open_bench, saved
from e2e.product import KEYED, Product
from e2e.test_builds import findings


@pytest.fixture
def address(product: Product) -> str:
    return product.begin()


def controller(product: Product, address: str) -> dict:
    found: dict = product.build(address)["document"]["controller"]
    return found


def undone(page: Page) -> None:
    while page.get_by_role("button", name="Undo").is_enabled():
        page.get_by_role("button", name="Undo").click()
        page.wait_for_timeout(400)
        saved(page)


def test_settings_are_set_by_press_and_by_hand_and_taken_back(
    page: Page, product: Product, address: str
):
    before = product.build(address)["document"]
    open_bench(page, address)
    page.keyboard.press("o")
    expect(page.get_by_role("heading", name="What to set, in this order")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Set it: switching frequency")).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("set so").first).to_be_visible()
    dead = page.get_by_label("Dead band, as it is set")
    dead.fill("7")
    dead.press("Enter")
    expect(page.get_by_text("75% above what is worked out")).to_be_visible()
    saved(page)
    kept = controller(product, address)
    assert kept["pwm_hz"] == 16000
    assert kept["settings"]["dead_band_pct"]["value"] == 7
    assert re.fullmatch(r"\d{4}-\d\d-\d\d", kept["settings"]["dead_band_pct"]["on"])
    with page.expect_download() as saving:
        page.get_by_role("button", name="Save as JSON").click()
    assert saving.value.suggested_filename.endswith("-settings.json")
    undone(page)
    assert product.build(address)["document"] == before


def test_the_curve_is_drawn_by_points_with_mouse_and_keys(
    page: Page, product: Product, address: str
):
    before = product.build(address)["document"]
    page.goto(f"{address}/controller?view=feel")
    page.get_by_role("button", name="By points instead").click()
    first = page.get_by_role("slider", name=re.compile("^Point 1"))
    box = first.bounding_box()
    assert box is not None
    at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*at)
    page.mouse.down()
    page.mouse.move(at[0], at[1] + 25, steps=5)
    page.mouse.up()
    saved(page)
    dragged = controller(product, address)["curve"]["points"]
    assert dragged[0]["trigger_pct"] == 25
    assert 5 <= dragged[0]["volts_pct"] < 20
    first.focus()
    page.keyboard.press("ArrowUp")
    page.wait_for_timeout(300)
    saved(page)
    nudged = controller(product, address)["curve"]["points"]
    assert nudged[0]["volts_pct"] == dragged[0]["volts_pct"] + 1
    undone(page)
    assert product.build(address)["document"] == before


def speed_of(page: Page) -> float:
    told = page.get_by_role("region", name="Trigger").locator("dd").first.inner_text()
    return float(told.split()[0])


def test_a_held_trigger_drives_off_and_the_brake_stops(page: Page, product: Product, address: str):
    page.goto(f"{address}/controller?view=feel")
    full = page.get_by_role("button", name="Hold full")
    full.focus()
    page.keyboard.down("Space")
    expect(page.get_by_text("motor amps limit sets it")).to_be_visible()
    page.wait_for_timeout(1500)
    page.keyboard.up("Space")
    page.wait_for_timeout(300)
    fast = speed_of(page)
    assert fast > 5
    assert findings(page) == []
    page.get_by_role("button", name="Hold the brake").focus()
    page.keyboard.down("Space")
    page.wait_for_timeout(1500)
    braked = speed_of(page)
    page.keyboard.up("Space")
    assert braked < 0.8 * fast
    # The slider springs back where it is let go, by itself.
    slider = page.get_by_role("slider", name="Trigger", exact=True)
    box = slider.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.9, box["y"] + box["height"] / 2, steps=4)
    expect(slider).not_to_have_value("0")
    page.mouse.up()
    expect(slider).to_have_value("0")
    rolling = speed_of(page)
    page.get_by_label("Slope").select_option(label="20 % down")
    page.wait_for_timeout(1500)
    assert speed_of(page) > rolling + 3
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_role("button", name="Stop")).to_have_count(0)
    # The last of it stays to be read.
    stood = speed_of(page)
    page.wait_for_timeout(500)
    assert speed_of(page) == stood


def test_who_wants_nothing_to_move_sees_a_pull_written_down(
    page: Page, product: Product, address: str
):
    page.emulate_media(reduced_motion="reduce")
    page.goto(f"{address}/controller?view=feel")
    expect(page.get_by_role("img", name=re.compile("One pull: speed"))).to_be_visible()
    assert findings(page) == []


def test_a_controller_is_chosen_with_reasons_and_put_back(
    page: Page, product: Product, address: str
):
    before = product.build(address)["document"]
    page.goto(f"{address}/controller?view=which")
    best = page.get_by_role("region", name="Which controller?").locator("ol > li").first
    first = best.inner_text().split("\n")[0]
    page.get_by_role("slider", name="price").focus()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    expect(best).not_to_contain_text(first)
    best.get_by_role("button", name=re.compile("^Set it")).click()
    saved(page)
    name = controller(product, address)["name"]
    assert name in best.inner_text()
    undone(page)
    assert product.build(address)["document"] == before


def test_a_limit_raised_with_solder_is_told_with_what_gives_way(
    page: Page, product: Product, address: str
):
    page.goto(f"{address}/controller?view=wires")
    shunt = page.get_by_role("region", name="A limit raised by hand")
    for label, value in (("Limit before", "45"), ("Sense resistor", "1"), ("Beside it", "1")):
        shunt.get_by_label(label).fill(value)
        shunt.get_by_label(label).press("Enter")
    # Twice the amps through half of the resistance.
    expect(shunt).to_contain_text("90")
    expect(shunt).to_contain_text("The better way")
    assert findings(page) == []


def test_ticks_of_the_first_power_are_there_in_another_browser(
    page: Page, browser: Browser, product: Product, address: str
):
    page.goto(f"{address}/controller")
    page.get_by_label(re.compile("The wheels off the ground")).check()
    page.wait_for_timeout(500)
    other = browser.new_context(extra_http_headers=KEYED).new_page()
    other.goto(f"{address}/controller")
    expect(other.get_by_label(re.compile("The wheels off the ground"))).to_be_checked()
    other.context.close()
