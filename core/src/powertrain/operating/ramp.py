"""How fast the duty may rise from rest.

A straight rise of duty from rest on the level is followed in small steps, many ramps at once,
``J dw/dt = T(D, w) - T_load``, the load holding what it holds. Each step is taken implicitly, so
that slow ramps of light rotors stay steady. The drive's own limits hold the amps.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm

SLOWEST_PCT_S, FASTEST_PCT_S = 1.0, 10_000.0
RAMPS = 48
"""Ramps that are looked at together; the one that just does is sought among them twice."""

STEPS = 240


@dataclass(frozen=True)
class Ramps:
    """What each of several ramps comes to on its way to full duty, fields of shape ``(n,)``.

    The pack's lowest volts, the hardest push while it moves in m/s2, whether the shafts give more
    than the load holds, and whether a limit holds the amps.
    """

    least_pack_v: Array
    hardest_mps2: Array
    slips: NDArray[np.bool_]
    clipped: NDArray[np.bool_]


def follow_ramps(drive: Drive, rates_pct_s: Array) -> Ramps:
    """Return what ramps of so many percent of duty a second come to, for one drive."""
    drive = drive.wide_open().in_gear(drive.train.gears[0])
    load = drive.load
    holds_nm = load.holds_nm(load.usual)
    speed: Array = np.zeros(rates_pct_s.shape)
    least_v: Array = np.full(rates_pct_s.shape, np.inf)
    hardest = speed
    slips = clipped = np.zeros(rates_pct_s.shape, dtype=bool)
    step_s = 100 / rates_pct_s / STEPS
    for number in range(1, STEPS + 1):
        duty = number / STEPS
        torque_nm, pack_v, held = _pushes(drive, speed, duty)
        nudged_nm, _, _ = _pushes(drive, speed + 1e-4, duty)
        asked = asked_nm(load, speed, load.usual)
        gains = (np.minimum(torque_nm, holds_nm) - asked) / drive.inertia_kg_m2
        later = (np.minimum(nudged_nm, holds_nm) - asked) / drive.inertia_kg_m2
        falls = np.minimum((later - gains) / 1e-4, 0.0)
        speed = np.maximum(speed + gains * step_s / (1 - falls * step_s), 0.0)
        least_v = np.minimum(least_v, pack_v)
        hardest = np.where(speed > 0, np.maximum(hardest, gains * load.travel_m), hardest)
        slips = slips | (torque_nm > holds_nm * (1 + 1e-9))
        clipped = clipped | held
    return Ramps(least_v, hardest, slips, clipped)


def fastest_pct_s(
    drive: Drive, fails: Callable[[Ramps], NDArray[np.bool_]]
) -> tuple[float | None, Ramps]:
    """Return the fastest ramp that does not fail, and what the next faster one comes to.

    None where even the slowest fails; `FASTEST_PCT_S` and its own ramp where none does.
    """
    slower, faster = SLOWEST_PCT_S, FASTEST_PCT_S
    found: float | None = None
    for _ in range(2):
        rates = np.geomspace(slower, faster, RAMPS)
        ramps = follow_ramps(drive, rates)
        bad = fails(ramps)
        first = int(np.argmax(bad)) if bad.any() else RAMPS - 1
        next_one = _only(ramps, first)
        if not bad.any():
            return float(rates[-1]), next_one
        if first == 0:
            return found, next_one
        slower, faster = float(rates[first - 1]), float(rates[first])
        found = slower
    return found, next_one


def fastest_above_v(drive: Drive, least_v: float) -> float | None:
    """Return the fastest ramp that leaves the pack `least_v`; None where none does."""
    return fastest_pct_s(drive, lambda ramps: ramps.least_pack_v < least_v)[0]


def _only(ramps: Ramps, at: int) -> Ramps:
    one = slice(at, at + 1)
    return Ramps(
        ramps.least_pack_v[one], ramps.hardest_mps2[one], ramps.slips[one], ramps.clipped[one]
    )


def _pushes(drive: Drive, speed: Array, duty: float) -> tuple[Array, Array, NDArray[np.bool_]]:
    """Return torque at the output shaft, volts of the pack, whether a limit holds the amps."""
    pack, controller, motor = drive.pack, drive.controller, drive.motor
    source_v = duty * pack.voltage_v(controller.standby_a) - controller.switching_v
    ohm = controller.resistance_ohm + duty * duty * motor.count * pack.resistance_ohm
    turns = drive.motor_rad_s(speed)
    free = np.maximum(motor.current_at_voltage_a(turns, source_v, ohm), 0.0)
    of_pack = (controller.battery_current_limit_a - controller.standby_a) / (duty * motor.count)
    amps = np.minimum(free, np.minimum(controller.motor_current_limit_a, of_pack))
    pack_v = pack.voltage_v(duty * motor.count * amps + controller.standby_a)
    return drive.output_nm(motor.shaft_torque_nm(turns, amps)), pack_v, free > amps
