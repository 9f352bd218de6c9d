"""The rows of the table that builders compare drives by."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.bench.answer import Band
from powertrain.bench.numbers import drive_kg
from powertrain.compare import of_life, of_trip
from powertrain.compare.candidate import Compared, Said
from powertrain.constants import RPM_PER_RAD_S
from powertrain.operating.free import free_running
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.state import greatest_power
from powertrain.results import FigureId
from powertrain.terms import term

Better = Literal["more", "less"] | None


class CompareRow(BaseModel):
    """One line: a value of each build, None where it is not known; `of` says of what it is."""

    id: str
    of: Literal["motor", "controller", "drive", "ride"]
    label: str
    unit: str
    better: Better
    values: list[float | None]
    bands: list[Band | None]
    notes: list[str]


@dataclass(frozen=True)
class Ask:
    """One row's question."""

    id: str
    of: Literal["motor", "controller", "drive", "ride"]
    label: str
    unit: str
    better: Better
    value: Callable[[Compared], Said]
    figure: FigureId | None = None
    band: Callable[[Compared], Band | None] | None = None


def rows_of(compared: list[Compared]) -> Iterator[CompareRow]:
    """Yield every row in which anything is known."""
    for ask in ASKED:
        said = [ask.value(one) for one in compared]
        if all(value is None for value, _ in said):
            continue
        bands = [_band(ask, one) for one in compared]
        yield CompareRow(
            id=ask.id,
            of=ask.of,
            label=IN_AIR.get(ask.id, ask.label) if compared[0].build.propeller else ask.label,
            unit=ask.unit,
            better=ask.better,
            values=[value for value, _ in said],
            bands=bands,
            notes=[note for _, note in said],
        )


def _band(ask: Ask, one: Compared) -> Band | None:
    if ask.figure is not None:
        found = one.answer.doubt.figures.get(ask.figure)
        return None if found is None else found.band
    return None if ask.band is None else ask.band(one)


def _part(path: str) -> Callable[[Compared], Said]:
    section, key = path.split(".")

    def value(one: Compared) -> Said:
        found = getattr(getattr(one.build, section), key)
        return None if found is None else float(found), ""

    return value


def _figure(key: FigureId) -> Callable[[Compared], Said]:
    """Return what reads a figure; None of a kind of load that has no such figure."""

    def value(one: Compared) -> Said:
        found = one.answer.doubt.figures.get(key)
        return None if found is None else found.value, ""

    return value


def _lasting_torque(one: Compared) -> Said:
    """Return the torque of one motor for as long as you like, with its amps."""
    amps = one.build.motor.continuous_current_a
    if amps is None or one.drive.motor.has_inverter:
        return None, ""
    torque = one.drive.motor.shaft_torque_nm(scalar(0.0), scalar(amps))
    return float(torque), f"at {amps:.3g} A"


def _start_torque(one: Compared) -> Said:
    at = full_throttle(one.drive, scalar(0.0))
    return float(at.shaft_torque_nm), f"at {float(at.motor_current_a):.3g} A"


def _greatest_power(one: Compared) -> Said:
    """Return the greatest power of all shafts at full throttle, with the rpm it comes at."""
    power, rpm = (float(value) for value in greatest_power(one.drive))
    return (power, f"at {rpm:,.0f} rpm") if np.isfinite(power) else (None, "")


def _free_rpm(one: Compared) -> Said:
    state = free_running(one.drive).full_charge
    limit = one.build.motor.max_rpm
    rpm = float(state.motor_rpm)
    if not np.isfinite(rpm):
        return None, ""
    return rpm, "" if limit is None else f"of {limit:,.0f} allowed"


def _controller_volts(one: Compared) -> Said:
    controller = one.build.controller
    limits = [v for v in (controller.max_voltage_v, controller.capacitor_voltage_v) if v]
    if not limits:
        return None, ""
    return min(limits), f"of {one.answer.pack_full_v:.3g} V straight off the charger"


def _kt(one: Compared) -> Said:
    kv = getattr(one.build.motor, "kv_rpm_per_v", None)
    return (None, "") if kv is None else (RPM_PER_RAD_S / kv, f"KV {kv:.4g}")


def _moment(moment: str, key: str) -> Callable[[Compared], Said]:
    def value(one: Compared) -> Said:
        found = next(item for item in one.answer.moments if item.id == moment)
        if not found.met and moment in ("climb", "cruise"):
            return None, "can't be held"
        return getattr(found.state, key), ""

    return value


def _stops(one: Compared) -> Said:
    stops = [verdict.title for verdict in one.answer.verdicts if verdict.severity == "stop"]
    return float(len(stops)), ". ".join(stops)


