"""A motor shorted by its controller: it brakes with ``T = k^2 w/R``, the slower the weaker.

A share of it is what a controller makes of a drag brake in percent (common practice: the torque
goes with the share). All of it becomes heat in motor and controller; nothing goes into the pack.
"""

import numpy as np

from powertrain.arrays import Array, choose, scalar
from powertrain.drive import Drive
from powertrain.operating.full_throttle import FullThrottle
from powertrain.operating.part_throttle import LEAST_DUTY, carrying


def can_short(drive: Drive) -> bool:
    """Return whether its motors brake when shorted: magnets, and no inverter of their own."""
    return not (drive.motor.has_inverter or drive.motor.races_unloaded)


def short_ohm(drive: Drive) -> Array:
    """Return the resistance round which a shorted motor's amps go."""
    nothing, one = scalar(0.0), scalar(1.0)
    motor = drive.motor
    own = motor.voltage_v(nothing, one) - motor.voltage_v(nothing, nothing)
    return own + drive.controller.resistance_ohm


def with_shorted(
    drive: Drive, output_rad_s: Array, at: FullThrottle, throttle: Array, share: Array
) -> FullThrottle:
    """Return `at`, with the motors shorted by a share wherever the throttle is closed."""
    if not can_short(drive):
        return at
    geared = drive.in_gear(at.gear)
    motor, nothing = geared.motor, scalar(0.0)
    turns = geared.motor_rad_s(output_rad_s)
    generated_v = motor.voltage_v(turns, nothing) - motor.voltage_v(nothing, nothing)
    # A controller chops what would be more amps than its limit.
    limit_a = geared.controller.motor_current_limit_a
    amps = -np.minimum(share * generated_v / short_ohm(geared), limit_a)
    braked = carrying(drive, at, output_rad_s, amps)
    return choose(throttle <= LEAST_DUTY, braked, at)
