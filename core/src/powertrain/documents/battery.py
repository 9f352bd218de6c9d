"""The pack as a document says it."""

from collections.abc import Sequence
from typing import Any, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.heat import Cooling, PartThermal
from powertrain.documents.model import Model

Chemistry = Literal["lipo", "li_ion", "lifepo4", "lead_acid", "nimh"]


class RestPoint(Model):
    """Volts of a resting cell at a charge."""

    soc_pct: Number = measure("Charge", "%", (0, 100), least=0, most=100, explain="Of the cell.")
    cell_v: Number = measure("Rests at", "V", (0.8, 4.4), least=0.1, most=6, explain="One cell.")


class ColdPoint(Model):
    """Resistance at a temperature, as a multiple of what is stated."""

    c: Number = measure("At", "C", (-20, 60), least=-60, most=150, explain="Of the cells.")
    factor: Number = measure("Times", "", (0.5, 5), least=0.01, most=100, explain="The stated.")


class Battery(Model):
    """The pack: equal cells in series and parallel."""

    name: str | None = words("Pack", "Maker and model, or the cells it is made of.", default=None)
    chemistry: Chemistry = choice("Chemistry", "What the cells are made of.")
    series: Whole = measure(
        "Cells in series",
        "cells",
        (1, 400),
        least=1,
        most=100000,
        explain="They add their volts.",
    )
    parallel: Whole = measure(
        "Strings in parallel",
        "strings",
        (1, 500),
        default=1,
        least=1,
        most=100000,
        explain="They share the amps.",
    )
    cell_capacity_ah: Number = measure(
        "Cell capacity",
        "Ah",
        (0.05, 400),
        explain="Of one cell, as the maker states it.",
    )
    cell_resistance_mohm: Number = measure(
        "Cell resistance",
        "mohm",
        (0.05, 500),
        zero=True,
        explain="Of one cell, direct current. Many chargers show it; it doubles in the cold.",
    )
    wiring_resistance_mohm: Number = measure(
        "Wiring resistance",
        "mohm",
        (0.05, 500),
        default=0.0,
        zero=True,
        explain="Leads, links, fuse and connector between cells and controller.",
    )
    cell_voltage_v: Number = measure(
        "Cell rests at",
        "V",
        (0.8, 4.4),
        least=0.2,
        most=6.0,
        explain="Volts of one cell now, with nothing drawn.",
    )
    continuous_current_a: Number | None = measure(
        "Continuous",
        "A",
        (0.2, 3000),
        default=None,
        explain="What the whole pack may give.",
    )
    peak_current_a: Number | None = measure(
        "Peak",
        "A",
        (0.2, 6000),
        default=None,
        explain="What the whole pack may give for some seconds.",
    )
    cut_off_cell_v: Number | None = measure(
        "Cut-off per cell",
        "V",
        (0.7, 4),
        default=None,
        most=6.0,
        explain="Volts of a cell under load at which controller or protection lets go.",
    )
    open_circuit: list[RestPoint] | None = Field(
        default=None,
        min_length=2,
        max_length=100,
        title="Rest volts over charge",
        description="Straight between points; goes before the volts of one cell.",
    )
    resistance_by_c: list[ColdPoint] | None = Field(
        default=None,
        min_length=1,
        max_length=50,
        title="Resistance over warmth",
        description="How many times its resistance at each temperature; straight between.",
    )
    peukert: Number | None = measure(
        "Peukert's exponent",
        "",
        (1.02, 1.4),
        default=None,
        least=1,
        most=2,
        explain="How much less a lead-acid pack gives at more amps; 1 is none.",
    )
    capacity_share: Number | None = measure(
        "Capacity left",
        "",
        (0.5, 1),
        default=None,
        least=0.01,
        most=1.5,
        explain="Of what it had when new.",
    )
    charge_current_a: Number | None = measure(
        "Charge amps",
        "A",
        (0.1, 1000),
        default=None,
        zero=True,
        explain="The most that may flow into the whole pack, charging or braking.",
    )
    max_c: Number | None = measure(
        "Hottest pack",
        "C",
        (40, 90),
        default=None,
        least=0,
        most=200,
        explain="What the maker allows.",
    )
    dc_dc_w: Number | None = measure(
        "DC-DC converter gives",
        "W",
        (30, 5000),
        default=None,
        explain="Its watts at twelve volts, for all that it feeds together.",
    )
    length_mm: Number | None = measure(
        "Length",
        "mm",
        (5, 2000),
        default=None,
        explain="Of the pack.",
    )
    width_mm: Number | None = measure(
        "Width",
        "mm",
        (5, 2000),
        default=None,
        explain="Of the pack.",
    )
    height_mm: Number | None = measure(
        "Height",
        "mm",
        (2, 2000),
        default=None,
        explain="Of the pack.",
    )
    mass_kg: Number | None = measure(
        "Pack mass",
        "kg",
        (0.005, 2000),
        default=None,
        explain="Whole, with its case.",
    )
    price: Number | None = measure(
        "Pack price",
        "",
        (1, 100000),
        default=None,
        zero=True,
        explain="For the whole pack.",
    )
    thermal: PartThermal = Field(default_factory=PartThermal, title="Heat data of the pack")
    cooling: Cooling = Field(default_factory=Cooling, title="Cooling of the pack")

    @model_validator(mode="after")
    def _each_point_once(self) -> Self:
        _apart("open_circuit", "soc_pct", self.open_circuit or ())
        _apart("resistance_by_c", "c", self.resistance_by_c or ())
        return self


def _apart(key: str, along: str, points: Sequence[Any]) -> None:
    """Refuse two points at the same place: straight between them there is nothing."""
    known: set[float] = set()
    for index, point in enumerate(points):
        at = getattr(point, along)
        if at in known:
            where = f"battery.{key}.{index}.{along}"
            what = f"is that of another point, {at:g}; take one of them out"
            raise PydanticCustomError("at_place", "at a place", {"where": where, "what": what})
        known.add(at)
