"""What a build asks of its controller, in numbers that a controller's data can be held against."""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import scalar
from powertrain.documents.build import Build
from powertrain.match.compose import driven_as
from powertrain.operating.free import free_running
from powertrain.operating.full_throttle import motor_side_power_w
from powertrain.set_up.advise import sensing_of
from powertrain.set_up.advised_by import figures_of_build
from powertrain.verdicts.context import RuleContext

START_SHARE = 1.25
"""A start on its hill wants so much of what only holds it there; common practice, no source."""


ON_WHEELS = {
    "top_speed": "flat out",
    "climb": "on its hill",
    "cruise": "at cruise",
    "start": "a start on its hill",
}
LIFTING = {
    "top_speed": "lifting at its fastest",
    "climb": "lifting",
    "cruise": "lifting",
    "start": "a lift from rest",
}


@dataclass(frozen=True)
class Needs:
    """Volts of the pack, what has to be driven, and the amps it takes; infinite where unknown.

    Motor amps are of one motor, DC-equivalent; pack amps are all together.
    """

    drives: str
    motors: int
    full_v: float
    rest_v: float
    empty_v: float
    erpm: float
    long_motor_a: float
    long_pack_a: float
    start_motor_a: float
    start_pack_a: float
    held_on: str
    started_on: str
    sensor: str | None
    should_sense: bool
    signal: str | None


def needs_of(build: Build, context: RuleContext) -> Needs:
    """Return what a build asks, with its present controller's amps limits out of the way."""
    drive, ratings = context.drive, context.ratings
    steady = {
        moment.id: moment.state
        for moment in (context.moments.top_speed, context.moments.climb, context.moments.cruise)
    }
    words = ON_WHEELS if drive.rolls else LIFTING
    hardest = max(steady, key=lambda key: float(steady[key].motor_current_a))
    motor_a = float(steady[hardest].motor_current_a)
    pack_a = max(float(state.battery_current_a) for state in steady.values())
    start_motor_a, start_pack_a = _start(context)
    motor = ratings.motor
    free_rpm = float(free_running(drive).full_charge.motor_rpm)
    erpm = free_rpm * float(motor.poles) / 2 if motor.brushless else 0.0
    senses = drive.rolls and motor.brushless and not drive.motor.has_inverter
    return Needs(
        drives=driven_as(build.motor),
        motors=build.motor.count,
        full_v=float(drive.pack.charger_v),
        rest_v=float(drive.pack.open_circuit_v),
        empty_v=float(ratings.pack.cut_off_v),
        erpm=erpm,
        long_motor_a=motor_a,
        long_pack_a=pack_a,
        start_motor_a=max(start_motor_a, motor_a),
        start_pack_a=max(start_pack_a, pack_a),
        held_on=words[hardest],
        started_on=words["start"],
        sensor=motor.sensor if motor.brushless else None,
        should_sense=senses and sensing_of(figures_of_build(build), "brushless").pick == "sensored",
        signal=build.vehicle.throttle_signal,
    )


def _start(context: RuleContext) -> tuple[float, float]:
    """Return the motor and pack amps of a start on the hill, at rest, with some to spare."""
    drive = context.drive.in_gear(context.drive.train.gears[0])
    stated = context.settings.climb_grade_pct
    hill = scalar(float(drive.load.usual if stated is None else stated))
    asked_nm = START_SHARE * drive.shaft_torque_for_nm(drive.load.still_nm(hill))
    nothing = scalar(0.0)
    if drive.motor.has_inverter:
        return 0.0, 0.0
    amps = drive.motor.current_at_torque_a(nothing, asked_nm)
    power_w = motor_side_power_w(drive, nothing, amps)
    pack_a = drive.pack.current_at_power_a(power_w, drive.controller.standby_a)
    found = (float(np.nan_to_num(value, nan=np.inf)) for value in (amps, pack_a))
    return next(found), next(found)
