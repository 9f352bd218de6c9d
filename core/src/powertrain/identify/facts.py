"""What a person may know of a motor, a cell or a stand, open format ``young-torrent.facts/1``."""

from typing import Literal

from pydantic import Field

from powertrain.documents.battery import Chemistry
from powertrain.documents.fields import Number, Whole, choice, measure
from powertrain.documents.model import Model
from powertrain.documents.propeller import Propeller

FORMAT = "young-torrent.facts/1"


class CurvePoint(Model):
    """One line of a data sheet's curve or table."""

    torque_nm: Number = measure("Torque", "N.m", (0.001, 500), zero=True, explain="At the shaft.")
    rpm: Number = measure("Speed", "rpm", (1, 100000), zero=True, explain="Of the shaft.")
    current_a: Number = measure("Amps", "A", (0.01, 3000), zero=True, explain="At the wires.")


class MotorFacts(Model):
    """Of a motor; every fact is optional, and each further one sharpens the answer."""

    kind: Literal["permanent_magnet", "series_wound"] = choice(
        "Kind", "Which constants are wanted.", default="permanent_magnet"
    )
    commutation: Literal["brushed", "brushless"] = choice(
        "Commutation", "Two wires or three.", default="brushless"
    )
    rotor: Literal["inrunner", "outrunner", "hub"] | None = choice(
        "Rotor", "Inside its can, the turning can itself, or the wheel.", default=None
    )
    reduction: Number | None = measure(
        "Geared down by",
        "",
        (1, 200),
        default=None,
        explain="Of a geared motor: rotor turns for one of the shaft whose free speed is given.",
    )
    kv_rpm_per_v: Number | None = measure(
        "KV",
        "rpm/V",
        (1, 20000),
        default=None,
        explain="As the maker states it.",
    )
    resistance_ohm: Number | None = measure(
        "Resistance",
        "ohm",
        (0.0005, 10),
        default=None,
        explain="As the maker states it.",
    )
    no_load_current_a: Number | None = measure(
        "No-load amps",
        "A",
        (0.01, 200),
        default=None,
        zero=True,
        explain="As the maker states it.",
    )
    spun_rpm: Number | None = measure(
        "Spun at",
        "rpm",
        (10, 60000),
        default=None,
        explain="Turned from outside, with a drill or a lathe, no controller connected.",
    )
    spun_line_v: Number | None = measure(
        "Volts when spun",
        "V",
        (0.01, 500),
        default=None,
        explain="Between two wires: a.c. volts (rms) of a brushless motor, d.c. of a brushed one.",
    )
    test_current_a: Number | None = measure(
        "Known amps through it",
        "A",
        (0.1, 200),
        default=None,
        explain="Through two wires, the shaft held.",
    )
    test_voltage_v: Number | None = measure(
        "Volts at those amps",
        "V",
        (0.001, 60),
        default=None,
        explain="At the motor's wires.",
    )
    free_voltage_v: Number | None = measure(
        "Free run at",
        "V",
        (0.5, 1000),
        default=None,
        explain="Volts while it runs free.",
    )
    free_speed_rpm: Number | None = measure(
        "Free speed",
        "rpm",
        (10, 120000),
        default=None,
        explain="Speed while it runs free.",
    )
    free_current_a: Number | None = measure(
        "Free amps",
        "A",
        (0.01, 200),
        default=None,
        zero=True,
        explain="Amps while it runs free.",
    )
    second_free_voltage_v: Number | None = measure(
        "Second free run at",
        "V",
        (0.5, 1000),
        default=None,
        explain="At other volts.",
    )
    second_free_speed_rpm: Number | None = measure(
        "Second free speed",
        "rpm",
        (10, 120000),
        default=None,
        explain="At those volts.",
    )
    second_free_current_a: Number | None = measure(
        "Second free amps",
        "A",
        (0.01, 200),
        default=None,
        zero=True,
        explain="At those volts.",
    )
    rated_voltage_v: Number | None = measure(
        "Rated volts",
        "V",
        (1, 1000),
        default=None,
        explain="On the plate.",
    )
    rated_speed_rpm: Number | None = measure(
        "Rated speed",
        "rpm",
        (10, 100000),
        default=None,
        explain="On the plate, under load.",
    )
    rated_current_a: Number | None = measure(
        "Rated amps",
        "A",
        (0.1, 3000),
        default=None,
        explain="On the plate.",
    )
    rated_power_w: Number | None = measure(
        "Rated watts",
        "W",
        (1, 500000),
        default=None,
        explain="On the plate.",
    )
    power_is: Literal["electrical", "shaft"] | None = choice(
        "Those watts are", "In at the wires, or out at the shaft.", default=None
    )
    rated_torque_nm: Number | None = measure(
        "Rated torque",
        "N.m",
        (0.001, 3000),
        default=None,
        explain="On the plate, at the shaft.",
    )
    duty: Literal["S1", "S2"] | None = choice(
        "Duty",
        "On the plate: S1 for as long as you like, S2 for some minutes from cold (IEC 60034-1).",
        default=None,
    )
    duty_min: Number | None = measure(
        "For",
        "min",
        (5, 120),
        default=None,
        explain="Of an S2 duty: the minutes behind it, 30 or 60 mostly.",
    )
    second_rated_voltage_v: Number | None = measure(
        "Second line: volts",
        "V",
        (1, 1000),
        default=None,
        explain="Another load on the plate.",
    )
    second_rated_current_a: Number | None = measure(
        "Second line: amps",
        "A",
        (0.1, 3000),
        default=None,
        explain="At that load.",
    )
    second_rated_speed_rpm: Number | None = measure(
        "Second line: speed",
        "rpm",
        (10, 100000),
        default=None,
        explain="At that load.",
    )
    second_rated_torque_nm: Number | None = measure(
        "Second line: torque",
        "N.m",
        (0.001, 3000),
        default=None,
        explain="At that load.",
    )
    stall_torque_nm: Number | None = measure(
        "Stall torque",
        "N.m",
        (0.001, 3000),
        default=None,
        explain="At the rated volts, held.",
    )
    stall_current_a: Number | None = measure(
        "Stall amps",
        "A",
        (0.1, 6000),
        default=None,
        explain="At the rated volts, held.",
    )
    turns: Number | None = measure(
        "Turns",
        "T",
        (1, 90),
        default=None,
        explain="Turns of wire, as small cans are sold.",
    )
    diameter_mm: Number | None = measure(
        "Can diameter",
        "mm",
        (5, 500),
        default=None,
        explain="Outside, without wires.",
    )
    length_mm: Number | None = measure(
        "Can length",
        "mm",
        (5, 800),
        default=None,
        explain="Without the shaft.",
    )
    mass_kg: Number | None = measure(
        "Motor mass",
        "kg",
        (0.005, 200),
        default=None,
        explain="With its wires.",
    )
    curve_voltage_v: Number | None = measure(
        "Curve is at",
        "V",
        (0.5, 1000),
        default=None,
        explain="Volts of the curve's points.",
    )
    curve: list[CurvePoint] = Field(
        default=[], max_length=200, title="Curve", description="Points of a published curve."
    )


