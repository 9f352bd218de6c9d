"""More or less to carry."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single, usual_step


def levers(build: Build) -> Iterator[Lever]:
    """Yield the rolling mass."""
    mass_kg = build.vehicle.mass_kg
    step = usual_step(mass_kg)
    yield single("vehicle.mass_kg", "vehicle", "Rolling mass", "kg", mass_kg, step, step)