ASKED: tuple[Ask, ...] = (
    Ask("motor_kg", "motor", "Mass of one", "kg", "less", _part("motor.mass_kg")),
    Ask("motor_diameter", "motor", "Diameter", "mm", "less", _part("motor.diameter_mm")),
    Ask("motor_length", "motor", "Length", "mm", "less", _part("motor.length_mm")),
    Ask("torque_per_amp", "motor", "Torque for each amp", "N.m/A", None, _kt),
    Ask("lasting_torque", "motor", "Torque for long", "N.m", "more", _lasting_torque),
    Ask("start_torque", "motor", "Torque at a start", "N.m", "more", _start_torque),
    Ask("power", "motor", "Greatest power, all shafts", "W", "more", _greatest_power),
    Ask(
        "motor_cruise", "motor", "Efficiency at cruise, motor alone", "%", "more", of_life.cruising
    ),
    Ask("motor_best", "motor", "Its best, motor alone", "%", "more", of_life.best),
    Ask("ripple", "motor", "Torque ripple when slow", "%", "less", of_life.ripple),
    Ask(
        "brushes",
        "motor",
        "Brushes last",
        "h",
        "more",
        of_life.brushes,
        band=of_life.brushes_band,
    ),
    Ask("max_rpm", "motor", "Highest rpm", "rpm", "more", _part("motor.max_rpm")),
    Ask("free_rpm", "motor", "Wheels in the air, fresh pack", "rpm", None, _free_rpm),
    Ask("motor_v", "motor", "Highest volts", "V", "more", _part("motor.max_voltage_v")),
    Ask("controller_v", "controller", "Highest volts", "V", "more", _controller_volts),
    Ask(
        "controller_a",
        "controller",
        "Continuous",
        "A",
        "more",
        _part("controller.continuous_current_a"),
    ),
    Ask("price", "drive", "Motor with controller", "", "less", of_life.price),
    Ask("whole_price", "drive", "Price of all of it", "", "less", of_trip.whole_price),
    Ask(
        "life_cost",
        "drive",
        "The same over the years",
        "",
        "less",
        of_life.cost,
        band=of_life.cost_band,
    ),
    Ask(
        "drive_kg",
        "drive",
        "Motor, controller and pack",
        "kg",
        "less",
        lambda one: (drive_kg(one.build), ""),
    ),
    Ask(
        "pack_wh",
        "drive",
        term("energy"),
        "Wh",
        "more",
        lambda one: (one.answer.pack_wh, f"{one.build.battery.series} cells in series"),
    ),
    Ask("reduction", "drive", term("gear_ratio"), ": 1", None, lambda one: (one.answer.ratio, "")),
    Ask(
        "top_speed",
        "ride",
        term("top_speed"),
        "km/h",
        "more",
        _figure("top_speed_kmh"),
        "top_speed_kmh",
    ),
    Ask("climb", "ride", term("climb"), "km/h", "more", _figure("climb_kmh"), "climb_kmh"),
    Ask("launch", "ride", term("acceleration"), "s", "less", _figure("launch_s"), "launch_s"),
    Ask(
        "thrust_to_weight",
        "ride",
        term("thrust_to_weight"),
        "",
        "more",
        _figure("thrust_to_weight"),
        "thrust_to_weight",
    ),
    Ask(
        "climb_rate", "ride", term("climb_rate"), "m/s up", "more", _figure("climb_ms"), "climb_ms"
    ),
    Ask(
        "endurance",
        "ride",
        term("endurance"),
        "min",
        "more",
        _figure("endurance_min"),
        "endurance_min",
    ),
    Ask("range", "ride", term("range"), "km", "more", _figure("range_km"), "range_km"),
    Ask("trip_wh_km", "ride", "Over a trip with its hill", "Wh/km", "less", of_trip.wh_per_km),
    Ask("trip_back", "ride", "Won back by braking there", "%", "more", of_trip.won_back),
    Ask("trip_brakes", "ride", "Left to the brakes there", "Wh", "less", of_trip.left_to_brakes),
    Ask(
        "cruise_a",
        "ride",
        "Pack amps at cruise",
        "A",
        "less",
        _moment("cruise", "battery_current_a"),
    ),
    Ask(
        "climb_motor_a",
        "ride",
        "Motor amps on the hill",
        "A",
        None,
        _moment("climb", "motor_current_a"),
    ),
    Ask(
        "motor_peak", "ride", "Most motor amps", "A", None, _figure("motor_peak_a"), "motor_peak_a"
    ),
    Ask("pack_peak", "ride", "Most pack amps", "A", "less", _figure("pack_peak_a"), "pack_peak_a"),
    Ask(
        "winding", "ride", "Winding after the hill", "C", "less", _figure("winding_c"), "winding_c"
    ),
    Ask("case", "ride", "Case after the hill", "C", "less", _figure("case_c"), "case_c"),
    Ask("stops", "ride", "Limits passed", "", "less", _stops),
)

IN_AIR = {
    "free_rpm": "Propeller off, fresh pack",
    "climb_motor_a": "Motor amps on the climb",
    "winding": "Winding after the climb",
    "case": "Case after the climb",
}
"""What rows are called that have other words for wheels."""
