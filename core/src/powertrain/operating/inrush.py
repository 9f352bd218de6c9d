"""The first instant of a grabbed trigger: with the rotor at rest only resistance holds the amps."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, scalar
from powertrain.drive import Drive


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
