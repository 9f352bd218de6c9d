"""What people really ask of the bench: will it burn, what would help, how sure is that."""

import json
import re

import pytest
from playwright.sync_api import Page, expect

from e2e.conftest import open_bench, open_part, part, saved
from e2e.product import DEMO, Product


def demo(product: Product, slug: str) -> str:
    return product.begin(**json.loads((DEMO / f"{slug}.json").read_text()))


def pane(page: Page, name: str) -> None:
    page.get_by_role("tab", name=re.compile(name)).click()


def test_a_pack_its_controller_cannot_take_is_cured_with_one_press(page: Page, product: Product):
    address = demo(product, "sluice-scooter")
    open_bench(page, address)
    verdicts = page.get_by_role("region", name="Verdicts")
    expect(verdicts).to_contain_text("Fresh off the charger: 58.8 V; its capacitors are rated 50 V")
    page.get_by_role("button", name="Use 11 cells in series").click()
    expect(page.get_by_role("tab", name="Verdicts", exact=True)).to_be_visible()
    saved(page)
    assert product.build(address)["document"]["battery"]["series"] == 11
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("tab", name=re.compile("Verdicts 2 stop"))).to_be_visible()
    assert product.build(address)["document"]["battery"]["series"] == 14


def test_a_drive_geared_too_tall_is_led_to_shorter_gearing(page: Page, product: Product):
    address = demo(product, "bittern-hauler")
    open_bench(page, address)
    verdicts = page.get_by_role("region", name="Verdicts")
    expect(verdicts).to_contain_text(re.compile(r"The winding passes 155 .C after 2 min"))
    page.get_by_role("button", name=re.compile("Stage 1: driven of")).first.click()
    expect(page.get_by_role("tab", name="Verdicts", exact=True)).to_be_visible()
    saved(page)
    assert product.build(address)["document"]["gearing"][0]["driven_teeth"] > 48
    # The difference to the pinned state stands beside the figures.
    expect(part(page, "Vehicle and trip")).to_contain_text("\u2212")


def test_the_lever_board_answers_a_wish(trike: Page, product: Product):
    pane(trike, "What would help")
    board = trike.get_by_role("region", name="All changes")
    first = board.get_by_role("row").nth(1)
    expect(first).to_contain_text("Cells in series 13 → 14")
    expect(first).to_contain_text("\u00d7 2")
    trike.get_by_label("Wish", exact=True).select_option("case_c")
    expect(board.get_by_role("row").nth(1)).to_contain_text("Motors 1 → 2")
    trike.get_by_label("Wish", exact=True).select_option("top_speed_kmh")
    first.get_by_role("button").click()
    expect(board.get_by_role("row").nth(1)).to_contain_text("Cells in series 14 → 15")
    saved(trike)
    trike.get_by_role("button", name="Undo").click()
    expect(board.get_by_role("row").nth(1)).to_contain_text("Cells in series 13 → 14")


def test_how_sure_names_the_next_measurement_and_where_it_goes(trike: Page):
    expect(part(trike, "Vehicle and trip")).to_contain_text(re.compile(r"±\d"))
    trike.get_by_role("button", name="KV", exact=True).click()
    sure = trike.get_by_role("region", name="How sure")
    expect(sure).to_contain_text("Measure the KV next")
    expect(sure).to_contain_text("Turn the shaft with a drill")
    sure.get_by_role("button", name="Fill it in").click()
    expect(trike.get_by_role("region", name="Motor, all inputs")).to_be_visible()


def test_better_knowledge_narrows_the_band(page: Page, product: Product):
    def width(provenance: dict) -> float:
        open_bench(page, product.begin(provenance=provenance))
        pane(page, "How sure")
        row = page.get_by_role("row", name=re.compile("Top speed"))
        low, high = re.findall(r"[\d.]+", row.locator("td").first.inner_text())[-2:]
        return float(high) - float(low)

    guessed = width({"motor.kv_rpm_per_v": {"origin": "estimated"}})
    measured = width({"motor.kv_rpm_per_v": {"origin": "measured"}})
    assert measured < 0.6 * guessed


def test_temperatures_stand_where_they_arise(trike: Page):
    stream = trike.get_by_role("img", name=re.compile("Stream of power"))
    trike.keyboard.press("2")
    expect(stream).to_contain_text(re.compile(r"winding \d+ °C( ±\d+)?, can \d+ °C"))
    expect(stream).to_contain_text(re.compile(r"cells \d+ °C"))
    expect(stream).to_contain_text(re.compile("in .* (climbing|cruising|at top speed)"))
    expect(trike.get_by_text("First limit")).to_be_visible()
    expect(trike.get_by_text("Stalled", exact=True)).to_be_visible()


