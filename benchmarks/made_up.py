"""Documents that answers are asked of: demos, archetypes, briefs, and builds varied from them."""

import contextlib
import json
import math
import random
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

from powertrain.archetypes import all_archetypes
from powertrain.documents.build import Build
from powertrain.documents.describe import all_fields
from powertrain.documents.paths import changed, value_at
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.levers.operations import Turn, carry_out
from powertrain.match.starts import start_briefs

ROOT = Path(__file__).parents[1]
SEED = 14

Plain = dict[str, Any]


def documents(count: int) -> Iterator[tuple[str, str, Plain]]:
    """Yield a name, whether it is a build or a brief, and the document."""
    for path in sorted((ROOT / "server/builds/demo").glob("*.json")):
        yield path.stem, "build", json.loads(path.read_text())
    bases: list[Plain] = []
    for archetype in all_archetypes():
        bases.append(archetype.document.model_dump(mode="json", exclude_unset=True))
        yield archetype.id, "build", bases[-1]
    rng = random.Random(SEED)
    made = 0
    while made < count:
        document = _varied(rng.choice(bases), rng)
        try:
            check_build(document)
        except Refusal:
            continue
        made += 1
        yield f"random {made}", "build", document
    for start in start_briefs():
        yield start.id, "brief", start.document.model_dump(mode="json", exclude_unset=True)
    for path in sorted((ROOT / "docs/examples").glob("brief-*.json")):
        yield path.stem, "brief", json.loads(path.read_text())


def _varied(base: Plain, rng: random.Random) -> Plain:
    """Return a build with numbers, parts and ratings of it changed, stated and left out."""
    document: Plain = json.loads(json.dumps(base))
    kind = rng.choice(("permanent_magnet", "permanent_magnet", "series_wound", "packaged"))
    with contextlib.suppress(Refusal):
        document = carry_out(document, Turn(do="turn", kind=kind))
    changes: Plain = {}
    for path, low, high, whole, needed in _numbers():
        if path.startswith("motor.") and not _has(document, path):
            continue
        now = value_at(document, path)
        if now is not None and isinstance(now, int | float):
            if rng.random() < 0.5:
                value = now * math.exp(rng.gauss(0, 0.35)) if now else now
                changes[path] = max(1, round(value)) if whole else value
            elif not needed and rng.random() < 0.4:
                changes[path] = None
        elif rng.random() < 0.22:
            value = math.exp(rng.uniform(math.log(max(low, 1e-3)), math.log(max(high, 2e-3))))
            near = 0.35 * math.log(value) + 0.65 * math.log(_usual(path, value))
            changes[path] = max(1, round(math.exp(near))) if whole else math.exp(near)
    for path, words in CHOICES.items():
        if rng.random() < 0.3:
            changes[path] = rng.choice(words)
    if rng.random() < 0.3:
        changes["vehicle.traction"] = {
            "driven_axle": rng.choice(["rear", "front"]),
            "wheelbase_m": rng.uniform(0.3, 2),
            "centre_height_m": rng.uniform(0.1, 1),
            "friction": rng.uniform(0.3, 1.1),
            "driven_share": rng.uniform(0.3, 1.0),
        }
    document = changed(document, changes)
    if rng.random() < 0.12:
        ratios = sorted((rng.uniform(0.8, 5) for _ in range(rng.randint(2, 3))), reverse=True)
        document["gearing"] = [
            {"kind": "gearbox", "ratios": ratios, "efficiency": 0.93},
            *document["gearing"][:1],
        ]
    known = {
        path: {"origin": rng.choice(["measured", "data_sheet", "default"])}
        for path, *_ in _numbers()
        if value_at(document, path) is not None and rng.random() < 0.25
    }
    document["provenance"] = {path: item for path, item in known.items() if "*" not in path}
    return document


CHOICES: dict[str, list[Any]] = {
    "battery.chemistry": ["lipo", "li_ion", "lifepo4", "lead_acid", "nimh"],
    "controller.rating_side": ["motor", "battery", None],
    "controller.motor_current_is": ["dc", "phase_peak", "phase_rms", None],
    "controller.sensor": [["none"], ["hall"], ["none", "hall"], None],
    "controller.throttle_signal": ["analogue", "pulse", "serial", None],
    "vehicle.throttle_signal": ["analogue", "pulse", "serial", None],
    "motor.sensor": ["none", "hall", "encoder", None],
    "motor.power_is": ["electrical", "shaft", None],
    "motor.insulation_class": ["A", "B", "F", "H", None],
    "motor.cooling.air": ["closed", "vented", "open", None],
    "controller.cooling.air": ["closed", "vented", "open", None],
}


@cache
def _numbers() -> tuple[tuple[str, float, float, bool, bool], ...]:
    """Return every number of a build document: path, usual range, whether whole, whether needed."""
    schema = Build.model_json_schema()["$defs"]
    usual = {
        (model.get("title", name), key): field.get("usual")
        for name, model in schema.items()
        for key, field in model.get("properties", {}).items()
    }
    by_key: dict[str, list[float]] = {}
    for (_, key), span in usual.items():
        if span:
            by_key.setdefault(key, span)
    return tuple(
        (field.path, *by_key[field.path.rsplit(".", 1)[-1]], field.kind == "whole", field.required)
        for field in all_fields()
        if field.kind in ("number", "whole")
        and "*" not in field.path
        and field.path.rsplit(".", 1)[-1] in by_key
    )


def _has(document: Plain, path: str) -> bool:
    kind = document["motor"]["kind"]
    field = next(field for field in all_fields() if field.path == path)
    return not field.kinds or kind in field.kinds


def _usual(path: str, value: float) -> float:
    """Return what a limit of a middling vehicle is, so that not every build stops at once."""
    key = path.rsplit(".", 1)[-1]
    middling = {
        "max_voltage_v": 60.0,
        "continuous_current_a": 60.0,
        "peak_current_a": 150.0,
        "max_rpm": 8000.0,
        "climb_grade_pct": 6.0,
        "cruise_kmh": 12.0,
        "launch_to_kmh": 10.0,
        "climb_speed_kmh": 5.0,
        "motor_current_limit_a": 90.0,
        "battery_current_limit_a": 60.0,
    }
    return middling.get(key, value)


# Record and compare
