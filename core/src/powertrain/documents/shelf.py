"""The shelf document, open format ``young-torrent.shelf/1``: parts that can be bought.

A part holds the very model that a build holds for it, so that nothing is said twice: what a shop
says of a motor is the motor of a build with ``count`` one. Beside it stands what only matters
when choosing: who makes it, which can it is wound in, whether a remote is in the price.
"""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.battery import Battery, Chemistry
from powertrain.documents.build import Provenance
from powertrain.documents.electrics import Controller
from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.model import Model
from powertrain.documents.motors import MotorDocument
from powertrain.documents.propeller import Propeller
from powertrain.documents.vehicle import ToothStrength, Wheel

FORMAT = "young-torrent.shelf/1"

MOST_PARTS = 200_000
"""Of one kind; what a shelf on paper could never hold."""

PartRef = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9._-]*$", max_length=80)]
"""How a part is named in other documents: small letters, digits, dots and dashes."""


class Part(Model):
    """What every part on a shelf has: a name to refer to, and one to read."""

    id: PartRef = Field(title="Id", description="Small letters, digits, dots, dashes.")
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1)] = words(
        "Name", "Maker and model, as you would ask for it."
    )
    note: str | None = words(
        "Note", "Anything else a buyer should know.", default=None, longest=500
    )
    provenance: dict[str, Provenance] = Field(
        default_factory=dict, max_length=100, title="How values are known"
    )


class MotorPart(Part):
    """A motor for sale; `family` is its can, which other windings share."""

    family: str | None = words("Can", "Other windings of the same can say the same.", default=None)
    mounts: Literal["shaft", "hub"] = choice(
        "Drives by", "A shaft for teeth, or the wheel itself.", default="shaft"
    )
    motor: MotorDocument

    @model_validator(mode="after")
    def _single(self) -> "MotorPart":
        if self.motor.count != 1:
            raise PydanticCustomError("single", "is sold singly: motor.count must be 1")
        return self


class ControllerPart(Part):
    """A speed controller for sale.

    Where `settable`, its amps limits can be set anywhere up to what it says; a match sets them to
    what motor and pack stand. Where not, they are as they are.
    """

    drives: Literal["brushed", "brushless", "packaged"] = choice(
        "Drives motors", "Two wires, three, or one that has its inverter.", default="brushless"
    )
    settable: bool = choice("Limits can be set", "By program, app or dial.", default=True)
    remote_included: bool = choice("With a remote", "In the price.", default=False)
    controller: Controller


class PackPart(Part):
    """A ready pack for sale, or one that somebody means to build."""

    battery: Battery


class CellPart(Part):
    """A single cell for packs of one's own."""

    chemistry: Chemistry = choice("Chemistry", "What it is made of.")
    capacity_ah: Number = measure("Capacity", "Ah", (0.05, 400), explain="As its maker states it.")
    resistance_mohm: Number = measure(
        "Resistance", "mohm", (0.05, 500), explain="Direct current, new, at room temperature."
    )
    continuous_current_a: Number | None = measure(
        "Continuous", "A", (0.2, 1000), default=None, explain="What one cell may give."
    )
    charge_current_a: Number | None = measure(
        "Charge amps", "A", (0.05, 500), default=None, explain="The most that may flow in."
    )
    mass_kg: Number | None = measure("Mass", "kg", (0.002, 20), default=None, explain="Of one.")
    diameter_mm: Number | None = measure(
        "Diameter", "mm", (5, 100), default=None, explain="Of a round cell."
    )
    length_mm: Number | None = measure("Length", "mm", (10, 400), default=None, explain="Of one.")
    price: Number | None = measure(
        "Price", "", (0.2, 500), default=None, zero=True, explain="Of one."
    )


class WheelPart(Part):
    """A wheel with its tyre."""

    wheel: Wheel
    width_mm: Number | None = measure("Width", "mm", (2, 500), default=None, explain="Of the tyre.")
    mass_kg: Number | None = measure("Mass", "kg", (0.005, 100), default=None, explain="Of one.")
    price: Number | None = measure(
        "Price", "", (0.5, 2000), default=None, zero=True, explain="Of one."
    )


class PropellerPart(Part):
    """A propeller for sale."""

    propeller: Propeller


class Size(Model):
    """One size of a range of toothed wheels."""

    teeth: Whole = measure("Teeth", "teeth", (6, 400), least=1, most=10000, explain="Counted.")
    mass_kg: Number | None = measure("Mass", "kg", (0.001, 20), default=None, explain="Of one.")
    price: Number | None = measure(
        "Price", "", (0.5, 500), default=None, zero=True, explain="Of one."
    )


