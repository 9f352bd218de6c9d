"""Craft in the browser: from the start page to three roads, on a phone and with the keyboard."""

import re

from playwright.sync_api import Page, expect

from e2e.conftest import find, open_bench, saved
from e2e.product import Product
from e2e.test_builds import findings


def test_a_trainer_wing_is_begun_and_flown_faster(page: Page, product: Product):
    page.goto(product.url)
    page.get_by_placeholder(re.compile("Type what it is")).fill("wing")
    page.get_by_role("link", name="Trainer wing").or_(
        page.get_by_role("button", name="Trainer wing")
    ).first.click()
    expect(page.get_by_role("tab", name=re.compile("Standing"))).to_be_visible(timeout=20_000)
    expect(page.get_by_role("region", name="Propeller", exact=True)).to_contain_text("thrust")
    assert findings(page) == []
    page.keyboard.press("g")
    roads = page.get_by_role("region", name="Three roads to more")
    expect(roads).to_contain_text("Faster, longer, or easier to launch?", timeout=20_000)
    faster = roads.get_by_role("row").nth(2)
    expect(faster).to_contain_text("Cells in series 3")
    roads.get_by_role("radio", name="Easier to launch").click()
    expect(roads.get_by_role("row", name=re.compile("Diameter"))).to_be_visible()
    assert findings(page) == []
    roads.get_by_role("radio", name="Faster").click()
    roads.get_by_role("button", name=re.compile("Set it: Pitch")).click()
    saved(page)
    expect(roads).to_contain_text("Pitch 139.7")


def test_the_airboat_of_the_reserve_on_a_phone(page: Page, product: Product):
    find(page, product, "Coot airboat")
    page.get_by_role("link", name="Coot airboat", exact=True).click()
    expect(page.get_by_role("tab", name=re.compile("Hump"))).to_be_visible(timeout=20_000)
    page.set_viewport_size({"width": 390, "height": 844})
    page.wait_for_timeout(500)
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390
    assert findings(page) == []


def test_a_craft_is_stood_on_the_scale(page: Page, product: Product):
    find(page, product, "Tern survey wing")
    page.get_by_role("link", name="Tern survey wing", exact=True).click()
    expect(page.get_by_role("tab").first).to_be_visible(timeout=20_000)
    open_bench(page, page.url.split("?")[0])
    page.keyboard.press("l")
    page.get_by_role("tab", name="Enter a run").click()
    page.get_by_role("radio", name="On the scale").click()
    field = page.get_by_label(re.compile("^Thrust"))
    field.fill("16.4")
    field.press("Tab")
    page.get_by_role("button", name="Add it to the run").click()
    beside = page.get_by_role("region", name="Beside what was predicted")
    expect(beside).to_contain_text("16.4 N", timeout=20_000)
    expect(beside).to_contain_text("predicted")
    assert findings(page) == []
    page.get_by_role("tab", name="The day").click()
    before = page.get_by_role("region", name="Before riding")
    expect(before).to_contain_text("Propeller without a nick", timeout=20_000)
    expect(before).not_to_contain_text("helmet")


def test_a_press_that_brings_a_stop_says_so_under_it(page: Page, product: Product):
    find(page, product, "Tern survey wing")
    page.get_by_role("link", name="Tern survey wing", exact=True).click()
    expect(page.get_by_role("tab").first).to_be_visible(timeout=20_000)
    page.keyboard.press("g")
    roads = page.get_by_role("region", name="Three roads to more")
    cell = roads.get_by_role("row", name=re.compile("Cells in series"))
    expect(cell).to_contain_text("Then", timeout=20_000)
    expect(roads.get_by_role("row", name=re.compile("^Pitch"))).not_to_contain_text("Then")
    assert findings(page) == []


def test_the_airboat_finds_a_drive_with_a_propeller(page: Page, product: Product):
    find(page, product, "Coot airboat")
    page.get_by_role("link", name="Coot airboat", exact=True).click()
    expect(page.get_by_role("tab").first).to_be_visible(timeout=20_000)
    page.keyboard.press("i")
    expect(page.get_by_label("Propeller at most")).to_have_value("900")
    expect(page.get_by_label("Thrust over weight")).to_have_value("0.12")
    expect(page.get_by_label(re.compile("Grade of the hill"))).to_have_count(0)
    first = page.get_by_role("button", name="To the bench, number 1", exact=True)
    expect(first).to_be_visible(timeout=60_000)
    assert findings(page) == []
    first.click()
    expect(page.get_by_role("tab", name=re.compile("Hump"))).to_be_visible(timeout=20_000)
    expect(page.get_by_role("region", name="Propeller", exact=True)).to_be_visible()


def test_a_stand_tells_a_bad_joint_and_a_ride_shows_the_wake(page: Page, product: Product):
    find(page, product, "Tern survey wing")
    page.get_by_role("link", name="Tern survey wing", exact=True).click()
    expect(page.get_by_role("tab").first).to_be_visible(timeout=20_000)
    open_bench(page, page.url.split("?")[0])
    page.get_by_role("region", name="Propeller", exact=True).get_by_role("button").first.click()
    page.get_by_text("Stand it on a scale").click()
    # Its own thrust at 7,500 rpm, with more amps and fewer turns than so many volts should give.
    said = {"Volts": "11.1", "Amps": "30", "Turns": "7500", "Thrust": "1480"}
    for label, text in said.items():
        page.get_by_label(f"{label}, reading 1").fill(text)
    bank = page.get_by_role("region", name="Propeller, all inputs")
    expect(bank.get_by_text("The motor is off")).to_contain_text("mohm", timeout=20_000)
    assert findings(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Ride").click()
    went = page.get_by_role("region", name="Where it went")
    expect(went).to_contain_text("wake", timeout=60_000)
    expect(page.get_by_text("The way: 4 stretches")).to_be_visible()
    assert findings(page) == []
