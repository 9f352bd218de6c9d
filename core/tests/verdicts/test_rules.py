"""Each rule at both sides of its limit; limits from common practice, no source."""

import pytest

from core.tests.conftest import document_with
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.drive import Drive
from powertrain.verdicts.registry import judge_all
from powertrain.verdicts.verdict import Case


def judged(document):
    build = check_build(document)
    drive = Drive.of(build)
    verdicts, unknown = judge_all(Case.of(build, drive))
    return {v.id: v for v in verdicts}, {u.id: u for u in unknown}


def verdict(name, changes):
    return judged(document_with(changes))[0][name]


def test_thirteen_cells_are_too_many_for_fifty_volt_capacitors():
    # 13 x 4.20 = 54.6 V; 11 cells are the most that stay under 50 V.
    seen = verdict("capacitor_volts", {"controller.capacitor_voltage_v": 50})
    assert (seen.severity, seen.value) == ("stop", pytest.approx(54.6))
    assert seen.fix.change == {"battery.series": 11}


def test_fourteen_cells_stay_under_sixty_three_volts():
    changes = {"battery.series": 14, "controller.max_voltage_v": 63}
    seen = verdict("controller_volts", changes)
    assert (seen.severity, seen.value) == ("ok", pytest.approx(58.8))


def test_free_rpm_against_the_limit_at_full_charge():
    # About 3,265 rpm free on 54.6 V.
    assert verdict("free_rpm", {"motor.max_rpm": 4200}).severity == "ok"
    assert verdict("free_rpm", {"motor.max_rpm": 3400}).severity == "watch"
    seen = verdict("free_rpm", {"motor.max_rpm": 3000})
    assert seen.severity == "stop"
    assert seen.fix.change == {"battery.series": 11}


@pytest.mark.parametrize(
    ("name", "changes", "severity", "moment"),
    [
        ("motor_continuous", {"motor.continuous_current_a": 60}, "ok", "climb"),
        ("motor_continuous", {"motor.continuous_current_a": 50}, "watch", "climb"),
        ("motor_continuous", {"motor.continuous_current_a": 40}, "stop", "climb"),
        ("motor_peak", {"motor.peak_current_a": 80}, "ok", "launch"),
        ("motor_peak", {"motor.peak_current_a": 79}, "stop", "launch"),
        ("pack_continuous", {"battery.continuous_current_a": 44}, "stop", "climb"),
        ("pack_peak", {"battery.peak_current_a": 46}, "ok", None),
        ("controller_peak", {"controller.peak_current_a": 70}, "stop", "launch"),
        (
            "controller_peak",
            {"controller.peak_current_a": 70, "controller.rating_side": "battery"},
            "ok",
            None,
        ),
    ],
)
def test_amps_against_ratings(name, changes, severity, moment):
    seen = verdict(name, changes)
    assert seen.severity == severity
    assert moment is None or seen.moment == moment


def test_a_short_hill_may_use_the_peak_rating():
    hill = {
        "motor.continuous_current_a": 40, "motor.peak_current_a": 90,
        "motor.peak_duration_s": 30, "moments.climb_length_m": 200,
    }  # fmt: skip
    assert verdict("motor_continuous", hill).severity == "watch"
    assert verdict("motor_continuous", {**hill, "moments.climb_length_m": 400}).severity == "stop"


def test_cells_sag_to_their_cut_off():
    # 45 A through 75 mohm of pack takes 3.375 V of 53.3 V: 3.84 V a cell.
    assert verdict("cut_off", {}).value == pytest.approx((53.3 - 45 * 0.075) / 13)
    seen = verdict("cut_off", {"battery.cut_off_cell_v": 3.9})
    assert seen.severity == "stop"


CURES = [
    {"controller.capacitor_voltage_v": 50},
    {"motor.max_rpm": 3000},
    {"motor.continuous_current_a": 40},
    {"motor.peak_current_a": 61.7},
    {"battery.continuous_current_a": 33.3},
    {"battery.peak_current_a": 40, "motor.count": 2},
    {"controller.peak_current_a": 20, "controller.rating_side": "battery", "motor.count": 2},
    {"battery.cut_off_cell_v": 3.9},
]


@pytest.mark.parametrize("changes", CURES)
def test_the_offered_change_cures_the_verdict(changes):
    document = document_with(changes)
    stopped = [v for v in judged(document)[0].values() if v.severity == "stop"]
    assert stopped
    for seen in stopped:
        after = judged(changed(document, seen.fix.change))[0][seen.id]
        assert after.severity != "stop", seen.id


def test_what_is_not_known_is_not_judged():
    verdicts, unknown = judged(document_with({}))
    assert {"cut_off", "touch_voltage"} <= set(verdicts)
    assert not {"free_rpm", "motor_continuous", "controller_volts"} & set(verdicts)
    assert unknown["free_rpm"].path == "motor.max_rpm"
    assert {"motor_current", "pack_current", "controller_volts"} <= set(unknown)


def test_electrical_rpm_is_rpm_times_pole_pairs():
    # 60 KV x (54.6 - 1.4 x 0.126) V x 7 pairs = 22,858.
    rated = {"motor.poles": 14, "controller.max_erpm": 30000}
    seen = verdict("electrical_rpm", rated)
    assert (seen.severity, seen.value) == ("ok", pytest.approx(22858, abs=1))
    assert verdict("electrical_rpm", {**rated, "controller.max_erpm": 20000}).severity == "stop"
    _, unknown = judged(document_with({"controller.max_erpm": 30000}))
    assert unknown["electrical_rpm"].path == "motor.poles"
    brushed = {**rated, "motor.commutation": "brushed"}
    assert "electrical_rpm" not in judged(document_with(brushed))[0]


def test_a_makers_cell_count_is_advice_and_volts_are_a_limit():
    advised = verdict("advised_cells", {"motor.rated_cells": [6, 12]})
    assert (advised.severity, advised.fix) == ("watch", None)
    assert verdict("advised_cells", {"motor.rated_cells": [10, 14]}).severity == "ok"
    volts = verdict("motor_volts", {"motor.max_voltage_v": 50})
    assert (volts.severity, volts.fix.change) == ("stop", {"battery.series": 11})


def test_touch_voltage_begins_above_sixty_volts():
    # IEC 60364-4-41, 414 (from memory): 14 cells are 58.8 V, 15 are 63.0 V.
    assert verdict("touch_voltage", {"battery.series": 14}).severity == "ok"
    assert verdict("touch_voltage", {"battery.series": 15}).severity == "watch"


def test_brakes_made_for_less_are_watched():
    seen = verdict("rated_speed", {"vehicle.rated_speed_kmh": 25})
    assert seen.severity == "watch"
    # 36.79 km/h: (36.79 / 25)^2 = 2.2 times the energy.
    assert "2.2 times" in seen.why
    assert verdict("rated_speed", {"vehicle.rated_speed_kmh": 40}).severity == "ok"


def test_the_cans_watts_are_judged_on_their_side():
    # On the climb, by the numbers of the state: 46.96 A at 47.56 V go in, 2,071 W come out.
    for side, watts in (("electrical", 46.9616 * 47.5578), ("shaft", 2070.53)):
        rated = {"motor.max_power_w": 2000, "motor.power_is": side}
        seen = verdict("watt_rating", rated)
        assert (seen.severity, seen.moment) == ("watch", "climb")
        assert seen.value == pytest.approx(watts, rel=1e-4)
    assert verdict("watt_rating", {"motor.max_power_w": 3000}).severity == "ok"
