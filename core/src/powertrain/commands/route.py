"""A road out of a GPX file, as the course of a run document."""

import json
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from powertrain.commands.arguments import bounded
from powertrain.documents.gpx import read_gpx
from powertrain.errors import Refusal
from powertrain.runs.way import way_of

USUAL_KMH = 20.0


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    parser.add_argument("track", metavar="TRACK.gpx", help="a GPX file")
    parser.add_argument("--ride", metavar="KMH", type=bounded("ride", 0.1, 2000), default=USUAL_KMH)


def run(arguments: Any) -> str:
    """Return the course, and what was done to the track."""
    try:
        text = Path(arguments.track).read_bytes()
    except OSError as problem:
        raise Refusal("gpx", f"can't be read: {problem.strerror}") from None
    way = way_of(read_gpx(text))
    points = [
        {"distance_m": point.distance_m, "elevation_m": point.elevation_m} for point in way.points
    ]
    course = {"kind": "route", "ride_kmh": arguments.ride, "points": points}
    told = {"length_m": way.length_m, "climbs_m": way.climbs_m, "notes": way.notes}
    return json.dumps({"course": course, **told}, allow_nan=False)
