"""Sound requests, one for each question that takes a document."""

from typing import Any

from builds.demo import demo_builds
from common.documents import plain
from powertrain.match.starts import start_briefs
from powertrain.shelf.shipped import shipped_shelf

LISTING = "Brushless outrunner 63100 170KV 12S 80A max 3.2 kW shaft 10 mm 1.2 kg"


def sound_requests(build: str = "", brief: str = "") -> dict[str, dict[str, Any]]:
    """Return the path and body of each, for a kept build and brief if their ids are given."""
    builds = demo_builds()
    trike = plain(builds["causeway-trike"])
    scooter = plain(builds["sluice-scooter"])
    change = "6f1c6d0e-6c3c-4f7e-9d5e-00000000000"
    said = plain(start_briefs()[0].document)
    motor = plain(shipped_shelf().motors[0])
    asked: dict[str, dict[str, Any]] = {
        "/solve": {
            "document": trike,
            "operations": [{"do": "set", "values": {"battery.series": 14}}],
        },
        "/compare": {"documents": [trike, scooter], "terms": {}},
        "/baseline": {"document": trike},
        "/identify": {
            "format": "young-torrent.facts/1",
            "motor": {"kv_rpm_per_v": 60.0, "no_load_current_a": 1.5},
        },
        "/builds": {"document": trike, "change_id": change + "1"},
        "/settings": {"document": trike},
        "/advise": {"document": trike},
        "/choose-controller": {"document": trike, "weights": {"price": 5}},
        "/wires": {"document": trike, "pack_m": 1.0},
        "/shunt": {
            "document": trike,
            "original_mohm": 1.0,
            "limit_a": 45.0,
            "parallel_mohm": 2.0,
        },
        "/hall": {"offset_deg": 5.0, "poles": 14, "mechanical": True},
        "/ride": {
            "document": trike,
            "ride": {
                "format": "young-torrent.run/1",
                "course": {"kind": "standing", "until_kmh": 20.0},
            },
        },
        "/trigger/traced": {"document": trike, "trigger": 0.5},
        "/ladder": {"document": trike},
        "/will-it-run": {"document": trike},
        "/speed-chart": {"document": trike},
        "/windings": {"document": trike},
        "/overvolt": {"document": trike, "series": 14},
        "/roads": {"document": trike, "wish_kmh": 45.0},
        "/split": {"wanted": 9.5},
        "/planetary": {"sun": 12, "ring": 60},
        "/module": {"diametral_pitch": 32.0},
        "/tyre": {"marking": "145/70-6", "speed_kmh": 40.0},
        "/speeds": {"document": trike, "wheel_rpm": 300.0},
        "/boost": {"document": trike, "helper": scooter, "tap_cells": 6},
        "/shelf/motors/look": {"words": "reed", "build": trike},
        "/shelf/read-listing": {"text": LISTING},
        "/shelf/motors/parts": {"document": {**motor, "id": "mine", "name": "Mine"}},
        "/briefs": {"document": said, "said": ["vehicle.mass_kg"]},
    }
    if build:
        asked[f"/builds/{build}/versions"] = {
            "base": 1,
            "document": trike,
            "change_id": change + "2",
        }
        asked[f"/builds/{build}/meets"] = trike
        asked[f"/builds/{build}/meter-days"] = {
            "version": 1,
            "ride": asked["/ride"]["ride"],
            "seed": 3,
        }
        asked[f"/builds/{build}/pin"] = {"number": 1}
    if brief:
        asked[f"/briefs/{brief}"] = {"document": said}
    return asked
