"""The most amps of a full-throttle run from rest to top speed, within limits and grip."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, floats, is_traced, shape_of, with_axis
from powertrain.drive import Drive
from powertrain.operating.full_throttle import FullThrottle, corners_to, full_throttle
from powertrain.operating.state import State

SHIFTS = np.linspace(0.0, 1.0, 14)[1:-1]
"""Shares of top speed looked at in between where gears are changed, which may be at any."""


JUST_AFTER = 1 + 1e-6
"""Where a corner hands over to another gear the amps jump; both sides of it are looked at."""


def shifts_to(corners: Array, top: Array) -> list[Array]:
    """Return speeds at which a gearbox may have most amps beside its corners, along a last axis."""
    return [np.minimum(corners * JUST_AFTER, top), top * SHIFTS]


@dataclass(frozen=True)
class Peaks:
    """The greatest pack and motor amps, and the greatest watts at the pack's terminals."""

    battery_a: Array
    motor_a: Array
    terminals_w: Array

    @classmethod
    def of_state(cls, state: State) -> "Peaks":
        """Return those of one state, which stands in for all."""
        return cls(state.battery_current_a, state.motor_current_a, state.terminals_w)


def peaks_to(drive: Drive, top_mps: Array) -> Peaks:
    """Return the peaks at full throttle on the level, at any speed from rest to `top_mps`.

    Between the corners of the full-throttle curve amps rise or fall all the way, so that the most
    flow at a corner, at rest or at the end.
    """
    speeds = _looked_at(drive, drive.output_at_mps(floats(top_mps)))
    along = with_axis(drive)
    return peaks_of(along, full_throttle(along, speeds), np.ones(speeds.shape, bool))


def peaks_of(along: Drive, at: FullThrottle, counts: NDArray[np.bool_]) -> Peaks:
    """Return the greatest along the last axis, of what counts."""
    battery_a = np.where(counts, at.battery_current_a, 0.0)
    motor_a = np.where(counts, at.motor_current_a, 0.0)
    watts = along.pack.voltage_v(battery_a) * battery_a
    return Peaks(*(of.max(axis=-1) for of in (battery_a, motor_a, watts)))


def _looked_at(drive: Drive, top: Array) -> Array:
    shape = np.broadcast_shapes(shape_of(drive), top.shape)
    last = np.broadcast_to(top, shape)[..., None]
    columns = corners_to(drive, shape, top)
    if not is_traced(columns):
        columns = columns[..., np.any(columns > 0, axis=tuple(range(columns.ndim - 1)))]
    found = [np.zeros_like(last), columns, last]
    if len(drive.train.gears) > 1:
        found += shifts_to(columns, last)
    return np.concatenate(found, axis=-1)
