"""A larger or smaller drum."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.documents.hoist import Hoist
from powertrain.levers.lever import Lever, single, usual_step


def levers(build: Build) -> Iterator[Lever]:
    """Yield the drum's radius."""
    if isinstance(build.vehicle, Hoist):
        radius_m = build.vehicle.drum_radius_m
        step = usual_step(radius_m)
        yield single("vehicle.drum_radius_m", "wheel", "Drum radius", "m", radius_m, step, step)
