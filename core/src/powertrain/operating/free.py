"""Wheels in the air: the fastest the motors can ever turn under power."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, somewhere
from powertrain.drive import Drive
from powertrain.operating.full_throttle import fastest_rad_s, full_throttle
from powertrain.operating.limits import Limit
from powertrain.operating.state import State, state_of
from powertrain.roots import falling_root


@dataclass(frozen=True)
class FreeRunning:
    """Full throttle with nothing to push, at the cells' present volts and off the charger."""

    now: State
    full_charge: State


def free_running(drive: Drive) -> FreeRunning:
    """Return the free-running states; the second is the worst case the motor ever sees."""
    return FreeRunning(now=_free(drive), full_charge=free_running_full(drive))


def free_running_full(drive: Drive) -> State:
    """Return the free-running state on a pack straight off the charger."""
    return _free(drive.straight_off_the_charger())


def _free(drive: Drive) -> State:
    # In the air there is neither slip nor a reason to change gear: the tallest is the fastest.
    drive = held(drive.wide_open().in_gear(drive.train.gears[-1]))

    pack, controller, motor = drive.pack, drive.controller, drive.motor
    source_v = pack.voltage_v(controller.standby_a) - controller.switching_v
    source_ohm = motor.count * pack.resistance_ohm + controller.resistance_ohm
    speed = drive.output_rad_s(motor.free_rad_s(source_v, source_ohm))
    speed = np.maximum(speed, 0.0)
    at = full_throttle(drive, speed)
    bound = (at.limited_by != Limit.VOLTAGE) | np.isnan(speed)
    if somewhere(bound):
        speed = np.where(bound, _searched(drive), speed)
        at = full_throttle(drive, speed)
    state = state_of(drive, speed, drive.load.usual, at)
    nothing = np.zeros_like(state.output_w)
    return replace(
        state,
        taken_w=tuple(nothing for _ in state.taken_w),
        brakes_w=nothing,
        speeding_up_w=state.output_w,
    )


def held(drive: Drive) -> Drive:
    """Return a drive whose load holds any torque: turned, or held fast, without slipping."""
    return replace(drive, load=drive.load.slipless())


def _searched(drive: Drive) -> Array:
    """Return the free speed by search, where a limit or an inverter sets it."""

    def torque_nm(speed: Array) -> Array:
        return full_throttle(drive, speed).shaft_torque_nm

    ceiling = np.maximum(fastest_rad_s(drive), 0.0)
    return falling_root(torque_nm, np.zeros_like(ceiling), ceiling)
