"""A hidden vehicle, drawn from the tolerances of a build, and what is read of it on a test day."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from powertrain.arrays import scalar
from powertrain.compile.build import compile_build
from powertrain.documents.build import Build
from powertrain.documents.log import FORMAT, Instrument
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.run import Run
from powertrain.doubt.draws import Doubt, drawn_of
from powertrain.drive import Drive
from powertrain.errors import Refusal
from powertrain.instruments.tools import TOOLS
from powertrain.operating.free import free_running
from powertrain.operating.launch import launch
from powertrain.operating.top_speed import top_speed
from powertrain.runs.answer import COLUMNS, figures_of, rows_of
from powertrain.runs.ride import Ridden, ride
from powertrain.runs.starts import as_it_starts
from powertrain.units import kmh_from_mps, mps_from_kmh

MOST_OFF = 3.0
"""Standard deviations beyond which no hidden vehicle lies."""

LAUNCH_SHARE = 0.6
"""A start is timed to such a share of the top speed, where the course is no start."""

MEMORY_ROWS = 600
"""The logger in the controller holds so many; then it keeps its last, and says so when read."""

LOGGED_S = 1.0
LOGGED: tuple[tuple[str, Instrument], ...] = (
    ("speed_kmh", "satellite"),
    ("motor_rpm", "tachometer"),
    ("motor_current_a", "logger"),
    ("battery_current_a", "logger"),
    ("battery_voltage_v", "logger"),
    ("controller_c", "logger"),
)
"""Columns of the logger, and what reads them."""


@dataclass(frozen=True)
class Hidden:
    """The vehicle that nobody sees; `truth` is every value that differs, by document path."""

    build: Build
    truth: dict[str, float]


def hidden_of(build: Build, seed: int) -> Hidden:
    """Return a vehicle drawn from the tolerances of a build; the same for the same seed."""
    chance = np.random.default_rng(seed)
    doubt = Doubt.of(build)
    deviates = np.clip(chance.normal(size=(1, len(doubt.inputs))), -MOST_OFF, MOST_OFF)
    drawn = drawn_of(build, doubt, deviates).columns
    # What stands in no document, an assumed grip or estimated heat data, stays as it is taken.
    truth = {path: float(values[0]) for path, values in drawn.items()}
    document = build.model_dump(mode="json", exclude_unset=True)
    return Hidden(check_build(changed(document, truth)), truth)


@dataclass(frozen=True)
class Day:
    """What the instruments say: a log document, the logger's table, and what lies behind."""

    log: dict[str, Any]
    rows: list[dict[str, float]]
    truth: dict[str, float]
    run: Run
    ridden: Ridden


def day_of(run: Run, seed: int, *, cleared: bool = True, day: int = 1) -> Day:
    """Return a run of a hidden vehicle as the instruments read it on one of several days.

    A logger that was not cleared before is full, and records nothing; that is said in the note.

    Raises
    ------
    Refusal
        If the seed is below nought, or the vehicle drawn can't be ridden.
    """
    if seed < 0:
        raise Refusal("seed", "must be a whole number from 0")
    hidden = hidden_of(run.build, seed)
    chance = np.random.default_rng([seed, day])
    own = Run(hidden.build, run.ride)
    ridden = ride(own)
    rows = list(_logged(own, ridden, chance)) if cleared else []
    conditions = run.build.conditions
    observations = [
        *_standing(own, chance),
        *_driven(own, chance),
        *_trip(own, ridden, chance),
    ]
    note = f"{run.ride.name}: read by simulated instruments."
    if not cleared:
        note += " The logger was full from the last time and recorded nothing."
    logged = {
        "id": f"seed-{seed}",
        "note": note,
        "conditions": {"ambient_c": conditions.ambient_c},
        "start": run.ride.start.model_dump(mode="json", exclude_unset=True),
        "changes": {},
        "observations": observations,
    }
    log = {"format": FORMAT, "name": f"Test day of {run.build.name}", "runs": [logged]}
    return Day(log, rows, hidden.truth, own, ridden)


