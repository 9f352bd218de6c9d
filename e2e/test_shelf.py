"""The parts shelf and the comparison, in the browser."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from e2e.conftest import find
from e2e.product import Product
from e2e.test_builds import findings


def test_a_listing_becomes_a_part_of_ones_own_by_keyboard_and_is_gone_back_on(
    page: Page, product: Product
):
    page.goto(f"{product.url}/shelf")
    page.get_by_role("button", name="Read a listing").focus()
    page.keyboard.press("Enter")
    page.get_by_label("What the shop says").fill("3548, 790 KV, 3S-6S, 60 A, 5 mm shaft, in blue")
    sheet = page.get_by_role("dialog", name="Read a listing")
    expect(sheet.get_by_text("Not understood: “in blue”")).to_be_visible()
    put = sheet.get_by_role("button", name="Put it on the shelf")
    expect(put).to_be_disabled()
    sheet.get_by_label("Resistance").fill("0.028")
    page.keyboard.press("Enter")
    # Nothing waits for what the line only may mean, the peak amps; the no-load amps are needed.
    sheet.get_by_role("button", name=re.compile("Take the guess .* A")).first.focus()
    page.keyboard.press("Enter")
    sheet.get_by_label("Name").fill("Blue can")
    put.focus()
    page.keyboard.press("Enter")
    part = page.get_by_role("dialog", name="Blue can")
    expect(part.get_by_label("KV (needed)")).to_have_value("790")
    expect(part.get_by_label("How No-load amps is known")).to_have_value("estimated")
    part.get_by_label("KV (needed)").fill("no")
    page.keyboard.press("Enter")
    expect(part.get_by_role("alert")).to_contain_text("KV is not a number")
    part.get_by_label("KV (needed)").fill("900")
    page.keyboard.press("Enter")
    part.get_by_role("button", name="Save").click()
    part.get_by_role("button", name="As it was before").click()
    expect(part.get_by_label("KV (needed)")).to_have_value("790")
    page.keyboard.press("Escape")
    expect(part).to_be_hidden()
    page.get_by_role("checkbox", name="own only").check()
    row = page.get_by_role("row", name=re.compile("Blue can"))
    expect(row).to_contain_text("not said")
    expect(row).to_contain_text("790")


def test_looked_for_sorted_held_against_a_build_and_side_by_side(page: Page, product: Product):
    page.goto(f"{product.url}/shelf?kind=controllers")
    rows = page.get_by_role("row")
    expect(page.get_by_text("43 found")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Controller price")).click()
    expect(
        page.get_by_role("columnheader", name=re.compile("^Controller price"))
    ).to_have_attribute("aria-sort", "ascending")
    page.get_by_label("Fits").select_option(label="fits the Causeway trike")
    page.get_by_role("checkbox", name="only those").check()
    expect(page.get_by_text(re.compile(r"^\d+ found$"))).not_to_have_text("43 found")
    ticks = page.get_by_role("checkbox", name=re.compile("^Side by side"))
    for place in (0, 1):
        ticks.nth(place).click()
    page.get_by_role("button", name="Side by side: 2 ticked").click()
    expect(page.get_by_role("region", name="Side by side")).to_contain_text("Highest volts")
    page.reload()
    expect(page.get_by_role("region", name="Side by side")).to_contain_text("Highest volts")
    page.get_by_role("button", name="Back to the list").click()
    page.get_by_label("Look for").fill("no such thing")
    expect(page.get_by_text("Nothing on the shelf is like that")).to_be_visible()
    assert rows.count() == 0


def test_a_table_is_taken_out_changed_and_brought_in(page: Page, product: Product, tmp_path: Path):
    page.goto(f"{product.url}/shelf?kind=wires")
    page.get_by_role("button", name="In and out").click()
    with page.expect_download() as going:
        page.get_by_role("link", name="All wires as a table (CSV)").click()
    table = tmp_path / "wires.csv"
    going.value.save_as(table)
    header, first, *_ = table.read_text().splitlines()
    cells = first.split(",")
    rows = [
        ",".join(["reed-wire", "Reed wire", *cells[2:]]),
        ",".join(["bad-wire", "Bad wire", *cells[2:4], "thick", *cells[5:]]),
    ]
    changed = tmp_path / "mine.csv"
    changed.write_text("\n".join([header, *rows]))
    page.get_by_label("Table or shelf").set_input_files(changed)
    told = page.get_by_role("status").filter(has_text="parts added")
    expect(told).to_contain_text("1 parts added; 1 rows stayed out")
    expect(told).to_contain_text("line 3")
    page.keyboard.press("Escape")
    expect(page.get_by_role("row", name=re.compile("Reed wire"))).to_be_visible()


def test_builds_stand_beside_one_another_on_equal_terms(page: Page, product: Product):
    find(page, product, "Causeway trike")
    page.get_by_role("button", name="More for Causeway trike", exact=True).click()
    page.get_by_role("menuitem", name="Compare with another").click()
    expect(page.get_by_text("Take two to five builds")).to_be_visible()
    page.get_by_label("Compare with another build").select_option(label="Bittern hauler")
    expect(page.get_by_text("cruise. In the vehicle of Causeway trike")).to_be_visible()
    top = page.get_by_role("row", name=re.compile("^Top speed"))
    # The trike's own figure of check-values: 36.8 km/h on the level.
    expect(top.get_by_role("cell").first).to_contain_text("36.8")
    other = top.get_by_role("cell").nth(1).inner_text()
    page.get_by_role("checkbox", name="at the same voltage").click()
    expect(page.get_by_text("13 cells in series for 10")).to_be_visible()
    assert top.get_by_role("cell").nth(1).inner_text() != other
    page.get_by_role("button", name="Climb").click()
    expect(page.get_by_text("climb 8 %").first).to_be_visible()
    table = page.get_by_label("Causeway trike as a")
    table.select_option(label="Board with its rider")
    expect(page.get_by_text("at least 50")).to_be_visible()


@pytest.mark.parametrize(("width", "theme"), [(1280, "light"), (390, "dark")])
def test_shelf_and_comparison_have_no_serious_findings_and_fit(
    page: Page, product: Product, width: int, theme: str
):
    page.set_viewport_size({"width": width, "height": 844})
    page.emulate_media(color_scheme=theme)  # type: ignore[arg-type]
    page.goto(f"{product.url}/shelf?kind=motors&part=sedgeholt-o35-790")
    expect(page.get_by_role("button", name="Copy")).to_be_visible()
    assert findings(page) == []
    page.keyboard.press("Escape")
    expect(page.get_by_text(re.compile(r"^12\d found"))).to_be_visible()
    assert findings(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    builds = [product.begin().rsplit("/", 1)[1] for _ in range(2)]
    named = ",".join(f"build:{build}" for build in builds)
    page.goto(f"{product.url}/compare?with={named}")
    expect(page.get_by_text("The other school")).to_be_visible()
    assert findings(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= width
