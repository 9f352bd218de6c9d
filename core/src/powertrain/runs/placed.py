"""A ride as a track on the earth: where it was when, how high and how fast."""

from datetime import datetime, timedelta

import numpy as np

from powertrain.documents.gpx import PlaceInTime, write_gpx
from powertrain.documents.run import RouteCourse, Run
from powertrain.runs.answer import rows_of
from powertrain.runs.ride import Ridden
from powertrain.runs.way import EARTH_M
from powertrain.units import mps_from_kmh

Track = list[tuple[float, float, float]]
"""Latitude, longitude and metres along the road."""

EVERY_S = 1.0
NOWHERE = "The road has no place on earth: it is laid straight east from 0 degrees."


def ride_gpx(run: Run, ridden: Ridden, begins: datetime, track: Track | None = None) -> str:
    """Return a ride as GPX 1.0 with a place each second.

    Parameters
    ----------
    begins : datetime
        When it begins.
    track : list, optional
        Where the road lies that its course was read from; there and back and laps go along it.
    """
    rows = rows_of(run, ridden)
    times = rows["time_s"]
    wanted = np.append(np.arange(0.0, times[-1], EVERY_S), times[-1])
    at_m = np.interp(wanted, times, rows["distance_m"])
    height = np.interp(wanted, times, _height(run, rows["distance_m"], rows["grade_pct"]))
    speed = mps_from_kmh(np.interp(wanted, times, rows["speed_kmh"]))
    if track:
        lie = np.array(track)
        along = np.interp(_on_the_road(run, at_m), lie[:, 2] - lie[0, 2], np.arange(len(lie)))
        latitude, longitude = (np.interp(along, np.arange(len(lie)), lie[:, i]) for i in (0, 1))
    else:
        latitude, longitude = np.zeros(len(at_m)), np.degrees(at_m / EARTH_M)
    places = [
        PlaceInTime(float(north), float(east), float(up), begins + timedelta(seconds=float(s)), v)
        for north, east, up, s, v in zip(
            latitude, longitude, height, wanted, speed.tolist(), strict=True
        )
    ]
    said = f"{run.build.name}, reckoned, not ridden."
    return write_gpx(run.ride.name, said if track else f"{said} {NOWHERE}", places)


def _height(run: Run, at_m: np.ndarray, grade_pct: np.ndarray) -> np.ndarray:
    slope = grade_pct[1:] / 100
    rises = np.diff(at_m) * slope / np.sqrt(1 + slope * slope)
    course = run.ride.course
    begins = course.points[0].elevation_m if isinstance(course, RouteCourse) else 0.0
    return begins + np.append(0.0, np.cumsum(rises))


def _on_the_road(run: Run, at_m: np.ndarray) -> np.ndarray:
    """Return how far along the road a ride is that may turn round at its end, and begin again."""
    course = run.ride.course
    if not isinstance(course, RouteCourse):
        return at_m
    length = course.points[-1].distance_m - course.points[0].distance_m
    if not course.there_and_back:
        return np.where(at_m >= length * course.repeat - 1e-3, length, at_m % length)
    lap = at_m % (2 * length)
    return np.minimum(lap, 2 * length - lap)
