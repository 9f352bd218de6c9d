"""A trip with a hill and a stop, ridden in time: what kinds of motor are held against on it."""

from typing import Any

from powertrain.bench.answer import Answer
from powertrain.documents.build import Build
from powertrain.documents.reading import check_model
from powertrain.documents.run import Ride, Run
from powertrain.runs.answer import RunAnswer, run_answer

FLAT_M, HILL_M = 1000.0, 300.0
"""Flat before and after, and between a hill up and down again, with a stop on its top."""

STOP_S = 10.0
CALM_MPS2 = 0.5
"""How a loaded vehicle is driven off; common practice, no source."""


def is_conversion(build: Build) -> bool:
    """Return whether an engine came out of a build's vehicle."""
    return getattr(build.vehicle, "replaces", None) is not None and build.wheel is not None


def trip_of(build: Build, answer: Answer) -> RunAnswer | None:
    """Return the ride of a conversion over its own hill, None of others or where it does not end.

    Level at cruise, up the hill at its speed, a stop, and home again.
    """
    if not is_conversion(build):
        return None
    told = run_answer(Run(build, _ride(answer)))
    return told if told.finished else None


def _ride(answer: Answer) -> Ride:
    moments = {moment.id: moment for moment in answer.moments}
    climb, cruise = moments["climb"], moments["cruise"]
    rise_m = HILL_M * climb.state.grade_pct / 100
    points: list[dict[str, Any]] = [
        {"distance_m": 0.0},
        {"distance_m": FLAT_M, "limit_kmh": climb.target_kmh},
        {"distance_m": FLAT_M + HILL_M, "elevation_m": rise_m, "stop_s": STOP_S},
        {"distance_m": FLAT_M + 2 * HILL_M},
        {"distance_m": 2 * (FLAT_M + HILL_M), "stop_s": 0.0},
    ]
    trip_kmh = 3.6 * cruise.state.speed_mps if cruise.target_kmh is None else cruise.target_kmh
    course = {"kind": "route", "points": points, "ride_kmh": max(trip_kmh, 1.0)}
    driver = {"accelerate_mps2": CALM_MPS2}
    return check_model(Ride, {"format": "young-torrent.run/1", "course": course, "driver": driver})
