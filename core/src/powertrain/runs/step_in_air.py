"""One step of a ride of a craft: what its propellers push, and how fast it gets by that.

Two things move: the craft, which is what the step is of, and the propellers, whose turns follow at
once. At the speed in the middle of a step they turn where the motors' torque meets theirs (what it
takes to spin them up, a fraction of a watt-hour, is left out); thrust less what holds the craft
back speeds it up, by the linearly implicit midpoint that `runs.step` takes, too. With the throttle
closed propellers are taken to idle without thrust.

The state's speed of the output shaft stands for the craft's speed here: that of a propeller which
goes as in butter. Below its stall speed a wing rests on the ground or a hand, and its drag is that
of its most lift.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, choose, scalar
from powertrain.compile.build import CompiledBuild
from powertrain.drive import Drive
from powertrain.load.craft import Cart, Craft, Wing
from powertrain.operating.in_air import InAir, in_air
from powertrain.operating.limits import Limit
from powertrain.operating.part_throttle import at_throttle
from powertrain.operating.state import (
    State,
    state_at,
    state_at_full_throttle,
    state_at_torque,
    state_of,
)
from powertrain.roots import falling_root
from powertrain.runs.step import Asked, RideState, Ways, as_it_is, ends_of

Mask = NDArray[np.bool_]

CLOSE = 1e-8
NUDGE_MPS = 0.02

TAKES = ("rolling_w", "water_w", "drag_w", "climbing_w")
"""What holds a craft back, in watts of its own speed."""


@dataclass(frozen=True)
class AirStep:
    """Where a step ends, its middle, whether it was at full throttle, and what it takes in W."""

    ends: RideState
    middle: State
    full: Array
    watts: dict[str, Array]


def air_step(compiled: CompiledBuild, ways: Ways, begins: RideState, asked: Asked) -> AirStep:
    """Return what a craft does over a short while."""
    drive = as_it_is(compiled, ways, begins)
    air = in_air(drive)
    assert air is not None
    load, travel_m = air.load, air.load.travel_m
    begin, want = begins.output_rad_s * travel_m, asked.want_rad_s * travel_m
    seconds = np.maximum(asked.seconds, 1e-9)
    gives = begins.gives * asked.opens > 0.5
    steepness = _steepness(load.craft, asked.situation)
    mass_kg = load.craft.weight_n / 9.80665

    def held_n(mps: Array) -> Array:
        return np.asarray(sum(_held(load.craft, mps + load.headwind_mps, mps, steepness)))

    def turns_at(mps: Array) -> Array:
        return _turns(air, mps + load.headwind_mps, asked.throttle)

    def spare_n(mps: Array) -> Array:
        thrust = load.thrust_n(turns_at(mps), mps + load.headwind_mps)
        return np.where(gives, thrust, 0.0) - held_n(mps)

    spare, beyond = spare_n(np.stack([begin, begin + NUDGE_MPS]))
    slope = np.minimum((beyond - spare) / NUDGE_MPS, 0.0)
    half = 0.5 * seconds * spare / (mass_kg - 0.5 * seconds * slope)
    free_end = np.maximum(begin + 2 * half, 0.0)
    follows = want < free_end
    end = np.where(follows, want, free_end)
    mid = 0.5 * (begin + end)
    air_mps = mid + load.headwind_mps

    turns = turns_at(mid)
    most_n = load.thrust_n(turns, air_mps)
    needs_n = mass_kg * (end - begin) / seconds + held_n(mid)
    part = follows & gives & (needs_n > 0) & (needs_n < most_n)
    idles = ~gives | (follows & (needs_n <= 0))
    middle = choose(
        part, _at_thrust(air, air_mps, needs_n, turns), _wide(air, turns, air_mps, asked)
    )
    middle = choose(idles, _idle(drive, air_mps), middle)
    middle = replace(middle, speed_mps=mid)
    thrust_n = np.where(idles, 0.0, middle.force_n)

    # Of a full step the thrust of its middle says how fast it ends.
    free = np.maximum(begin + (thrust_n - held_n(mid)) / mass_kg * seconds, 0.0)
    end = np.where(follows, end, free)
    holds = _held(load.craft, air_mps, mid, steepness)
    watts = {
        name: force * (mid if name != "drag_w" else air_mps)
        for name, force in zip(TAKES, holds, strict=True)
    }
    kinetic_w = 0.5 * mass_kg * (end * end - begin * begin) / seconds
    brakes_w = np.where(follows & (needs_n < 0), -needs_n * mid, 0.0)
    pushed_w = thrust_n * air_mps
    # In wind the watts of the air are not those of the ground: what is left is the air's.
    rest_w = pushed_w - sum(watts.values()) - kinetic_w - brakes_w
    return AirStep(
        ends_of(drive, compiled, ways, begins, asked, middle, end / travel_m),
        middle,
        np.where(follows | ~gives, 0.0, 1.0),
        {
            "brakes_w": brakes_w,
            "kinetic_w": kinetic_w,
            "rolling_w": watts["rolling_w"],
            "water_w": watts["water_w"],
            "climbing_w": watts["climbing_w"],
            "air_w": watts["drag_w"] + rest_w,
            "wake_w": middle.taken_w[1],
            "blades_w": middle.taken_w[2],
        },
    )


def _steepness(craft: Craft, grade_pct: Array) -> Array:
    """Return how steep it goes, in the craft's own measure; water is level."""
    if isinstance(craft, Wing):
        return np.arctan(grade_pct / 100)
    return grade_pct if isinstance(craft, Cart) else grade_pct * 0


