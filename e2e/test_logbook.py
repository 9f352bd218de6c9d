"""The logbook on the page: a test day on a phone with its connection cut, and what it teaches."""

import re
from pathlib import Path

from playwright.sync_api import Page, Route, expect

from e2e.conftest import open_bench
from e2e.product import Product
from e2e.test_builds import findings


def read(page: Page, kind: str, **figures: float) -> None:
    page.get_by_role("radio", name=kind).click()
    for label, value in figures.items():
        field = page.get_by_label(re.compile("^" + label.replace("_", " ")), exact=False).first
        field.fill(str(value))
        field.press("Tab")
    page.get_by_role("button", name="Add it to the run").click()


def test_a_day_is_entered_learned_from_and_undone(page: Page, product: Product):
    address = product.begin()
    open_bench(page, address)
    page.keyboard.press("l")
    page.get_by_role("tab", name="Enter a run").click()
    read(page, "Top speed", Speed=35.4, Pack_amps=18.5)
    read(page, "Wheels up", Motor=3205)
    beside = page.get_by_role("region", name="Beside what was predicted")
    expect(beside).to_contain_text("predicted", timeout=20_000)
    assert findings(page) == []
    page.get_by_role("button", name="Keep this run").click()
    expect(page.get_by_text("Kept.")).to_be_visible(timeout=20_000)
    page.get_by_role("tab", name="What they teach").click()
    teach = page.get_by_role("region", name="What the runs teach")
    expect(teach).to_contain_text("One run teaches", timeout=30_000)
    expect(teach).to_contain_text("drag area")
    assert findings(page) == []
    page.get_by_role("button", name="Take it over into the build").click()
    expect(teach).to_contain_text("Undo goes back", timeout=30_000)
    expect(teach).to_contain_text("Nothing that this build has not learned already")
    page.get_by_role("button", name="Undo").click()
    expect(teach).to_contain_text("One run teaches", timeout=30_000)
    page.get_by_role("tab", name="Runs").click()
    story = page.get_by_role("region", name="Measured runs")
    expect(story).to_contain_text("Run 1")
    assert findings(page) == []


def test_a_connection_that_is_cut_loses_nothing_and_doubles_nothing(page: Page, product: Product):
    page.set_viewport_size({"width": 390, "height": 844})
    address = product.begin()
    open_bench(page, address)
    page.get_by_role("link", name="Logbook").click()
    page.get_by_role("tab", name="Enter a run").click()
    read(page, "Top speed", Speed=36)
    lost: list[str] = []

    def cut(route: Route) -> None:
        # The first is taken in and its answer lost; after that nothing gets through.
        if not lost:
            route.fetch()
        lost.append(route.request.url)
        route.abort()

    page.route("**/logbook/runs/**", cut)
    page.get_by_role("button", name="Keep this run").click()
    expect(page.get_by_text("kept in this browser")).to_be_visible(timeout=20_000)
    read(page, "Wheels up", Motor=3190)
    page.get_by_role("button", name="Keep this run").click()
    page.reload()
    page.wait_for_timeout(1500)
    assert len(set(lost)) >= 1
    page.unroute("**/logbook/runs/**")
    expect(page.get_by_text("Kept.")).to_be_visible(timeout=20_000)
    page.wait_for_timeout(1500)
    page.get_by_role("tab", name="Runs").click()
    runs = page.get_by_role("region", name="Measured runs").locator("li h2")
    expect(runs).to_have_count(2)
    assert findings(page) == []


def test_a_logger_s_table_is_learned_from(page: Page, product: Product, tmp_path: Path):
    rows = [
        f"{at / 2:.1f};{22 + 0.05 * (at % 3):.2f};52,1;7,4".replace(".", ",") for at in range(90)
    ]
    file = tmp_path / "evening.csv"
    file.write_text("Zeit;Geschwindigkeit;Akku Spannung;Akku Strom\n" + "\n".join(rows))
    open_bench(page, product.begin())
    page.keyboard.press("l")
    page.get_by_role("tab", name="Enter a run").click()
    page.get_by_label("Logger's table").set_input_files(file)
    expect(page.get_by_text("Geschwindigkeit as speed")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Take it into the run").first.click()
    beside = page.get_by_role("region", name="Beside what was predicted")
    expect(beside).to_contain_text("7.40 A", timeout=20_000)
    assert findings(page) == []
    file.write_text("nothing but words\nand more of them\n")
    page.get_by_label("Logger's table").set_input_files(file)
    expect(page.get_by_text("Nothing was read: line 1 holds no table")).to_be_visible()


def test_a_column_is_named_once_for_all_tables_like_it(
    page: Page, product: Product, tmp_path: Path
):
    rows = "\n".join(f"{at},20.{at % 2},{6.5}" for at in range(60))
    file = tmp_path / "odd.csv"
    file.write_text(f"time,foo,battery current\n{rows}")
    open_bench(page, product.begin())
    page.keyboard.press("l")
    page.get_by_role("tab", name="The day").click()
    before = page.get_by_role("region", name="Before riding")
    expect(before).to_contain_text("Wheels up first")
    page.get_by_role("button", name="Look at it").click()
    expect(page.get_by_role("region", name="Day sheet")).to_contain_text("Wheels up first")
    page.get_by_label(re.compile("^Chain runs true")).check()
    expect(page.get_by_role("region", name="The way up")).to_contain_text("stop at")
    assert findings(page) == []
    page.get_by_role("tab", name="Enter a run").click()
    page.get_by_label("Logger's table").set_input_files(file)
    page.get_by_label("foo holds").select_option("speed_kmh")
    expect(page.get_by_text("foo as speed")).to_be_visible(timeout=20_000)
    expect(page.get_by_role("button", name="Take it into the run").first).to_be_visible()
    page.reload()
    page.get_by_label("Logger's table").set_input_files(file)
    expect(page.get_by_text("foo as speed")).to_be_visible(timeout=20_000)
    assert findings(page) == []


def test_a_measured_top_speed_stands_on_the_map_of_push(page: Page, product: Product):
    address = product.begin()
    open_bench(page, address)
    page.keyboard.press("l")
    page.get_by_role("tab", name="Enter a run").click()
    read(page, "Top speed", Speed=34.2)
    page.get_by_role("button", name="Keep this run").click()
    expect(page.get_by_text("Kept.")).to_be_visible(timeout=20_000)
    page.get_by_role("link", name="Bench").click()
    expect(page.locator("svg path title", has_text="measured: 34.2 km/h")).to_have_count(1)
    assert findings(page) == []
