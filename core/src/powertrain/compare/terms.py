"""Equal terms: other drives put into the vehicle of the first, at its volts if asked."""

from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.bench.numbers import drive_kg
from powertrain.compile.build import with_moments
from powertrain.documents.build import Build
from powertrain.documents.paths import known_path
from powertrain.errors import Refusal


class Terms(BaseModel):
    """On which terms builds are compared, and over what use costs are counted."""

    model_config = ConfigDict(strict=True)

    same_vehicle: bool = True
    same_voltage: bool = False
    years: float = Field(5.0, ge=0.1, le=100)
    hours_a_year: float = Field(100.0, ge=0, le=8760)

    @property
    def hours(self) -> float:
        """Hours of use over which costs are counted."""
        return self.years * self.hours_a_year


class OnTerms(BaseModel):
    """A build as it is compared, and in words what was changed for that."""

    build: Build
    changed: list[str]


STANDS_IN = ("vehicle", "wheel", "conditions")
"""What all stand in, with `Terms.same_vehicle`."""


def on_terms(builds: list[Build], terms: Terms) -> list[OnTerms]:
    """Return builds as they are compared.

    With `same_vehicle` all stand in the first one's vehicle, on its wheels, in its air and on its
    hill; each brings the mass of its own drive where both say it. With `same_voltage` each pack
    has as many of its own cells in series as come nearest to the first one's nominal volts.
    """
    first = builds[0]
    moments = with_moments(first).moments
    found = []
    for build in builds:
        update: dict[str, Any] = {"moments": moments}
        changed: list[str] = []
        if build.vehicle.kind != first.vehicle.kind and not terms.same_vehicle:
            raise Refusal(
                "vehicle.kind",
                f"of {build.name} is not that of {first.name}; compare them in the same vehicle",
            )
        if (build.propeller is None) != (first.propeller is None):
            raise Refusal(
                "propeller",
                f"of {build.name} and {first.name}: one is pushed by air and the other is not; "
                "compare craft with craft",
            )
        if terms.same_vehicle and build is not first:
            mass_kg, say = _mass(first, build)
            update |= {
                "vehicle": first.vehicle.model_copy(update={"mass_kg": mass_kg}),
                "wheel": first.wheel,
                "conditions": first.conditions,
                "provenance": {
                    path: known
                    for path, known in build.provenance.items()
                    if known_path(first, path) or path.split(".")[0] not in STANDS_IN
                },
            }
            if _differs(first, build):
                changed.append(f"In the vehicle of {first.name}, {say}.")
        if terms.same_voltage and build is not first:
            cells = _cells(first, build)
            if cells != build.battery.series:
                changed.append(f"{cells} cells in series for {build.battery.series}.")
                update["battery"] = build.battery.model_copy(update={"series": cells})
        found.append(OnTerms(build=build.model_copy(update=update), changed=changed))
    return found


def _mass(first: Build, build: Build) -> tuple[float, str]:
    if not first.vehicle.on_wheels:
        return first.vehicle.mass_kg, "with the same load"
    own, others = drive_kg(first), drive_kg(build)
    if own is None or others is None:
        return first.vehicle.mass_kg, "with the same mass, since not all parts say theirs"
    mass_kg = max(first.vehicle.mass_kg - own + others, 0.1)
    return mass_kg, f"with its own drive {mass_kg:.4g} kg"


def _differs(first: Build, build: Build) -> bool:
    return (build.vehicle, build.wheel, build.conditions) != (
        first.vehicle,
        first.wheel,
        first.conditions,
    )


def _cells(first: Build, build: Build) -> int:
    wanted_v = first.battery.series * CHEMISTRIES[first.battery.chemistry].nominal_v
    return max(1, round(wanted_v / CHEMISTRIES[build.battery.chemistry].nominal_v))
