"""Amps as they flow: the most on the way to top speed, within grip; a grabbed trigger; a stall."""

import numpy as np
import pytest

from core.tests.answers.test_heat import FAST_CAR
from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.gearing.overvolt import overvolt
from powertrain.operating.free import held as held_fast
from powertrain.operating.on_road import full_throttle_at
from powertrain.operating.ramp import fastest_above_v
from powertrain.operating.top_speed import top_speed_mps
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

LATE = {
    "controller.motor_current_limit_a": 120,
    "controller.battery_current_limit_a": 120,
    "moments.launch_to_kmh": 8,
}
"""Its pack amps rise until the motor limit gives way to the volts, well above 8 km/h."""


def judged(changes):
    build = check_build(document_with(changes))
    return {one.id: one for one in judge_all(RuleContext.of(build))[0]}


def swept(drive):
    """Return the most amps of pack and motor over two thousand speeds."""
    speeds = np.linspace(0, float(top_speed_mps(drive, scalar(0.0))), 2001)
    at = full_throttle_at(drive, speeds)
    return at.battery_current_a.max(), at.motor_current_a.max()


@pytest.mark.parametrize(
    "changes",
    [
        LATE,
        FAST_CAR,
        {},
        {"gearing": [{"kind": "gearbox", "ratios": [12, 8, 5], "efficiency": 0.9}]},
    ],
)
def test_peak_amps_are_the_most_at_any_speed_up_to_top_speed(changes):
    build = check_build(document_with(changes))
    answer = solve(build)
    pack_a, motor_a = swept(compile_drive(build))
    figures = answer.doubt.figures
    assert figures["pack_peak_a"].value == pytest.approx(pack_a, rel=2e-3)
    assert figures["motor_peak_a"].value == pytest.approx(motor_a, rel=2e-3)
    assert answer.moments[0].peak_battery_current_a == pytest.approx(pack_a, rel=2e-3)


def test_a_peak_rating_is_held_against_the_true_peak():
    pack_a, _ = swept(compile_drive(check_build(document_with(LATE))))
    assert pack_a > 85
    assert judged({**LATE, "battery.peak_current_a": 80})["pack_peak"].severity == "stop"
    assert judged({**LATE, "battery.peak_current_a": 80})["pack_peak"].value == pytest.approx(
        pack_a, rel=2e-3
    )


def test_a_cars_amps_are_those_that_its_tyres_ask():
    build = check_build(document_with(FAST_CAR))
    stalled = full_throttle_at(held_fast(compile_drive(build)), scalar(0.0))
    held = full_throttle_at(compile_drive(build), scalar(0.0))
    assert stalled.motor_current_a > 500
    # mu m g r / (G eta k) + I0 by hand: the friction is assumed to be 0.9 to 1.
    newtons = float(held.force_n) / 3.1 / 9.80665
    assert 0.8 <= newtons <= 1.0
    nm = float(held.force_n) * 0.33 / 2 / np.pi / (46 / 18 * 2.6 * 0.95 * 0.96)
    assert held.motor_current_a == pytest.approx(nm / (9.5493 / 2250) + 2.5, rel=1e-4)


def test_a_grabbed_trigger_is_told_with_the_ramp_that_spares_the_pack():
    seen = judged(FAST_CAR)["inrush"]
    assert seen.severity == "watch"
    # 16.4 V through pack 10 mohm, path 1 and motor 8.
    assert seen.value == pytest.approx(16.4 / 0.019, rel=1e-6)
    assert "ramp" in seen.why
    drive = compile_drive(check_build(document_with(FAST_CAR)))
    rate = fastest_above_v(drive, 4 * 3.2)
    assert 5 < rate < 5000
    assert fastest_above_v(drive, 4 * 3.6) < rate
    # With an amps limit nothing is grabbed.
    assert "inrush" not in judged({})


def ramp_by_hand(drive, rate_pct_s):
    """Return the least pack volts of a ramp, in steps of a tenth of a millisecond."""
    motor, pack = drive.motor, drive.pack
    r_m, r_p = float(motor.resistance_ohm) + 0.001, float(pack.resistance_ohm)
    k, volts = float(motor.constant_nm_per_a), float(pack.open_circuit_v)
    gear, radius, eta = 46 / 18 * 2.6, 0.33 / 2 / np.pi, 0.95 * 0.96
    grip = float(drive.wheels.grip.friction) * 3.1 * 9.80665
    speed, lowest, step = 0.0, volts, 1e-4
    for number in range(1, int(100 / rate_pct_s / step) + 1):
        duty = number * step * rate_pct_s / 100
        amps = max((duty * volts - k * speed / radius * gear) / (r_m + duty * duty * r_p), 0)
        lowest = min(lowest, volts - duty * amps * r_p)
        push = min(k * (amps - 2.5) * gear * eta / radius, grip)
        road = 3.1 * 9.80665 * 0.03 + 0.5 * 1.225 * 0.03 * speed**2
        speed = max(speed + (push - road) / 3.1 * step, 0)
    return lowest


