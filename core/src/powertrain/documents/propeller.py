"""A propeller as a document says it."""

from typing import Literal

from pydantic import Field, model_validator

from powertrain.arrays import scalar
from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.model import Model, within
from powertrain.propeller.momentum import figure_of_merit, least_power_coefficient

PITCH_LEAST, PITCH_MOST = 0.1, 3.0
"""Pitch over diameter of anything that is a propeller."""

ROUNDING = 1e-6


class StaticPoint(Model):
    """A propeller held fast on a scale."""

    rpm: Number = measure("At", "rpm", (500, 30000), explain="Turns of the propeller.")
    thrust_n: Number = measure("Thrust", "N", (0.1, 2000), explain="What the scale said.")
    shaft_power_w: Number = measure(
        "Power", "W", (1, 50000), explain="What its shaft took: torque times speed of turning."
    )
    air_density_kg_m3: Number = measure(
        "Air", "kg/m3", (0.9, 1.4), default=1.225, explain="Density of the air on that day."
    )


class TableRow(Model):
    """Coefficients at one advance ratio: C_T = T/(rho n^2 D^4), C_P = P/(rho n^3 D^5)."""

    advance_ratio: Number = measure(
        "J", "", (0, 2), zero=True, most=10, explain="Speed over turns a second times diameter."
    )
    ct: Number = measure("C_T", "", (-0.3, 0.3), least=-5, most=5, explain="Thrust coefficient.")
    cp: Number = measure("C_P", "", (-0.3, 0.5), least=-5, most=5, explain="Power coefficient.")


class Propeller(Model):
    """One propeller; each motor of a build turns one of them."""

    name: str = words("Name", "What is printed on it.", default="")
    diameter_mm: Number = measure(
        "Diameter", "mm", (50, 3000), explain="Of the circle that its tips draw."
    )
    pitch_mm: Number = measure(
        "Pitch", "mm", (20, 2500), explain="Way of a turn, as if in butter; printed after the x."
    )
    blades: Whole = measure("Blades", "", (2, 6), default=2, least=2, most=12, explain="How many.")
    position: Literal["tractor", "pusher"] = choice(
        "Position", "Whether it pulls from the front or pushes from behind.", default="tractor"
    )
    rotation: Literal["clockwise", "counter_clockwise"] = choice(
        "Turns", "Seen from behind.", default="clockwise"
    )
    mass_kg: Number | None = measure("Mass", "kg", (0.002, 10), default=None, explain="By scales.")
    inertia_kg_m2: Number | None = measure(
        "Inertia", "kg m2", (1e-7, 2), default=None, explain="Left out, that of a slender blade."
    )
    max_rpm: Number | None = measure(
        "Stands", "rpm", (1000, 40000), default=None, explain="The most turns its maker allows."
    )
    price: Number | None = measure("Price", "", (1, 2000), default=None, explain="In your money.")
    static: StaticPoint | None = Field(
        default=None, title="Static test", description="Held fast on a scale at full throttle."
    )
    table: list[TableRow] | None = Field(
        default=None,
        min_length=2,
        max_length=500,
        title="Table of coefficients",
        description="Of its maker or a wind tunnel, advance ratios rising.",
    )

    @model_validator(mode="after")
    def _is_one(self) -> "Propeller":
        ratio = self.pitch_mm / self.diameter_mm
        if not PITCH_LEAST <= ratio <= PITCH_MOST:
            raise within("pitch_mm", f"is {ratio:.3g} of the diameter; that is no propeller")
        self._check_static()
        self._check_table()
        return self

    def _check_static(self) -> None:
        said = self.static
        if said is None:
            return
        turns, size = said.rpm / 60, self.diameter_mm / 1000
        ct = said.thrust_n / (said.air_density_kg_m3 * turns**2 * size**4)
        cp = said.shaft_power_w / (said.air_density_kg_m3 * turns**3 * size**5)
        merit = float(figure_of_merit(scalar(ct), scalar(cp)))
        if merit > 1 + ROUNDING:
            raise within(
                "static.thrust_n",
                f"is more than any disc of this size could give for {said.shaft_power_w:g} W "
                f"(momentum theory; {merit:.2f} of it): look at scale, watts and diameter again",
            )

    def _check_table(self) -> None:
        before = None
        for place, row in enumerate(self.table or []):
            if before is not None and row.advance_ratio <= before:
                raise within(f"table.{place}.advance_ratio", "must rise from row to row")
            before = row.advance_ratio
            least = float(least_power_coefficient(scalar(row.ct), scalar(row.advance_ratio)))
            if row.ct > 0 and row.cp < least * (1 - ROUNDING):
                raise within(
                    f"table.{place}.cp",
                    f"is below the {least:.4g} that momentum theory asks for that thrust",
                )
