"""The speed of an ordinary trip, and how far one goes at it."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.documents.brief import Brief
from powertrain.match.compose import moments_of_brief
from powertrain.match.seen import Seen
from powertrain.match.wish import OfDrive, Wished
from powertrain.match.wishes.top_speed import holds, top_kmh
from powertrain.operating.distance import Usable, range_km


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield cruise and range."""
    cruise_kmh = moments_of_brief(brief).cruise_kmh or 0.0
    if brief.wishes.cruise_kmh is not None or brief.wishes.range_km is not None:
        yield OfDrive(
            "cruise", "Cruises at", "km/h", cruise_kmh, 1, brief.judged_at, top_kmh,
            quick=holds(cruise_kmh, 0.0),
        )  # fmt: skip
    if brief.wishes.range_km is not None:
        usable = Usable.of(moments_of_brief(brief))
        yield OfDrive(
            "range", f"Range at {cruise_kmh:g} km/h", "km", brief.wishes.range_km, 1,
            f"{usable.from_pct:g} to {usable.to_pct:g} % charge", _range_km, steady=True,
        )  # fmt: skip


def _range_km(seen: Seen) -> Array:
    many = seen.many
    return range_km(many.drive, many.build, many.moments.cruise.state)
