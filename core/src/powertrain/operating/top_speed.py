"""Top speed: where the torque of full throttle meets what the load asks."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, is_traced, pick, set_aside
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm
from powertrain.operating.full_throttle import (
    Torque,
    fastest_rad_s,
    output_nm,
    torque_by_limit,
)
from powertrain.operating.limits import Limit
from powertrain.operating.state import State, state_at_full_throttle
from powertrain.roots import falling_root, root_near

NEAR_ENOUGH, NEAR_STEPS = 1e-6, 4
"""Torque left over at a variant's top speed, as a share of what the load asks, and the steps of
the search after which that is mostly so."""

EXACT, EXACT_STEPS, FEW = 1e-12, 8, 16
"""The same for a handful of drives, which are found to the last digits."""


def top_speed_mps(drive: Drive, situation: Array, near_mps: Array | None = None) -> Array:
    """Return the speed that full throttle holds in a situation.

    Zero where the drive can't start; infinite where a descent runs away with nothing to hold
    the vehicle back. Torque never rises with speed and what the load asks never falls, so there is
    one crossing and it is found whatever the limits do.

    Parameters
    ----------
    situation : array_like
        Of one shape with the drive's fields, or broadcasting with them.
    near_mps : array_like, optional
        Where to look first. It saves most of the work, and for more than a handful of drives
        it finds the speed to about seven digits. It has the whole shape of the answer, of
        which the drives are the last axis.
    """
    near = None if near_mps is None else drive.output_at_mps(near_mps)
    return drive.speed_mps(top_speed_rad_s(drive, situation, near))


def top_speed_rad_s(drive: Drive, situation: Array, near: Array | None = None) -> Array:
    """Return `top_speed_mps` as the speed of the output shaft, near one where that is given."""
    carried = np.maximum(fastest_rad_s(drive), 0.0)
    coasting = drive.load.coasting_rad_s(situation)
    runs_away = np.isposinf(coasting)
    ceiling = np.where(runs_away, carried, np.maximum(carried, coasting))

    spare_nm = _spare(drive, situation)
    if near is not None:
        exact = near.size <= FEW and not is_traced(near)
        found, missed = _near(drive, situation, near, exact, EXACT_STEPS if exact else NEAR_STEPS)
        missed = missed | (found > ceiling)
        if set_aside(missed):
            rest, some, of_some, _ = _where(missed, drive, situation, ceiling)
            stuck = _spare(some, of_some)(np.zeros(of_some.shape)) <= 0
            found[rest] = np.where(stuck, 0.0, found[rest])
            missed[rest] = ~stuck
        if set_aside(missed) and not exact:
            rest, some, of_some, most = _where(missed, drive, situation, ceiling)
            again = _near(some, of_some, near[rest], False, EXACT_STEPS)
            found[rest], missed[rest] = again[0], again[1] | (again[0] > most)
        if set_aside(missed):
            rest, some, of_some, _ = _where(missed, drive, situation, ceiling)
            found[rest] = top_speed_rad_s(some, of_some)
        return found
    low, high = np.broadcast_arrays(np.zeros(()), ceiling)
    found = falling_root(spare_nm, low, high)
    if np.any(runs_away):
        return np.where(runs_away & (spare_nm(high) > 0), np.inf, found)
    return found


Where = tuple[tuple[NDArray[np.intp], ...], Drive, Array, Array]


def _where(missed: NDArray[np.bool_], drive: Drive, situation: Array, most: Array) -> Where:
    """Return the places that missed, their drives, situations and ceilings, each a flat row."""
    rest = np.nonzero(missed)
    shape = missed.shape
    return (
        rest,
        pick(drive, rest[-1]),
        np.broadcast_to(situation, shape)[rest],
        np.broadcast_to(most, shape)[rest],
    )


def _near(
    drive: Drive, situation: Array, near: Array, exact: bool, steps: int
) -> tuple[Array, NDArray[np.bool_]]:
    """Return the least of the speeds at which each limit's torque meets the load, and the misses.

    A miss is a speed at which something is left over, be it that a secant did not get there.
    """
    found = np.full(np.shape(near), np.inf)
    for branch_nm in torque_by_limit(drive):
        branch = _spare(drive, situation, branch_nm)
        found = np.minimum(found, root_near(branch, near, steps))
    if drive.load.grips:
        # What the load holds does not depend on speed, so that this crossing has a formula.
        held = drive.load.speed_at_nm(drive.load.holds_nm(situation), situation)
        found = np.minimum(found, np.maximum(held, 0.0))
    left_nm = np.abs(_spare(drive, situation)(found))
    wanted_nm = np.abs(asked_nm(drive.load, found, situation))
    return found, ~(left_nm <= (EXACT if exact else NEAR_ENOUGH) * wanted_nm)


def _spare(drive: Drive, situation: Array, torque: Torque | None = None) -> Torque:
    """Return the function of speed that says what torque is left beyond what the load asks."""
    still_nm = drive.load.still_nm(situation)

    def spare_nm(speed: Array) -> Array:
        given_nm = output_nm(drive, speed, situation) if torque is None else torque(speed)
        return given_nm - still_nm - drive.load.moving_nm(speed)

    return spare_nm


def top_speed(drive: Drive, situation: Array) -> State:
    """Return the state at top speed in a situation, or at stall where the drive can't start.

    Where a descent runs away the speed is infinite and the rest NaN.
    """
    with np.errstate(invalid="ignore", over="ignore"):
        return at_top_speed(drive, top_speed_mps(drive, situation), situation)


def at_top_speed(drive: Drive, speed_mps: Array, situation: Array) -> State:
    """Return the state at a top speed that is known already.

    `limited_by` says which limit sets it: `CANNOT_MOVE` at stall, `OVERRUN` on a descent that
    outruns the motors.
    """
    speed = drive.output_at_mps(speed_mps)
    state = state_at_full_throttle(drive, speed, situation)
    limit = np.where(speed <= 0, Limit.CANNOT_MOVE, state.limited_by)
    limit = np.where(speed > fastest_rad_s(drive), Limit.OVERRUN, limit)
    return replace(state, limited_by=limit.astype(np.int8))
