"""A satellite track in GPX as a record of speed over time.

A receiver's own speed comes from the shift of its signals and is far steadier than its places; it
is taken where the file has it. Else speeds are way over time between places `OVER_S` apart, because
a place may be metres off.
"""

import numpy as np

from powertrain.documents.gpx import Place, read_gpx
from powertrain.errors import Refusal
from powertrain.runs.way import apart_m
from powertrain.telemetry.recorded import Numbers, Recorded

OVER_S = 3.0
"""Seconds over which a speed is taken from places."""

BREAK_S = 10.0
"""Between places that lie further apart in time, no speed is known."""

FASTEST_MPS = 150.0


def from_track(text: bytes) -> Recorded:
    """Return speed, way and height of a track over its time.

    Raises
    ------
    Refusal
        If it is no GPX, its places have no times, or it goes nowhere in time.
    """
    places = [place for place in read_gpx(text) if place.time is not None]
    if len(places) < 2:
        raise Refusal("gpx", "has no times beside its places: it is a plan, not a ride")
    begun = min(place.time.timestamp() for place in places if place.time)
    times = np.array([place.time.timestamp() - begun for place in places if place.time])
    order = np.argsort(times, kind="stable")
    order = order[np.append(True, np.diff(times[order]) > 0)]
    if len(order) < 2:
        raise Refusal("gpx", "has one time for all its places")
    times, places = times[order], [places[at] for at in order]
    way = _way_m(places)
    said = np.array([np.nan if one.speed_mps is None else one.speed_mps for one in places])
    own = np.isfinite(said).mean() > 0.5
    speed = said if own else _between(times, way)
    notes = [
        "Speeds are the receiver's own."
        if own
        else f"Speeds are way over time, over {OVER_S:.0f} s: no receiver's speed stands in it."
    ]
    gone = int((speed > FASTEST_MPS).sum())
    if gone:
        speed = np.where(speed > FASTEST_MPS, np.nan, speed)
        notes.append(f"{gone} speeds no vehicle has are left out.")
    breaks = int((np.diff(times) > BREAK_S).sum())
    if breaks:
        notes.append(f"The track breaks off {breaks} times for more than {BREAK_S:.0f} s.")
    height = np.array([np.nan if one.elevation_m is None else one.elevation_m for one in places])
    columns = {"time_s": times, "speed_kmh": 3.6 * speed, "distance_m": way}
    if np.isfinite(height).any():
        columns["elevation_m"] = height
    return Recorded(columns, {"time": "time_s", "place": "speed_kmh"}, notes=notes)


def _way_m(places: list[Place]) -> Numbers:
    latitude = np.radians([place.latitude for place in places])
    longitude = np.radians([place.longitude for place in places])
    steps = apart_m(latitude, longitude, slice(None, -1), slice(1, None))
    return np.append(0.0, np.cumsum(steps))


def _between(times: Numbers, way: Numbers) -> Numbers:
    """Return speeds at each place from those half of `OVER_S` before and after it."""
    first = np.maximum(times - OVER_S / 2, times[0])
    last = np.minimum(times + OVER_S / 2, times[-1])
    speed = (np.interp(last, times, way) - np.interp(first, times, way)) / (last - first)
    far = np.append(np.diff(times) > BREAK_S, False) | np.append(False, np.diff(times) > BREAK_S)
    return np.where(far, np.nan, speed)
