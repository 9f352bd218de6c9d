"""GPX, the open format of tracks (GPX 1.0 and 1.1): read, and written with speeds.

Read by gpxpy after defusedxml has refused what declares entities or a document type, or refers
outside: nothing beside the text itself is ever read.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from powertrain.errors import Refusal

MOST_BYTES = 64_000_000
MOST_PLACES = 1_000_000


@dataclass(frozen=True)
class Place:
    """A place of a track; `begins` where the track was broken off before it.

    `speed_mps` is what the receiver itself said of its speed, by the shift of its signals.
    """

    latitude: float
    longitude: float
    elevation_m: float | None
    begins: bool
    time: datetime | None = None
    speed_mps: float | None = None


@dataclass(frozen=True)
class PlaceInTime:
    """A place that was passed at a time, at a speed."""

    latitude: float
    longitude: float
    elevation_m: float
    time: datetime
    speed_mps: float


def read_gpx(text: bytes) -> list[Place]:
    """Return the places of a file's tracks, or of its routes where it has no track.

    Raises
    ------
    Refusal
        If it is no GPX, declares anything, or a place is none on earth; naming the place.
    """
    # Loaded here alone: no other question needs them.
    import defusedxml.ElementTree as Guarded
    import gpxpy
    from defusedxml.common import DefusedXmlException
    from gpxpy.gpx import GPXException

    if len(text) > MOST_BYTES:
        raise Refusal("gpx", f"may have {MOST_BYTES:,} bytes; thin the track out first")
    try:
        root = Guarded.fromstring(text, forbid_dtd=True)
    except DefusedXmlException:
        what = "declares entities or a document type, which no track needs; take that out"
        raise Refusal("gpx", what) from None
    except (Guarded.ParseError, ValueError, LookupError) as problem:
        raise Refusal("gpx", f"is not well-formed XML: {problem}") from None
    if root.tag.rsplit("}", 1)[-1] != "gpx":
        raise Refusal("gpx", "is XML, but not of a track: its outermost element must be gpx")
    try:
        found = gpxpy.parse(text)
    except (GPXException, ValueError, TypeError, AttributeError, KeyError) as problem:
        raise _wrong_place(root) or Refusal("gpx", f"can't be read: {problem}") from None
    lines: list[tuple[str, list[Any]]] = [
        (f"track {number}, part {part}", segment.points)
        for number, track in enumerate(found.tracks, 1)
        for part, segment in enumerate(track.segments, 1)
    ]
    if not lines:
        lines = [(f"route {number}", one.points) for number, one in enumerate(found.routes, 1)]
    places = [place for where, points in lines for place in _places(where, points)]
    if len(places) < 2:
        raise Refusal("gpx", "holds no track of two places or more")
    if len(places) > MOST_PLACES:
        raise Refusal("gpx", f"may have {MOST_PLACES:,} places; thin the track out first")
    return places


def _wrong_place(root: Any) -> Refusal | None:
    """Return what is wrong with the first place that has a word where a number belongs."""
    of_kind = {"trkpt": 0, "rtept": 0}
    for one in root.iter():
        kind = one.tag.rsplit("}", 1)[-1] if isinstance(one.tag, str) else ""
        if kind not in of_kind:
            continue
        of_kind[kind] += 1
        where = f"gpx, {'place' if kind == 'trkpt' else 'route place'} {of_kind[kind]}"
        for key in ("lat", "lon"):
            if not _is_number(one.get(key)):
                return Refusal(where, f"has no {key} that is a number")
        for child in one:
            if child.tag.rsplit("}", 1)[-1] == "ele" and not _is_number(child.text):
                return Refusal(where, "has a height (ele) that is no number")
    return None


def _is_number(text: str | None) -> bool:
    try:
        float(text or "")
    except ValueError:
        return False
    return True


def _places(where: str, points: list[Any]) -> Iterator[Place]:
    for number, point in enumerate(points, 1):
        at = f"{where}, place {number}"
        latitude, longitude, height = point.latitude, point.longitude, point.elevation
        if latitude is None or not abs(latitude) <= 90:
            raise Refusal(f"gpx, {at}", "has no latitude between -90 and 90 degrees")
        if longitude is None or not abs(longitude) <= 360:
            raise Refusal(f"gpx, {at}", "has no longitude between -180 and 180 degrees")
        if height is not None and not (math.isfinite(height) and -1000 <= height <= 10_000):
            height = None
        speed = getattr(point, "speed", None)
        if speed is not None and not (math.isfinite(speed) and 0 <= speed <= 200):
            speed = None
        yield Place(latitude, longitude, height, number == 1, point.time, speed)


def write_gpx(name: str, said: str, places: list[PlaceInTime]) -> str:
    """Return a track as GPX 1.0, the version that has speeds."""
    import gpxpy.gpx as form

    gpx, track, segment = form.GPX(), form.GPXTrack(name=name), form.GPXTrackSegment()
    gpx.creator, gpx.name, gpx.description = "Young Torrent", name, said
    segment.points = [
        form.GPXTrackPoint(
            latitude=round(place.latitude, 7),
            longitude=round(place.longitude, 7),
            elevation=round(place.elevation_m, 2),
            time=place.time,
            speed=round(place.speed_mps, 3),
        )
        for place in places
    ]
    track.segments.append(segment)
    gpx.tracks.append(track)
    text: str = gpx.to_xml(version="1.0")
    return text
