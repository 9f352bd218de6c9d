"""Steady travel at a chosen speed, at whatever part of the throttle that takes."""

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, choose
from powertrain.drive import Drive
from powertrain.operating.full_throttle import motor_side_power_w, push_n
from powertrain.operating.state import State, state_at_force
from powertrain.units import mps_from_kmh

SLACK = 1e-9
"""Relative room for a speed that *is* the top speed, found by iteration."""

CLOSE = 1e-6
"""Relative room between the push that was asked and the push that the amps give."""


def steady(drive: Drive, speed_mps: Array, grade_pct: Array) -> State:
    """Return the state that would hold `speed_mps` on `grade_pct`; ask `can_hold` whether it does.

    Downhill the motors brake: their current is negative and the pack takes it back. With a
    gearbox, of the gears that hold the speed the one that takes least from the cells.
    """
    force_n, gears = drive.road.force_n(speed_mps, grade_pct), drive.train.gears
    best = state_at_force(drive, speed_mps, grade_pct, force_n, gears[0])
    if len(gears) == 1:
        return best
    holds = can_hold(drive, best)
    for gear in gears[1:]:
        other = state_at_force(drive, speed_mps, grade_pct, force_n, gear)
        better = can_hold(drive, other) & (~holds | (other.cells_w < best.cells_w))
        best, holds = choose(better, other, best), holds | better
    return best


def can_hold(drive: Drive, state: State) -> NDArray[np.bool_]:
    """Return whether the drive can hold a steady `state`: push enough, and volts to brake."""
    drive = drive.in_gear(state.gear)
    wanted_n = drive.road.force_n(state.speed_mps, state.grade_pct)
    braked = state.brakes_w != 0
    reaches = np.abs(state.force_n - wanted_n) <= CLOSE * (np.abs(wanted_n) + 1e-9)
    most_n = push_n(drive, state.speed_mps, state.grade_pct)
    pushes = state.force_n <= most_n + SLACK * np.abs(most_n)
    speed_rad_s = drive.motor_speed_rad_s(state.speed_mps)
    power_w = motor_side_power_w(drive, speed_rad_s, state.motor_current_a)
    deliverable = power_w <= drive.pack.greatest_power_w(drive.controller.standby_a) * (1 + SLACK)
    path_v = state.motor_voltage_v + drive.controller.path_drop_v(state.motor_current_a)
    # A motor that came with its inverter says by its envelope what the volts allow.
    within_volts = drive.motor.has_inverter | (path_v <= state.battery_voltage_v * (1 + SLACK))
    return np.asanyarray((reaches | braked) & pushes & deliverable & within_volts)


def energy_wh_per_km(state: State) -> Array:
    """Return the energy that leaves the pack's terminals for each kilometre."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return state.terminals_w / (state.speed_mps / mps_from_kmh(1.0))
