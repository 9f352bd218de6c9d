"""The first instant of a grabbed trigger, and the ramp of the throttle that spares the pack.

With the rotor at rest and no amps limit nothing but resistance holds the current. Rising slowly,
the throttle lets the back-EMF come along: a ramp of so many percent of duty a second is followed
in small steps, ``J dw/dt = T(D, w) - T_load``, the load holding what it holds.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, scalar
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm

RATES_PCT_S = np.geomspace(5.0, 5000.0, 60)
"""Ramps that are looked at, each about an eighth faster than the one before."""

STEPS = 200


@dataclass(frozen=True)
class Inrush:
    """Amps of pack and of one motor in the first instant, and the volts it leaves the pack.

    `unlimited` is false where a limit or an inverter holds the amps.
    """

    battery_a: Array
    motor_a: Array
    battery_v: Array
    unlimited: NDArray[np.bool_]


def inrush_of(drive: Drive) -> Inrush:
    """Return what a grabbed trigger draws at rest."""
    pack, controller, motor = drive.pack, drive.controller, drive.wide_open().motor
    source_v = pack.voltage_v(controller.standby_a) - controller.switching_v
    ohm = motor.count * pack.resistance_ohm + controller.resistance_ohm
    amps = motor.current_at_voltage_a(scalar(0.0), source_v, ohm)
    with np.errstate(invalid="ignore"):
        pack_a = motor.count * amps + controller.standby_a
        left_v = pack.voltage_v(pack_a)
    held = (amps > controller.motor_current_limit_a) | (pack_a > controller.battery_current_limit_a)
    return Inrush(pack_a, amps, left_v, ~(held | motor.has_inverter))


def fastest_ramp_pct_s(drive: Drive, least_v: float) -> float | None:
    """Return the fastest straight rise of duty from rest that leaves the pack `least_v`.

    None where even the slowest of `RATES_PCT_S` does not; it is for one drive without limits.
    """
    drive = drive.wide_open().in_gear(drive.train.gears[0])
    pack, controller, motor = drive.pack, drive.controller, drive.motor
    speed: Array = np.zeros(RATES_PCT_S.shape)
    lowest: Array = np.full(RATES_PCT_S.shape, np.inf)
    step_s = 100 / RATES_PCT_S / STEPS
    holds_nm = drive.load.holds_nm(drive.load.usual)
    for number in range(1, STEPS + 1):
        duty = number / STEPS
        source_v = duty * pack.voltage_v(controller.standby_a) - controller.switching_v
        ohm = controller.resistance_ohm + duty * duty * motor.count * pack.resistance_ohm
        turns = drive.motor_rad_s(speed)
        amps = np.maximum(motor.current_at_voltage_a(turns, source_v, ohm), 0.0)
        pack_a = duty * motor.count * amps + controller.standby_a
        lowest = np.minimum(lowest, pack.voltage_v(pack_a))
        torque_nm = np.minimum(drive.output_nm(motor.shaft_torque_nm(turns, amps)), holds_nm)
        gains = (torque_nm - asked_nm(drive.load, speed, drive.load.usual)) / drive.inertia_kg_m2
        speed = np.maximum(speed + gains * step_s, 0.0)
    does = np.flatnonzero(lowest >= least_v)
    return float(RATES_PCT_S[does[-1]]) if len(does) else None
