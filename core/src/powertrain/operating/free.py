"""Wheels in the air: the fastest the motors can ever turn under power."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array
from powertrain.drive import Drive
from powertrain.operating.full_throttle import full_throttle, zero_current_speed_mps
from powertrain.operating.roots import falling_root
from powertrain.operating.state import State, state_at_full_throttle


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
    return _free(replace(drive, pack=drive.pack.straight_off_the_charger()))


def _free(drive: Drive) -> State:
    def torque_nm(speed_mps: Array) -> Array:
        return full_throttle(drive, speed_mps).shaft_torque_nm

    ceiling_mps = np.maximum(zero_current_speed_mps(drive), 0.0)
    speed_mps = falling_root(torque_nm, np.zeros_like(ceiling_mps), ceiling_mps)
    state = state_at_full_throttle(drive, speed_mps, np.zeros(()))
    nothing = np.zeros_like(state.road_w)
    return replace(
        state,
        rolling_w=nothing,
        climbing_w=nothing,
        air_w=nothing,
        speeding_up_w=state.road_w,
    )
