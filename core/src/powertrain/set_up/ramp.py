"""How fast the trigger may rise: pack, grip, front and rider.

A straight rise of duty from rest on the level is followed in small steps, many ramps at once,
``J dw/dt = T(D, w) - T_load``; each step is taken implicitly, so that slow ramps of light rotors
stay steady. The build's own limits hold the amps.
"""

from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.arrays import Array
from powertrain.compile.build import CompiledBuild
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm
from powertrain.operating.inrush import inrush_of
from powertrain.plain import number

RIDER_MPS2 = 3.0
"""A push under which a standing rider holds on; common practice, no source."""

STANDS_KG = 130.0
"""Heavier vehicles have a seat."""

SLOWEST_PCT_S, FASTEST_PCT_S = 1.0, 10_000.0
RAMPS = 48
STEPS = 240

Why = Literal["cut_off", "grip", "front_lift", "rider", "current_limit"]


class RampAnswer(BaseModel):
    """The fastest ramp and what sets it; what a grabbed trigger draws without any.

    `fastest_pct_per_s` is None where no ramp at all is slow enough, and for an inverter, which
    ramps by itself.
    """

    fastest_pct_per_s: float | None
    limited_by: Why | None
    inrush_a: float | None
    least_pack_v: float | None


def ramp_of(compiled: CompiledBuild) -> RampAnswer:
    """Return how fast the duty of a build may rise from rest."""
    drive = compiled.drive
    if drive.motor.has_inverter:
        return RampAnswer(fastest_pct_per_s=None, limited_by=None, inrush_a=None, least_pack_v=None)
    rush = inrush_of(drive)
    fastest, why = _fastest(compiled)
    return RampAnswer(
        fastest_pct_per_s=fastest,
        limited_by=why,
        inrush_a=number(rush.battery_a),
        least_pack_v=number(rush.battery_v),
    )


def _fastest(compiled: CompiledBuild) -> tuple[float | None, Why | None]:
    rates = np.geomspace(SLOWEST_PCT_S, FASTEST_PCT_S, RAMPS)
    fails, clipped = _tried(compiled, rates)
    passes = ~np.any(np.stack(list(fails.values())), axis=0)
    first = int(np.argmin(passes)) if not passes.all() else len(rates)
    if first == len(rates):
        return FASTEST_PCT_S, "current_limit" if clipped[-1] else None
    why = next(name for name, failed in fails.items() if failed[first])
    if first == 0:
        return None, why
    finer = np.geomspace(rates[first - 1], rates[first], RAMPS)
    fails, _ = _tried(compiled, finer)
    passes = ~np.any(np.stack(list(fails.values())), axis=0)
    last = int(np.argmin(passes)) - 1 if not passes.all() else len(finer) - 1
    return float(finer[max(last, 0)]), why


def _tried(
    compiled: CompiledBuild, rates: NDArray[np.float64]
) -> tuple[dict[Why, NDArray[np.bool_]], NDArray[np.bool_]]:
    """Return which ramps fail at what, and in which a limit holds the amps."""
    drive = compiled.drive.wide_open()
    drive = drive.in_gear(drive.train.gears[0])
    load = drive.load
    holds_nm = load.holds_nm(load.usual)
    lifts = drive.wheels.grip.lifting_mps2(load.usual) if drive.rolls else np.inf
    vehicle = compiled.ratings.vehicle
    rides = drive.rolls and not bool(vehicle.is_model) and float(vehicle.mass_kg) <= STANDS_KG
    cut_v = compiled.ratings.pack.cut_off_v
    speed: Array = np.zeros(rates.shape)
    none = np.zeros(rates.shape, dtype=bool)
    fails: dict[Why, NDArray[np.bool_]] = {
        "cut_off": none,
        "grip": none,
        "front_lift": none,
        "rider": none,
    }
    clipped = none
    step_s = 100 / rates / STEPS
    for number_ in range(1, STEPS + 1):
        duty = number_ / STEPS
        pushes = _pushes(drive, speed, duty)
        nudged = _pushes(drive, speed + 1e-4, duty)
        asked = asked_nm(load, speed, load.usual)
        gains = (np.minimum(pushes.torque_nm, holds_nm) - asked) / drive.inertia_kg_m2
        later = (np.minimum(nudged.torque_nm, holds_nm) - asked) / drive.inertia_kg_m2
        falls = np.minimum((later - gains) / 1e-4, 0.0)
        step = gains * step_s / (1 - falls * step_s)
        speed = np.maximum(speed + step, 0.0)
        mps2 = np.maximum(gains, 0.0) * load.travel_m
        moves = speed > 0
        fails["cut_off"] = fails["cut_off"] | (pushes.pack_v < cut_v)
        fails["grip"] = fails["grip"] | (pushes.torque_nm > holds_nm * (1 + 1e-9))
        fails["front_lift"] = fails["front_lift"] | (moves & (mps2 > lifts))
        if rides:
            fails["rider"] = fails["rider"] | (moves & (mps2 > RIDER_MPS2))
        clipped = clipped | pushes.clipped
    return fails, clipped


class _Pushes:
    """Torque at the output shaft, volts of the pack, and whether a limit holds the amps."""

    __slots__ = ("clipped", "pack_v", "torque_nm")

    def __init__(self, torque_nm: Array, pack_v: Array, clipped: NDArray[np.bool_]) -> None:
        self.torque_nm, self.pack_v, self.clipped = torque_nm, pack_v, clipped


def _pushes(drive: Drive, speed: Array, duty: float) -> _Pushes:
    pack, controller, motor = drive.pack, drive.controller, drive.motor
    source_v = duty * pack.voltage_v(controller.standby_a) - controller.switching_v
    ohm = controller.resistance_ohm + duty * duty * motor.count * pack.resistance_ohm
    turns = drive.motor_rad_s(speed)
    free = np.maximum(motor.current_at_voltage_a(turns, source_v, ohm), 0.0)
    of_pack = (controller.battery_current_limit_a - controller.standby_a) / (duty * motor.count)
    amps = np.minimum(free, np.minimum(controller.motor_current_limit_a, of_pack))
    pack_v = pack.voltage_v(duty * motor.count * amps + controller.standby_a)
    return _Pushes(drive.output_nm(motor.shaft_torque_nm(turns, amps)), pack_v, free > amps)