def _reading(
    chance: np.random.Generator, instrument: Instrument, key: str, value: float
) -> dict[str, float]:
    tool = TOOLS[instrument]
    return {key: tool.reads(value, chance), f"{key}_tolerance": tool.tolerance(value)}


def _starts(run: Run) -> Drive:
    """Return the drive as it starts the run."""
    return as_it_starts(run.build, compile_build(run.build), run.ride.start).drive


def _standing(run: Run, chance: np.random.Generator) -> Iterator[dict[str, Any]]:
    """Yield what is read before riding: a turn of the wheel, and the wheels in the air."""
    wheel = run.build.wheel
    if wheel is not None:
        rolls = _reading(chance, "tape", "rolling_circumference_mm", wheel.rolling_circumference_mm)
        yield {"kind": "roll_out", "instrument": "tape", **rolls}
    drive = _starts(run)
    if drive.motor.races_unloaded:
        return
    free = free_running(drive).now
    yield {
        "kind": "free",
        **_reading(chance, "tachometer", "motor_rpm", float(free.motor_rpm)),
        **_reading(chance, "watt_meter", "battery_voltage_v", float(free.battery_voltage_v)),
        **_reading(chance, "watt_meter", "battery_current_a", float(free.battery_current_a)),
    }


def _driven(run: Run, chance: np.random.Generator) -> Iterator[dict[str, Any]]:
    """Yield the top speed on the level, and a timed start."""
    drive = _starts(run)
    top = top_speed(drive, drive.load.usual)
    kmh = float(kmh_from_mps(top.speed_mps))
    if not math.isfinite(kmh) or kmh <= 0:
        return
    yield {
        "kind": "top_speed",
        **_reading(chance, "satellite", "speed_kmh", kmh),
        **_reading(chance, "clamp", "battery_current_a", float(top.battery_current_a)),
        **_reading(chance, "watt_meter", "battery_voltage_v", float(top.battery_voltage_v)),
    }
    to_kmh = float(f"{LAUNCH_SHARE * kmh:.2g}")
    timed = launch(drive, scalar(mps_from_kmh(to_kmh)))
    if math.isfinite(float(timed.time_s)):
        reading = _reading(chance, "stopwatch", "time_s", float(timed.time_s))
        yield {"kind": "launch", "instrument": "stopwatch", "to_kmh": to_kmh, **reading}


def _trip(run: Run, ridden: Ridden, chance: np.random.Generator) -> Iterator[dict[str, Any]]:
    """Yield what the watt meter and the satellite say of the course."""
    told = {name: float(values[0]) for name, values in figures_of(run, ridden).items()}
    if told["distance_m"] <= 0:
        return
    way_km = told["distance_m"] / 1000
    yield {
        "kind": "trip",
        "course": run.ride.course.model_dump(mode="json", exclude_unset=True),
        "distance_km": round(way_km * (1 + 0.002 * float(chance.normal())), 4),
        "distance_km_tolerance": 0.003 * way_km,
        **_reading(chance, "watt_meter", "energy_wh", told["energy_wh"]),
    }


def _logged(run: Run, ridden: Ridden, chance: np.random.Generator) -> Iterator[dict[str, float]]:
    """Yield the last rows that the logger's memory holds, one a second."""
    rows = rows_of(run, ridden)
    times = rows["time_s"]
    wanted = np.arange(0.0, times[-1] + 1e-9, LOGGED_S)
    places = np.minimum(np.searchsorted(times, wanted - 1e-9), len(times) - 1)
    for place in places[-MEMORY_ROWS:]:
        row = {"time_s": float(times[place])}
        for name, instrument in LOGGED:
            row[name] = TOOLS[instrument].reads(float(rows[name][place]), chance)
        yield row


LOGGER_COLUMNS = tuple(name for name in COLUMNS if name in {"time_s", *dict(LOGGED)})
