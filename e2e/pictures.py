"""Takes the pictures in docs/screenshots from demo data: ``python -m e2e.pictures``."""

import base64
import json
import uuid
from pathlib import Path

from playwright.sync_api import Browser, Page

from e2e.product import KEYED, ROOT, Product, product_in_a_browser

PLACE = ROOT / "docs" / "screenshots"


def page(browser: Browser, width: int, height: int, theme: str) -> Page:
    """Return a page of one size and theme."""
    context = browser.new_context(
        viewport={"width": width, "height": height},
        color_scheme=theme,  # type: ignore[arg-type]
        extra_http_headers=KEYED,
    )
    return context.new_page()


def bench(
    browser: Browser, product: Product, name: str, width: int, height: int, theme: str
) -> Page:
    """Return a page with the bench of a demo build."""
    shown = page(browser, width, height, theme)
    shown.goto(product.url)
    shown.get_by_role("link", name=name, exact=True).click()
    shown.get_by_role("tab").first.wait_for()
    shown.wait_for_timeout(600)
    return shown


def take(shown: Page, name: str, *, whole: bool = False) -> None:
    """Keep a picture."""
    shown.wait_for_timeout(500)
    shown.screenshot(path=PLACE / name, full_page=whole)
    shown.context.close()


def worked_out(shown: Page, waiting: str) -> None:
    """Wait until nothing says any more that it is being worked out."""
    shown.wait_for_timeout(500)
    shown.wait_for_function("said => !document.body.innerText.includes(said)", arg=waiting)


def _match(browser: Browser, product: Product) -> None:
    """Take the brief with its results, wide and on a phone."""
    document = json.loads((ROOT / "docs/examples/brief-trike.json").read_text())
    said = [
        "vehicle.mass_kg",
        "wishes.top_speed_kmh.min",
        "wishes.climb.grade_pct",
        "wishes.budget",
    ]
    brief = product.post("/api/briefs", {"document": document, "said": said})
    address = f"{product.url}/briefs/{brief['id']}"
    wide = page(browser, 1280, 800, "light")
    wide.goto(address)
    wide.get_by_text("do all of this").wait_for(timeout=180_000)
    take(wide, "match.png")


def _beside(browser: Browser, product: Product) -> None:
    """Take the comparison, the shelf and the ways to change speed."""
    ids = {build["name"]: build["id"] for build in product.get("/api/builds")["builds"]}
    names = ("Causeway trike", "Bittern hauler", "Sluice scooter")
    named = ",".join(f"build:{ids[name]}" for name in names)
    compare = page(browser, 1280, 800, "light")
    compare.goto(f"{product.url}/compare?with={named}")
    compare.get_by_text("The other school").wait_for()
    take(compare, "compare.png")
    shelf = page(browser, 1280, 800, "light")
    shelf.goto(f"{product.url}/shelf?fits=build:{ids['Causeway trike']}")
    shelf.get_by_role("columnheader", name="Fits").wait_for()
    take(shelf, "shelf.png")
    rover = page(browser, 1280, 800, "light")
    rover.goto(f"{product.url}/builds/{ids['Seed rover']}/controller")
    rover.get_by_role("heading", name="What to set, in this order").wait_for()
    take(rover, "controller.png")
    tractor = page(browser, 1280, 800, "light")
    tractor.goto(f"{product.url}/builds/{ids['Old Ruff, hoist motor']}/conversion")
    tractor.get_by_role("columnheader", name="change up at").wait_for()
    take(tractor, "conversion.png")
    held = page(browser, 1280, 800, "dark")
    held.goto(f"{product.url}/builds/{ids['Bittern hauler']}/controller?view=feel")
    held.get_by_role("slider", name="Trigger", exact=True).fill("70")
    held.wait_for_timeout(9000)
    take(held, "trigger.png")
    ride = page(browser, 1280, 800, "light")
    ride.goto(f"{product.url}/builds/{ids['Causeway trike']}/ride")
    ride.get_by_role("region", name="What it came to").locator("small").first.wait_for()
    take(ride, "ride.png")
    take(_measured(product, browser, ids["Causeway trike"]), "logbook.png")
    address = f"{product.url}/builds/{ids['Causeway trike']}/gearing?view="
    take(_way(browser, f"{address}teeth", "light"), "gearing-teeth.png")
    others = {
        view: _way(browser, address + view, "light")
        for view in ("runs", "stages", "chart", "windings", "volts", "roads", "tyre", "helper")
    }
    others["tyre"].get_by_label("Marked").fill("47-406")
    others["helper"].get_by_label("Helped by").select_option(label="Bittern hauler")
    others["tyre"].get_by_text("bead seat").wait_for()
    others["helper"].get_by_text("Alone it goes").wait_for()
    shots = [base64.b64encode(shown.screenshot()).decode() for shown in others.values()]
    sheet = page(browser, 1280, 1620, "light")
    images = "".join(
        f'<img src="data:image/png;base64,{shot}" style="width:632px;margin:2px">' for shot in shots
    )
    sheet.set_content(f'<body style="margin:0">{images}</body>')
    take(sheet, "gearing-others.png")
    for shown in others.values():
        shown.context.close()