def _held(craft: Craft, air_mps: Array, ground_mps: Array, steepness: Array) -> tuple[Array, ...]:
    """Return what holds a craft back in N: rolling, water, air, and the slope."""
    none = np.zeros(np.broadcast_shapes(np.shape(air_mps), np.shape(steepness)))
    if isinstance(craft, Wing):
        climbing = craft.weight_n * np.sin(steepness)
        least = craft.least_mps(steepness)
        flown = np.maximum(air_mps, least)
        drag = craft.held_n(flown, ground_mps, steepness) - climbing
        return none, none, drag * (np.maximum(air_mps, 0.0) / flown) ** 2, climbing + none
    whole = craft.held_n(air_mps, ground_mps, steepness) + none
    if isinstance(craft, Cart):
        road = craft.road
        rolling = road.rolling_n(steepness) + none
        climbing = road.climbing_n(steepness) + none
        return rolling, none, whole - rolling - climbing, climbing
    still = craft.held_n(air_mps, np.zeros_like(none), steepness) + none
    return none, whole - still, still, none


def _turns(air: InAir, air_mps: Array, throttle: Array | None) -> Array:
    """Return the speed of the output shaft at full throttle, or at the throttle of a hand."""
    if throttle is None:
        return air.turns_rad_s(air_mps, CLOSE)
    load, drive = air.load, air.drive
    driven = np.maximum(air_mps, 0.0) / load.travel_m
    most = np.maximum(air.fastest_rad_s, 1.5 * driven)

    def spare(turns: Array) -> Array:
        at = at_throttle(drive, turns, air_mps, throttle)
        return at.output_nm - load.moving_nm(turns, air_mps)

    return falling_root(spare, np.zeros(np.shape(most)), most, CLOSE)


def _wide(air: InAir, turns: Array, air_mps: Array, asked: Asked) -> State:
    if asked.throttle is None:
        return state_at_full_throttle(air.drive, turns, air_mps)
    at = at_throttle(air.drive, turns, air_mps, asked.throttle)
    return state_of(air.drive, turns, air_mps, at)


def _at_thrust(air: InAir, air_mps: Array, thrust_n: Array, most: Array) -> State:
    """Return the part-throttle state of a thrust that is less than the most."""
    load = air.load
    turns = falling_root(
        lambda rad_s: thrust_n - load.thrust_n(rad_s, air_mps),
        np.zeros(np.shape(most)),
        most,
        CLOSE,
    )
    return state_at_torque(air.drive, turns, air_mps, load.moving_nm(turns, air_mps))


def _idle(drive: Drive, air_mps: Array) -> State:
    """Return the state of propellers that neither push nor are pushed."""
    none = np.zeros(np.shape(air_mps))
    standby = drive.controller.standby_a + none
    limited = np.full(none.shape, Limit.NOTHING, np.int8)
    return state_at(drive, none, none, none, standby, limited, scalar(1.0))
