"""Gear by gear against plain arithmetic on the motor's own two equations."""

import numpy as np
import pytest

from core.tests.conversion.conftest import tractor_with
from powertrain.conversion.engine import engine_of
from powertrain.conversion.gears import gears_of
from powertrain.verdicts.context import RuleContext

RATED = {"motor.continuous_current_a": 180, "moments": {"climb_grade_pct": 15, "cruise_kmh": 10}}
TRAVEL_M = 2.1 / (2 * np.pi)
CAR = {
    **RATED,
    "vehicle.mass_kg": 980,
    "vehicle.rolling_resistance": 0.012,
    "vehicle.drag_area_m2": 0.7,
    "wheel.rolling_circumference_mm": 1750,
    "gearing": [
        {"kind": "gearbox", "ratios": [3.6, 2.05, 1.35, 1.0], "efficiency": 0.96},
        {"kind": "fixed", "ratio": 4.1, "efficiency": 0.97},
    ],
    "moments": {"climb_grade_pct": 6, "climb_speed_kmh": 20, "cruise_kmh": 40},
}


def gears(changes):
    build = tractor_with(changes)
    known = engine_of(build.vehicle.replaces)
    return gears_of(build, RuleContext.of(build), known[0] if known else None)


def by_hand(amps, ratio):
    """Return push and speed of the test's tractor at motor amps: k I - T_loss, (V - I R)/k."""
    k = 0.4 * amps / (amps + 90)
    volts = 24 * 3.3 - amps * (24 * 0.6e-3 + 2e-3) - amps * 0.002
    rad_s = (volts - amps * 0.028 - 1.5) / k
    return (k * amps - 2.5) * ratio * 0.88 / TRAVEL_M, rad_s / ratio * TRAVEL_M


@pytest.mark.parametrize("place", [0, 1, 2])
def test_pull_and_speed_at_rated_amps(place):
    gear = gears(RATED).gears[place]
    force, mps = by_hand(180.0, (28, 16, 9)[place])
    assert gear.lasting_n == pytest.approx(force, rel=1e-9)
    assert gear.lasting_kmh == pytest.approx(3.6 * mps, rel=1e-9)
    # 0.05 of 900 kg goes into rolling.
    assert gear.hook_n == pytest.approx(force - 0.05 * 900 * 9.80665, rel=1e-6)


def test_at_a_start_the_amps_limit_or_the_grip_bounds_it():
    found = gears(RATED).gears
    for gear, ratio in zip(found[1:], (16, 9), strict=True):
        k = 0.4 * 350 / 440
        assert gear.start_n == pytest.approx((k * 350 - 2.5) * ratio * 0.88 / TRAVEL_M)
        assert gear.start_limited_by == "motor_current"
    assert found[0].start_limited_by == "traction"
    # Not told, the usual 0.65 of its weight, all wheels driven.
    assert found[0].start_n == pytest.approx(0.65 * 900 * 9.80665)


def test_one_changes_up_where_the_next_gear_pushes_as_much():
    """Both gears at a speed by the motor's quadratic, with the volts of the pack under load."""

    def push(mps, ratio):
        rad_s = mps / TRAVEL_M * ratio
        ohm = 24 * 0.6e-3 + 2e-3 + 0.002 + 0.028
        # I (w k_sat/(I + I_half)) + I R = V - 1.5, a quadratic in I.
        volts = 24 * 3.3 - 1.5
        b = ohm * 90 + 0.4 * rad_s - volts
        amps = min((-b + np.sqrt(b * b + 4 * ohm * volts * 90)) / (2 * ohm), 350.0)
        grip = 0.65 * 900 * 9.80665
        return min((0.4 * amps / (amps + 90) * amps - 2.5) * ratio * 0.88 / TRAVEL_M, grip)

    found = gears(RATED).gears
    for gear, lower, upper in ((found[0], 28, 16), (found[1], 16, 9)):
        at = gear.shift_kmh / 3.6
        assert push(at, upper) == pytest.approx(push(at, lower), rel=1e-6)
        assert push(0.95 * at, lower) > push(0.95 * at, upper)
        assert push(1.05 * at, lower) < push(1.05 * at, upper)
    assert found[-1].shift_kmh is None


def test_the_engine_pushes_by_its_torque_and_the_same_gears():
    gear = gears(RATED).gears[1]
    # Its greatest torque, 58 N.m at 1,500 rpm: at the wheel 58 x 16 x 0.88 over the radius.
    assert max(gear.engine_n) == pytest.approx(58 * 16 * 0.88 / TRAVEL_M, rel=1e-3)
    best = gear.engine_speeds_mps[int(np.argmax(gear.engine_n))]
    assert best == pytest.approx(1500 * np.pi / 30 / 16 * TRAVEL_M, rel=0.02)
    assert gears({**RATED, "vehicle.replaces": None}).gears[1].engine_n == []


def test_a_direct_drive_is_found_when_it_does():
    flat = gears({**CAR, "moments.climb_grade_pct": 3, "motor.continuous_current_a": 300})
    assert flat.direct.suffices
    assert "needs no gearbox" in flat.verdict
    # 4.1 of the axle alone is left of the reductions.
    assert flat.direct.ratio == pytest.approx(4.1)


def test_and_not_when_it_does_not():
    steep = gears({**CAR, "moments.climb_grade_pct": 25, "moments.climb_speed_kmh": 8})
    assert not steep.direct.suffices
    assert "no gearbox" not in steep.verdict
    # 980 kg up a quarter ask for about 2,330 N; direct, 350 A give 109 N.m x 4.1 x 0.97 / 0.2785 m.
    assert steep.direct.start_n == pytest.approx(1551, rel=0.01)


def test_no_gear_needs_another_word_than_a_hill_that_none_climbs():
    none = gears({**CAR, "moments.climb_grade_pct": 90})
    assert none.verdict.startswith("No gear climbs")
    assert not any(gear.climbs for gear in none.gears)


def test_gears_that_get_hot_on_the_hill_are_not_enough():
    hot = gears({**CAR, "motor.continuous_current_a": 60})
    over = [gear for gear in hot.gears if gear.climbs and gear.climb_motor_a > 60]
    assert over
    for gear in over:
        assert not gear.suffices
        assert "above the 60 A" in gear.say


def test_a_single_reduction_is_one_gear_without_a_choice(build_with):
    build = build_with({})
    found = gears_of(build, RuleContext.of(build), None)
    assert [gear.name for gear in found.gears] == ["Its one ratio"]
    assert found.direct is None


def test_a_gear_that_would_turn_the_motor_too_fast_is_too_short():
    # 20 km/h on 1.75 m of wheel through 3.6 x 4.1: 190.5 turns a minute x 14.76 = 2,811 rpm; in
    # second, 2.05 x 4.1, 1,601 rpm, and 40 km/h on the trip 3,202.
    found = gears({**CAR, "motor.max_rpm": 2500}).gears
    assert not found[0].climbs
    assert not found[1].cruises
    for gear in found[:2]:
        assert gear.say.startswith("Too short")
    # At 2,500 rpm in first: 2,500/14.76 turns a minute of 1.75 m.
    assert found[0].top_kmh == pytest.approx(2500 / 14.76 * 1.75 * 60 / 1000)
