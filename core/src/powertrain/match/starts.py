"""Briefs to begin from: the vehicles of the archetypes without their drives, wishes guessed."""

from dataclasses import dataclass
from functools import cache

from powertrain.archetypes import Archetype, all_archetypes
from powertrain.bench.solve import glance
from powertrain.documents.brief import FORMAT, Brief
from powertrain.documents.reading import check_model
from powertrain.match.compose import CRUISE_OF_WISHED
from powertrain.units import kmh_from_mps

DRIVE_SHARE = 0.05
"""What the drive weighs of a whole vehicle; common practice, no source."""


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
    build = archetype.document
    top_kmh = float(kmh_from_mps(glance(build).states["top_speed"].speed_mps))
    least = float(f"{0.85 * top_kmh:.2g}")
    said = build.moments
    hill = {
        "grade_pct": said.climb_grade_pct or 6.0,
        "speed_kmh": float(f"{said.climb_speed_kmh or 0.4 * least:.2g}"),
        "length_m": said.climb_length_m or 200.0,
    }
    document = {
        "format": FORMAT,
        "name": archetype.title,
        "conditions": build.conditions.model_dump(exclude_unset=True),
        "vehicle": {
            **build.vehicle.model_dump(exclude_unset=True),
            "mass_kg": float(f"{(1 - DRIVE_SHARE) * build.vehicle.mass_kg:.3g}"),
        },
        "wheel": build.driven_wheel.model_dump(exclude_unset=True),
        "wishes": {
            "top_speed_kmh": {"min": least, "max": float(f"{1.3 * least:.2g}")},
            "climb": hill,
            "cruise_kmh": float(f"{said.cruise_kmh or CRUISE_OF_WISHED * least:.2g}"),
        },
    }
    return StartingBrief(archetype.id, archetype.title, archetype.say, check_model(Brief, document))
