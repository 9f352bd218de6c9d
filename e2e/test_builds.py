"""From the list to a build of one's own, typed in from a parts listing and found again."""

import json
import re

import pytest
from playwright.sync_api import Page, expect

from e2e.conftest import find, open_bench, open_part, part, saved
from e2e.product import DEMO, ROOT, Product

AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()

LISTING = {
    "Pack": {
        "Cells in series": "10",
        "Strings in parallel": "4",
        "Cell capacity": "3.5",
        "Cell resistance": "28",
        "Wiring resistance": "15",
        "Cell rests at": "4.05",
    },
    "Controller": {
        "Pack amps limit": "25",
        "Motor amps limit": "60",
        "Highest volts": "48",
        "Path resistance": "0.004",
    },
    "Motor": {"KV": "90", "Resistance": "0.06", "No-load amps": "1.1", "Highest rpm": "4500"},
    "Wheel": {"Rolls": "1596"},
    "Vehicle and trip": {
        "Rolling mass": "132",
        "Rolling resistance": "0.011",
        "Drag area": "0.7",
        "Climb": "6",
        "Cruise at": "20",
    },
}


def test_a_vehicle_typed_in_by_hand_is_solved_and_found_after_a_restart(
    page: Page, own_product: Product
):
    product = own_product
    page.goto(product.url)
    page.get_by_role("button", name=re.compile("^Cargo trike")).click()
    expect(page.get_by_role("tab").first).to_be_visible()
    name = page.get_by_label("Name of the build")
    name.fill("Reed cutter's trailer")
    name.press("Enter")
    for part_name, values in LISTING.items():
        editor = open_part(page, part_name)
        for label, value in values.items():
            field = editor.get_by_label(label, exact=True)
            if not field.is_visible():
                editor.get_by_text(re.compile("more, not filled in")).click()
            field.fill(value)
            field.press("Enter")
    gearing = open_part(page, "Gearing")
    gearing.get_by_role("button", name="Take out stage 1").click()
    expect(gearing.get_by_label("Driver", exact=True)).to_have_count(1)
    gearing.get_by_label("Driver", exact=True).fill("13")
    gearing.get_by_label("Driver", exact=True).press("Enter")
    gearing.get_by_label("Driven", exact=True).fill("78")
    gearing.get_by_label("Driven", exact=True).press("Enter")
    saved(page)
    address = page.url
    document = product.build(address)["document"]
    assert document["battery"]["series"] == 10
    assert document["gearing"] == [
        {"kind": "chain", "driver_teeth": 13, "driven_teeth": 78, "efficiency": 0.97}
    ]
    assert document["provenance"]["motor.kv_rpm_per_v"]["origin"] == "estimated"
    shown = part(page, "Vehicle and trip").text_content()

    product.process.terminate()
    product.process.wait(timeout=30)
    product.start()
    page.goto(product.url)
    page.get_by_role("link", name="Reed cutter's trailer").click()
    expect(part(page, "Vehicle and trip")).to_have_text(shown)
    assert product.build(address)["document"] == document


def test_the_list_shows_streams_and_offers_ways_to_begin(page: Page, product: Product):
    for name in ("Causeway trike", "Powered barrow", "Seed rover"):
        find(page, product, name)
        expect(
            page.get_by_role("img", name=re.compile(f"^{name}, .*from the cells")).first
        ).to_be_visible()
    page.get_by_role("button", name="More for Seed rover").first.click()
    page.get_by_role("menuitem", name="Copy").click()
    copy = page.get_by_role("link", name="Seed rover (copy)")
    expect(copy).to_be_visible()
    page.get_by_role("button", name="More for Seed rover (copy)").click()
    page.get_by_role("menuitem", name="Take out of the list").click()
    expect(copy).to_have_count(0)
    page.get_by_text("taken out of the list").click()
    page.get_by_role("button", name="Bring back").first.click()
    expect(copy).to_be_visible()


def test_a_build_file_is_opened_or_refused_with_its_place(page: Page, product: Product, tmp_path):
    page.goto(product.url)
    good = json.loads((DEMO / "seed-rover.json").read_text())
    bad = {**good, "battery": {**good["battery"], "series": 0}}
    (tmp_path / "bad.json").write_text(json.dumps(bad))
    page.get_by_label("Build file").set_input_files(tmp_path / "bad.json")
    expect(page.get_by_text("battery.series is below anything possible")).to_be_visible()
    (tmp_path / "good.json").write_text(json.dumps({**good, "name": "Rover from a file"}))
    page.get_by_label("Build file").set_input_files(tmp_path / "good.json")
    expect(page.get_by_label("Name of the build")).to_have_value("Rover from a file")


def findings(page: Page) -> list[str]:
    page.evaluate(AXE)
    result = page.evaluate("axe.run(document, {resultTypes: ['violations']})")
    return [
        f"{v['id']}: {v['nodes'][0]['html'][:160]}"
        for v in result["violations"]
        if v["impact"] in ("serious", "critical")
    ]


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("width", [1280, 390])
def test_no_serious_findings_and_nothing_wider_than_the_screen(
    page: Page, product: Product, theme, width
):
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(product.url)
    expect(page.get_by_role("button", name=re.compile("^Cargo trike"))).to_be_visible()
    assert findings(page) == []
    address = product.begin()
    open_bench(page, address)
    page.get_by_role("button", name="Stage 1 driver up").click()
    expect(part(page, "Vehicle and trip")).to_contain_text("38.9")
    saved(page)
    assert findings(page) == []
    wide, tall = page.evaluate(
        "[document.documentElement.scrollWidth, document.documentElement.scrollHeight]"
    )
    assert wide <= width
    if width == 1280:
        assert tall <= 800
        main = page.locator("main")
        assert main.evaluate("e => e.scrollHeight <= e.clientHeight + 1")
    open_part(page, "Motor")
    assert findings(page) == []
