"""Launch from standstill at full throttle on the level."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, floats, is_traced, shape_of, with_axis
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm
from powertrain.operating.full_throttle import (
    FullThrottle,
    corners_to,
    full_throttle,
    output_nm,
)
from powertrain.operating.peaks import Peaks, peaks_of, shifts_to

POINTS, WEIGHTS = np.polynomial.legendre.leggauss(12)
_POINTS, _WEIGHTS = np.polynomial.legendre.leggauss(4)
COARSE_SHARES, COARSE_PARTS = (_POINTS + 1) / 2, _WEIGHTS / 2

PANELS = np.concatenate([[0.0, 0.5, 0.8], 1 - 0.5 ** np.arange(4, 14), [1.0]])
"""Edges of the panels between two corners; they crowd towards the end, where a launch to nearly
the top speed spends most of its time."""


@dataclass(frozen=True)
class Launch:
    """How a launch went; infinite time where the speed is never reached."""

    time_s: Array
    distance_m: Array
    peak_battery_current_a: Array
    peak_motor_current_a: Array


def launch(drive: Drive, to_mps: Array, *, fine: bool = True) -> Launch:
    """Return time and distance from standstill to `to_mps`, and the peaks on the way.

    ``t = int J dw/(T - T_load)`` and ``s = int J r w dw/(T - T_load)``, by Gauss-Legendre
    quadrature between the corners of the full-throttle curve, so that no panel holds a kink.
    Coarse, it takes a twentieth of the work: between two corners the points lie as a push that
    falls in a straight line would need them, which keeps it good to about a thousandth up to 99 %
    of top speed.
    """
    ends = _ends(drive, drive.output_at_mps(floats(to_mps)))
    along = with_axis(drive)
    if not fine:
        return _coarse(along, ends, full_throttle(along, ends))
    speeds, weights = _panels(ends)
    looked = ends
    if len(drive.train.gears) > 1:
        looked = np.concatenate([ends, *shifts_to(ends, ends[..., -1:])], axis=-1)
    at = full_throttle(along, np.concatenate([looked, speeds], axis=-1))
    torque_nm = at.output_nm[..., looked.shape[-1] :]
    return _summed(along, speeds, weights, torque_nm, _first(at, looked))


def launch_with_peaks(drive: Drive, to_mps: Array, top_mps: Array) -> tuple[Launch, Peaks]:
    """Return a coarse launch with the peaks on the way to top speed, which share their corners."""
    to, top = (drive.output_at_mps(floats(speed)) for speed in (to_mps, top_mps))
    shape = np.broadcast_shapes(shape_of(drive), to.shape, top.shape)
    corners = np.sort(corners_to(drive, shape, np.maximum(to, top)), axis=-1)
    if not is_traced(corners):
        corners = _used(corners)
    to, top = (np.broadcast_to(speed, shape)[..., None] for speed in (to, top))
    along = with_axis(drive)
    speeds = [np.zeros_like(to), corners, to, top]
    if len(drive.train.gears) > 1:
        # A change of gear may come at any speed.
        speeds += shifts_to(corners, top)
    looked = np.concatenate(speeds, axis=-1)
    at = full_throttle(along, looked)
    peaks = peaks_of(along, at, looked <= top)
    # A corner beyond the launch is its end.
    ends = np.minimum(looked[..., : 2 + corners.shape[-1]], to)
    last = corners.shape[-1] + 1
    beyond = looked[..., : last + 1] > to
    torque_nm, battery_a, motor_a = (
        np.where(beyond, value[..., last : last + 1], value[..., : last + 1])
        for value in (at.output_nm, at.battery_current_a, at.motor_current_a)
    )
    shared = replace(at, output_nm=torque_nm, battery_current_a=battery_a, motor_current_a=motor_a)
    return _coarse(along, ends, shared), peaks


def _coarse(along: Drive, ends: Array, at: FullThrottle) -> Launch:
    speeds, weights = _falling(ends, at.output_nm - asked_nm(along.load, ends, along.load.usual))
    return _summed(along, speeds, weights, output_nm(along, speeds), _first(at, ends))


def _first(at: FullThrottle, ends: Array) -> tuple[Array, Array]:
    count = ends.shape[-1]
    return at.battery_current_a[..., :count], at.motor_current_a[..., :count]


def _summed(
    along: Drive, speeds: Array, weights: Array, torque_nm: Array, amps: tuple[Array, Array]
) -> Launch:
    spare_nm = torque_nm - asked_nm(along.load, speeds, along.load.usual)
    stuck = np.any((spare_nm <= 0) & (weights > 0), axis=-1)
    with np.errstate(divide="ignore", invalid="ignore"):
        seconds = np.where(weights > 0, weights * along.inertia_kg_m2 / spare_nm, 0.0)
    battery_a, motor_a = amps
    return Launch(
        time_s=np.where(stuck, np.inf, seconds.sum(axis=-1)),
        distance_m=np.where(stuck, np.inf, (seconds * along.speed_mps(speeds)).sum(axis=-1)),
        peak_battery_current_a=battery_a.max(axis=-1),
        peak_motor_current_a=motor_a.max(axis=-1),
    )


def _panels(ends: Array) -> tuple[Array, Array]:
    """Return speeds and weights of fine panels between ends, along a last axis."""
    low, width = ends[..., :-1, None], np.diff(ends, axis=-1)[..., None]
    edges = low + width * PANELS
    half = np.diff(edges, axis=-1)[..., None] / 2
    middle = (edges[..., :-1, None] + edges[..., 1:, None]) / 2
    shape = ends.shape[:-1]
    return (middle + half * POINTS).reshape(*shape, -1), (half * WEIGHTS).reshape(*shape, -1)


def _falling(ends: Array, spare_nm: Array) -> tuple[Array, Array]:
    """Return speeds and weights that are exact for a spare torque falling in straight lines.

    With ``T = T0 (1 - x/X)``, x the speed above a corner and X where the line comes to nought,
    ``x = X (1 - e^-s)`` makes ``dx/T`` a constant times ds.
    """
    low, width = ends[..., :-1], np.diff(ends, axis=-1)
    before, after = np.maximum(spare_nm[..., :-1], 0.0), np.maximum(spare_nm[..., 1:], 0.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        left = np.where(before > 0, after / before, 1.0)
    # A torque that falls by less than a thousandth, or rises, is followed in even steps.
    left = np.clip(left, 1e-6, 0.999)
    whole, reach = width / (1 - left), -np.log(left)
    s = COARSE_SHARES * reach[..., None]
    gone = np.exp(-s)
    speeds = low[..., None] + whole[..., None] * (1 - gone)
    weights = COARSE_PARTS * (reach * whole)[..., None] * gone
    shape = ends.shape[:-1]
    return speeds.reshape(*shape, -1), weights.reshape(*shape, -1)


def launch_at_most(drive: Drive, to_mps: Array) -> Launch:
    """Return bounds from above on time and distance of a launch; its peaks are those at its ends.

    Spare torque never rises with speed, so all of the way takes no longer than with what is left
    at the end.
    """
    to_mps = np.broadcast_to(floats(to_mps), np.broadcast_shapes(shape_of(drive), np.shape(to_mps)))
    to = drive.output_at_mps(to_mps)
    at = full_throttle(drive, to)
    spare_nm = at.output_nm - asked_nm(drive.load, to, drive.load.usual)
    with np.errstate(divide="ignore"):
        time_s = np.where(spare_nm > 0, drive.inertia_kg_m2 * to / spare_nm, np.inf)
    return Launch(
        time_s=time_s,
        distance_m=time_s * to_mps,
        peak_battery_current_a=at.battery_current_a,
        peak_motor_current_a=at.motor_current_a,
    )


def _ends(drive: Drive, to: Array) -> Array:
    """Return the ends of the smooth parts of a launch to an output speed, along a last axis."""
    shape = np.broadcast_shapes(shape_of(drive), to.shape)
    inner = np.sort(corners_to(drive, shape, to), axis=-1)
    if not is_traced(inner):
        inner = _used(inner)
    last = np.broadcast_to(to, shape)[..., None]
    return np.concatenate([np.zeros_like(last), inner, last], axis=-1)


def _used(inner: Array) -> Array:
    """Return the corners without those that end no panel of any launch."""
    moves = np.diff(inner, axis=-1, prepend=0.0) > 0
    return inner[..., np.any(moves, axis=tuple(range(inner.ndim - 1)))]
