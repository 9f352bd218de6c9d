"""A road from a track: how far along it each place is, and how high, without the noise.

Receivers are off by some metres sideways and by more in height, from point to point; taken as it
is, that noise would be hills. So:

1. places closer than `APART_M` to the last one are left out (doubled ones, and standing still);
2. distances are along the sphere (IUGG mean radius), straight over gaps, which are told;
3. heights that miss are straight between those that are there; where there are none, the road is
   taken as level, and that is told;
4. heights within the same `EVERY_M` are averaged, spikes taken out by the median of five of them,
   and the rest smoothed by a bell `SMOOTH_M` wide (its standard deviation);
5. places are left out between which the road stays straight within `WITHIN_M` of height.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.documents.gpx import Place
from powertrain.documents.run import MOST_POINTS, RoutePoint
from powertrain.errors import Refusal

Numbers = NDArray[np.float64]

EARTH_M = 6_371_008.8
"""Mean radius (IUGG, (2a + b)/3)."""

APART_M = 1.0
GAP_M = 200.0
EVERY_M = 10.0
SMOOTH_M = 30.0
WITHIN_M = 0.3
MOST_READ = 40_000
"""Heights that are read of a road; on a longer one they lie further apart."""

STEEP_PCT = 30.0
"""Grades from which a height is doubted."""

MOST_TRACK = 4000
"""Places that are kept of where the road lies."""


class WayRead(BaseModel):
    """A road: `points` as a run document takes them, `track` where it lies, `notes` what was done.

    `track` holds latitude, longitude and metres along the road.
    """

    points: list[RoutePoint]
    track: list[tuple[float, float, float]]
    length_m: float
    climbs_m: float
    notes: list[str]


@dataclass(frozen=True)
class _Line:
    """Places in order: radians, metres along, heights with NaN where there is none."""

    latitude: Numbers
    longitude: Numbers
    at_m: Numbers
    height_m: Numbers


def way_of(places: list[Place]) -> WayRead:
    """Return the road that a track went along.

    Raises
    ------
    Refusal
        If it goes nowhere, or is longer than a run may be.
    """
    line, left_out, gaps = _line(places)
    length = float(line.at_m[-1])
    if length < EVERY_M:
        raise Refusal("gpx", f"goes nowhere: all its places lie within {EVERY_M:g} m")
    notes = []
    if left_out:
        notes.append(f"{left_out:,} places no further than {APART_M:g} m from the last left out.")
    if gaps:
        longest = max(gaps)
        notes.append(
            f"{len(gaps):,} gaps of more than {GAP_M:g} m, the longest of {longest:,.0f} m, are "
            "taken as straight; their real way is longer."
        )
    heights, told = _heights(line.at_m, line.height_m)
    notes += told
    at_m, height_m = heights
    kept = _straight_within(at_m, height_m, WITHIN_M)
    if len(kept) > MOST_POINTS:
        raise Refusal("gpx", "is too long for one ride; cut it into several")
    at_m, height_m = at_m[kept], height_m[kept]
    rise = np.diff(height_m)
    steepest = float(np.abs(100 * rise / np.diff(at_m)).max())
    if steepest > STEEP_PCT:
        notes.append(f"Up to {steepest:.0f} % steep, even smoothed: are the heights right?")
    points = [
        RoutePoint(distance_m=round(float(at), 2), elevation_m=round(float(height), 2))
        for at, height in zip(at_m, height_m, strict=True)
    ]
    some = np.unique(np.linspace(0, len(line.at_m) - 1, MOST_TRACK).round().astype(int))
    track = [
        (
            round(float(np.degrees(line.latitude[place])), 6),
            round(float(np.degrees(line.longitude[place])), 6),
            round(float(line.at_m[place]), 1),
        )
        for place in some
    ]
    climbs = float(np.maximum(rise, 0.0).sum())
    return WayRead(points=points, track=track, length_m=length, climbs_m=climbs, notes=notes)


def _line(places: list[Place]) -> tuple[_Line, int, list[float]]:
    latitude = np.radians([place.latitude for place in places])
    longitude = np.radians([place.longitude for place in places])
    height = np.array([np.nan if p.elevation_m is None else p.elevation_m for p in places])
    kept = [0]
    for index in range(1, len(places)):
        last = kept[-1]
        # A degree is never longer than this anywhere: most are told apart without any sines.
        near = abs(latitude[index] - latitude[last]) * EARTH_M < APART_M
        if near and apart_m(latitude, longitude, last, index) < APART_M:
            continue
        kept.append(index)
    if len(kept) < 2:
        raise Refusal("gpx", "goes nowhere: all its places are the same")
    chosen = np.array(kept)
    latitude, longitude, height = latitude[chosen], longitude[chosen], height[chosen]
    steps = apart_m(latitude, longitude, slice(None, -1), slice(1, None))
    at_m = np.append(0.0, np.cumsum(steps))
    gaps = [float(step) for step in steps[steps > GAP_M]]
    return _Line(latitude, longitude, at_m, height), len(places) - len(kept), gaps


def apart_m(
    latitude: Numbers, longitude: Numbers, one: int | slice, other: int | slice
) -> NDArray[np.float64]:
    """Return metres along the sphere between places (haversines)."""
    north = np.sin((latitude[other] - latitude[one]) / 2) ** 2
    east = np.sin((longitude[other] - longitude[one]) / 2) ** 2
    share = north + np.cos(latitude[one]) * np.cos(latitude[other]) * east
    return np.asarray(2 * EARTH_M * np.arcsin(np.sqrt(np.minimum(share, 1.0))))


def _heights(at_m: Numbers, height_m: Numbers) -> tuple[tuple[Numbers, Numbers], list[str]]:
    """Return places along the road with their smoothed heights, and what is to be said of them."""
    from scipy.ndimage import gaussian_filter1d, median_filter

    length = float(at_m[-1])
    count = int(min(np.ceil(length / EVERY_M), MOST_READ)) + 1
    along = np.linspace(0.0, length, count)
    known = np.isfinite(height_m)
    if not known.any():
        return (along[[0, -1]], np.zeros(2)), [
            "No heights in the file: the road is taken as level."
        ]
    notes = []
    missing = int(np.sum(~known))
    if missing:
        notes.append(f"{missing:,} places without a height: taken as straight between the others.")
    cell = np.round(at_m[known] * (count - 1) / length).astype(int)
    many = np.bincount(cell, minlength=count)
    mean = np.bincount(cell, height_m[known], minlength=count) / np.maximum(many, 1)
    read = np.interp(along, along[many > 0], mean[many > 0])
    wide = SMOOTH_M / (length / (count - 1))
    smooth = gaussian_filter1d(median_filter(read, size=5, mode="nearest"), wide, mode="nearest")
    notes.append(
        f"Heights smoothed over {SMOOTH_M:g} m: {_climbed(smooth):,.0f} m up in all, "
        f"{_climbed(height_m[known]):,.0f} m as they stand in the file."
    )
    return (along, smooth), notes


def _climbed(height_m: Numbers) -> float:
    return float(np.maximum(np.diff(height_m), 0.0).sum())


def _straight_within(x: Numbers, y: Numbers, most: float) -> NDArray[np.intp]:
    """Return the places to keep so that lines between them stay within `most` of all.

    By halving where a line is furthest off (Ramer 1972; Douglas and Peucker 1973).
    """
    keep = np.zeros(len(x), bool)
    keep[[0, -1]] = True
    open_ends = [(0, len(x) - 1)]
    while open_ends:
        first, last = open_ends.pop()
        if last - first < 2:
            continue
        inner = slice(first + 1, last)
        slope = (y[last] - y[first]) / (x[last] - x[first])
        off = np.abs(y[inner] - y[first] - slope * (x[inner] - x[first]))
        worst = int(np.argmax(off))
        if off[worst] > most:
            middle = first + 1 + worst
            keep[middle] = True
            open_ends += [(first, middle), (middle, last)]
    return np.flatnonzero(keep)
