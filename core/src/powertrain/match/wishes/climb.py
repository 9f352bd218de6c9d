"""The hill that must be climbed."""

from collections.abc import Callable, Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.match.candidates import Candidates
from powertrain.match.wish import Mask, OfDrive, Rejection, Wished
from powertrain.match.wishes.top_speed import holds, spare_n
from powertrain.operating.on_road import push_n
from powertrain.units import mps_from_kmh

JUST_MOVES_KMH = 0.1
"""A hill that only has to be climbed is climbed at any speed."""


WISHES = {
    "climb": Rejection("the hill is too steep for it at that speed", ("climb",)),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield the wish for the hill."""
    hill = brief.wishes.climb
    if hill is None:
        return
    quick = _moves(hill.grade_pct)
    if hill.speed_kmh is not None:
        quick = holds(hill.speed_kmh, hill.grade_pct)
    at_kmh = hill.speed_kmh or JUST_MOVES_KMH
    yield OfDrive(
        "climb",
        f"Push on {hill.grade_pct:g} % at {at_kmh:g} km/h",
        "%",
        100.0,
        1,
        brief.judged_at,
        lambda candidates: _push_pct(candidates, at_kmh, hill.grade_pct),
        quick=quick,
    )


def _push_pct(candidates: Candidates, speed_kmh: float, grade_pct: float) -> Array:
    """Return the push at full throttle as a share of what the hill takes."""
    drive, speed, grade = candidates.batch.drive, scalar(mps_from_kmh(speed_kmh)), scalar(grade_pct)
    return 100 * push_n(drive, speed, grade) / drive.wheels.road.force_n(speed, grade)


def _moves(grade_pct: float) -> Callable[[Drive], Mask]:
    def quick(drive: Drive) -> Mask:
        return np.asanyarray(spare_n(drive, JUST_MOVES_KMH, grade_pct) > 0)

    return quick