class CellFacts(Model):
    """Of a cell or a pack of equal cells."""

    chemistry: Chemistry = choice("Chemistry", "What the cells are made of.", default="li_ion")
    series: Whole = measure(
        "Cells in series",
        "cells",
        (1, 400),
        default=1,
        least=1,
        most=100000,
        explain="Of what was tested.",
    )
    parallel: Whole = measure(
        "Strings in parallel",
        "strings",
        (1, 500),
        default=1,
        least=1,
        most=100000,
        explain="Of what was tested.",
    )
    cell_capacity_ah: Number | None = measure(
        "Cell capacity",
        "Ah",
        (0.05, 400),
        default=None,
        explain="Of one cell.",
    )
    c_rating: Number | None = measure(
        "C rating",
        "C",
        (0.5, 150),
        default=None,
        explain="As printed, for long.",
    )
    light_current_a: Number | None = measure(
        "Light load",
        "A",
        (0.01, 1000),
        default=None,
        zero=True,
        explain="The smaller load.",
    )
    light_voltage_v: Number | None = measure(
        "Volts at it",
        "V",
        (0.5, 1000),
        default=None,
        explain="Of the whole of what was tested.",
    )
    heavy_current_a: Number | None = measure(
        "Heavy load",
        "A",
        (0.1, 3000),
        default=None,
        explain="The larger load.",
    )
    heavy_voltage_v: Number | None = measure(
        "Volts at that",
        "V",
        (0.5, 1000),
        default=None,
        explain="Of the whole of what was tested, some seconds into it.",
    )
    charger_mohm: Number | None = measure(
        "Charger shows",
        "mohm",
        (0.1, 500),
        default=None,
        explain="For one cell position of the pack, strings in parallel as they are.",
    )


class StandPoint(Model):
    """One reading of a motor with its propeller on a scale; of one motor where there are more."""

    throttle_pct: Number = measure(
        "Throttle", "%", (5, 100), default=100, most=100, explain="As it was told."
    )
    voltage_v: Number = measure("Volts", "V", (1, 450), explain="At the controller, under load.")
    current_a: Number = measure("Amps", "A", (0.1, 1000), explain="Out of the pack.")
    rpm: Number = measure("Turns", "rpm", (200, 40000), explain="Of the propeller.")
    thrust_n: Number | None = measure(
        "Thrust", "N", (0.05, 3000), default=None, explain="What the scale says."
    )


class StandFacts(Model):
    """A propeller on a stand, in still air."""

    propeller: Propeller
    air_density_kg_m3: Number = measure(
        "Air", "kg/m3", (0.9, 1.4), default=1.225, explain="Density of the air on that day."
    )
    points: list[StandPoint] = Field(min_length=1, max_length=100)


class Facts(Model):
    """What is known."""

    format: Literal["young-torrent.facts/1"] = choice("Format", "Version of this format.")
    motor: MotorFacts | None = None
    cell: CellFacts | None = None
    stand: StandFacts | None = None
