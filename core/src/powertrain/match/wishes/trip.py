"""The speed of an ordinary trip, and how far one goes at it."""

from collections.abc import Callable, Iterator

import numpy as np

from powertrain.arrays import Array, scalar, shape_of
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.match.candidates import Candidates
from powertrain.match.compose import moments_of_brief
from powertrain.match.wish import Mask, OfDrive, Rejection, Wished
from powertrain.match.wishes.top_speed import holds, top_kmh
from powertrain.operating.distance import range_km
from powertrain.operating.in_air import in_air
from powertrain.operating.settings import Usable
from powertrain.stated import Stated
from powertrain.units import mps_from_kmh

WISHES = {
    "cruise": Rejection("it could not hold the cruising speed", ("cruise_kmh",)),
    "range": Rejection("it would not go far enough", ("range_km",)),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield cruise and range."""
    cruise_kmh = moments_of_brief(brief).cruise_kmh or 0.0
    asked = (brief.wishes.cruise_kmh, brief.wishes.range_km, brief.wishes.endurance_min)
    if any(one is not None for one in asked):
        yield OfDrive(
            "cruise",
            "Cruises at",
            "km/h",
            cruise_kmh,
            1,
            brief.judged_at,
            _held_kmh if brief.is_craft else top_kmh,
            quick=_flies_at(cruise_kmh) if brief.is_craft else holds(cruise_kmh, 0.0),
        )
    if brief.wishes.range_km is not None:
        usable = Usable.of(Stated(moments_of_brief(brief)))
        yield OfDrive(
            "range",
            f"Range at {cruise_kmh:g} km/h",
            "km",
            brief.wishes.range_km,
            1,
            f"{usable.from_pct:g} to {usable.to_pct:g} % charge",
            _range_km,
            steady=True,
        )


def _held_kmh(candidates: Candidates) -> Array:
    """Return the top speed of a craft that holds its cruise, nought of one that does not.

    A wing that is too slow for its stall does not cruise, however fast it gets.
    """
    moments = candidates.batch.moments
    asked_kmh = candidates.batch.settings.cruise_kmh or 0.0
    return np.where(moments.cruise.met, np.maximum(top_kmh(candidates), asked_kmh), 0.0)


def _flies_at(speed_kmh: float) -> Callable[[Drive], Mask]:
    def quick(drive: Drive) -> Mask:
        air = in_air(drive)
        assert air is not None
        air_mps = scalar(mps_from_kmh(speed_kmh)) + air.load.headwind_mps
        level = scalar(0.0)
        left_n = air.spare_n(air_mps + np.zeros(shape_of(drive)), level)
        least_n = -1e-6 * np.abs(air.held_n(air_mps, level)) - 1e-9
        return np.asarray(
            (left_n >= least_n) & (air_mps >= air.load.craft.least_mps(level) * (1 - 1e-9))
        )

    return quick


def _range_km(candidates: Candidates) -> Array:
    batch = candidates.batch
    return range_km(batch.drive, batch.settings.usable, batch.moments.cruise.state)
