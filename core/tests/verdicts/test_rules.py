"""Each rule at both sides of its limit; limits from common practice, no source."""

import numpy as np
import pytest

from core.tests.conftest import document_with
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all
from powertrain.verdicts.rules.tooth_load import lewis_factor

HILL = {"moments.climb_grade_pct": 8}
"""Said, so that it may stop; a hill that is only assumed may not."""


def judged(document):
    build = check_build(document)
    verdicts, unknown = judge_all(RuleContext.of(build))
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
    seen = verdict(name, {**HILL, **changes})
    assert seen.severity == severity
    assert moment is None or seen.moment == moment


def test_a_short_hill_may_use_the_peak_rating():
    hill = {
        "motor.continuous_current_a": 40,
        "motor.peak_current_a": 90,
        "motor.peak_duration_s": 30,
        "moments.climb_length_m": 200,
        **HILL,
    }
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
    document = document_with({**HILL, **changes})
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
        rated = {**HILL, "motor.max_power_w": 2000, "motor.power_is": side}
        seen = verdict("watt_rating", rated)
        assert (seen.severity, seen.moment) == ("watch", "climb")
        assert seen.value == pytest.approx(watts, rel=1e-4)
    assert verdict("watt_rating", {**HILL, "motor.max_power_w": 3000}).severity == "ok"


SERIES = {
    "kind": "series_wound",
    "saturated_constant_nm_per_a": 0.3,
    "half_saturation_current_a": 60,
    "resistance_ohm": 0.04,
    "loss_torque_nm": 0.5,
}


def severities(changes):
    return {name: seen.severity for name, seen in judged(document_with(changes))[0].items()}


@pytest.mark.parametrize(
    ("rule", "fine", "wrong", "severity"),
    [
        ("loaded_rpm", {"motor.max_rpm": 4200}, {"motor.max_rpm": 2900}, "stop"),
        ("pack_c_rate", {"battery.cell_capacity_ah": 4}, {}, "watch"),
        ("outputs", {"controller.outputs": 1}, {"controller.outputs": 1, "motor.count": 2}, "stop"),
        (
            "timing_sum",
            {"motor.timing_deg": 10, "controller.boost_timing_deg": 20},
            {
                "motor.timing_deg": 20,
                "controller.boost_timing_deg": 30,
                "controller.turbo_timing_deg": 15,
            },
            "stop",
        ),
        (
            "regeneration_amps",
            {"controller.regen_current_limit_a": 10, "battery.charge_current_a": 14},
            {"controller.regen_current_limit_a": 20, "battery.charge_current_a": 14},
            "stop",
        ),
        ("pack_wire", {"wiring.pack_wire_mm2": 6}, {"wiring.pack_wire_mm2": 1.5}, "stop"),
        ("motor_wire", {"wiring.motor_wire_mm2": 6}, {"wiring.motor_wire_mm2": 4}, "watch"),
        (
            "connector",
            {"wiring.connector_current_a": 60},
            {"wiring.connector_current_a": 40},
            "stop",
        ),
        ("stage_1_teeth", {}, {"gearing.0.driver_teeth": 12}, "watch"),
        ("stage_1_teeth", {}, {"gearing.0.driver_teeth": 8}, "stop"),
        ("stage_1_ratio", {}, {"gearing.0.driven_teeth": 112}, "watch"),
        ("stage_1_ratio", {}, {"gearing.0.driven_teeth": 150}, "stop"),
        (
            "throttle_steps",
            {"controller.throttle_steps": 1024},
            {"controller.throttle_steps": 128},
            "watch",
        ),
        (
            "traction",
            {"vehicle.traction.friction": 0.8},
            {"vehicle.traction.friction": 0.15},
            "watch",
        ),
    ],
)
def test_each_rule_on_both_sides_of_its_limit(rule, fine, wrong, severity):
    assert severities({**HILL, **fine})[rule] == "ok"
    assert severities({**HILL, **wrong})[rule] == severity


def test_a_chains_pull_by_hand():
    # 80 A less 1.4 at 0.1592 N.m/A is 12.51 N.m on 16 teeth of 12.7 mm, which have a pitch
    # radius of 12.7/(2 sin(180/16)) = 32.55 mm: 384 N. A 12.7 mm chain breaks at 17,800 N
    # (ISO 606, from memory) and works at an eighth.
    seen = verdict("stage_1_pull", {"gearing.0.pitch_mm": 12.7})
    assert seen.value == pytest.approx(12.509 / 0.03255, rel=1e-3)
    assert seen.limit == pytest.approx(17800 / 8)
    small = verdict("stage_1_pull", {"gearing.0.pitch_mm": 6.35, "gearing.0.driver_teeth": 9})
    assert small.severity == "stop"
    # The second stage has the first one's reduction and loss in its torque.
    second = verdict("stage_2_pull", {"gearing.1.pitch_mm": 12.7})
    radius = 12.7 / 2000 / np.sin(np.pi / 18)
    assert second.value == pytest.approx(12.509 * 3.75 * 0.955 / radius, rel=1e-3)


