"""Wheels in the air: the fastest the motors can ever turn under power."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.drive import Drive
from powertrain.operating.full_throttle import LEVEL, fastest_mps, full_throttle
from powertrain.operating.limits import Limit
from powertrain.operating.roots import falling_root
from powertrain.operating.state import State, state_of
from powertrain.vehicle.traction import Grip

NO_SLIP = Grip(scalar(np.inf), scalar(1.0), scalar(0.0), scalar(np.inf))


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
    drive = replace(drive.wide_open().in_gear(drive.train.gears[-1]), grip=NO_SLIP)

    pack, controller, motor = drive.pack, drive.controller, drive.motor
    source_v = pack.voltage_v(controller.standby_a) - controller.switching_v
    source_ohm = motor.count * pack.resistance_ohm + controller.resistance_ohm
    speed_mps = drive.road_speed_mps(motor.free_rad_s(source_v, source_ohm))
    speed_mps = np.maximum(speed_mps, 0.0)
    at = full_throttle(drive, speed_mps)
    held = (at.limited_by != Limit.VOLTAGE) | np.isnan(speed_mps)
    if held.any():
        speed_mps = np.where(held, _searched(drive), speed_mps)
        at = full_throttle(drive, speed_mps)
    state = state_of(drive, speed_mps, LEVEL, at)
    nothing = np.zeros_like(state.road_w)
    return replace(
        state,
        rolling_w=nothing,
        climbing_w=nothing,
        air_w=nothing,
        brakes_w=nothing,
        speeding_up_w=state.road_w,
    )


def _searched(drive: Drive) -> Array:
    """Return the free speed by search, where a limit or an inverter sets it."""

    def torque_nm(speed_mps: Array) -> Array:
        return full_throttle(drive, speed_mps).shaft_torque_nm

    ceiling_mps = np.maximum(fastest_mps(drive), 0.0)
    return falling_root(torque_nm, np.zeros_like(ceiling_mps), ceiling_mps)
