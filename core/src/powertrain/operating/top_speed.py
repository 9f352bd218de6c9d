"""Top speed: where the push of full throttle meets what the road asks."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, pick
from powertrain.drive import Drive
from powertrain.operating.full_throttle import Push, fastest_mps, grips_n, push_by_limit, push_n
from powertrain.operating.limits import Limit
from powertrain.operating.roots import falling_root, root_near
from powertrain.operating.state import State, state_at_full_throttle
from powertrain.recorded.numbers import is_recorded, left_over

NEAR_ENOUGH, NEAR_STEPS = 1e-6, 4
"""Push left over at a variant's top speed, as a share of what the road asks, and the steps of
the search after which that is mostly so."""

EXACT, EXACT_STEPS, FEW = 1e-12, 8, 16
"""The same for a handful of drives, which are found to the last digits."""


def top_speed_mps(drive: Drive, grade_pct: Array, near_mps: Array | None = None) -> Array:
    """Return the speed that full throttle holds on `grade_pct`.

    Zero where the drive can't start; infinite where a descent runs away with nothing to hold
    the vehicle back. Push never rises with speed and road load never falls, so there is one
    crossing and it is found whatever the limits do.

    Parameters
    ----------
    grade_pct : array_like
        Of one shape with the drive's fields, or broadcasting with them.
    near_mps : array_like, optional
        Where to look first. It saves most of the work, and for more than a handful of drives
        it finds the speed to about seven digits. It has the whole shape of the answer, of
        which the drives are the last axis.
    """
    carried_mps = np.maximum(fastest_mps(drive), 0.0)
    coasting_mps = drive.road.coasting_speed_mps(grade_pct)
    runs_away = np.isposinf(coasting_mps)
    ceiling_mps = np.where(runs_away, carried_mps, np.maximum(carried_mps, coasting_mps))

    spare_n = _spare(drive, grade_pct)
    if near_mps is not None:
        exact = near_mps.size <= FEW and not is_recorded(near_mps)
        found, missed = _near(
            drive, grade_pct, near_mps, exact, EXACT_STEPS if exact else NEAR_STEPS
        )
        missed = missed | (found > ceiling_mps)
        if left_over(missed):
            rest, some, some_pct, _ = _where(missed, drive, grade_pct, ceiling_mps)
            stuck = _spare(some, some_pct)(np.zeros(some_pct.shape)) <= 0
            found[rest] = np.where(stuck, 0.0, found[rest])
            missed[rest] = ~stuck
        if left_over(missed) and not exact:
            rest, some, some_pct, most_mps = _where(missed, drive, grade_pct, ceiling_mps)
            again = _near(some, some_pct, near_mps[rest], False, EXACT_STEPS)
            found[rest], missed[rest] = again[0], again[1] | (again[0] > most_mps)
        if left_over(missed):
            rest, some, some_pct, _ = _where(missed, drive, grade_pct, ceiling_mps)
            found[rest] = top_speed_mps(some, some_pct)
        return found
    low, high = np.broadcast_arrays(np.zeros(()), ceiling_mps)
    found = falling_root(spare_n, low, high)
    if np.any(runs_away):
        return np.where(runs_away & (spare_n(high) > 0), np.inf, found)
    return found


Where = tuple[tuple[NDArray[np.intp], ...], Drive, Array, Array]


def _where(missed: NDArray[np.bool_], drive: Drive, grade_pct: Array, most_mps: Array) -> Where:
    """Return the places that missed, their drives, grades and ceilings, each as a flat row."""
    rest = np.nonzero(missed)
    shape = missed.shape
    return (
        rest,
        pick(drive, rest[-1]),
        np.broadcast_to(grade_pct, shape)[rest],
        np.broadcast_to(most_mps, shape)[rest],
    )


def _near(
    drive: Drive, grade_pct: Array, near_mps: Array, exact: bool, steps: int
) -> tuple[Array, NDArray[np.bool_]]:
    """Return the least of the speeds at which each limit's push meets the road, and the misses.

    A miss is a speed at which something is left over, be it that a secant did not get there.
    """
    found = np.full(np.shape(near_mps), np.inf)
    for branch_n in push_by_limit(drive, grade_pct):
        branch = _spare(drive, grade_pct, branch_n)
        found = np.minimum(found, root_near(branch, near_mps, steps))
    if drive.grip.known:
        # What the tyres put down does not depend on speed, so that this crossing has a formula.
        held_mps = drive.road.speed_at_force_mps(grips_n(drive, grade_pct), grade_pct)
        found = np.minimum(found, np.maximum(held_mps, 0.0))
    left_n = np.abs(_spare(drive, grade_pct)(found))
    asked_n = np.abs(drive.road.force_n(found, grade_pct))
    return found, ~(left_n <= (EXACT if exact else NEAR_ENOUGH) * asked_n)


def _spare(drive: Drive, grade_pct: Array, push: Push | None = None) -> Push:
    """Return the function of speed that says what is pushed beyond what the road asks."""
    still_n = drive.road.still_n(grade_pct)

    def spare_n(speed_mps: Array) -> Array:
        pushed_n = push_n(drive, speed_mps, grade_pct) if push is None else push(speed_mps)
        return pushed_n - still_n - drive.road.air_n(speed_mps)

    return spare_n


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
    limit = np.where(speed_mps > fastest_mps(drive), Limit.OVERRUN, limit)
    return replace(state, limited_by=limit.astype(np.int8))