def test_bending_of_a_tooth_by_the_books_table():
    # Lewis form factors of 20 degree full-depth teeth: 0.322 for 20, 0.409 for 50 teeth
    # (Shigley, table 14-2, from memory).
    assert lewis_factor(20) == pytest.approx(0.322, rel=0.06)
    assert lewis_factor(50) == pytest.approx(0.409, rel=0.06)
    spur = {
        "kind": "spur",
        "driver_teeth": 20,
        "driven_teeth": 60,
        "efficiency": 0.97,
        "module_mm": 1.5,
        "face_mm": 15,
        "allowed_stress_mpa": 150,
    }
    seen = verdict("stage_1_tooth_load", {"gearing": [spur]})
    wanted = 12.509 / 0.015 / (1.5 * 15 * lewis_factor(20))
    assert seen.value == pytest.approx(wanted, rel=1e-3)
    assert seen.severity == "ok"


def test_the_first_throttle_step_by_hand():
    # Straight: 512 steps forward over 39.1 km/h free at full charge.
    straight = verdict("throttle_steps", {"controller.throttle_steps": 1024})
    free = 3265.0 * 60 / 9.1667 * 1.83 / 1000
    assert straight.value == pytest.approx(free / 512, rel=5e-3)
    curved = {"controller.throttle_steps": 1024, "controller.half_throttle_pct": 20}
    fine = verdict("throttle_steps", curved)
    # Common practice, no source: the first steps are 0.2 to 0.4 of the straight line's.
    assert 0.2 < fine.value / straight.value < 0.4


def test_two_schools_of_rpm_are_named_for_small_fast_motors():
    rover = {
        "vehicle.mass_kg": 4,
        "motor.kv_rpm_per_v": 3200,
        "motor.resistance_ohm": 0.02,
        "battery.series": 3,
        "wheel.rolling_circumference_mm": 350,
        "motor.max_rpm": 60000,
        "battery.chemistry": "lipo",
        "battery.cell_voltage_v": 4.15,
    }
    seen = verdict("rpm_window", rover)
    # 3,200 KV x 3 x 3.8 V at storage = 36,480, inside 36,000 to 38,000.
    assert (seen.value, seen.severity) == (pytest.approx(36480), "ok")
    assert "60,000" in seen.why
    assert severities({**rover, "battery.series": 4})["rpm_window"] == "watch"
    assert "rpm_window" not in severities({})


def test_crawling_ends_at_the_kv_of_the_slots():
    brushed = {"motor.commutation": "brushed", "motor.slots": 3}
    assert severities({**brushed, "motor.kv_rpm_per_v": 2000})["crawling_kv"] == "ok"
    assert severities({**brushed, "motor.kv_rpm_per_v": 2200})["crawling_kv"] == "watch"
    five = {**brushed, "motor.slots": 5, "motor.kv_rpm_per_v": 2200}
    assert severities(five)["crawling_kv"] == "ok"


def test_a_series_motor_runs_loose():
    seen = verdict("runs_loose", {"motor": SERIES})
    assert seen.severity == "watch"
    assert seen.value > 1.6
    assert "runs_loose" not in severities({})


def test_regeneration_into_a_full_pack():
    # 13 cells end their charge at 4.20 V; 10 A lift each by 10 x 75 mohm / 13.
    seen = verdict("regeneration_full", {"controller.regen_current_limit_a": 10})
    assert (seen.severity, seen.value) == ("watch", pytest.approx(4.2 + 10 * 0.075 / 13))
    tight = {"controller.regen_current_limit_a": 10, "controller.capacitor_voltage_v": 55}
    assert severities(tight)["regeneration_full"] == "stop"
    assert "regeneration_full" not in severities({})


def test_the_front_lifts_where_the_push_is_too_much():
    high = {
        "vehicle.traction": {
            "friction": 1.2,
            "wheelbase_m": 0.9,
            "centre_height_m": 1.2,
            "centre_to_driven_axle_m": 0.2,
        }
    }
    low = {"vehicle.traction": {**high["vehicle.traction"], "centre_height_m": 0.3}}
    assert severities(high)["front_lift"] == "stop"
    assert severities(low)["front_lift"] == "ok"


def test_a_hill_that_is_not_climbed_and_its_cure():
    steep = {"moments.climb_grade_pct": 25}
    seen = verdict("asked_climb", steep)
    assert seen.severity == "stop"
    cured = judged(changed(document_with(steep), seen.fix.change))[0]["asked_climb"]
    assert cured.severity == "ok"
    assert severities({"moments.cruise_kmh": 60})["asked_cruise"] == "stop"


def test_a_stall_is_judged_by_its_first_limit():
    light = {"motor.mass_kg": 0.12, "controller.mass_kg": 2}
    seen = verdict("stall", light)
    assert (seen.severity, seen.value < 3) == ("watch", True)
    after = judged(changed(document_with(light), seen.fix.change))[0]["stall"]
    assert after.value == pytest.approx(3, rel=0.2)
    assert verdict("stall", {"motor.mass_kg": 4}).severity == "ok"


def test_every_rule_of_every_kind_says_something_sensible():
    for motor in (
        SERIES,
        {
            "kind": "packaged",
            "peak_torque_nm": 20,
            "base_rpm": 2500,
            "base_voltage_v": 48,
            "top_rpm": 5000,
        },
    ):
        verdicts, unknown = judged(document_with({"motor": motor}))
        assert {"stall", "winding_temperature", "pack_temperature", "cut_off"} <= set(verdicts)
        for seen in verdicts.values():
            assert np.isfinite([seen.value, seen.limit]).all(), seen.id
            assert len(seen.why) > 5
        assert all(limit.path for limit in unknown.values())
