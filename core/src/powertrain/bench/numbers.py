"""What answers call the figures of a state, and what the parts of a drive sum up to."""

from collections.abc import Iterable

import numpy as np

from powertrain.arrays import Array
from powertrain.documents.build import Build
from powertrain.load.protocol import Load
from powertrain.operating.state import State
from powertrain.units import rpm_from_rad_s


def state_figures(load: Load, state: State) -> dict[str, Array]:
    """Return the figures of a state by the names that answers have for them."""
    return {
        **{name: getattr(state, name) for name in SAME_NAME},
        "grade_pct": state.situation,
        "wheel_rpm": rpm_from_rad_s(state.output_rad_s),
        "wheel_torque_nm": state.output_torque_nm,
        "road_w": state.output_w,
        "turning_heat_w": state.no_load_loss_w,
        **{f"{name}_w": np.zeros_like(state.output_w) for name in NAMED},
        **{f"{name}_w": w for name, w in zip(load.takes, state.taken_w, strict=True)},
    }


NAMED = ("rolling", "climbing", "air", "thrust", "wake", "blades")
"""What the figures always name, be it nought."""

SAME_NAME = (
    "speed_mps",
    "motor_rpm",
    "motor_current_a",
    "battery_current_a",
    "battery_voltage_v",
    "motor_voltage_v",
    "duty",
    "shaft_torque_nm",
    "force_n",
    "cells_w",
    "pack_heat_w",
    "terminals_w",
    "controller_heat_w",
    "copper_heat_w",
    "brush_heat_w",
    "auxiliaries_w",
    "shaft_w",
    "brakes_w",
    "speeding_up_w",
)


def total(values: Iterable[float | None]) -> float | None:
    """Return the sum, None as soon as one value is not known."""
    known = list(values)
    if any(value is None for value in known):
        return None
    return float(sum(value for value in known if value is not None))


def drive_kg(build: Build) -> float | None:
    """Return the mass of motors, controllers and pack; None where one of them does not say."""
    motor = build.motor
    each = None if motor.mass_kg is None else motor.count * motor.mass_kg
    controller = build.controller
    boxes = None if controller.mass_kg is None else controller.count * controller.mass_kg
    return total([each, boxes, build.battery.mass_kg])
