"""Briefs to begin from: the vehicles of the archetypes without their drives, wishes guessed."""

import math
from dataclasses import dataclass
from functools import cache
from typing import Any

from powertrain.archetypes import all_archetypes
from powertrain.bench.numbers import drive_kg
from powertrain.bench.solve import glance
from powertrain.compile.build import compile_build
from powertrain.documents.brief import FORMAT, Brief
from powertrain.documents.build import Build
from powertrain.documents.propeller import Propeller
from powertrain.documents.reading import check_model
from powertrain.errors import Refusal
from powertrain.match.compose import CRUISE_OF_WISHED
from powertrain.results import figures_of, results_of
from powertrain.units import kmh_from_mps

DRIVE_SHARE = 0.05
"""What the drive weighs of a whole vehicle; common practice, no source."""


LEAST_KMH = 2.0
"""What a build that can't start is taken to be wished for at least."""


@dataclass(frozen=True)
class StartingBrief:
    """A brief to begin from."""

    id: str
    title: str
    say: str
    document: Brief


@cache
def start_briefs() -> tuple[StartingBrief, ...]:
    """Return a brief for every archetype that wheels drive or propellers push."""
    return tuple(
        StartingBrief(one.id, one.title, one.say, brief_of(one.document))
        for one in all_archetypes()
        if one.document.vehicle.kind != "hoist"
    )


def brief_of(build: Build) -> Brief:
    """Return the brief that a build's vehicle would have: what it does now is what is wished.

    Raises
    ------
    Refusal
        At `vehicle.kind` if it lifts a load, of which no brief speaks.
    """
    if build.vehicle.kind == "hoist":
        raise Refusal(
            "vehicle.kind", "lifts a load, and a brief is for what drives, flies or floats"
        )
    document: dict[str, Any] = {
        "format": FORMAT,
        "name": build.name,
        "conditions": build.conditions.model_dump(exclude_unset=True),
        "vehicle": {
            **build.vehicle.model_dump(exclude_unset=True),
            "mass_kg": float(f"{_without_drive(build):.3g}"),
        },
    }
    if build.propeller is None:
        document["wheel"] = build.driven_wheel.model_dump(exclude_unset=True)
        document["wishes"] = _of_wheels(build)
        if any(stage.kind == "gearbox" for stage in build.gearing):
            # A vehicle that has a gearbox keeps it, with all that turns behind it.
            kept = [stage.model_dump(exclude_unset=True) for stage in build.gearing]
            document["owned"] = {"gearing": kept}
    else:
        document["wishes"] = _of_craft(build, build.propeller)
        document["motor_count"] = build.motor.count
    return check_model(Brief, document)


def _of_wheels(build: Build) -> dict[str, Any]:
    top_kmh = float(kmh_from_mps(glance(build).states["top_speed"].speed_mps))
    least = _about(max(0.85 * top_kmh, LEAST_KMH))
    said = build.moments
    hill = {
        "grade_pct": said.climb_grade_pct or 6.0,
        "speed_kmh": _about(said.climb_speed_kmh or 0.4 * least),
        "length_m": said.climb_length_m or 200.0,
    }
    return {
        "top_speed_kmh": {"min": least, "max": _about(1.3 * least)},
        "climb": hill,
        "cruise_kmh": _about(said.cruise_kmh or CRUISE_OF_WISHED * least),
    }


AS_NOW, CALMER = 0.85, 0.7
"""Share of what a craft does now that is wished for, and of its climb and its time out."""


def _of_craft(build: Build, propeller: Propeller) -> dict[str, Any]:
    """Return what a craft does standing and at cruise, and the room that its propeller takes."""
    compiled = compile_build(build)
    results = results_of(compiled, fine=False, timed=False)
    figures = {key: float(value) for key, value in figures_of(compiled, results).items()}
    cruise = results.moments.cruise
    wishes: dict[str, Any] = {
        "thrust_to_weight": _about(AS_NOW * figures["thrust_to_weight"]),
        "max_diameter_mm": propeller.diameter_mm,
    }
    if bool(cruise.met) and cruise.target_kmh:
        wishes["cruise_kmh"] = _about(cruise.target_kmh)
        if math.isfinite(figures["endurance_min"]):
            wishes["endurance_min"] = _about(CALMER * figures["endurance_min"])
    if build.vehicle.kind == "aircraft" and figures["climb_ms"] > 0:
        wishes["climb_ms"] = _about(CALMER * figures["climb_ms"])
    if build.vehicle.kind != "aircraft" and figures["top_speed_kmh"] > LEAST_KMH:
        wishes["top_speed_kmh"] = {"min": _about(AS_NOW * figures["top_speed_kmh"])}
    return wishes


def _about(value: float) -> float:
    return float(f"{value:.2g}")


def said_of(build: Build) -> list[str]:
    """Return the places of its brief that a person said of a build: all that are no guesses.

    The mass is never among them: what the drive weighs of it is taken off.
    """
    brief = brief_of(build)
    places = [
        f"{section}.{field}"
        for section in ("vehicle", "wheel", "conditions")
        if getattr(brief, section) is not None
        for field in getattr(brief, section).model_fields_set
    ]
    guessed = {path for path, known in build.provenance.items() if known.origin == "default"}
    return sorted(set(places) - guessed - {"vehicle.mass_kg"})


def _without_drive(build: Build) -> float:
    whole, drive = build.vehicle.mass_kg, drive_kg(build)
    return whole - drive if drive is not None and drive < whole else (1 - DRIVE_SHARE) * whole
