"""Rows of a logger: the ride that they tell of is ridden by every guess, and held against them."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.documents.build import Build
from powertrain.documents.log import LoggedRun, Telemetry
from powertrain.documents.run import Ride, Run
from powertrain.doubt.draws import Drawn
from powertrain.runs.ride import ride
from powertrain.units import kmh_from_mps

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
SMOOTHED_S = 1.0

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


def course_of(seen: Telemetry) -> dict[str, Any] | None:
    """Return the course of a logger's rows: the one that is said, or the speeds that it read."""
    if seen.course is not None:
        return seen.course.model_dump(mode="json", exclude_unset=True)
    times, columns = rows_by_column(seen)
    speeds = columns.get("speed_kmh")
    if speeds is None or len(times) < 2:
        return None
    known = np.isfinite(speeds)
    if known.sum() < 2 or times[-1] <= times[0]:
        return None
    from scipy.ndimage import gaussian_filter1d

    times, speeds = times[known], speeds[known]
    apart = float(np.median(np.diff(times))) or 1.0
    smooth = np.maximum(gaussian_filter1d(speeds, max(SMOOTHED_S / max(apart, 1e-3), 0.1)), 0.0)
    grade = columns.get("grade_pct")
    slope = 0.0 if grade is None else float(np.nanmean(grade))
    points = [
        {"t_s": float(at - times[0]), "speed_kmh": float(speed)}
        for at, speed in zip(times, smooth, strict=True)
    ]
    return {"kind": "speed", "points": points, "grade_pct": slope if np.isfinite(slope) else 0.0}


def ridden_rows(build: Build, run: LoggedRun, seen: Telemetry, drawn: Drawn) -> dict[str, Numbers]:
    """Return what the logger should have read in each row, shape (guesses, rows), by column."""
    course = course_of(seen)
    times, columns = rows_by_column(seen)
    compared = [name for name in columns if name in COMPARED]
    if seen.course is not None and "speed_kmh" in columns:
        compared.append("speed_kmh")
    if course is None or not compared:
        return {}
    plain = Ride.model_validate({"format": "young-torrent.run/1", "course": course})
    asked = Run(build, plain.model_copy(update={"start": run.start}))
    outputs = tuple(COMPARED[name][0] for name in compared if name in COMPARED)
    found = ride(asked, drawn=drawn, step_s=STEP_S, watch=(*ASKED, *dict.fromkeys(outputs)))
    at = times - (times[0] if seen.course is None else 0.0)
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
                np.interp(at, ends[:, guess], values[:, guess], right=np.nan)
                for guess in range(values.shape[1])
            ]
        )
    return told