def _own(browser: Browser, product: Product) -> None:
    """Take the list of somebody who has builds of their own."""
    for kind in ("board", "barrow", "kick-scooter"):
        begun = next(one for one in product.get("/api/archetypes") if one["id"] == kind)
        product.post("/api/builds", {"document": begun["document"], "change_id": str(uuid.uuid4())})
    shown = page(browser, 1280, 800, "dark")
    shown.goto(product.url)
    shown.get_by_role("heading", name="Your builds").wait_for()
    shown.wait_for_timeout(2500)
    take(shown, "builds.png")


def _measured(product: Product, browser: Browser, build: str) -> Page:
    """Return the logbook of a build."""
    shown = page(browser, 1280, 800, "light")
    shown.goto(f"{product.url}/builds/{build}/logbook")
    shown.get_by_role("heading", name="Run 1").wait_for()
    worked_out(shown, "Looking what was predicted")
    return shown


def _way(browser: Browser, address: str, theme: str) -> Page:
    """Return one of the ways to change speed, worked out."""
    shown = page(browser, 1280, 800, theme)
    shown.goto(address)
    # What is not begun yet says nothing, so that it is looked at twice.
    for _ in range(2):
        shown.get_by_role("tabpanel").get_by_role("status").wait_for(state="detached")
        shown.wait_for_timeout(2500)
    return shown


def main() -> None:
    """Take them all from a product of its own."""
    Path(PLACE).mkdir(parents=True, exist_ok=True)
    with product_in_a_browser() as (product, browser):
        start = page(browser, 1280, 800, "light")
        start.goto(product.url)
        start.get_by_role("link", name="Causeway trike", exact=True).wait_for()
        start.get_by_role("button", name="Cargo trike").first.wait_for()
        worked_out(start, "Being worked out")
        take(start, "start.png")
        _beside(browser, product)
        take(bench(browser, product, "Causeway trike", 1280, 800, "light"), "bench-light.png")
        take(bench(browser, product, "Causeway trike", 1280, 800, "dark"), "bench-dark.png")
        phone = bench(browser, product, "Seed rover", 390, 844, "light")
        take(phone, "bench-phone.png", whole=True)
        inputs = bench(browser, product, "Powered barrow", 1280, 800, "light")
        inputs.get_by_role("region", name="Motor", exact=True).get_by_role("button").first.click()
        take(inputs, "bench-inputs.png")
        board = bench(browser, product, "Bittern hauler", 1280, 800, "light")
        board.keyboard.press("2")
        board.get_by_role("tab", name="What would help").click()
        board.get_by_label("Wish", exact=True).select_option("winding_c")
        take(board, "bench-help.png")
        sure = bench(browser, product, "Peat trolley", 1280, 800, "dark")
        sure.get_by_role("tab", name="How sure").click()
        take(sure, "bench-sure.png")
        boat = bench(browser, product, "Coot airboat", 1280, 800, "light")
        take(boat, "bench-airboat.png")
        _match(browser, product)
        _own(browser, product)


if __name__ == "__main__":
    main()