class ToothedRange(Part, ToothStrength):
    """Sprockets, pulleys or gears of one pitch or module, in the sizes that are sold.

    Those for the motor's side and those for the wheel's side are two ranges; any driver goes
    with any driven of the same kind and pitch or module.
    """

    kind: Literal["chain", "belt", "spur"] = choice("Kind", "What passes the power on.")
    side: Literal["driver", "driven"] = choice("Side", "Of the motor, or of the wheel.")
    efficiency: Number = measure(
        "Efficiency",
        "",
        (0.8, 1.0),
        default=0.96,
        least=0.01,
        most=1,
        explain="Of a stage with such teeth, clean and oiled.",
    )
    bore_mm: Number | None = measure(
        "Bore", "mm", (1, 100), default=None, explain="Shaft that it fits, at most."
    )
    sizes: list[Size] = Field(min_length=1, max_length=400, title="Sizes")

    @model_validator(mode="after")
    def _one_measure(self) -> "ToothedRange":
        if (self.module_mm if self.kind == "spur" else self.pitch_mm) is None:
            needs = "module_mm" if self.kind == "spur" else "pitch_mm"
            raise PydanticCustomError("teeth", "needs {needs}: teeth must fit", {"needs": needs})
        teeth = [size.teeth for size in self.sizes]
        if len(set(teeth)) != len(teeth):
            raise PydanticCustomError("teeth", "names a size twice")
        return self


class StrandPart(Part):
    """Roller chain or toothed belt, by length."""

    kind: Literal["chain", "belt"] = choice("Kind", "Roller chain or toothed belt.")
    pitch_mm: Number = measure("Pitch", "mm", (1, 40), explain="From roller to roller or tooth.")
    allowed_pull_n: Number | None = measure(
        "May pull", "N", (20, 50000), default=None, explain="Working load."
    )
    mass_kg_per_m: Number | None = measure(
        "Mass of a metre", "kg/m", (0.01, 10), default=None, explain="Of the strand."
    )
    price_per_m: Number | None = measure(
        "Price of a metre", "", (1, 200), default=None, zero=True, explain="Of the strand."
    )


class WirePart(Part):
    """Stranded copper wire, by its copper."""

    area_mm2: Number = measure("Copper", "mm2", (0.1, 120), explain="Cross-section.")
    price_per_m: Number | None = measure(
        "Price of a metre", "", (0.2, 100), default=None, zero=True, explain="Of one wire."
    )


class ConnectorPart(Part):
    """A pair of connectors, by what it carries for long."""

    current_a: Number = measure("Carries", "A", (1, 1000), explain="For as long as you like.")
    price: Number | None = measure(
        "Price", "", (0.2, 200), default=None, zero=True, explain="Of a pair."
    )


class GearboxPart(Part):
    """A gearbox for sale, with usual ratios."""

    ratios: list[Number] = Field(
        min_length=1,
        max_length=12,
        title="Ratios",
        description="Turns in for one turn out, a number for each gear.",
    )
    efficiency: Number = measure(
        "Efficiency",
        "",
        (0.7, 1.0),
        least=0.01,
        most=1,
        explain="Part of the power that comes out.",
    )
    max_torque_nm: Number | None = measure(
        "Takes",
        "N.m",
        (5, 2000),
        default=None,
        explain="Torque at the side of the motor, for long.",
    )
    length_mm: Number | None = measure(
        "Length", "mm", (20, 1500), default=None, explain="From face to output."
    )
    mass_kg: Number | None = measure(
        "Mass", "kg", (0.1, 300), default=None, explain="With its oil."
    )
    price: Number | None = measure(
        "Price", "", (5, 5000), default=None, zero=True, explain="Of one."
    )


class Breaking(Part):
    """What opens a d.c. circuit."""

    voltage_v: Number = measure("Volts", "V", (12, 1500), explain="D.c. that it opens.")
    current_a: Number = measure("Carries", "A", (1, 2000), explain="For as long as you like.")
    breaks_a: Number = measure(
        "Opens", "A", (10, 100000), explain="The most that it opens at those volts."
    )
    mass_kg: Number | None = measure("Mass", "kg", (0.005, 20), default=None, explain="Of one.")
    price: Number | None = measure(
        "Price", "", (1, 2000), default=None, zero=True, explain="Of one."
    )


