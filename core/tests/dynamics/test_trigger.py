"""A drive by hand against hand arithmetic: duty, creep, ramp, steps, brakes."""

import math

import pytest

from core.tests.conftest import document_with
from powertrain.documents.reading import check_build
from powertrain.dynamics.trigger import Trigger, TriggerDrive, traced_pull
from powertrain.errors import Refusal

K = 60 / (2 * math.pi * 60)
RATIO = 60 / 16 * 44 / 18
RADIUS = 1.830 / (2 * math.pi)
OHM = 0.045 + 0.006
"""Motor and controller of the trike."""


def driven(seconds, trigger, grade=0.0, **more):
    drive = TriggerDrive(check_build(document_with(more)))
    frame = None
    for _ in range(round(seconds / drive.frame_s)):
        frame = drive.frame(trigger, grade)
    return drive, frame


def test_a_held_trigger_settles_where_push_and_road_are_equal():
    # D V - k w = I R and (I - I0) k G eta / r = rolling + air, solved by bisection here.
    duty = 0.5
    ohm = OHM + duty**2 * (13 / 4 * 0.020 + 0.010)

    def spare_n(mps):
        amps = (duty * 13 * 4.1 - K * mps / RADIUS * RATIO) / ohm
        push = (amps - 1.4) * K * RATIO * 0.955 * 0.975 / RADIUS
        return push - 0.009 * 195 * 9.80665 - 0.5 * 1.225 * 0.85 * mps**2

    low, high = 0.0, 30.0
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if spare_n(middle) > 0 else (low, middle)
    _, frame = driven(90, 0.5)
    assert frame.speed_kmh == pytest.approx(low * 3.6, rel=1e-3)
    assert frame.duty_pct == 50
    assert frame.limited_by is None


def test_the_drag_brake_creeps_downhill_as_a_shorted_motor_does():
    # w = (T - I0 k) R/k^2 at the motor, T what the slope turns it with through the gears.
    grade = 0.12
    weight = 195 * 9.80665
    slope = math.atan(grade)
    pulls_n = weight * (math.sin(slope) - 0.009 * math.cos(slope))
    # Backwards through the gears their losses help to hold.
    shaft_nm = pulls_n * RADIUS / RATIO * 0.955 * 0.975 - 1.4 * K
    turns = shaft_nm * OHM / K**2
    _, frame = driven(60, 0.0, -12, **{"controller.drag_brake_pct": 100.0})
    # The air takes a thousandth of it.
    assert frame.speed_kmh == pytest.approx(turns / RATIO * RADIUS * 3.6, rel=5e-3)
    assert frame.battery_current_a == pytest.approx(0.0, abs=1e-9)
    half = driven(60, 0.0, -12, **{"controller.drag_brake_pct": 50.0})[1]
    assert half.speed_kmh == pytest.approx(2 * frame.speed_kmh, rel=0.02)
    assert driven(20, 0.0, -12)[1].speed_kmh > 5 * frame.speed_kmh


def test_what_the_slope_gives_is_heat_in_motor_and_controller():
    _, frame = driven(60, 0.0, -12, **{"controller.drag_brake_pct": 100.0})
    heat = frame.copper_heat_w + frame.controller_heat_w + frame.brush_heat_w + frame.turning_heat_w
    assert frame.shaft_w == pytest.approx(-heat, rel=1e-9)
    assert frame.copper_heat_w / (frame.copper_heat_w + frame.controller_heat_w) == pytest.approx(
        0.045 / OHM, rel=1e-6
    )


def test_a_ramp_lets_the_duty_rise_so_fast_and_fall_at_once():
    drive, frame = driven(1.0, 1.0, **{"controller.ramp_pct_per_s": 40.0})
    assert frame.duty_pct == pytest.approx(40.0)
    assert drive.frame(0.0, 0.0).duty_pct == 0


def test_the_brake_stops_sooner_than_letting_go():
    stopped = {}
    for trigger in (0.0, -1.0):
        drive, _ = driven(6.0, 1.0)
        for _ in range(75):
            frame = drive.frame(trigger, 0.0)
        stopped[trigger] = frame.speed_kmh
    assert stopped[-1.0] < 0.3 * stopped[0.0]


def test_the_brake_keeps_to_the_motor_amps_limit():
    drive, _ = driven(6.0, 1.0, **{"controller.motor_current_limit_a": 30.0})
    frame = drive.frame(-1.0, 0.0)
    assert frame.motor_current_a == pytest.approx(-30.0)


def test_steps_curve_and_dead_band_come_before_the_volts():
    def asks(trigger, **more):
        build = check_build(document_with({f"controller.{k}": v for k, v in more.items()}))
        return Trigger.of(build).asks(trigger)

    assert asks(0.37) == pytest.approx(0.37)
    # Ten steps shared are five each way: 0.37 lies between the first and the second fifth.
    assert asks(0.37, throttle_steps=10) == pytest.approx(0.2)
    assert asks(0.37, throttle_steps=10, steps_shared=False) == pytest.approx(0.3)
    # Half trigger at an eighth of the volts is a cube.
    assert asks(0.4, curve={"half_throttle_pct": 12.5}) == pytest.approx(0.4**3)
    band = {"dead_band_pct": {"value": 20.0, "on": "2026-03-14"}}
    assert asks(0.2, settings=band) == 0
    assert asks(0.6, settings=band) == pytest.approx(0.5)
    assert asks(1.0, settings=band) == 1


def test_a_pull_is_written_down_from_rest_to_rest():
    told = traced_pull(check_build(document_with({})), 0.3, 0.0)
    speeds = [frame.speed_kmh for frame in told.frames]
    at = next(i for i, frame in enumerate(told.frames) if frame.t_s > told.let_go_s)
    assert speeds[0] == 0
    assert max(speeds) == pytest.approx(speeds[at - 1], rel=0.01)
    assert told.frames[-1].duty_pct == 0


def test_what_has_no_wheels_is_refused():
    document = document_with({})
    hoist = {key: value for key, value in document.items() if key not in ("wheel", "moments")}
    hoist["vehicle"] = {"kind": "hoist", "mass_kg": 200, "drum_radius_m": 0.06}
    with pytest.raises(Refusal) as refused:
        TriggerDrive(check_build(hoist))
    assert refused.value.where == "vehicle.kind"


def test_a_drive_that_no_motor_is_like_costs_no_more_than_another():
    wild = {"motor.kv_rpm_per_v": 1.0, "motor.resistance_ohm": 1e-6, "vehicle.mass_kg": 0.1}
    told = traced_pull(check_build(document_with(wild)), 1.0, 0.0)
    assert all(math.isfinite(frame.speed_kmh) for frame in told.frames)
