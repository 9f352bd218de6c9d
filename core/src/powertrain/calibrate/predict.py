"""What the engine says each instrument should have read, for many guesses of the truth at once."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import scalar
from powertrain.calibrate.coast import coasted_kmh
from powertrain.calibrate.riding import held_rows, ridden_rows
from powertrain.compile.build import CompiledBuild, compile_build
from powertrain.documents.build import Build
from powertrain.documents.log import (
    CoastDown,
    Free,
    Launch,
    Log,
    LoggedRun,
    Observation,
    RollOut,
    Static,
    Steady,
    Telemetry,
    Temperature,
    TopSpeed,
    Trip,
)
from powertrain.documents.paths import changed, number_at
from powertrain.documents.reading import check_build
from powertrain.documents.run import Ride, Run
from powertrain.doubt.draws import DENSITY, Doubt, Drawn, drawn_of
from powertrain.doubt.tolerances import FRICTION, POWER, THRUST
from powertrain.drive import Drive
from powertrain.errors import Refusal
from powertrain.heat.temperatures import after, flows_of
from powertrain.operating.free import free_running
from powertrain.operating.in_air import InAir, in_air
from powertrain.operating.launch import launch
from powertrain.operating.moments import moments_of
from powertrain.operating.state import State
from powertrain.operating.steady import energy_wh_per_km, steady
from powertrain.operating.top_speed import top_speed
from powertrain.runs.answer import figures_of
from powertrain.runs.ride import ride
from powertrain.runs.starts import as_it_starts
from powertrain.stated import Stated, tree_of
from powertrain.units import kmh_from_mps, mps_from_kmh

Numbers = NDArray[np.float64]

Key = tuple[int, str]
"""An observation's place in its run, and a field of it."""

TRIP_STEP_S = 0.25
"""Of a course: what it is off by is a hundredth of what any watt meter is."""

CONDITIONS = {
    "ambient_c": "conditions.ambient_c",
    "wind_mps": "conditions.headwind_mps",
    "altitude_m": "conditions.altitude_m",
}


@dataclass(frozen=True)
class AsRidden:
    """A build as it was in one run: with what was changed, in the air of that day."""

    run: LoggedRun
    build: Build
    exact: frozenset[str]
    """Doubtful inputs that the run's changes say exactly."""

    @classmethod
    def of(cls, build: Build, run: LoggedRun, place: int) -> "AsRidden":
        """Return the build of a run.

        Raises
        ------
        Refusal
            Naming the run, if its changes make no build.
        """
        conditions = {
            path: getattr(run.conditions, key)
            for key, path in CONDITIONS.items()
            if getattr(run.conditions, key) is not None
        }
        document = build.model_dump(mode="json", exclude_unset=True)
        try:
            document = changed(document, {**conditions, **run.changes})
            built = check_build(document)
        except Refusal as refusal:
            where = refusal.where
            raise Refusal(f"runs.{place}.changes.{where}".rstrip("."), refusal.what) from None
        return cls(run, built, frozenset(run.changes))

    def drawn(self, doubt: Doubt, deviates: Numbers) -> Drawn:
        """Return this build's doubtful inputs at some standard deviations, a row a guess."""
        kept = [
            place
            for place, item in enumerate(doubt.inputs)
            if item.path not in self.exact and self._has(item.path)
        ]
        some = Doubt(tuple(doubt.inputs[place] for place in kept), doubt.deviates)
        return drawn_of(self.build, some, deviates[:, kept])

    def _has(self, path: str) -> bool:
        if path.startswith("motor.thermal.") or path in (FRICTION, DENSITY, THRUST, POWER):
            return True
        return number_at(self.build, path) is not None

    def compiled(self, drawn: Drawn) -> CompiledBuild:
        """Return it in numbers, for every guess, as it starts the run."""
        compiled = drawn.applied(compile_build(self.build, drawn.columns))
        return as_it_starts(self.build, compiled, self.run.start)


