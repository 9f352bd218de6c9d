"""What a run is told as: figures, events, the ledger in watt-hours, bands, and rows over time."""

import csv
from collections.abc import Iterator
from typing import Literal, TextIO

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.documents.run import Run
from powertrain.doubt.bands import bands_of
from powertrain.doubt.draws import DRAWS, Doubt, drawn_of
from powertrain.heat.limits import NODES, NodeId
from powertrain.plain import limit_word, number
from powertrain.runs.ride import Ridden, ride
from powertrain.runs.step_length import STEP_S, draw_step_of
from powertrain.units import kmh_from_mps

Numbers = NDArray[np.float64]

HOUR_S = 3600.0

EventKind = Literal["cut_off", "rollback", "over_limit", "burnt", "brakes", "empty", "cannot_climb"]

MOST_EVENTS = 500
"""Of one run; a road with more stops than that tells the first."""

FELT_W, FELT_SHARE = 1.0, 0.05
"""Watts in the brakes from which they are used, and part of the most that the drive puts down."""

APART_S = 1.0


class Event(BaseModel):
    """What happens on the way."""

    t_s: float
    distance_m: float
    kind: EventKind
    what: str


class Peaks(BaseModel):
    """The most of a ride; motor amps are of one motor."""

    motor_current_a: float
    battery_current_a: float
    winding_c: float
    case_c: float
    controller_c: float
    pack_c: float


class Least(BaseModel):
    """The least of a ride."""

    cell_voltage_v: float


class Rms(BaseModel):
    """Root of the mean square over the time."""

    motor_current_a: float
    battery_current_a: float


class Ledger(BaseModel):
    """Watt-hours: what left the cells is the sum of all others."""

    cells: float
    pack_heat: float
    controller_heat: float
    motor_heat: float
    auxiliaries: float
    gearing_heat: float
    tyres: float
    air: float
    climb: float
    kinetic: float
    brakes: float


class CraftLedger(Ledger):
    """Of a craft: what its propellers leave behind, and the water's drag, too."""

    wake: float
    blades: float
    water: float


class RunAnswer(BaseModel):
    """A run in figures; `bands` are by the name of a figure, empty without draws."""

    time_s: float
    distance_m: float
    mean_speed_kmh: float
    max_speed_kmh: float
    energy_wh: float
    regenerated_wh: float
    energy_wh_per_km: float | None
    soc_end_pct: float
    peaks: Peaks
    least: Least
    rms: Rms
    behind_s: float
    finished: bool
    ended_by: str
    events: list[Event]
    ledger_wh: CraftLedger | Ledger
    bands: dict[str, list[float | None]]
    cut_off_chance: float | None


def run_answer(
    run: Run,
    *,
    step_s: float = STEP_S,
    draws: int = 0,
    ridden: Ridden | None = None,
    many: Ridden | None = None,
) -> RunAnswer:
    """Return what a run comes to, with bands of so many draws of what is doubtful.

    `many` are those draws where they were ridden already.
    """
    found = ride(run, step_s=step_s) if ridden is None else ridden
    bands: dict[str, list[float | None]] = {}
    chance = None
    if many is None and draws > 0:
        many = ridden_draws(run, found, draws, step_s=step_s)
    if many is not None:
        bands = {
            name: [number(value) for value in bands_of(values)]
            for name, values in figures_of(run, many).items()
        }
        chance = float(np.mean(many.cut))
    one = {name: float(values[0]) for name, values in figures_of(run, found).items()}
    peaks = {key: one[f"peaks.{key}"] for key in Peaks.model_fields}
    ended = str(found.ended[0])
    distance = one["distance_m"]
    return RunAnswer(
        time_s=one["time_s"],
        distance_m=distance,
        mean_speed_kmh=one["mean_speed_kmh"],
        max_speed_kmh=one["max_speed_kmh"],
        energy_wh=one["energy_wh"],
        regenerated_wh=one["regenerated_wh"],
        energy_wh_per_km=number(one["energy_wh_per_km"]) if distance > 0 else None,
        soc_end_pct=one["soc_end_pct"],
        peaks=Peaks(**peaks),
        least=Least(cell_voltage_v=one["least.cell_voltage_v"]),
        rms=Rms(**{key: one[f"rms.{key}"] for key in Rms.model_fields}),
        behind_s=one["behind_s"],
        finished=ended == "course",
        ended_by=ended,
        events=list(_events(run, found)),
        ledger_wh=_ledger(found),
        bands=bands,
        cut_off_chance=chance,
    )


