"""A ride on the page: a road of one's own, in the cold, with another build beside it."""

import re

from playwright.sync_api import Page, expect

from e2e.conftest import open_bench, saved
from e2e.product import Product
from e2e.test_builds import findings


def arrives(page: Page) -> float:
    told = page.get_by_role("region", name="What it came to")
    expect(told).to_contain_text("Arrives with")
    return float(re.search(r"Arrives with\s*([\d.]+)", told.inner_text()).group(1))  # type: ignore[union-attr]


def test_a_road_is_ridden_and_winter_takes_its_share(page: Page, product: Product):
    address = product.begin()
    open_bench(page, address)
    page.keyboard.press("r")
    warm = arrives(page)
    expect(page.get_by_role("region", name="What it came to").locator("small").first).to_be_visible(
        timeout=30_000
    )
    page.get_by_label("in air of").fill("-10")
    page.get_by_label("in air of").press("Enter")
    page.wait_for_timeout(2500)
    cold = arrives(page)
    assert cold < warm - 2
    assert findings(page) == []
    # A place is pointed at by keyboard; the stream stands there.
    place = page.get_by_role("slider", name=re.compile("Place on the ride"))
    place.focus()
    page.keyboard.press("End")
    expect(page.get_by_role("region", name="At this place")).to_contain_text("8.00 km")


def test_a_press_on_a_lever_is_ridden_beside_what_is_pinned(page: Page, product: Product):
    address = product.begin()
    open_bench(page, address)
    page.get_by_role("button", name="Rolling mass up").click()
    saved(page)
    page.keyboard.press("r")
    expect(page.get_by_role("region", name="What it came to")).to_contain_text("was ")
    with page.expect_download() as saving:
        page.get_by_role("button", name="Save the table").click()
    assert saving.value.suggested_filename == "ride.csv"
