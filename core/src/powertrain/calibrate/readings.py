"""A log as single readings: what was read, with which doubt, in which run and observation."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from powertrain.documents.log import (
    CoastDown,
    Instrument,
    Log,
    LoggedRun,
    Observation,
    Telemetry,
)
from powertrain.doubt.draws import FOUR_IN_FIVE
from powertrain.errors import Refusal
from powertrain.instruments.tools import TOOLS, Tool

PER_CENT_CHARGE = Tool(5.0, 0.0, 1.0)
"""Charge left is read off volts; common practice, no source."""

ALONG_ROAD = Tool(0.0, 0.005, 0.001)
"""A way that was driven, by satellite or map; common practice, no source."""

SCALE = Tool(0.1, 0.03, 0.1)
"""A luggage scale; common practice, no source."""

LEAST_RPM = 1.0

USUAL: dict[str, tuple[Instrument | Tool, tuple[Instrument, ...]]] = {
    "speed_kmh": ("satellite", ("satellite", "logger", "hand")),
    "motor_rpm": ("tachometer", ("tachometer", "logger")),
    "wheel_rpm": ("tachometer", ("tachometer", "logger")),
    "battery_voltage_v": ("watt_meter", ("watt_meter", "logger", "clamp")),
    "battery_current_a": ("clamp", ("clamp", "watt_meter", "logger")),
    "motor_current_a": ("clamp", ("clamp", "logger")),
    "time_s": ("stopwatch", ("stopwatch", "logger")),
    "distance_m": (ALONG_ROAD, ("logger",)),
    "distance_km": (ALONG_ROAD, ("logger",)),
    "energy_wh": ("watt_meter", ("watt_meter", "logger")),
    "soc_end_pct": (PER_CENT_CHARGE, ("logger",)),
    "rolling_circumference_mm": ("tape", ("tape",)),
    "thrust_n": (SCALE, ()),
    "winding_c": ("infrared", ("infrared", "hand")),
    "case_c": ("infrared", ("infrared", "hand")),
    "controller_c": ("infrared", ("infrared", "hand", "logger")),
    "pack_c": ("infrared", ("infrared", "hand", "logger")),
}
"""What reads each figure where nothing is said, and which instruments can."""

TEMPERATURES = ("winding_c", "case_c", "controller_c", "pack_c")
LEAST_C = 2.0
"""A logger's share of a temperature would be nothing at nought degrees."""


@dataclass(frozen=True)
class Reading:
    """One figure that was read: `sigma` is its standard deviation.

    `run` and `observation` are places in the log, `sample` that in a series.
    """

    run: int
    run_id: str
    observation: int
    kind: str
    field: str
    measured: float
    tolerance: float
    sample: int = -1
    weight: float = 1.0
    """How many readings it counts for; less than one in a series that follows itself."""

    @property
    def sigma(self) -> float:
        """Return one standard deviation, as the fit counts it."""
        return self.tolerance / FOUR_IN_FIVE / math.sqrt(self.weight)


MOST_SAMPLES = 120
"""Of a coast-down that are looked at; the others lie evenly between them."""


def readings_of(log: Log) -> list[Reading]:
    """Return every reading of a log but those of telemetry, in order."""
    return [
        reading
        for place, run in enumerate(log.runs)
        for at, observation in enumerate(run.observations)
        for reading in _of(place, run, at, observation)
    ]


def _of(place: int, run: LoggedRun, at: int, observation: Observation) -> Iterator[Reading]:
    if isinstance(observation, Telemetry):
        return
    if isinstance(observation, CoastDown):
        samples = observation.samples
        step = max(len(samples) // MOST_SAMPLES, 1)
        stated = observation.speed_kmh_tolerance
        for index in range(0, len(samples), step):
            read = samples[index].speed_kmh
            off = stated or _tolerance("speed_kmh", read, observation.instrument)
            yield Reading(place, run.id, at, "coast_down", "speed_kmh", read, off, index)
        return
    for field in USUAL:
        value = getattr(observation, field, None)
        if value is None or _is_where(observation, field):
            continue
        stated = getattr(observation, f"{field}_tolerance", None)
        off = stated or _tolerance(field, value, observation.instrument)
        yield Reading(place, run.id, at, observation.kind, field, float(value), float(off))


def _is_where(observation: Observation, field: str) -> bool:
    """Return whether a figure says where something was read, and was not read itself."""
    at = {
        "steady": ("speed_kmh",),
        "temperature": ("speed_kmh",),
        "trip": ("speed_kmh",)
        if getattr(observation, "course", None)
        else ("speed_kmh", "distance_km"),
    }
    return field in at.get(observation.kind, ())


def _tolerance(field: str, value: float, instrument: Instrument | None) -> float:
    usual, can = USUAL[field]
    tool = TOOLS[instrument] if instrument in can else usual
    found = (TOOLS[tool] if isinstance(tool, str) else tool).tolerance(value)
    if field in TEMPERATURES:
        return max(found, LEAST_C)
    return max(found, LEAST_RPM) if field.endswith("rpm") else found


def tolerance_of(field: str, value: float, instrument: Instrument | None) -> float:
    """Return within what a figure was read four times in five, where nothing is said."""
    return _tolerance(field, value, instrument)


def check_paths(log: Log) -> None:
    """Refuse what a log says that can't be taken by any build; a place for each."""
    for place, run in enumerate(log.runs):
        if not run.observations:
            raise Refusal(f"runs.{place}.observations", "is empty; take the run out")
