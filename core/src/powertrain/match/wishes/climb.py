"""The hill that must be climbed."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.match.seen import Seen
from powertrain.match.wish import Mask, OfDrive, Wished
from powertrain.match.wishes.top_speed import holds, spare_n
from powertrain.units import kmh_from_mps

JUST_MOVES_KMH = 0.1
"""A hill that only has to be climbed is climbed at any speed."""


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield the wish for the hill."""
    hill = brief.wishes.climb
    if hill is None:
        return
    quick = _moves(hill.grade_pct)
    if hill.speed_kmh is not None:
        quick = holds(hill.speed_kmh, hill.grade_pct)
    yield OfDrive(
        "climb", f"Climbs {hill.grade_pct:g} % at", "km/h", hill.speed_kmh or JUST_MOVES_KMH, 1,
        brief.judged_at, _climb_kmh, quick=quick,
    )  # fmt: skip


def _climb_kmh(seen: Seen) -> Array:
    return kmh_from_mps(seen.many.moments.climb_top.speed_mps)


def _moves(grade_pct: float):  # type: ignore[no-untyped-def]
    def quick(drive: Drive) -> Mask:
        return np.asarray(spare_n(drive, JUST_MOVES_KMH, grade_pct) > 0)

    return quick
