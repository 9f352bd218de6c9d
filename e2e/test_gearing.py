"""Teeth, winding and volts in the browser: each change is one of the build."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from e2e.conftest import saved
from e2e.product import Product
from e2e.test_builds import findings
from e2e.test_match import tab_to


def test_a_rung_is_set_compared_undone_and_found_on_the_bench(page: Page, product: Product):
    address = product.begin()
    page.goto(address)
    page.get_by_role("link", name=re.compile("^Gearing")).click()
    rung = page.get_by_role("button", name=re.compile("^18 to 60 teeth"))
    expect(rung).to_be_visible()
    said = rung.inner_text()
    rung.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("18:60 18:44")).to_be_visible()
    expect(page.get_by_text("was 36.8")).to_be_visible()
    top = re.search(r"([\d.]+) km/h", said)
    assert top
    # What the rung said is what the build now does.
    expect(
        page.get_by_text("Top speed", exact=True).locator("xpath=ancestor::div[1]")
    ).to_contain_text(top[1])
    saved(page)
    assert product.build(address)["document"]["gearing"][0]["driver_teeth"] == 18
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("16:60 18:44")).to_be_visible()
    page.get_by_role("link", name="Bench").click()
    expect(page.get_by_role("tab").first).to_be_visible()
    assert product.build(address)["document"]["gearing"][0]["driver_teeth"] == 16


def test_winding_volts_chart_and_roads_change_the_build(page: Page, product: Product):
    address = product.begin()
    page.goto(f"{address}/gearing?view=windings")
    page.get_by_role("button", name="Set it: winding 80").click()
    saved(page)
    assert product.build(address)["document"]["motor"]["kv_rpm_per_v"] == 80
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("tab", name="Speed chart").click()
    page.get_by_text("The figures as a table").click()
    page.get_by_role("button", name=re.compile("^14 cells, 60 KV")).click()
    expect(page.get_by_role("button", name=re.compile("^14 cells, 60 KV"))).to_have_attribute(
        "aria-pressed", "true"
    )
    page.get_by_role("tab", name="More volts").click()
    expect(page.get_by_text("Instead of 14 cells")).to_be_visible()
    cells = page.get_by_label(re.compile("Instead of 14 cells"))
    cells.fill("16")
    cells.press("Enter")
    expect(
        page.get_by_text(re.compile("straight off the charger come 67.2 V")).first
    ).to_be_visible()
    page.get_by_role("tab", name="Roads to a speed").click()
    wish = page.get_by_label("Top speed wished for")
    wish.fill("43")
    wish.press("Enter")
    expect(page.get_by_text("worked to exactly 43.0 km/h")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Set it: By teeth").click()
    saved(page)
    assert product.build(address)["document"]["battery"]["series"] == 14
    wish.fill("1")
    wish.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("must be above")


def test_geometry_stages_tyre_and_helper(page: Page, product: Product):
    address = product.begin()
    page.goto(f"{address}/gearing?view=runs")
    note = page.get_by_role("button", name=re.compile("118 in stage 1$"))
    note.click()
    expect(page.get_by_text("the one that is on it").first).to_be_visible()
    page.get_by_role("tab", name="Stages").click()
    page.get_by_label("Motor turns").fill("6000")
    page.keyboard.press("Enter")
    page.get_by_label("where the wheel turns").fill("100")
    page.keyboard.press("Enter")
    expect(page.get_by_text("60 to 1 can't be one stage")).to_be_visible()
    page.get_by_role("tab", name="Tyre").click()
    page.get_by_label("Marked").fill("47-406")
    expect(page.get_by_text("width and bead seat")).to_be_visible()
    page.get_by_role("button", name="Set it: what the tyre rolls").click()
    saved(page)
    rolls = product.build(address)["document"]["wheel"]["rolling_circumference_mm"]
    assert 1450 < rolls < 1571
    page.get_by_role("tab", name="Helper").click()
    page.get_by_label("Helped by").select_option(label="Bittern hauler")
    expect(page.get_by_text("Alone it goes")).to_be_visible()


def test_the_plan_is_ticked_off_and_gears_are_reckoned_by_their_teeth(page: Page, product: Product):
    address = product.begin()
    page.goto(f"{address}/gearing")
    first = page.get_by_role("checkbox", name=re.compile("^1. Begin here"))
    first.focus()
    page.keyboard.press("Space")
    expect(page.get_by_text(re.compile("^1 of [0-9]+ ridden.$"))).to_be_visible()
    page.reload()
    expect(first).to_be_checked()
    page.get_by_role("tab", name="Stages").click()
    for label, count in (("Sun", "18"), ("Ring", "73")):
        page.get_by_label(re.compile(f"^{label}")).fill(count)
        page.keyboard.press("Enter")
    expect(page.get_by_text("no planet fits")).to_be_visible()
    page.get_by_label(re.compile("^Ring")).fill("72")
    page.keyboard.press("Enter")
    expect(page.get_by_text("5 to 1; its planets have 27 teeth.")).to_be_visible()
    page.get_by_label("Diametral pitch").fill("32")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Module 0.7938 mm.")).to_be_visible()
    page.get_by_role("tab", name="Windings").click()
    torque = page.get_by_role("row", name=re.compile("^Torque for each amp"))
    expect(torque).to_contain_text("0.159")


def test_every_way_is_gone_by_keyboard_and_undone(page: Page, product: Product):
    address = product.begin()
    document = product.build(address)["document"]

    def kept(so: Callable[[dict], bool]) -> None:
        """Wait until the build that is kept is so."""
        for _ in range(100):
            if so(product.build(address)["document"]):
                return
            page.wait_for_timeout(100)
        raise AssertionError(f"not kept: {page.url} {page.locator(':focus').inner_text()}")

    def undone() -> None:
        page.get_by_role("button", name="Undo").focus()
        page.keyboard.press("Enter")
        kept(lambda d: d == document)

    for view, name, changed in (
        ("windings", "Set it: winding 80", lambda d: d["motor"]["kv_rpm_per_v"] == 80),
        ("chart", "14 cells, 60 KV", lambda d: d["battery"]["series"] == 14),
        ("volts", "Try it with the lower limit: 14 cells", lambda d: d["battery"]["series"] == 14),
        ("roads", "Set it: By teeth", lambda d: d["gearing"] != document["gearing"]),
        ("runs", "118 in stage 1", lambda d: d["gearing"][0].get("links") == 118),
        ("stages", "Set it: 3 stages", lambda d: len(d["gearing"]) == 3),
    ):
        page.goto(f"{address}/gearing?view={view}")
        if view == "chart":
            page.get_by_text("The figures as a table").press("Enter")
        expect(page.get_by_role("button", name=name).first).to_be_visible(timeout=20_000)
        tab_to(page, name)
        page.keyboard.press("Enter")
        kept(changed)
        undone()
    # The tabs themselves go by the arrows.
    page.get_by_role("tab", name="Stages").focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("tab", name="Speed chart")).to_have_attribute("aria-selected", "true")


def test_a_rung_pressed_while_the_database_is_away_is_kept_and_saved_later(
    page: Page, own_product: Product
):
    address = own_product.begin()
    page.goto(f"{address}/gearing")
    rung = page.get_by_role("button", name=re.compile("^18 to 60 teeth"))
    expect(rung).to_be_visible()
    own_product.cluster.hold()
    rung.click()
    expect(page.get_by_text("18:60 18:44")).to_be_visible()
    expect(page.get_by_text("the database does not answer").first).to_be_visible()
    page.get_by_role("tab", name="Windings").click()
    expect(page.get_by_role("tabpanel").get_by_text("does not answer")).to_be_visible()
    own_product.cluster.start()
    torque = page.get_by_role("row", name=re.compile("^Torque for each amp"))
    expect(torque).to_contain_text("0.159", timeout=20_000)
    expect(page.get_by_text("Saved", exact=True)).to_be_visible(timeout=20_000)
    assert own_product.build(address)["document"]["gearing"][0]["driver_teeth"] == 18


VIEWS = ("teeth", "runs", "stages", "chart", "windings", "volts", "roads", "tyre", "helper")


@pytest.mark.parametrize(("width", "theme"), [(1280, "light"), (390, "dark")])
def test_views_have_no_serious_findings_and_fit(
    page: Page, product: Product, width: int, theme: str
):
    page.set_viewport_size({"width": width, "height": 844})
    page.emulate_media(color_scheme=theme)  # type: ignore[arg-type]
    page.goto(f"{product.begin()}/gearing")
    expect(page.get_by_role("tab")).to_have_count(len(VIEWS))
    for view, tab in zip(VIEWS, page.get_by_role("tab").all(), strict=True):
        tab.click()
        expect(tab).to_have_attribute("aria-selected", "true")
        expect(page.get_by_role("tabpanel").get_by_role("status")).to_have_count(0, timeout=20_000)
        assert findings(page) == [], view
        assert page.evaluate("document.documentElement.scrollWidth") <= width, view
