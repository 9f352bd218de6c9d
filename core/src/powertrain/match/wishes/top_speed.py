"""How fast it goes on the level, flat out: at least, and at most."""

from collections.abc import Callable, Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.match.candidates import Candidates
from powertrain.match.wish import Mask, OfDrive, Rejection, Wished
from powertrain.operating.on_road import push_n
from powertrain.units import kmh_from_mps, mps_from_kmh

WISHES = {
    "top_speed_min": Rejection("too slow", ("top_speed_kmh", "min")),
    "top_speed_max": Rejection("too fast", ("top_speed_kmh", "max")),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield the two ends of the wish."""
    top = brief.wishes.top_speed_kmh
    if top is None:
        return
    if top.min is not None:
        yield OfDrive(
            "top_speed_min",
            "Top speed at least",
            "km/h",
            top.min,
            1,
            brief.judged_at,
            top_kmh,
            # A craft may be held back at its hump and get past it.
            quick=None if brief.is_craft else holds(top.min, 0.0),
        )
    if top.max is not None:
        yield OfDrive(
            "top_speed_max",
            "Top speed at most",
            "km/h",
            top.max,
            -1,
            brief.judged_at,
            top_kmh,
            quick=None if brief.is_craft else _stays_below(top.max),
        )


def top_kmh(candidates: Candidates) -> Array:
    """Return the top speed."""
    return kmh_from_mps(candidates.batch.moments.top_speed.state.speed_mps)


def spare_n(drive: Drive, speed_kmh: float, grade_pct: float) -> Array:
    """Return the push left over at a speed; push falls and the road's pull rises with speed.

    So what is left over at one speed tells on which side of it the top speed lies.
    """
    speed, grade = scalar(mps_from_kmh(speed_kmh)), scalar(grade_pct)
    return push_n(drive, speed, grade) - drive.wheels.road.force_n(speed, grade)


def holds(speed_kmh: float, grade_pct: float) -> Callable[[Drive], Mask]:
    """Return the question whether a drive can hold a speed on a grade."""

    def quick(drive: Drive) -> Mask:
        spare = spare_n(drive, speed_kmh, grade_pct)
        road = drive.wheels.road.force_n(scalar(mps_from_kmh(speed_kmh)), scalar(grade_pct))
        return np.asanyarray(spare >= -1e-9 * np.abs(road))

    return quick


def _stays_below(speed_kmh: float) -> Callable[[Drive], Mask]:
    def quick(drive: Drive) -> Mask:
        spare = spare_n(drive, speed_kmh, 0.0)
        road = drive.wheels.road.force_n(scalar(mps_from_kmh(speed_kmh)), scalar(0.0))
        return np.asanyarray(spare <= 1e-9 * np.abs(road))

    return quick
