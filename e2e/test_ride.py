"""A ride on the page: a road of one's own, in the cold, with another build beside it."""

import json
import re
from pathlib import Path

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


def test_a_ride_is_kept_and_ridden_again_when_the_build_has_changed(page: Page, product: Product):
    address = product.begin()
    open_bench(page, address)
    page.keyboard.press("r")
    arrives(page)
    page.get_by_label("Name of the ride").fill("Over the dyke")
    page.get_by_role("button", name="Keep this ride").click()
    expect(page.get_by_text('Kept as "Over the dyke"')).to_be_visible(timeout=30_000)
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Bench").click()
    page.get_by_role("button", name="Rolling mass up").click()
    saved(page)
    page.get_by_role("link", name="Ride").click()
    page.get_by_role("tab", name="Kept rides").click()
    kept = page.get_by_role("region", name="Kept rides")
    expect(kept).to_contain_text("of an older version, 1")
    assert findings(page) == []
    with page.expect_download() as saving:
        kept.get_by_role("link", name="Run document").click()
    document = json.loads(saving.value.path().read_text())
    assert document["format"] == "young-torrent.run/1"
    assert document["build"]["name"]
    kept.get_by_role("button", name="Take it out").click()
    kept.get_by_role("button", name="Bring it back").click()
    kept.get_by_role("button", name="Ride it on the build as it is now").click()
    assert arrives(page) > 0


def test_a_road_comes_out_of_a_file_and_is_drawn_on(page: Page, product: Product, tmp_path: Path):
    places = "".join(
        f'<trkpt lat="{51 + 0.0009 * step}" lon="1"><ele>{4 + step}</ele></trkpt>'
        for step in range(11)
    )
    file = tmp_path / "dyke-path.gpx"
    file.write_text(f"<gpx><trk><trkseg>{places}</trkseg></trk></gpx>")
    open_bench(page, product.begin())
    page.keyboard.press("r")
    arrives(page)
    page.get_by_text("The road:").click()
    page.get_by_label("GPX file").set_input_files(file)
    expect(page.get_by_text("Heights smoothed over 30 m")).to_be_visible(timeout=20_000)
    told = page.get_by_role("region", name="What it came to")
    expect(told).to_contain_text("1.00 km", timeout=20_000)
    with page.expect_download() as saving:
        page.get_by_role("button", name="As GPX").click()
    assert "<speed>" in saving.value.path().read_text()
    for name, begins in (("Picture, SVG", b"<svg"), ("PNG", b"\x89PNG")):
        with page.expect_download() as saving:
            page.get_by_role("button", name=name).click()
        assert saving.value.path().read_bytes().startswith(begins)
    # Its last place goes up by ten metres by the keys, and the road is its own from then on.
    place = page.get_by_role("slider", name=re.compile("^Place .* after 10[01]"))
    place.focus()
    high = float(place.get_attribute("aria-valuenow"))
    page.keyboard.press("Shift+ArrowUp")
    expect(place).to_have_attribute("aria-valuenow", f"{high + 10:.1f}")
    file.write_text('<!DOCTYPE gpx [<!ENTITY a "b">]><gpx>&a;</gpx>')
    page.get_by_label("GPX file").set_input_files(file)
    expect(page.get_by_text("Nothing was read: gpx declares entities")).to_be_visible()


def test_meters_are_read_while_a_hidden_vehicle_is_out(page: Page, product: Product):
    open_bench(page, product.begin())
    page.keyboard.press("r")
    arrives(page)
    page.locator("select").first.select_option("start")
    page.get_by_role("tab", name="Meters on the bench").click()
    page.get_by_label("the logger was cleared before").uncheck()
    page.get_by_label("as fast as in life").select_option("20")
    page.get_by_role("button", name="Set off").click()
    meters = page.get_by_role("region", name="Meters on the bench")
    expect(meters).to_contain_text("It is over", timeout=60_000)
    expect(meters.locator("dd").first).not_to_contain_text("- - -")
    page.get_by_role("button", name="Read it").click()
    expect(meters).to_contain_text("it was full from the last time and recorded nothing")
    assert findings(page) == []


def test_the_end_of_the_trip_is_looked_at_by_one_press(page: Page, product: Product):
    open_bench(page, product.begin())

    def top() -> float:
        tab = page.get_by_role("tab", name=re.compile("Top speed"))
        return float(re.search(r"([\d.]+)\s*km/h", tab.inner_text()).group(1))  # type: ignore[union-attr]

    now = top()
    page.keyboard.press("e")
    looked = page.get_by_role("radiogroup", name="Looked at")
    expect(looked.get_by_role("radio", name="end of the trip")).to_be_checked()
    expect(page.get_by_role("tab", name=re.compile("Top speed"))).not_to_contain_text(f"{now}")
    assert top() < 0.9 * now
    page.keyboard.press("e")
    expect(looked.get_by_role("radio", name="as it is now")).to_be_checked()
    expect(page.get_by_role("tab", name=re.compile("Top speed"))).to_contain_text(f"{now}")