def ridden_draws(run: Run, found: Ridden, draws: int, *, step_s: float = STEP_S) -> Ridden:
    """Return a ride in so many draws of what is doubtful in its build.

    Draws take longer steps: their bands are much wider than what that is off.
    """
    doubt = Doubt.of(run.build)
    drawn = drawn_of(run.build, doubt, doubt.deviates[: min(draws, DRAWS)])
    longer_s = draw_step_of(run, float(found.t_s[0]))
    return ride(run, step_s=max(step_s, longer_s), drawn=drawn)


def figures_of(run: Run, ridden: Ridden) -> dict[str, Numbers]:
    """Return every figure of a ride by its name in the answer, arrays over variants."""
    series = run.build.battery.series
    time = ridden.t_s
    energy = ridden.totals["terminals_w"] / HOUR_S
    with np.errstate(divide="ignore", invalid="ignore"):
        mean = np.where(time > 0, kmh_from_mps(ridden.at_m / time), 0.0)
        per_km = np.where(ridden.at_m > 0, energy / (ridden.at_m / 1000), np.nan)
        rms = {
            f"rms.{name}": np.sqrt(np.where(time > 0, sums / time, 0.0))
            for name, sums in ridden.squares.items()
        }
    return {
        "time_s": time,
        "distance_m": ridden.at_m,
        "mean_speed_kmh": mean,
        "max_speed_kmh": kmh_from_mps(ridden.most_mps),
        "energy_wh": energy,
        "regenerated_wh": ridden.back_ws / HOUR_S,
        "energy_wh_per_km": per_km,
        "soc_end_pct": 100 * ridden.ends["charge"],
        "peaks.motor_current_a": np.maximum(ridden.most["motor_current_a"], 0.0),
        "peaks.battery_current_a": np.maximum(ridden.most["battery_current_a"], 0.0),
        **{
            f"peaks.{key}_c": np.maximum(ridden.most[f"{key}_c"], _begins(run, key))
            for key in NODES
        },
        "least.cell_voltage_v": ridden.least["battery_voltage_v"] / series,
        **rms,
        "behind_s": ridden.behind_s,
    }


def _begins(run: Run, node: NodeId) -> float:
    stated = getattr(run.ride.start, f"{node}_c")
    return float(run.build.conditions.ambient_c if stated is None else stated)


def _ledger(ridden: Ridden) -> Ledger:
    wh = {name: float(values[0]) / HOUR_S for name, values in ridden.totals.items()}
    parts = {
        "cells": wh["cells_w"],
        "pack_heat": wh["pack_heat_w"],
        "controller_heat": wh["controller_heat_w"],
        "motor_heat": wh["copper_heat_w"] + wh["brush_heat_w"] + wh["no_load_loss_w"],
        "auxiliaries": wh["auxiliaries_w"],
        "gearing_heat": wh["shaft_w"] - wh["output_w"],
        "tyres": wh["rolling_w"],
        "air": wh["air_w"],
        "climb": wh["climbing_w"],
        "kinetic": wh["kinetic_w"],
        "brakes": wh["brakes_w"],
    }
    if "wake_w" not in wh:
        return Ledger(**parts)
    own = {name: wh[f"{name}_w"] for name in ("wake", "blades", "water")}
    return CraftLedger(**parts, **own)


NODE_WORDS: dict[NodeId, str] = {
    "winding": "The winding",
    "case": "The motor's case",
    "controller": "The controller",
    "pack": "The pack",
}


def _events(run: Run, ridden: Ridden) -> Iterator[Event]:
    rows = ridden.rows
    assert rows is not None
    found: list[tuple[int, EventKind, str]] = []
    gives = rows["gives"] > 0.5
    charge = rows["charge"]
    cell_v = rows["battery_voltage_v"] / run.build.battery.series
    for at in _rises(~gives):
        if charge[at] <= 0:
            found.append((at, "empty", "The pack is empty."))
        else:
            say = f"Cut off: {cell_v[at]:.2f} V a cell with {100 * charge[at]:.0f} % left."
            found.append((at, "cut_off", say))
    rollback = run.build.controller.rollback
    if rollback is not None:
        for at in _rises(rows["controller_c"] > rollback.from_c):
            say = f"The controller gives less from {rollback.from_c:g} C on."
            found.append((at, "rollback", say))
    limits = ridden.compiled.limits
    for key in NODES:
        limit, burnt = float(limits.of(key)), float(limits.burnt_c(key))
        for at in _rises(rows[f"{key}_c"] > limit):
            found.append((at, "over_limit", f"{NODE_WORDS[key]} passes {limit:.0f} C."))
        for at in _rises(rows[f"{key}_c"] > burnt):
            found.append((at, "burnt", f"{NODE_WORDS[key]} is burnt at {burnt:.0f} C."))
    last_s = -np.inf
    # Standing on a slope is held by a brake, too, but nothing is lost in it.
    felt = max(FELT_W, FELT_SHARE * float(np.abs(rows["output_w"]).max()))
    # A craft has none: it is held back by a rudder, a flare, or whoever catches it.
    brakes = run.build.propeller is None
    for at in _rises(brakes & (rows["brakes_w"] > felt) & (rows["begin_mps"] > 0)):
        if rows["t_s"][at] - last_s > APART_S:
            found.append((at, "brakes", f"The brakes take {rows['brakes_w'][at]:.0f} W."))
        last_s = float(rows["t_s"][at])
    if str(ridden.ended[0]) == "cannot_climb":
        grade = rows["grade_pct"][-1]
        found.append((len(gives) - 1, "cannot_climb", f"It can't move on {grade:.0f} %."))
    found.sort(key=lambda one: one[0])
    for at, kind, what in found[:MOST_EVENTS]:
        yield Event(
            t_s=float(rows["t_s"][at]), distance_m=float(rows["at_m"][at]), kind=kind, what=what
        )