def test_constants_are_worked_out_from_what_is_known(trike: Page, product: Product):
    editor = open_part(trike, "Motor")
    editor.get_by_text("Work it out from what you know").click()
    editor.get_by_role("button", name="A drill").click()
    editor.get_by_label("Spun at").fill("600")
    editor.get_by_label("Volts when spun").fill("6,5")
    expect(editor).to_contain_text("by volts when spun")
    expect(editor).to_contain_text("65.3")
    editor.get_by_role("button", name="The maker's figures").click()
    editor.locator("fieldset").get_by_label("KV").fill("48")
    expect(editor).to_contain_text("more apart than their doubts allow")
    editor.get_by_role("button", name=re.compile("^Use")).click()
    saved(trike)
    document = product.build(trike.url)["document"]
    assert document["motor"]["kv_rpm_per_v"] == pytest.approx(65.27, abs=0.01)
    assert document["provenance"]["motor.kv_rpm_per_v"]["origin"] == "measured"
    trike.get_by_role("button", name="Undo").click()
    expect(part(trike, "Motor")).to_contain_text("60KV")
    # What was typed is still there after a reload.
    trike.reload()
    editor = open_part(trike, "Motor")
    expect(editor.get_by_label("Spun at")).to_have_value("600")


def test_a_series_motor_is_fitted_to_its_table(page: Page, product: Product):
    address = demo(product, "peat-trolley")
    open_bench(page, address)
    editor = open_part(page, "Motor")
    editor.get_by_text("Work it out from what you know").click()
    editor.get_by_role("button", name="A curve").click()
    editor.get_by_label("Curve is at").fill("24")
    # k(I) = 0.3 I/(I + 100), 0.02 ohm, 1 N.m lost, worked out by hand for five currents.
    rows = []
    for amps in (40, 80, 140, 220, 320):
        constant = 0.3 * amps / (amps + 100)
        rpm = (24 - 0.02 * amps) / constant * 9.549297
        rows.append(f"{constant * amps - 1:.5f} {rpm:.4f} {amps}")
    editor.get_by_label("Points").fill("\n".join(rows))
    expect(editor).to_contain_text("by the curve")
    editor.get_by_role("button", name=re.compile("^Use")).click()
    saved(page)
    motor = product.build(address)["document"]["motor"]
    assert motor["saturated_constant_nm_per_a"] == pytest.approx(0.3, rel=0.01)
    assert motor["half_saturation_current_a"] == pytest.approx(100, rel=0.01)


def test_another_kind_of_motor_and_a_gearbox(trike: Page, product: Product):
    editor = open_part(trike, "Motor")
    editor.get_by_label("Kind of motor").select_option("series_wound")
    expect(editor.get_by_label("Half-saturation amps")).to_be_visible()
    expect(editor.get_by_label("KV", exact=True)).to_have_count(0)
    saved(trike)
    assert product.build(trike.url)["document"]["motor"]["kind"] == "series_wound"
    editor.get_by_role("button", name="Close").click()
    gearing = open_part(trike, "Gearing")
    gearing.get_by_role("button", name="gearbox").click()
    ratios = gearing.get_by_label("Ratios")
    ratios.fill("2.5, 1.4, 0.9")
    ratios.press("Enter")
    expect(part(trike, "Gearing")).to_contain_text(re.compile("gear [123]"))
    saved(trike)
    stages = product.build(trike.url)["document"]["gearing"]
    assert stages[2]["ratios"] == [2.5, 1.4, 0.9]


def test_grip_is_told_one_value_at_a_time(trike: Page, product: Product):
    editor = open_part(trike, "Vehicle and trip")
    editor.get_by_text("Grip and balance").click()
    editor.get_by_label("Grip", exact=True).fill("0.2")
    editor.get_by_label("Grip", exact=True).press("Enter")
    saved(trike)
    assert product.build(trike.url)["document"]["vehicle"]["traction"] == {"friction": 0.2}
    editor.get_by_role("button", name="Close").click()
    pane(trike, "Verdicts")
    expect(trike.get_by_role("region", name="Verdicts")).to_contain_text("grip")
