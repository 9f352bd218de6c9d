"""From a wish to a drive on the bench, in the browser; and a search that outlives its worker."""

import json
import os
import re
import signal
import time
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from e2e.product import ROOT, Product
from e2e.test_builds import findings

BRIEF = json.loads((ROOT / "docs/examples/brief-trike.json").read_text())


def test_a_newcomer_gets_from_the_start_page_to_a_matched_drive(page: Page, product: Product):
    page.goto(product.url)
    page.get_by_role("button", name="Find a drive for it: Board").click()
    results = page.get_by_role("main").locator("ol > li")
    expect(results.first).to_be_visible(timeout=60_000)
    # All is guessed until it is said; what is said stays said.
    mass = page.get_by_role("textbox", name="Mass without drive, a guess")
    mass.fill("75")
    mass.press("Enter")
    said = page.get_by_role("textbox", name="Mass without drive", exact=True)
    expect(said).to_have_value("75")
    budget = page.get_by_role("textbox", name="Budget")
    budget.fill("450")
    budget.press("Enter")
    expect(page.get_by_text("do all of this")).to_be_visible(timeout=120_000)
    expect(results.first.get_by_text("price")).to_be_visible()
    page.get_by_role("button", name="To the bench, number 1", exact=True).click()
    page.get_by_role("tab", name="Brief").click()
    beside = page.get_by_role("tabpanel", name="Brief")
    expect(beside.get_by_text("Costs at most")).to_be_visible()
    expect(beside.get_by_text("missed")).to_have_count(0)
    page.go_back()
    expect(page.get_by_role("textbox", name="Budget")).to_have_value("450")


def tab_to(page: Page, name: str, presses: int = 150) -> None:
    """Press Tab until what has the focus is called `name`."""
    for _ in range(presses):
        page.keyboard.press("Tab")
        held = page.locator(":is(a, button, input, select, textarea):focus")
        said = (held.get_attribute("aria-label") or held.inner_text()) if held.count() else ""
        if name in " ".join(said.split()):
            return
    raise AssertionError(f"{name} is not reached by keyboard")


@pytest.mark.parametrize("width", [1280, 390])
def test_by_keyboard_alone_from_the_start_page_to_a_drive_on_the_bench(
    page: Page, product: Product, width: int
):
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(product.url)
    expect(page.get_by_role("button", name="Find a drive for it: Board")).to_be_visible()
    tab_to(page, "Find a drive for it: Board")
    page.keyboard.press("Enter")
    results = page.get_by_role("main").locator("ol > li")
    expect(results.first).to_be_visible(timeout=60_000)
    assert page.evaluate("scrollY") == 0
    tab_to(page, "Mass without drive, a guess")
    page.keyboard.press("Control+A")
    page.keyboard.type("81")
    page.keyboard.press("Enter")
    expect(page.get_by_role("textbox", name="Mass without drive", exact=True)).to_have_value("81")
    expect(page.get_by_text("do all of this")).to_be_visible(timeout=120_000)
    tab_to(page, "To the bench, number 1")
    page.keyboard.press("Enter")
    expect(page.get_by_role("tab", name="Brief")).to_be_visible(timeout=60_000)
    assert "/builds/" in page.url


def test_what_can_not_be_is_refused_at_its_place_and_undone(page: Page, product: Product):
    brief = product.post("/api/briefs", {"document": {**BRIEF, "name": "Fenced in"}})
    page.goto(f"{product.url}/briefs/{brief['id']}")
    least = page.get_by_role("textbox", name=re.compile("Top speed at least"))
    least.fill("50")
    least.press("Enter")
    expect(page.get_by_text("asks for more than it allows")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("asks for more than it allows")).to_have_count(0)
    expect(least).to_have_value("24")
    page.get_by_role("button", name="Stop searching").click()
    expect(page.get_by_text("Stopped early")).to_be_visible(timeout=60_000)


@pytest.mark.parametrize(("width", "theme"), [(1280, "light"), (390, "dark")])
def test_the_brief_has_no_serious_findings_and_fits(
    page: Page, product: Product, width: int, theme: str
):
    page.emulate_media(color_scheme=theme, reduced_motion="reduce")  # type: ignore[arg-type]
    page.set_viewport_size({"width": width, "height": 800})
    owned = {"motor": "otterlode-m90-80", "controller": "withyvane-t100-60"}
    brief = product.post("/api/briefs", {"document": {**BRIEF, "owned": owned}})
    page.goto(f"{product.url}/briefs/{brief['id']}")
    expect(page.get_by_text("do all of this")).to_be_visible(timeout=60_000)
    expect(page.get_by_role("heading", name="Why the others fall out")).to_be_visible()
    assert findings(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    # By keyboard: a part is asked about, and the answer is said aloud.
    page.get_by_label("pack", exact=True).focus()
    page.keyboard.type("Saltern Y50 6S")
    page.get_by_role("button", name="Ask", exact=True).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("Nothing with it meets the brief.")).to_be_visible(timeout=60_000)


def workers_of(product: Product) -> list[int]:
    """Return the process ids of the workers that the product runs."""
    assert product.process is not None
    found = []
    for place in Path("/proc").glob("[0-9]*/stat"):
        try:
            parent = int(place.read_text().rsplit(")", 1)[1].split()[1])
            command = (place.parent / "cmdline").read_bytes()
        except (OSError, ValueError):
            continue
        if parent == product.process.pid and b"ops.work" in command:
            found.append(int(place.parent.name))
    return found


def until(product: Product, match: str, is_so, seconds: float):
    for _ in range(int(seconds / 0.2)):
        told = product.get(f"/api/matches/{match}")
        if is_so(told):
            return told
        time.sleep(0.2)
    raise AssertionError(product.get(f"/api/matches/{match}"))


def test_a_search_whose_worker_is_killed_is_done_by_another(own_product: Product):
    brief = own_product.post("/api/briefs", {"document": BRIEF})
    match = own_product.post(f"/api/briefs/{brief['id']}/matches", {})["id"]
    until(own_product, match, lambda told: told["solved"] > 0, 60)
    killed = workers_of(own_product)
    assert killed
    for worker in killed:
        os.kill(worker, signal.SIGKILL)
    told = until(own_product, match, lambda told: told["state"] == "done", 150)
    assert told["considered"] == told["feasible"] + sum(told["answer"]["rejected"].values())
    assert not set(killed) & set(workers_of(own_product))
