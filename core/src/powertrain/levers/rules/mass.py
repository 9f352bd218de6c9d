"""More or less to carry."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single, usual_step


def levers(build: Build) -> Iterator[Lever]:
    """Yield what the vehicle weighs, or what hangs on its hook."""
    mass_kg = build.vehicle.mass_kg
    step = usual_step(mass_kg)
    label = type(build.vehicle).model_fields["mass_kg"].title or ""
    yield single("vehicle.mass_kg", "vehicle", label, "kg", mass_kg, step, step)
