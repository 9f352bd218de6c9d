"""Top speed: where the push of full throttle meets what the road asks."""

from dataclasses import replace

import numpy as np

from powertrain.arrays import Array
from powertrain.drive import Drive
from powertrain.operating.full_throttle import full_throttle, zero_current_speed_mps
from powertrain.operating.limits import Limit
from powertrain.operating.roots import falling_root
from powertrain.operating.state import State, state_at_full_throttle


def top_speed_mps(drive: Drive, grade_pct: Array) -> Array:
    """Return the speed that full throttle holds on `grade_pct`.

    Zero where the drive can't start; infinite where a descent runs away with nothing to hold
    the vehicle back. Push never rises with speed and road load never falls, so there is one
    crossing and it is found whatever the limits do.
    """
    carried_mps = np.maximum(zero_current_speed_mps(drive), 0.0)
    coasting_mps = drive.road.coasting_speed_mps(grade_pct)
    runs_away = np.isposinf(coasting_mps)
    ceiling_mps = np.where(runs_away, carried_mps, np.maximum(carried_mps, coasting_mps))

    still_n = drive.road.still_n(grade_pct)

    def spare_n(speed_mps: Array) -> Array:
        asked_n = still_n + drive.road.air_n(speed_mps)
        return full_throttle(drive, speed_mps).force_n - asked_n

    low, high = np.broadcast_arrays(np.zeros(()), ceiling_mps)
    found = falling_root(spare_n, low, high)
    if np.any(runs_away):
        return np.where(runs_away & (spare_n(high) > 0), np.inf, found)
    return found


def top_speed(drive: Drive, grade_pct: Array) -> State:
    """Return the state at top speed on `grade_pct`, or at stall where the drive can't start.

    Where a descent runs away the speed is infinite and the rest NaN.
    """
    with np.errstate(invalid="ignore", over="ignore"):
        return at_top_speed(drive, top_speed_mps(drive, grade_pct), grade_pct)


def at_top_speed(drive: Drive, speed_mps: Array, grade_pct: Array) -> State:
    """Return the state at a top speed that is known already.

    `limited_by` says which limit sets it: `CANNOT_MOVE` at stall, `OVERRUN` on a descent that
    outruns the motors.
    """
    state = state_at_full_throttle(drive, speed_mps, grade_pct)
    limit = np.where(speed_mps <= 0, Limit.CANNOT_MOVE, state.limited_by)
    limit = np.where(speed_mps > zero_current_speed_mps(drive), Limit.OVERRUN, limit)
    return replace(state, limited_by=limit.astype(np.int8))
