"""Steady travel at a chosen speed, at whatever part of the throttle that takes."""

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.drive import Drive
from powertrain.operating.full_throttle import full_throttle, motor_side_power_w
from powertrain.operating.state import State, state_at_force
from powertrain.units import mps_from_kmh

SLACK = 1e-9
"""Relative room for a speed that *is* the top speed, found by iteration."""


def steady(drive: Drive, speed_mps: Array, grade_pct: Array) -> State:
    """Return the state that would hold `speed_mps` on `grade_pct`; ask `can_hold` whether it does.

    Downhill the motors brake: their current is negative and the pack takes it back.
    """
    return state_at_force(drive, speed_mps, grade_pct, drive.road.force_n(speed_mps, grade_pct))


def can_hold(drive: Drive, state: State) -> NDArray[np.bool_]:
    """Return whether the drive can hold a steady `state`: push enough, and volts to brake."""
    most_n = full_throttle(drive, state.speed_mps).force_n
    pushes = state.force_n <= most_n + SLACK * np.abs(most_n)
    speed_rad_s = drive.motor_speed_rad_s(state.speed_mps)
    power_w = motor_side_power_w(drive, speed_rad_s, state.motor_current_a)
    deliverable = power_w <= drive.pack.greatest_power_w(drive.controller.standby_a) * (1 + SLACK)
    path_v = state.motor_voltage_v + state.motor_current_a * drive.controller.resistance_ohm
    within_volts = path_v <= state.battery_voltage_v * (1 + SLACK)
    return pushes & deliverable & within_volts


def energy_wh_per_km(state: State) -> Array:
    """Return the energy that leaves the pack's terminals for each kilometre."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return state.terminals_w / (state.speed_mps / mps_from_kmh(1.0))