def _rises(holds: NDArray[np.bool_]) -> list[int]:
    """Return where something begins to hold."""
    before = np.append(False, holds[:-1])
    return [int(at) for at in np.flatnonzero(holds & ~before)]


COLUMNS = (
    "time_s",
    "distance_m",
    "speed_kmh",
    "asked_kmh",
    "grade_pct",
    "throttle_pct",
    "duty",
    "motor_rpm",
    "motor_current_a",
    "battery_current_a",
    "battery_voltage_v",
    "cell_voltage_v",
    "soc_pct",
    "winding_c",
    "case_c",
    "controller_c",
    "pack_c",
    "limited_by",
)
"""Of the table of a run; motor amps are of one motor."""

ROWS_APART_S = 0.1


def rows_of(run: Run, ridden: Ridden) -> dict[str, Numbers]:
    """Return the table of a run by column, from its first state to its last.

    Amps, volts and duty are those of the step that ends there, of the first state those of the
    first step.
    """
    rows = ridden.rows
    assert rows is not None
    start, begins = run.ride.start, rows["begin_mps"][:1]

    def first(value: float, name: str) -> Numbers:
        return np.append(value, rows[name])

    def of_steps(name: str) -> Numbers:
        return np.append(rows[name][:1], rows[name])

    volts = of_steps("battery_voltage_v")
    ratio = rows["motor_rpm"] / np.maximum(rows["speed_mps"], 1e-12)
    rpm = np.append(ratio[:1] * begins, np.where(rows["speed_mps"] > 0, ratio * rows["mps"], 0.0))
    if run.build.propeller is not None:
        # A propeller turns standing, too.
        rpm = of_steps("motor_rpm")
    return {
        "time_s": first(0.0, "t_s"),
        "distance_m": first(0.0, "at_m"),
        "speed_kmh": kmh_from_mps(np.append(begins, rows["mps"])),
        "asked_kmh": kmh_from_mps(np.append(rows["asked_mps"][:1] * 0 + begins, rows["asked_mps"])),
        "grade_pct": of_steps("grade_pct"),
        "throttle_pct": 100 * of_steps("throttle"),
        "duty": of_steps("duty"),
        "motor_rpm": rpm,
        "motor_current_a": of_steps("motor_current_a"),
        "battery_current_a": of_steps("battery_current_a"),
        "battery_voltage_v": volts,
        "cell_voltage_v": volts / run.build.battery.series,
        "soc_pct": first(start.soc_pct, "charge") * np.append(1.0, np.full(len(rows["t_s"]), 100)),
        **{f"{key}_c": first(_begins(run, key), f"{key}_c") for key in NODES},
        "limited_by": of_steps("limited_by"),
    }


def write_csv(run: Run, ridden: Ridden, file: TextIO) -> None:
    """Write the table of a run, a row a step or every 0.1 s, whichever is longer."""
    rows = rows_of(run, ridden)
    writer = csv.writer(file, lineterminator="\n")
    writer.writerow(COLUMNS)
    times, last = rows["time_s"], len(rows["time_s"]) - 1
    next_s = 0.0
    for at in range(last + 1):
        if times[at] < next_s - 1e-9 and at != last:
            continue
        next_s = times[at] + ROWS_APART_S
        numbers = [_told(rows[name][at]) for name in COLUMNS[:-1]]
        writer.writerow([*numbers, limit_word(rows["limited_by"][at]) or ""])


def _told(value: float) -> str:
    return "" if not np.isfinite(value) else f"{value:.6g}"
