"""The hobby derate, kept beside the physics: sag by the pack alone, then a guessed load factor."""

import numpy as np

from powertrain.arrays import Array
from powertrain.drive import Drive
from powertrain.operating.state import State
from powertrain.units import rpm_from_rad_s


def derated_rpm(drive: Drive, battery_current_a: Array, load_factor: Array) -> Array:
    """Return KV (V_oc - I R_p) (1 - load factor).

    Source: common practice, no source. The factor stands for everything that the formula does
    not know: the motor's own resistance, iron, and the load.

    Parameters
    ----------
    battery_current_a : array_like
        The pack current that somebody guesses or logged.
    load_factor : array_like
        The guessed share, 0.05 to 0.20 in practice.
    """
    unloaded = drive.wide_open().motor.speed_at_voltage_rad_s(
        battery_current_a * 0.0, drive.pack.voltage_v(battery_current_a)
    )
    # Of volts below the brushes' drop nothing turns.
    return rpm_from_rad_s(np.maximum(unloaded, 0.0)) * (1 - load_factor)


def implied_load_factor(drive: Drive, state: State) -> Array:
    """Return the load factor that makes the hobby formula give a full-throttle state's rpm."""
    derated = derated_rpm(drive, state.battery_current_a, state.duty * 0.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        return 1 - state.motor_rpm / derated
