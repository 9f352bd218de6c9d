"""The figures by which a kind of motor is advised, of a brief or of a build as it stands."""

import math
from dataclasses import dataclass
from typing import Literal

from powertrain.arrays import scalar
from powertrain.bench.solve import glance
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.vehicle import Conditions, Vehicle
from powertrain.errors import NO_WHEELS, Refusal
from powertrain.load.road_load import RoadLoad
from powertrain.load.traction import MODEL_KG
from powertrain.stated import Stated
from powertrain.units import kmh_from_mps, mps_from_kmh

Commutation = Literal["brushed", "brushless", "either"]


@dataclass(frozen=True)
class AdvisedBy:
    """What is decided by; None where nobody said it."""

    top_speed_kmh: float | None
    grade_pct: float | None
    mass_kg: float
    wheel_rpm: float | None
    hill_nm: float | None
    """Torque at the wheels on the hill."""
    power_w: float | None
    budget: float | None
    stall_s: float | None
    stated: Commutation | None

    @property
    def is_model(self) -> bool:
        """Whether nobody rides on it."""
        return self.mass_kg < MODEL_KG


def figures_of_build(build: Build) -> AdvisedBy:
    """Return the figures of a build as it stands; a hill that nobody said decides nothing.

    Raises
    ------
    Refusal
        If it is not on wheels.
    """
    if build.wheel is None or build.vehicle.kind != "ground":
        raise Refusal("vehicle.kind", NO_WHEELS)
    seen = glance(build)
    top_kmh = float(kmh_from_mps(seen.states["top_speed"].speed_mps))
    climb = seen.states["climb"]
    return _figures(
        build.vehicle,
        build.conditions,
        build.wheel.rolling_circumference_mm,
        top_kmh if top_kmh > 0 else None,
        build.moments.climb_grade_pct,
        float(kmh_from_mps(climb.speed_mps)) or None,
    )


def figures_of_brief(brief: Brief) -> AdvisedBy:
    """Return the figures of a brief: what is wished of its vehicle."""
    wishes = brief.wishes
    wished = wishes.top_speed_kmh
    top_kmh = None if wished is None else wished.max or wished.min
    hill = wishes.climb
    return _figures(
        brief.vehicle_on_wheels,
        brief.conditions,
        brief.driven_wheel.rolling_circumference_mm,
        top_kmh,
        None if hill is None else hill.grade_pct,
        None if hill is None else hill.speed_kmh,
        budget=wishes.budget,
        stall_s=wishes.hold_stall_s,
        stated=wishes.commutation,
    )


def _figures(
    vehicle: Vehicle,
    conditions: Conditions,
    wheel_mm: float,
    top_kmh: float | None,
    grade_pct: float | None,
    climb_kmh: float | None,
    *,
    budget: float | None = None,
    stall_s: float | None = None,
    stated: Commutation | None = None,
) -> AdvisedBy:
    road = RoadLoad.of(Stated(vehicle), Stated(conditions))
    powers = [
        float(road.force_n(mps_from_kmh(scalar(kmh)), scalar(grade))) * kmh / 3.6
        for kmh, grade in ((top_kmh, 0.0), (climb_kmh, grade_pct))
        if kmh is not None and grade is not None
    ]
    hill_nm = None
    if grade_pct is not None:
        asked_n = float(road.rolling_and_grade_n(scalar(grade_pct)))
        hill_nm = asked_n * wheel_mm / 1000 / (2 * math.pi)
    return AdvisedBy(
        top_speed_kmh=top_kmh,
        grade_pct=grade_pct,
        mass_kg=vehicle.mass_kg,
        wheel_rpm=None if top_kmh is None else top_kmh / 3.6 / (wheel_mm / 1000) * 60,
        hill_nm=hill_nm,
        power_w=max(powers) if powers else None,
        budget=budget,
        stall_s=stall_s,
        stated=stated,
    )
