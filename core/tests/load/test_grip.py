"""Grip and lifting of the front against a balance of forces written out in the test."""

import numpy as np
import pytest

from powertrain.arrays import scalar
from powertrain.operating.launch import launch
from powertrain.operating.limits import Limit
from powertrain.operating.on_road import full_throttle_at
from powertrain.operating.top_speed import top_speed, top_speed_mps

G = 9.80665
BALANCE = {
    "friction": 0.6,
    "wheelbase_m": 1.1,
    "centre_height_m": 0.8,
    "centre_to_driven_axle_m": 0.45,
}
STRONG = {"controller.motor_current_limit_a": 400, "controller.battery_current_limit_a": 400}


def slipping(mass, said, rolling, grade=0.0, front=False):
    """Return the push at which the driven wheels slip, by trying pushes against the balance."""
    slope, height, base = np.arctan(grade / 100), said["centre_height_m"], said["wheelbase_m"]
    behind = said["centre_to_driven_axle_m"]
    weight = mass * G
    low, high = 0.0, said["friction"] * weight * np.cos(slope)
    for _ in range(200):
        push = (low + high) / 2
        # Moments round the undriven contact: what pushes at the ground lifts or presses by h/L.
        moved = (push - rolling * weight * np.cos(slope)) * height / base
        rest = weight * np.cos(slope) * (base - behind) / base
        load = rest - moved if front else rest + moved
        low, high = (push, high) if push < said["friction"] * load else (low, push)
    return low


@pytest.mark.parametrize("grade", [0.0, 12.0])
@pytest.mark.parametrize("axle", ["rear", "front"])
def test_the_push_at_which_wheels_slip(drive_with, axle, grade):
    said = {**BALANCE, "driven_axle": axle}
    drive = drive_with({"vehicle.traction": said, **STRONG})
    at = full_throttle_at(drive, scalar(0.5), scalar(grade))
    assert Limit(int(at.limited_by)) == Limit.TRACTION
    wanted = slipping(195, BALANCE, 0.009, grade, axle == "front")
    assert float(at.force_n) == pytest.approx(wanted, rel=1e-9)


def test_slipping_takes_the_amps_of_the_push_that_is_left(drive_with):
    drive = drive_with({"vehicle.traction": {**BALANCE, "friction": 0.15}, **STRONG})
    at = full_throttle_at(drive, scalar(2.0))
    torque = drive.shaft_torque_for_nm(at.output_nm)
    k = 9.549296585513721 / 60
    assert at.motor_current_a == pytest.approx(float(torque) / k + 1.4)
    speed = float(drive.motor_rad_s(drive.output_at_mps(scalar(2.0))))
    power = float(at.motor_current_a) * (k * speed + float(at.motor_current_a) * 0.051)
    volts = 53.3 - float(at.battery_current_a) * 0.075
    assert volts * float(at.battery_current_a) == pytest.approx(power)


def test_all_wheels_driven_slip_at_all_of_the_weight(drive_with):
    drive = drive_with({"vehicle.traction": {"friction": 0.1, "driven_share": 1}, **STRONG})
    assert float(full_throttle_at(drive, scalar(0.0)).force_n) == pytest.approx(0.1 * 195 * G)


def test_ice_decides_hill_and_launch(drive_with):
    ice = {"vehicle.traction": {"friction": 0.08, "driven_share": 0.5}, **STRONG}
    hill = top_speed(drive_with(ice), scalar(8.0))
    assert Limit(int(hill.limited_by)) == Limit.CANNOT_MOVE
    dry = {"vehicle.traction": {"friction": 0.9, "driven_share": 0.5}, **STRONG}
    slow, quick = (float(launch(drive_with(c), scalar(5.0)).time_s) for c in (ice, dry))
    # All of it at the grip: m dv/dt = a - b v^2, t = m/sqrt(ab) atanh(v sqrt(b/a)).
    a, b = (0.04 - 0.009) * 195 * G, 0.5 * 1.225 * 0.85
    assert slow == pytest.approx(195 / np.sqrt(a * b) * np.arctanh(5 * np.sqrt(b / a)), rel=1e-6)
    assert quick < slow / 3


def test_the_front_lifts_where_its_load_vanishes(drive_with):
    drive = drive_with({"vehicle.traction": BALANCE})
    # Moments round the rear contact: m a h = m g cos c - m g sin h.
    for grade in (0.0, 20.0):
        slope = np.arctan(grade / 100)
        wanted = G * (np.cos(slope) * 0.45 / 0.8 - np.sin(slope))
        assert float(drive.wheels.grip.lifting_mps2(scalar(grade))) == pytest.approx(wanted)
    front = drive_with({"vehicle.traction": {**BALANCE, "driven_axle": "front"}})
    assert np.isinf(float(front.wheels.grip.lifting_mps2(scalar(0.0))))


@pytest.mark.parametrize(
    ("mass_kg", "rolling", "low", "high"),
    # Common practice, no source: 0.8 to 1.0 on tarmac, less where the ground gives way.
    [
        (195, 0.009, 0.8, 1.0),
        (95, 0.006, 0.8, 1.0),
        (900, 0.013, 0.8, 1.0),
        (195, 0.02, 0.7, 0.8),
        (195, 0.1, 0.4, 0.6),
        (3.1, 0.03, 0.8, 1.0),
        (3.1, 0.2, 0.5, 0.7),
    ],
)
def test_grip_that_nobody_states_is_assumed_by_the_ground(drive_with, mass_kg, rolling, low, high):
    changes = {"vehicle.mass_kg": mass_kg, "vehicle.rolling_resistance": rolling}
    assert low <= float(drive_with(changes).wheels.grip.friction) <= high


def test_stated_grip_is_used_as_given(drive_with):
    for friction in (0.15, 5.0):
        drive = drive_with({"vehicle.traction": {"friction": friction}})
        assert float(drive.wheels.grip.friction) == friction


def test_a_launch_gains_no_more_than_its_grip(drive_with):
    # A car without any amps limit: 86 km/h in 0.39 s would be 6 g.
    car = drive_with(
        {
            "controller": {"resistance_ohm": 0.001},
            "vehicle.mass_kg": 20.5,
            "motor.resistance_ohm": 0.004,
            "battery.cell_resistance_mohm": 2,
        }
    )
    to_mps = 0.5 * float(top_speed_mps(car, scalar(0.0)))
    assert (
        to_mps / float(launch(car, scalar(to_mps)).time_s)
        <= float(car.wheels.grip.friction) * 9.80665
    )


def test_lifting_is_not_known_without_a_balance(drive_with):
    assert np.isinf(float(drive_with({}).wheels.grip.lifting_mps2(scalar(0.0))))