class ContactorPart(Breaking):
    """A contactor: a switch worked by a coil."""

    coil_w: Number | None = measure(
        "Coil takes", "W", (1, 60), default=None, zero=True, explain="While it holds."
    )
    sense: Literal["either", "one_way"] | None = choice(
        "Opens amps that flow",
        "Either way, or only the way that is marked; braking flows the other way.",
        default=None,
    )


class FusePart(Breaking):
    """A fuse-link for d.c."""


class ConverterPart(Part):
    """A DC-DC converter: the pack's volts to twelve."""

    from_v: Number = measure("From", "V", (18, 900), explain="Lowest volts of the pack.")
    to_v: Number = measure("Up to", "V", (24, 1000), explain="Highest volts of the pack.")
    gives_v: Number = measure("Gives", "V", (5, 30), explain="Volts on the other side.")
    power_w: Number = measure("Watts", "W", (20, 5000), explain="For as long as you like.")
    efficiency: Number = measure(
        "Efficiency",
        "",
        (0.7, 0.98),
        least=0.01,
        most=1,
        explain="Part of the power that comes out.",
    )
    mass_kg: Number | None = measure("Mass", "kg", (0.05, 20), default=None, explain="Of one.")
    price: Number | None = measure(
        "Price", "", (5, 3000), default=None, zero=True, explain="Of one."
    )


class ChargerPart(Part):
    """A charger from the mains."""

    voltage_v: Number = measure("Charges to", "V", (4, 900), explain="Volts at which it ends.")
    current_a: Number = measure("Amps", "A", (0.5, 200), explain="The most it gives the pack.")
    mains_w: Number | None = measure(
        "Takes of the mains", "W", (20, 22000), default=None, explain="At its most."
    )
    mass_kg: Number | None = measure("Mass", "kg", (0.1, 60), default=None, explain="Of one.")
    price: Number | None = measure(
        "Price", "", (5, 8000), default=None, zero=True, explain="Of one."
    )


class Shelf(Model):
    """Everything that may be bought."""

    format: Literal["young-torrent.shelf/1"] = choice("Format", "Version of this format.")
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1)] = words(
        "Name", "Whose shelf this is.", default="Shelf"
    )
    motors: list[MotorPart] = Field(default_factory=list, max_length=MOST_PARTS)
    controllers: list[ControllerPart] = Field(default_factory=list, max_length=MOST_PARTS)
    packs: list[PackPart] = Field(default_factory=list, max_length=MOST_PARTS)
    cells: list[CellPart] = Field(default_factory=list, max_length=MOST_PARTS)
    wheels: list[WheelPart] = Field(default_factory=list, max_length=MOST_PARTS)
    propellers: list[PropellerPart] = Field(default_factory=list, max_length=MOST_PARTS)
    teeth: list[ToothedRange] = Field(default_factory=list, max_length=MOST_PARTS)
    strands: list[StrandPart] = Field(default_factory=list, max_length=MOST_PARTS)
    wires: list[WirePart] = Field(default_factory=list, max_length=MOST_PARTS)
    connectors: list[ConnectorPart] = Field(default_factory=list, max_length=MOST_PARTS)
    gearboxes: list[GearboxPart] = Field(default_factory=list, max_length=MOST_PARTS)
    contactors: list[ContactorPart] = Field(default_factory=list, max_length=MOST_PARTS)
    fuses: list[FusePart] = Field(default_factory=list, max_length=MOST_PARTS)
    converters: list[ConverterPart] = Field(default_factory=list, max_length=MOST_PARTS)
    chargers: list[ChargerPart] = Field(default_factory=list, max_length=MOST_PARTS)

    @model_validator(mode="after")
    def _ids_differ(self) -> "Shelf":
        seen: set[str] = set()
        for kind in KINDS:
            for part in getattr(self, kind):
                if part.id in seen:
                    raise PydanticCustomError("ids", "has two parts called {id}", {"id": part.id})
                seen.add(part.id)
        return self


KINDS: dict[str, type[Part]] = {
    "motors": MotorPart,
    "controllers": ControllerPart,
    "packs": PackPart,
    "cells": CellPart,
    "wheels": WheelPart,
    "propellers": PropellerPart,
    "teeth": ToothedRange,
    "strands": StrandPart,
    "wires": WirePart,
    "connectors": ConnectorPart,
    "gearboxes": GearboxPart,
    "contactors": ContactorPart,
    "fuses": FusePart,
    "converters": ConverterPart,
    "chargers": ChargerPart,
}
"""The lists of a shelf, and what each holds."""
