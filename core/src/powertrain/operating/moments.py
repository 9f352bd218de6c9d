"""The five moments at which a drive is looked at."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from powertrain.arrays import Array, pick, scalar
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.operating.free import free_running_full
from powertrain.operating.full_throttle import full_throttle, zero_current_speed_mps
from powertrain.operating.launch import Launch, launch
from powertrain.operating.limits import Limit
from powertrain.operating.state import State, state_at_full_throttle
from powertrain.operating.steady import can_hold, steady
from powertrain.operating.top_speed import at_top_speed, top_speed_mps
from powertrain.units import kmh_from_mps, mps_from_kmh

MomentId = Literal["launch", "climb", "cruise", "top_speed", "wheels_up"]

USUAL_GRADE_PCT = 8.0
"""The hill that is looked at when the document names none."""

CRUISE_SHARE = 0.6
"""An ordinary trip as a share of the top speed, when the document names no cruise."""

LAUNCH_SHARE = 0.5
"""Where a launch ends as a share of the top speed, when the document names no speed."""


@dataclass(frozen=True)
class Moment:
    """A drive at one moment.

    `target_kmh` and `grade_pct` say what was asked; `assumed` that the document left it open;
    `met` whether the drive does it. Where it does not, `state` is what it does instead.
    """

    id: MomentId
    state: State
    target_kmh: float | None
    grade_pct: float
    assumed: bool
    met: bool


@dataclass(frozen=True)
class Moments:
    """All five, with the launch as it runs from standstill.

    `tops` are the states at top speed on several grades, rising: the level, four hills spread
    over what the drive can push, and the document's own.
    """

    launch: Moment
    climb: Moment
    cruise: Moment
    top_speed: Moment
    wheels_up: Moment
    launch_run: Launch | None
    tops: State

    def all(self) -> tuple[Moment, ...]:
        """Return them in the order in which they are shown."""
        return (self.launch, self.climb, self.cruise, self.top_speed, self.wheels_up)


def moments_of(build: Build, drive: Drive) -> Moments:
    """Return the five moments of one build."""
    wanted_pct = build.moments.climb_grade_pct
    own_pct = USUAL_GRADE_PCT if wanted_pct is None else wanted_pct
    grades_pct = np.unique(np.append(_spread(drive), own_pct))
    tops = _tops(drive, grades_pct)
    flat = pick(tops, int(np.searchsorted(grades_pct, 0.0)))
    hill = pick(tops, int(np.searchsorted(grades_pct, own_pct)))
    top_kmh = float(kmh_from_mps(flat.speed_mps))
    launching, run = _launch(build, drive, top_kmh)
    return Moments(
        launch=launching,
        climb=_climb(build, drive, hill),
        cruise=_cruise(build, drive, flat, top_kmh),
        top_speed=Moment("top_speed", flat, None, 0.0, False, top_kmh > 0),
        wheels_up=Moment("wheels_up", free_running_full(drive), None, 0.0, False, True),
        launch_run=run,
        tops=tops,
    )


def _tops(drive: Drive, grades_pct: Array) -> State:
    """Return the states at top speed, or overrun where a descent has no top speed."""
    speeds_mps = top_speed_mps(drive, grades_pct)
    held_mps = np.where(np.isfinite(speeds_mps), speeds_mps, zero_current_speed_mps(drive))
    return at_top_speed(drive, held_mps, grades_pct)


GRADE_STEPS = (0.2, 0.5, 1.0, 2.0, 3.0, 4.0, 5.0, 8.0, 10.0, 15.0, 20.0, 25.0)
"""Grades people name; the step is taken that spreads four hills over the drive's push."""


def _spread(drive: Drive) -> Array:
    push_n = float(full_throttle(drive, scalar(0.0)).force_n)
    steepest_pct = 100 * max(push_n / float(drive.road.weight_n), 0.0)
    step = next((s for s in GRADE_STEPS if 4 * s >= 0.8 * steepest_pct), GRADE_STEPS[-1])
    return step * np.arange(5.0)


def _round_kmh(speed_kmh: float) -> float:
    """Return `speed_kmh` with two digits, as a person would name it."""
    return float(f"{speed_kmh:.2g}")


def _launch(build: Build, drive: Drive, top_kmh: float) -> tuple[Moment, Launch | None]:
    asked = build.moments.launch_to_kmh
    target_kmh = asked if asked is not None else _round_kmh(LAUNCH_SHARE * top_kmh)
    halfway_kmh = min(target_kmh, top_kmh) / 2
    state = state_at_full_throttle(drive, scalar(mps_from_kmh(halfway_kmh)), scalar(0.0))
    run = launch(drive, scalar(mps_from_kmh(target_kmh))) if target_kmh > 0 else None
    met = run is not None and bool(np.isfinite(run.time_s))
    return Moment("launch", state, target_kmh or None, 0.0, asked is None, met), run


def _climb(build: Build, drive: Drive, hill: State) -> Moment:
    speed_kmh, grade_pct = build.moments.climb_speed_kmh, float(hill.grade_pct)
    assumed = build.moments.climb_grade_pct is None
    if speed_kmh is not None:
        state = steady(drive, scalar(mps_from_kmh(speed_kmh)), hill.grade_pct)
        if can_hold(drive, state):
            return Moment("climb", state, speed_kmh, grade_pct, assumed, True)
    met = speed_kmh is None and hill.limited_by != Limit.CANNOT_MOVE
    return Moment("climb", hill, speed_kmh, grade_pct, assumed, met)


def _cruise(build: Build, drive: Drive, flat: State, top_kmh: float) -> Moment:
    asked = build.moments.cruise_kmh
    target_kmh = asked if asked is not None else _round_kmh(CRUISE_SHARE * top_kmh)
    state = steady(drive, scalar(mps_from_kmh(target_kmh)), scalar(0.0))
    if target_kmh > 0 and can_hold(drive, state):
        return Moment("cruise", state, target_kmh, 0.0, asked is None, True)
    return Moment("cruise", flat, target_kmh or None, 0.0, asked is None, False)
