"""What one drive does: top speed, cruise, full throttle, launch, free, and by the hobby formula."""

import json
import math
from argparse import ArgumentParser
from collections.abc import Callable
from typing import Any

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.commands import craft
from powertrain.commands.arguments import add_build, add_grade, add_speed, bounded, text_at
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import read_build, warnings_of
from powertrain.drive import Drive
from powertrain.errors import Refusal
from powertrain.operating.derate import derated_rpm
from powertrain.operating.free import free_running
from powertrain.operating.in_air import in_air
from powertrain.operating.launch import launch
from powertrain.operating.on_road import full_throttle_at
from powertrain.operating.state import State
from powertrain.operating.steady import can_hold, energy_wh_per_km, steady
from powertrain.operating.top_speed import top_speed, top_speed_mps
from powertrain.plain import limit_word, number
from powertrain.units import kmh_from_mps, mps_from_kmh, rpm_from_rad_s

Answer = dict[str, Any]


def options(parser: ArgumentParser, command: str) -> None:
    """Add what a command takes."""
    add_build(parser)
    if command in ("top-speed", "cruise"):
        add_grade(parser)
    if command == "top-speed":
        parser.add_argument("--climb-angle", type=bounded("climb-angle", -60.0, 60.0), default=None)
    if command in ("cruise", "full-throttle"):
        add_speed(parser, "speed")
    if command == "launch":
        add_speed(parser, "to")
    if command == "derate":
        parser.add_argument("--current", type=bounded("current", 0.0, 1e6), required=True)
        parser.add_argument("--load-factor", type=bounded("load-factor", 0.0, 100.0), required=True)


def run(arguments: Any) -> str:
    """Return the answer of a command."""
    build = read_build(text_at(arguments.document))
    drive = compile_drive(build)
    air = in_air(drive)
    pushed = None if air is None else IN_AIR.get(arguments.command)
    if getattr(arguments, "climb_angle", None) is not None and pushed is None:
        raise Refusal("climb-angle", "is of an aircraft; leave it out")
    answer = (
        ANSWERS[arguments.command](drive, arguments) if pushed is None else pushed(air, arguments)
    )
    warnings = warnings_of(build)
    if warnings:
        answer["warnings"] = warnings
    return json.dumps(answer, allow_nan=False)


def _state(state: State) -> Answer:
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
        "road_power_w": float(state.output_w),
        "efficiency": number(state.efficiency),
        "limited_by": limit_word(state.limited_by),
    }


def top_speed_answer(drive: Drive, arguments: Any) -> Answer:
    """Return the state at the speed that full throttle holds."""
    situation = _situation(drive, arguments)
    state = top_speed(drive, situation)
    if not np.isfinite(state.speed_mps):
        what = (
            f"is zero or there is no air, and nothing else holds it back on {float(situation):g} %"
        )
        raise Refusal("vehicle.drag_area_m2", what)
    return _state(state)


def cruise_answer(drive: Drive, arguments: Any) -> Answer:
    """Return what holding a speed takes."""
    speed_mps = scalar(mps_from_kmh(arguments.speed))
    situation = _situation(drive, arguments)
    if speed_mps <= 0:
        raise Refusal("speed", "must be above zero; a vehicle at rest does not cruise")
    state = steady(drive, speed_mps, situation)
    if not can_hold(drive, state):
        raise Refusal("speed", _cannot_hold(drive, arguments.speed, situation))
    return {**_state(state), "energy_wh_per_km": number(energy_wh_per_km(state))}


def _situation(drive: Drive, arguments: Any) -> Array:
    """Return the grade that was asked, or what the load is mostly moved in."""
    if arguments.grade is None:
        return drive.load.usual
    if not drive.rolls:
        raise Refusal("grade", "is of a vehicle on wheels; leave it out")
    return scalar(arguments.grade)


def _cannot_hold(drive: Drive, speed_kmh: float, situation: Array) -> str:
    most_kmh = float(kmh_from_mps(top_speed_mps(drive, situation)))
    where = f"on {float(situation):g} %"
    if not drive.rolls:
        where = f"with {drive.load.words.situation(float(situation))}"
    if most_kmh <= 0:
        return f"can't be held: this drive can't start {where}"
    if not math.isfinite(most_kmh) or most_kmh >= speed_kmh:
        return f"can't be held {where}: the drive can't brake that much; use the brakes"
    return f"can't be held {where}; this drive can hold {most_kmh:.4g} km/h there"


def full_throttle_answer(drive: Drive, arguments: Any) -> Answer:
    """Return push and amps at a speed."""
    at = full_throttle_at(drive, scalar(mps_from_kmh(arguments.speed)))
    return {
        "force_n": float(at.force_n),
        "motor_current_a": float(at.motor_current_a),
        "battery_current_a": float(at.battery_current_a),
        "battery_voltage_v": float(drive.pack.voltage_v(at.battery_current_a)),
        "limited_by": limit_word(at.limited_by),
    }


def launch_answer(drive: Drive, arguments: Any) -> Answer:
    """Return time and way from standstill to a speed."""
    run = launch(drive, scalar(mps_from_kmh(arguments.to)))
    if not np.isfinite(run.time_s):
        raise Refusal(
            "to", _cannot_hold(drive, arguments.to, drive.load.usual).replace("held", "reached")
        )
    return {
        "time_s": float(run.time_s),
        "distance_m": float(run.distance_m),
        "peak_battery_current_a": float(run.peak_battery_current_a),
        "peak_motor_current_a": float(run.peak_motor_current_a),
    }


def free_answer(drive: Drive, arguments: Any) -> Answer:
    """Return the wheels off the ground."""
    free = free_running(drive)
    return {
        "motor_rpm": float(free.now.motor_rpm),
        "speed_mps": float(free.now.speed_mps),
        "full_charge_motor_rpm": float(free.full_charge.motor_rpm),
        "full_charge_speed_mps": float(free.full_charge.speed_mps),
    }


def derate_answer(drive: Drive, arguments: Any) -> Answer:
    """Return rpm by the hobby formula."""
    current_a, factor = scalar(arguments.current), scalar(arguments.load_factor / 100)
    if drive.pack.voltage_v(current_a) < 0:
        raise Refusal("current", "is more than the pack gives into a dead short")
    rpm = derated_rpm(drive, current_a, factor)
    if not math.isfinite(rpm):
        raise Refusal(
            "motor.kind",
            "has no KV: unloaded it turns ever faster, and the formula starts from a free speed",
        )
    speed_mps = drive.speed_mps(drive.output_rad_s(rpm / rpm_from_rad_s(1.0)))
    return {"motor_rpm": float(rpm), "speed_mps": float(speed_mps)}


ANSWERS: dict[str, Callable[[Drive, Any], Answer]] = {
    "top-speed": top_speed_answer,
    "cruise": cruise_answer,
    "full-throttle": full_throttle_answer,
    "launch": launch_answer,
    "free": free_answer,
    "derate": derate_answer,
}

IN_AIR: dict[str, Callable[[Any, Any], Answer]] = {
    "top-speed": craft.top_speed_answer,
    "cruise": craft.cruise_answer,
    "full-throttle": craft.full_throttle_answer,
    "launch": craft.launch_answer,
}
"""What is answered otherwise where propellers are turned."""