class Predictor:
    """What a log's instruments should have read; `predict` is asked of many guesses at once."""

    def __init__(self, build: Build, log: Log, doubt: Doubt) -> None:
        """Check that every run of the log can be one of the build; see `AsRidden.of`."""
        self.doubt = doubt
        self.runs = [AsRidden.of(build, run, place) for place, run in enumerate(log.runs)]

    def predict(
        self, place: int, deviates: Numbers, begins: dict[int, Numbers]
    ) -> dict[Key, Numbers]:
        """Return what one run's instruments should read.

        Parameters
        ----------
        deviates : array, shape (guesses, inputs)
        begins : dict
            km/h at which each coast-down of the run began, by its place, shape (guesses,).

        Returns
        -------
        dict
            Arrays of shape (guesses,), of a series (guesses, samples); NaN where the vehicle of a
            guess can't do it.
        """
        ridden = self.runs[place]
        count = len(deviates)
        drawn = ridden.drawn(self.doubt, deviates)
        asked = _Asked(ridden, drawn, count)
        found: dict[Key, Numbers] = {}
        for at, observation in enumerate(ridden.run.observations):
            found |= {
                (at, field): values
                for field, values in asked.of(observation, begins.get(at)).items()
            }
        return found


class _Asked:
    """One run, asked about one observation after another; what several need is solved once."""

    def __init__(self, ridden: AsRidden, drawn: Drawn, count: int) -> None:
        self.ridden, self.drawn, self.count = ridden, drawn, count

    @cached_property
    def compiled(self) -> CompiledBuild:
        return self.ridden.compiled(self.drawn)

    @property
    def drive(self) -> Drive:
        return self.compiled.drive

    def of(self, observation: Observation, begins: Numbers | None) -> dict[str, Numbers]:
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            told = dict(self._told(observation, begins))
        return {name: self._whole(values) for name, values in told.items()}

    def _whole(self, values: Any) -> Numbers:
        plain = np.asarray(values, float)
        if plain.ndim < 2:
            plain = np.broadcast_to(plain, (self.count,))
        return np.where(np.isfinite(plain), plain, np.nan)

    def _told(self, seen: Observation, begins: Numbers | None) -> Iterator[tuple[str, Any]]:
        air = in_air(self.drive)
        if isinstance(seen, Free):
            yield from _free(self.drive)
        elif isinstance(seen, Static):
            if air is not None:
                yield from _standing(air.standing())
        elif air is not None and not isinstance(seen, Temperature):
            yield from _in_air(air, seen)
        elif isinstance(seen, TopSpeed):
            yield from _state(top_speed(self.drive, scalar(seen.grade_pct)))
        elif isinstance(seen, Steady):
            speed = scalar(mps_from_kmh(seen.speed_kmh))
            yield from _state(steady(self.drive, speed, scalar(seen.grade_pct)))
        elif isinstance(seen, Launch):
            yield from self._launch(seen)
        elif isinstance(seen, CoastDown):
            at_s = [sample.t_s for sample in seen.samples]
            first = np.full(self.count, seen.samples[0].speed_kmh) if begins is None else begins
            yield "speed_kmh", coasted_kmh(self.drive, first, np.array(at_s), seen.grade_pct)
        elif isinstance(seen, Temperature):
            yield from self._temperature(seen)
        elif isinstance(seen, Trip):
            yield from self._trip(seen)
        elif isinstance(seen, RollOut):
            yield "rolling_circumference_mm", 2000 * np.pi * self.drive.load.travel_m
        elif isinstance(seen, Telemetry):
            if seen.course is None:
                said = Stated(self.ridden.build, tree_of(self.drawn.columns))
                yield from held_rows(said, self.compiled, self.ridden.run, seen).items()
                return
            yield from ridden_rows(self.ridden.build, self.ridden.run, seen, self.drawn).items()

    def _launch(self, seen: Launch) -> Iterator[tuple[str, Any]]:
        if seen.grade_pct == 0:
            run = launch(self.drive, scalar(mps_from_kmh(seen.to_kmh)))
            yield "time_s", run.time_s
            yield "distance_m", run.distance_m
            return
        course = {
            "kind": "standing",
            "until_kmh": seen.to_kmh,
            "until_s": 600.0,
            "grade_pct": seen.grade_pct,
        }
        ridden = ride(self._run(course), drawn=self.drawn, step_s=0.05)
        there = ridden.most_mps >= mps_from_kmh(seen.to_kmh) * (1 - 1e-6)
        yield "time_s", np.where(there, ridden.t_s, np.nan)
        yield "distance_m", np.where(there, ridden.at_m, np.nan)

    def _temperature(self, seen: Temperature) -> Iterator[tuple[str, Any]]:
        drive = self.drive
        if seen.moment is not None:
            state = getattr(moments_of(self.compiled.settings, drive), seen.moment).state
        elif seen.speed_kmh is not None:
            state = steady(drive, scalar(mps_from_kmh(seen.speed_kmh)), scalar(seen.grade_pct))
        else:
            state = top_speed(drive, scalar(seen.grade_pct))
        flows = flows_of(drive, state)
        reached = after(self.compiled.thermal, flows, scalar(seen.after_s))
        yield from ((f"{node}_c", value) for node, value in reached.items())

    def _trip(self, seen: Trip) -> Iterator[tuple[str, Any]]:
        if seen.course is not None:
            run = self._run(seen.course.model_dump(mode="json", exclude_unset=True))
            told = figures_of(run, ride(run, drawn=self.drawn, step_s=TRIP_STEP_S))
            yield "distance_km", told["distance_m"] / 1000
            yield "energy_wh", told["energy_wh"]
            yield "soc_end_pct", told["soc_end_pct"]
            return
        if seen.speed_kmh is None or seen.distance_km is None:
            return
        state = steady(self.drive, scalar(mps_from_kmh(seen.speed_kmh)), scalar(0.0))
        yield "energy_wh", energy_wh_per_km(state) * seen.distance_km
        hours = seen.distance_km / seen.speed_kmh
        share = self.ridden.build.battery.capacity_share or 1.0
        used = state.battery_current_a * hours / (self.drive.pack.capacity_ah * share)
        yield "soc_end_pct", self.ridden.run.start.soc_pct - 100 * used

    def _run(self, course: dict[str, Any]) -> Run:
        plain = {"format": "young-torrent.run/1", "course": course}
        ridden = Ride.model_validate(plain)
        return Run(self.ridden.build, ridden.model_copy(update={"start": self.ridden.run.start}))


