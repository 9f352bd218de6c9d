"""The moments of a craft: standing, climbing, cruising, flat out, and with the propeller off."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, choose, each_array, scalar, shape_of, with_axis
from powertrain.operating.free import free_running_full
from powertrain.operating.in_air import InAir
from powertrain.operating.limits import Limit
from powertrain.operating.moment import CRUISE_SHARE, Moment, MomentStates, MomentTargets
from powertrain.operating.peaks import Peaks
from powertrain.operating.settings import MomentSettings
from powertrain.operating.state import State
from powertrain.units import kmh_from_mps, mps_from_kmh

Mask = NDArray[np.bool_]

LEVEL = scalar(0.0)

HUMP = np.linspace(0.15, 0.9, 16)
"""Shares of the top speed among which a hull has least thrust to spare."""

ABOVE_STALL = 1.3
"""A cruise that nobody asked for is at least so many times the stall speed (common practice)."""


def moments_in_air(settings: MomentSettings, air: InAir) -> MomentStates:
    """Return the five moments of a craft, or of many that vary one build."""
    shape = shape_of(air.drive)
    standing = air.standing()
    top_mps, there = air.top(LEVEL)
    least = air.load.craft.least_mps(LEVEL)
    goes = there & (top_mps >= least)
    top = _or_standing(air.at_full_throttle(top_mps), goes, standing)
    cruise_kmh = settings.cruise_kmh
    if cruise_kmh is None:
        flat_out, stalls = (
            float(kmh_from_mps(np.ravel(speed)[0])) for speed in (top.speed_mps, least)
        )
        cruise_kmh = float(f"{max(CRUISE_SHARE * flat_out, ABOVE_STALL * stalls):.2g}")
    cruise_mps = scalar(mps_from_kmh(cruise_kmh))
    cruising, holds = air.holding(cruise_mps + air.load.headwind_mps + np.zeros(shape), LEVEL)
    holds = holds & (cruise_mps > 0) & goes
    climb, climbs = _climb(settings, air, top_mps, goes, standing)
    free = free_running_full(air.drive)
    assumed = settings.assumed
    return MomentStates(
        launch=Moment("launch", standing, None, 0.0, False, np.asarray(standing.force_n > 0)),
        climb=Moment("climb", climb, None, 0.0, "climb" in assumed, np.asarray(climbs)),
        cruise=Moment(
            "cruise",
            choose(holds, cruising, top),
            cruise_kmh or None,
            0.0,
            "cruise" in assumed,
            np.asarray(holds),
        ),
        top_speed=Moment("top_speed", top, None, 0.0, False, np.asarray(goes)),
        wheels_up=Moment(
            "wheels_up", free, None, 0.0, False, np.ones(np.shape(top.speed_mps), bool)
        ),
        launch_run=None,
        peaks=_most(standing, climb, top),
        climb_top=climb,
        tops=_first(top),
        targets=MomentTargets(scalar(0.0), LEVEL, None, cruise_mps, assumed),
    )


def standing_and_cruising(settings: MomentSettings, air: InAir) -> tuple[Moment, Moment]:
    """Return what needs no search for a top speed; cruise must be said.

    Where a cruise is not held standing is told in its place, and that it is not met.
    """
    standing = air.standing()
    cruise_mps = scalar(mps_from_kmh(settings.cruise_kmh or 0.0))
    air_mps = cruise_mps + air.load.headwind_mps + np.zeros(shape_of(air.drive))
    cruising, holds = air.holding(air_mps, LEVEL)
    holds = holds & (cruise_mps > 0)
    return (
        Moment("launch", standing, None, 0.0, False, np.asarray(standing.force_n > 0)),
        Moment(
            "cruise",
            choose(holds, cruising, standing),
            settings.cruise_kmh or None,
            0.0,
            "cruise" in settings.assumed,
            np.asarray(holds),
        ),
    )


def _first(state: State) -> State:
    """Return the state of the first drive, as one of a list of situations."""
    return each_array(state, lambda of: of[:1]) if np.ndim(state.speed_mps) else with_axis(state)


def _or_standing(state: State, goes: Mask, standing: State) -> State:
    """Return a state where the craft gets there, else standing, said to lead nowhere."""
    stuck = replace(
        standing,
        limited_by=np.full(np.shape(standing.limited_by), Limit.CANNOT_MOVE, np.int8),
    )
    return choose(goes, state, stuck)


def _climb(
    settings: MomentSettings, air: InAir, top_mps: Array, goes: Mask, standing: State
) -> tuple[State, Mask]:
    """Return the state of climbing, and whether it does what was asked.

    At an angle: as fast as full throttle goes there. At a rate: at the speed that is best for it,
    held at part throttle. Unasked, as well as it can. A hull has its hump instead, the speed at
    which least thrust is left; a cart the grade that is asked.
    """
    if not air.load.craft.flies:
        return _hard_going(settings, air, top_mps, goes, standing)
    if settings.climb_angle_deg is not None:
        angle = scalar(float(np.radians(settings.climb_angle_deg)))
        speed, there = air.top(angle)
        climbs = there & (speed >= air.load.craft.least_mps(angle))
        return _or_standing(air.at_full_throttle(speed), climbs, standing), climbs
    speed, angle = air.best_climb(top_mps)
    best = air.at_full_throttle(speed)
    if settings.climb_ms is None:
        climbs = goes & (angle > 0)
        return _or_standing(best, climbs, standing), climbs
    wanted = np.arcsin(np.clip(settings.climb_ms / np.maximum(speed, 1e-6), -1.0, 1.0))
    state, holds = air.holding(speed, wanted)
    holds = holds & goes & (settings.climb_ms <= speed)
    return choose(holds, state, _or_standing(best, goes, standing)), holds


def _hard_going(
    settings: MomentSettings, air: InAir, top_mps: Array, goes: Mask, standing: State
) -> tuple[State, Mask]:
    grade = settings.climb_grade_pct
    if grade is not None:
        speed, there = air.top(scalar(grade))
        return _or_standing(air.at_full_throttle(speed), there, standing), there
    shares = HUMP.reshape(-1, *[1] * np.ndim(top_mps))
    speeds = shares * np.maximum(top_mps, 1e-3)
    left = air.spare_n(speeds, LEVEL) / np.maximum(air.held_n(speeds, LEVEL), 1e-9)
    worst = np.argmin(left, axis=0)[None]
    speed = np.take_along_axis(speeds, worst, axis=0)[0]
    return _or_standing(air.at_full_throttle(speed), goes, standing), goes


def _most(*states: State) -> Peaks:
    found = [Peaks.of_state(state) for state in states]
    return Peaks(
        *(
            np.maximum.reduce([np.asarray(getattr(one, name)) for one in found])
            for name in ("battery_a", "motor_a", "terminals_w")
        )
    )


def climb_ms(settings: MomentSettings, air: InAir, moments: MomentStates) -> Array:
    """Return the greatest rate of climb at full throttle; NaN for what does not climb or fly."""
    top = moments.top_speed
    if not air.load.craft.flies:
        return np.full(np.shape(top.met), np.nan)
    if settings.climb_angle_deg is None and settings.climb_ms is None:
        state = moments.climb.state
        speed, angle = state.situation, air.climbs_rad(state.situation, state.force_n)
        rate = np.where(moments.climb.met, speed * np.sin(angle), np.nan)
    else:
        speed, angle = air.best_climb(np.where(top.met, top.state.situation, 0.0))
        rate = np.where(top.met, speed * np.sin(angle), np.nan)
    return np.asarray(rate)
