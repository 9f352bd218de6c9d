"""Rows of a logger: a course is ridden by every guess; free riding by the speeds it held."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import scalar
from powertrain.compile.build import CompiledBuild
from powertrain.documents.build import Build
from powertrain.documents.log import LoggedRun, Telemetry
from powertrain.documents.run import Ride, Run
from powertrain.doubt.draws import Drawn
from powertrain.drive import fed
from powertrain.operating.steady import steady
from powertrain.runs.pack import PackInTime
from powertrain.runs.ride import ride
from powertrain.stated import Stated
from powertrain.telemetry.find import held_stretches
from powertrain.units import kmh_from_mps, mps_from_kmh

Numbers = NDArray[np.float64]

COMPARED = {
    "motor_rpm": ("motor_rpm", 1.0),
    "motor_current_a": ("motor_current_a", 1.0),
    "battery_current_a": ("battery_current_a", 1.0),
    "battery_voltage_v": ("battery_voltage_v", 1.0),
    "soc_pct": ("charge", 100.0),
    "winding_c": ("winding_c", 1.0),
    "case_c": ("case_c", 1.0),
    "controller_c": ("controller_c", 1.0),
    "pack_c": ("pack_c", 1.0),
}
"""Columns that are held against what is ridden: outputs of a step, and times what."""

EFFECTIVE = 60.0
"""Readings that a column counts for at the most: rows of a logger follow one another, and what the
engine leaves out does, too."""

MOST_ROWS = 4000
"""Rows that are looked at; the others lie evenly between them."""

STEP_S = 0.5

IN_WINDOWS = ("battery_current_a", "battery_voltage_v", "motor_current_a", "motor_rpm")
MOST_WINDOWS = 40
FOLLOWS_S = 2.0
LEAST_KMH = 3.0

ASKED = ("t_s", "mps")


def rows_by_column(seen: Telemetry) -> tuple[Numbers, dict[str, Numbers]]:
    """Return times and columns of the rows that are looked at, in order of time; NaN for gaps."""
    rows = [row for row in seen.rows if "time_s" in row]
    rows.sort(key=lambda row: row["time_s"])
    step = max(len(rows) // MOST_ROWS, 1)
    some = rows[::step]
    times = np.array([row["time_s"] for row in some], float)
    names = {name for row in some for name in row} - {"time_s"}
    columns = {
        name: np.array([row.get(name, np.nan) for row in some], float) for name in sorted(names)
    }
    return times, columns


@dataclass(frozen=True)
class Window:
    """A stretch of a logger's rows in which a speed was held: means, and how far each is off."""

    means: dict[str, float]
    errors: dict[str, float]
    """Standard deviations of the means, as the rows themselves scatter."""
    used_ah: float
    """Amp-hours that had left the pack by its middle; nought where nothing read them."""


def windows_of(seen: Telemetry) -> list[Window]:
    """Return the stretches in which a speed was held; of them the engine can tell all by itself.

    Between them a rider pushes and brakes as nobody wrote down.
    """
    times, columns = rows_by_column(seen)
    speeds = columns.get("speed_kmh")
    if speeds is None or len(times) < 2:
        return []
    used = _used_ah(times, columns.get("battery_current_a"))
    found = []
    for first, last in held_stretches(times, speeds):
        some = slice(first, last + 1)
        lasts = float(times[last] - times[first])
        means, errors = {}, {}
        for name, values in columns.items():
            own = values[some][np.isfinite(values[some])]
            if len(own) >= 3:
                means[name] = float(own.mean())
                # Scatter follows itself over some seconds: no more looks count than there are.
                looks = max(min(len(own), lasts / FOLLOWS_S), 1.0)
                errors[name] = float(own.std()) / np.sqrt(looks)
        if means.get("speed_kmh", 0.0) > LEAST_KMH:
            found.append(Window(means, errors, float(used[(first + last) // 2])))
    found.sort(key=lambda one: -one.means["speed_kmh"])
    return found[:: max(len(found) // MOST_WINDOWS, 1)][:MOST_WINDOWS]


def _used_ah(times: Numbers, amps: Numbers | None) -> Numbers:
    if amps is None:
        return np.zeros(len(times))
    between = np.where(np.isfinite(amps[1:]), amps[1:], 0.0) * np.diff(times)
    return np.append(0.0, np.cumsum(between)) / 3600


def held_rows(
    said: Stated, compiled: CompiledBuild, run: LoggedRun, seen: Telemetry
) -> dict[str, Numbers]:
    """Return what the logger should have read in each window, shape (guesses, windows).

    The pack rests lower the more of its charge has left it: by the chemistry's curve through the
    volts at which the run began, and the amp-hours that the logger counted.
    """
    begins = run.start.soc_pct / 100
    pack = PackInTime.of(said, compiled, begins)
    drive, rests_v = compiled.drive, pack.volts.volts(scalar(begins))
    told: dict[str, list[Any]] = {name: [] for name in IN_WINDOWS}
    for window in windows_of(seen):
        speed = scalar(mps_from_kmh(window.means["speed_kmh"]))
        left = np.maximum(begins - window.used_ah / pack.capacity_ah, 0.0)
        lower = pack.volts.volts(left) - rests_v
        by_then = replace(drive.pack, open_circuit_v=drive.pack.open_circuit_v + lower)
        motor = fed(drive.motor, by_then, drive.controller)
        then = replace(drive, pack=by_then, motor=motor)
        state = steady(then, speed, scalar(window.means.get("grade_pct", 0.0)))
        for name in IN_WINDOWS:
            told[name].append(getattr(state, name))
    return {
        name: np.stack(np.broadcast_arrays(*values), axis=-1)
        for name, values in told.items()
        if values
    }


def ridden_rows(build: Build, run: LoggedRun, seen: Telemetry, drawn: Drawn) -> dict[str, Numbers]:
    """Return what the logger should have read in each row of a course, shape (guesses, rows)."""
    times, columns = rows_by_column(seen)
    compared = [name for name in columns if name in COMPARED]
    if "speed_kmh" in columns:
        compared.append("speed_kmh")
    if seen.course is None or not compared:
        return {}
    course = seen.course.model_dump(mode="json", exclude_unset=True)
    plain = Ride.model_validate({"format": "young-torrent.run/1", "course": course})
    asked = Run(build, plain.model_copy(update={"start": run.start}))
    outputs = tuple(COMPARED[name][0] for name in compared if name in COMPARED)
    found = ride(asked, drawn=drawn, step_s=STEP_S, watch=(*ASKED, *dict.fromkeys(outputs)))
    told: dict[str, Numbers] = {}
    ends = found.watched["t_s"]
    for name in compared:
        if name == "speed_kmh":
            values = kmh_from_mps(found.watched["mps"])
        else:
            output, factor = COMPARED[name]
            values = factor * found.watched[output]
        told[name] = np.stack(
            [
                np.interp(times, ends[:, guess], values[:, guess], right=np.nan)
                for guess in range(values.shape[1])
            ]
        )
    return told