def _free(drive: Drive) -> Iterator[tuple[str, Any]]:
    state = free_running(drive).now
    yield "motor_rpm", state.motor_rpm
    yield "wheel_rpm", state.output_rad_s * 30 / np.pi
    yield "battery_voltage_v", state.battery_voltage_v
    yield "battery_current_a", state.battery_current_a


def _state(state: Any) -> Iterator[tuple[str, Any]]:
    moves = state.speed_mps > 0
    yield "speed_kmh", np.where(moves, kmh_from_mps(state.speed_mps), np.nan)
    for name in ("motor_rpm", "battery_current_a", "battery_voltage_v", "motor_current_a"):
        yield name, np.where(moves, getattr(state, name), np.nan)


def _standing(state: State) -> Iterator[tuple[str, Any]]:
    yield "thrust_n", state.force_n
    for name in ("motor_rpm", "battery_current_a", "battery_voltage_v", "motor_current_a"):
        yield name, getattr(state, name)


def _in_air(air: InAir, seen: Observation) -> Iterator[tuple[str, Any]]:
    """Yield what a craft is read at on the level; what is of wheels it has none of."""
    if isinstance(seen, TopSpeed):
        speed, there = air.top(scalar(0.0))
        state = air.at_full_throttle(speed)
        yield from ((key, np.where(there, value, np.nan)) for key, value in _state(state))
    elif isinstance(seen, Steady):
        speed = mps_from_kmh(seen.speed_kmh) + air.load.headwind_mps
        state, holds = air.holding(np.asarray(speed), scalar(0.0))
        yield from ((key, np.where(holds, value, np.nan)) for key, value in _state(state))
