"""The speed of an ordinary trip, and how far one goes at it."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.documents.brief import Brief
from powertrain.match.candidates import Candidates
from powertrain.match.compose import moments_of_brief
from powertrain.match.wish import OfDrive, Rejection, Wished
from powertrain.match.wishes.top_speed import holds, top_kmh
from powertrain.operating.distance import range_km
from powertrain.operating.settings import Usable
from powertrain.stated import Stated

WISHES = {
    "cruise": Rejection("it could not hold the cruising speed", ("cruise_kmh",)),
    "range": Rejection("it would not go far enough", ("range_km",)),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield cruise and range."""
    cruise_kmh = moments_of_brief(brief).cruise_kmh or 0.0
    if brief.wishes.cruise_kmh is not None or brief.wishes.range_km is not None:
        yield OfDrive(
            "cruise",
            "Cruises at",
            "km/h",
            cruise_kmh,
            1,
            brief.judged_at,
            top_kmh,
            quick=holds(cruise_kmh, 0.0),
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


def _range_km(candidates: Candidates) -> Array:
    batch = candidates.batch
    return range_km(batch.drive, batch.settings.usable, batch.moments.cruise.state)
