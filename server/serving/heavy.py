"""Which questions are heavy, how long each may take, and which can be answered from memory."""

import re
from dataclasses import dataclass


@dataclass(frozen=True)
class Weight:
    """How a question is answered: apart from the others, within `most_s` seconds.

    `long` ones leave room for quick ones; a `pure` answer depends on the question alone.
    """

    long: bool
    pure: bool
    most_s: float


QUICK = Weight(long=False, pure=True, most_s=10.0)
QUICK_READING = Weight(long=False, pure=False, most_s=10.0)
LONG = Weight(long=True, pure=True, most_s=20.0)
LONG_READING = Weight(long=True, pure=False, most_s=20.0)
RIDE = Weight(long=True, pure=True, most_s=120.0)
"""A ride of hours, or of a motor whose steps can't be compiled."""

RIDE_KEPT = Weight(long=True, pure=False, most_s=120.0)
TABLE = Weight(long=True, pure=False, most_s=600.0)

HEAVY: list[tuple[str, str, Weight]] = [
    ("POST", r"/api/(solve|will-it-run|planetary|module|tyre|speeds)", QUICK),
    ("POST", r"/api/(settings|advise|trigger/traced|wires|shunt|hall|field|wound-field)", QUICK),
    ("POST", r"/api/ride(/table|/gpx)?", RIDE),
    ("POST", r"/api/(ride/way|log-tables?)", TABLE),
    ("PUT", r"/api/builds/[^/]+/rides/[^/]+", RIDE_KEPT),
    ("POST", r"/api/builds/[^/]+/meter-days", RIDE_KEPT),
    ("POST", r"/api/builds/[^/]+/logbook/expected", QUICK_READING),
    ("GET", r"/api/builds/[^/]+/logbook/learn", RIDE_KEPT),
    ("GET", r"/api/builds/[^/]+/logbook/day-list", QUICK_READING),
    ("PUT", r"/api/builds/[^/]+/logbook/runs/[^/]+/photos/[^/]+", LONG_READING),
    ("POST", r"/api/builds/[^/]+/logbook/accept", RIDE_KEPT),
    ("POST", r"/api/(compare|baseline|overvolt|boost|identify)", LONG),
    (
        "POST",
        r"/api/(ladder|speed-chart|windings|roads|split|choose-controller|conversion)",
        LONG_READING,
    ),
    ("POST", r"/api/builds/[^/]+/meets", QUICK_READING),
    ("POST", r"/api/matches/[^/]+/why", LONG_READING),
    ("POST", r"/api/shelf/[a-z]+/look", LONG_READING),
    ("POST", r"/api/shelf/read-listing", QUICK),
    ("POST", r"/api/shelf/bring-in(/[a-z]+)?", TABLE),
    ("POST", r"/api/builds/bring-in", TABLE),
    ("POST", r"/api/archive", TABLE),
    ("GET", r"/api/shelf", LONG_READING),
    ("GET", r"/api/builds", QUICK_READING),
    ("GET", r"/api/(archetypes|brief-starts|fields)", QUICK),
]
"""Method, path and weight of every heavy question; all others are light."""

_COMPILED = [(method, re.compile(path), weight) for method, path, weight in HEAVY]


def weight_of(method: str, path: str) -> Weight | None:
    """Return how heavy a question is; None if it is light."""
    for heavy_method, pattern, weight in _COMPILED:
        if heavy_method == method and pattern.fullmatch(path):
            return weight
    return None
