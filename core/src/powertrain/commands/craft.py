"""What a drive does that turns propellers, as commands tell it."""

import json
from argparse import ArgumentParser
from typing import Any

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.commands.arguments import add_build, text_at
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import read_build, warnings_of
from powertrain.errors import Refusal
from powertrain.load.craft import Wing
from powertrain.operating.in_air import InAir, in_air
from powertrain.operating.state import State
from powertrain.operating.steady import energy_wh_per_km
from powertrain.plain import limit_word, number
from powertrain.propeller.momentum import figure_of_merit
from powertrain.propeller.propeller import too_fast
from powertrain.units import kmh_from_mps, mps_from_kmh

Answer = dict[str, Any]

NO_PROPELLER = "has no propeller; this can be asked of a craft that one pushes only"


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    add_build(parser)


def run(arguments: Any) -> str:
    """Return the drive standing in still air at full throttle."""
    build = read_build(text_at(arguments.document))
    air = in_air(compile_drive(build))
    if air is None:
        raise Refusal("propeller", NO_PROPELLER)
    answer = static_answer(air)
    warnings = warnings_of(build)
    fast = too_fast(answer["tip_speed_mps"])
    if fast:
        warnings.append({"where": "propeller", "what": fast})
    if warnings:
        answer["warnings"] = warnings
    return json.dumps(answer, allow_nan=False)


def static_answer(air: InAir) -> Answer:
    """Return thrust, turns and amps of standing."""
    state, blades = air.standing(), air.load.blades
    turns = state.output_rad_s / (2 * np.pi)
    at = blades.turning(turns, scalar(0.0))
    gearing = 1.0 if state.shaft_w == 0 else float(state.output_w / state.shaft_w)
    return {
        "thrust_n": float(state.force_n),
        "motor_rpm": float(state.motor_rpm),
        "propeller_rpm": float(60 * turns),
        "motor_current_a": float(state.motor_current_a),
        "battery_current_a": float(state.battery_current_a),
        "battery_voltage_v": float(state.battery_voltage_v),
        "shaft_power_w": float(state.shaft_w),
        "pitch_speed_mps": float(blades.pitch_m * turns),
        "thrust_to_weight": float(state.force_n / air.load.craft.weight_n),
        # Of the shafts' power; gearing loses some of it before the propeller has it.
        "figure_of_merit": number(figure_of_merit(at.ct, at.cp) * gearing),
        "tip_speed_mps": float(at.tip_mps),
        "limited_by": limit_word(state.limited_by),
    }


def state_answer(state: State) -> Answer:
    """Return a state as commands tell it."""
    thrust_w = float(state.force_n * state.speed_mps)
    draws = float(state.terminals_w)
    return {
        "speed_mps": float(state.speed_mps),
        "motor_rpm": float(state.motor_rpm),
        "motor_current_a": float(state.motor_current_a),
        "battery_current_a": float(state.battery_current_a),
        "battery_voltage_v": float(state.battery_voltage_v),
        "motor_voltage_v": float(state.motor_voltage_v),
        "duty": float(state.duty),
        "shaft_torque_nm": float(state.shaft_torque_nm),
        "shaft_power_w": float(state.shaft_w),
        "force_n": float(state.force_n),
        "thrust_power_w": thrust_w,
        "efficiency": number(thrust_w / draws) if draws > 0 and thrust_w >= 0 else None,
        "limited_by": limit_word(state.limited_by),
    }


def top_speed_answer(air: InAir, arguments: Any) -> Answer:
    """Return the fastest speed that full throttle holds, at an angle where one is asked."""
    angle = _steepness(air, arguments)
    speed, there = air.top(angle)
    if not there:
        raise Refusal("propeller", _never(air, angle))
    least = float(air.load.craft.least_mps(angle))
    if speed < least:
        raise Refusal("propeller", _stalls(speed, least))
    return {**state_answer(air.at_full_throttle(speed)), **_lift(air, speed, angle)}


def cruise_answer(air: InAir, arguments: Any) -> Answer:
    """Return what holding a speed over ground takes."""
    angle = _steepness(air, arguments)
    if arguments.speed <= 0:
        raise Refusal("speed", "must be above zero; what stands does not cruise")
    speed = scalar(mps_from_kmh(arguments.speed)) + air.load.headwind_mps
    least = float(air.load.craft.least_mps(angle))
    if speed < least:
        raise Refusal("speed", _stalls(speed, least))
    state, holds = air.holding(speed, angle)
    if not holds:
        top, there = air.top(angle)
        most = float(kmh_from_mps(top - air.load.headwind_mps)) if there else 0.0
        raise Refusal("speed", f"can't be held; flat out it does {most:.4g} km/h")
    return {
        **state_answer(state),
        "energy_wh_per_km": number(energy_wh_per_km(state)),
        **_lift(air, speed, angle),
    }


def full_throttle_answer(air: InAir, arguments: Any) -> Answer:
    """Return thrust and amps at a speed over ground."""
    speed = scalar(mps_from_kmh(arguments.speed))
    # Standing is in still air, whatever the wind.
    state = air.at_full_throttle(speed + air.load.headwind_mps if speed > 0 else speed)
    return {
        "force_n": float(state.force_n),
        "motor_current_a": float(state.motor_current_a),
        "battery_current_a": float(state.battery_current_a),
        "battery_voltage_v": float(state.battery_voltage_v),
        "limited_by": limit_word(state.limited_by),
    }


def launch_answer(air: InAir, arguments: Any) -> Answer:
    """Refuse: nothing is known of what holds a craft back before it flies or planes."""
    raise Refusal("propeller", "has no launch; ask static, top-speed or cruise")


def _steepness(air: InAir, arguments: Any) -> Array:
    """Return what the craft takes for steepness: an angle in radians, of a cart a grade."""
    angle = getattr(arguments, "climb_angle", None)
    grade = getattr(arguments, "grade", None)
    if air.load.craft.flies:
        if grade is not None:
            raise Refusal("grade", "is of what goes on the ground; ask --climb-angle")
        return scalar(float(np.radians(angle or 0.0)))
    if angle is not None:
        raise Refusal("climb-angle", "is of an aircraft; leave it out")
    return scalar(grade or 0.0)


def _lift(air: InAir, speed: Array, angle: Array) -> Answer:
    craft = air.load.craft
    if not isinstance(craft, Wing):
        return {}
    return {"lift_coefficient": float(craft.lift_coefficient(speed, angle))}


def _never(air: InAir, angle: Array) -> str:
    thrust = float(air.standing().force_n)
    where = "at that angle " if angle else ""
    return f"never pushes as much as holds it back {where}(standing it gives {thrust:.3g} N)"


def _stalls(speed: Array, least: float) -> str:
    asked, most = float(kmh_from_mps(speed)), float(kmh_from_mps(scalar(least)))
    return f"is {asked:.4g} km/h through the air, below the {most:.4g} km/h at which it stalls"