def test_the_ramp_agrees_with_one_stepped_finely():
    drive = compile_drive(check_build(document_with(FAST_CAR)))
    rate = fastest_above_v(drive, 12.8)
    assert ramp_by_hand(drive, rate) >= 12.8 * 0.99
    assert ramp_by_hand(drive, 1.3 * rate) < 12.8


def test_a_held_stall_is_told_in_seconds_and_no_stop():
    seen = judged(FAST_CAR)["stall"]
    assert seen.severity == "watch"
    assert 0 < seen.value < 3


CURED = [
    {"motor.continuous_current_a": 20},
    {"battery.continuous_current_a": 12},
    {"battery.cut_off_cell_v": 4.0},
    {"motor.mass_kg": 0.2, "controller.mass_kg": 2},
]


@pytest.mark.parametrize("changes", CURED)
def test_no_cure_is_a_limit_below_what_top_speed_takes(changes):
    document = document_with({**changes, "moments.climb_grade_pct": 8})
    build = check_build(document)
    top = RuleContext.of(build).moments.top_speed.state
    needs = {
        "controller.motor_current_limit_a": float(top.motor_current_a),
        "controller.battery_current_limit_a": float(top.battery_current_a),
    }
    for seen in judged({**changes, "moments.climb_grade_pct": 8}).values():
        for path, value in (seen.fix.change if seen.fix else {}).items():
            if path in needs:
                assert value >= needs[path] * (1 - 1e-9), seen.id


def test_the_most_watts_are_those_of_the_most_amps():
    build = check_build(
        document_with({"controller.battery_current_limit_a": 36, "moments.climb_grade_pct": 2})
    )
    now = overvolt(build, 14).now
    assert now.pack_peak_w == pytest.approx(36 * (53.3 - 36 * 0.075), rel=1e-6)


def test_too_little_grip_is_told_as_such():
    slippery = {
        "vehicle.traction": {"friction": 0.15, "driven_share": 0.4},
        "moments.climb_grade_pct": 9,
    }
    seen = judged(slippery)
    assert (seen["traction"].severity, seen["traction"].moment) == ("stop", "climb")
    for rule in ("traction", "asked_climb"):
        assert "weight" in seen[rule].why
        assert "shorter" not in seen[rule].why
        assert seen[rule].fix is None
    weak = judged({"moments.climb_grade_pct": 25})
    assert weak["traction"].severity == "ok"
    assert "shorter" in weak["asked_climb"].why


def test_a_ramp_that_no_finger_reaches_is_no_watch():
    # A crawler geared 48 to 1 rolls within hundredths of a second: 200 A of a stall never come.
    crawler = {
        "vehicle": {
            "kind": "ground",
            "mass_kg": 2.4,
            "rolling_resistance": 0.03,
            "drag_area_m2": 0.03,
            "rotating_mass_factor": 1.1,
        },
        "wheel": {"rolling_circumference_mm": 371},
        "gearing": [{"kind": "fixed", "ratio": 48, "efficiency": 0.8}],
        "motor": {
            "kind": "permanent_magnet",
            "commutation": "brushed",
            "kv_rpm_per_v": 1100,
            "resistance_ohm": 0.046,
            "no_load_current_a": 1.8,
        },
        "controller": {"resistance_ohm": 0.001},
        "battery": {
            "chemistry": "lipo",
            "series": 3,
            "parallel": 1,
            "cell_capacity_ah": 5,
            "cell_resistance_mohm": 2.5,
            "wiring_resistance_mohm": 4,
            "cell_voltage_v": 3.9,
        },
    }
    document = {"format": "young-torrent.build/1", "name": "crawler", **crawler}
    verdicts = {one.id: one for one in solve(check_build(document)).verdicts}
    assert verdicts["inrush"].severity == "ok"
    assert "no finger" in verdicts["inrush"].why
    # With a wheel that is heavy to turn it takes longer than a trigger, and is one again.
    heavy = {**document, "wheel": {**crawler["wheel"], "inertia_kg_m2": 0.5}}
    slow = {one.id: one for one in solve(check_build(heavy)).verdicts}["inrush"]
    assert (slow.severity, "ramp of" in slow.why) == ("watch", True)
