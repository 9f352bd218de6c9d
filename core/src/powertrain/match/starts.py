"""Briefs to begin from: the vehicles of the archetypes without their drives, wishes guessed."""

from dataclasses import dataclass
from functools import cache

from powertrain.archetypes import Archetype, all_archetypes
from powertrain.bench.numbers import drive_kg
from powertrain.bench.solve import glance
from powertrain.documents.brief import FORMAT, Brief
from powertrain.documents.build import Build
from powertrain.documents.reading import check_model
from powertrain.errors import Refusal
from powertrain.match.compose import CRUISE_OF_WISHED
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
    """Return a brief for every archetype that goes by wheels of a size the shelf can drive."""
    return tuple(_start(one) for one in all_archetypes() if one.document.wheel is not None)


def _start(archetype: Archetype) -> StartingBrief:
    brief = brief_of(archetype.document)
    return StartingBrief(archetype.id, archetype.title, archetype.say, brief)


def brief_of(build: Build) -> Brief:
    """Return the brief that a build's vehicle would have: what it does now is what is wished.

    Raises
    ------
    Refusal
        At `vehicle.kind` if it does not go by wheels, of which alone a brief speaks.
    """
    if build.wheel is None:
        raise Refusal("vehicle.kind", "is no vehicle on wheels, and a brief speaks of those alone")
    top_kmh = float(kmh_from_mps(glance(build).states["top_speed"].speed_mps))
    least = float(f"{max(0.85 * top_kmh, LEAST_KMH):.2g}")
    said = build.moments
    hill = {
        "grade_pct": said.climb_grade_pct or 6.0,
        "speed_kmh": float(f"{said.climb_speed_kmh or 0.4 * least:.2g}"),
        "length_m": said.climb_length_m or 200.0,
    }
    document = {
        "format": FORMAT,
        "name": build.name,
        "conditions": build.conditions.model_dump(exclude_unset=True),
        "vehicle": {
            **build.vehicle.model_dump(exclude_unset=True),
            "mass_kg": float(f"{_without_drive(build):.3g}"),
        },
        "wheel": build.driven_wheel.model_dump(exclude_unset=True),
        "wishes": {
            "top_speed_kmh": {"min": least, "max": float(f"{1.3 * least:.2g}")},
            "climb": hill,
            "cruise_kmh": float(f"{said.cruise_kmh or CRUISE_OF_WISHED * least:.2g}"),
        },
    }
    return check_model(Brief, document)


def said_of(build: Build) -> list[str]:
    """Return the places of its brief that a person said of a build: all that are no guesses.

    The mass is never among them: what the drive weighs of it is taken off.
    """
    brief = brief_of(build)
    places = [
        f"{section}.{field}"
        for section in ("vehicle", "wheel", "conditions")
        for field in getattr(brief, section).model_fields_set
    ]
    guessed = {path for path, known in build.provenance.items() if known.origin == "default"}
    return sorted(set(places) - guessed - {"vehicle.mass_kg"})


def _without_drive(build: Build) -> float:
    whole, drive = build.vehicle.mass_kg, drive_kg(build)
    return whole - drive if drive is not None and drive < whole else (1 - DRIVE_SHARE) * whole
