"""Steady travel at a chosen speed, at whatever part of the throttle that takes."""

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, choose, floats
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm
from powertrain.operating.full_throttle import motor_side_power_w, output_nm
from powertrain.operating.state import State, state_at_torque
from powertrain.units import mps_from_kmh

SLACK = 1e-9
"""Relative room for a speed that *is* the top speed, found by iteration."""

TIE = 1e-9
"""Share of a pack's watts by which two gears must differ to be told apart."""

CLOSE = 1e-6
"""Relative room between the push that was asked and the push that the amps give."""


def steady(drive: Drive, speed_mps: Array, situation: Array) -> State:
    """Return the state that would hold `speed_mps` in `situation`; ask `can_hold` if it does.

    Downhill the motors brake: their current is negative and the pack takes it back. With a
    gearbox, of the gears that hold the speed the one that takes least from the cells.
    """
    speed, gears = drive.output_at_mps(floats(speed_mps)), drive.train.gears
    wanted_nm = asked_nm(drive.load, speed, situation)
    best = state_at_torque(drive, speed, situation, wanted_nm, gears[0])
    if len(gears) == 1:
        return best
    holds = can_hold(drive, best)
    for gear in gears[1:]:
        other = state_at_torque(drive, speed, situation, wanted_nm, gear)
        # Of gears that take the same the shorter stays, whatever the last digit says.
        less = other.cells_w < best.cells_w - TIE * np.abs(best.cells_w)
        better = can_hold(drive, other) & (~holds | less)
        best, holds = choose(better, other, best), holds | better
    return best


def can_hold(drive: Drive, state: State) -> NDArray[np.bool_]:
    """Return whether the drive can hold a steady `state`: push enough, and volts to brake."""
    drive = drive.in_gear(state.gear)
    wanted_nm = asked_nm(drive.load, state.output_rad_s, state.situation)
    braked = state.brakes_w != 0
    given_nm = state.output_torque_nm
    # A nanonewton at the load's rim.
    room_nm = CLOSE * (np.abs(wanted_nm) + 1e-9 * drive.load.travel_m)
    reaches = np.abs(given_nm - wanted_nm) <= room_nm
    most_nm = output_nm(drive, state.output_rad_s, state.situation)
    pushes = given_nm <= most_nm + SLACK * np.abs(most_nm)
    motor_rad_s = drive.motor_rad_s(state.output_rad_s)
    power_w = motor_side_power_w(drive, motor_rad_s, state.motor_current_a)
    deliverable = power_w <= drive.pack.greatest_power_w(drive.controller.standby_a) * (1 + SLACK)
    path_v = state.motor_voltage_v + drive.controller.path_drop_v(state.motor_current_a)
    # A motor that came with its inverter says by its envelope what the volts allow.
    within_volts = drive.motor.has_inverter | (path_v <= state.battery_voltage_v * (1 + SLACK))
    return np.asanyarray((reaches | braked) & pushes & deliverable & within_volts)


def energy_wh_per_km(state: State) -> Array:
    """Return the energy that leaves the pack's terminals for each kilometre."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return state.terminals_w / (state.speed_mps / mps_from_kmh(1.0))
