"""The same motor at other volts, at equal torque.

A torque takes the same amps whatever the volts, so the speed that they leave goes with
``V - I R - V_brush``, not with V: ``n2/n1 = (V2 - I R)/(V1 - I R)`` (any textbook of DC machines).
"""

from typing import Literal

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.constants import RPM_PER_RAD_S
from powertrain.documents.build import Build
from powertrain.plain import number
from powertrain.verdicts.context import RuleContext

USUAL_V = (24.0, 36.0, 48.0, 60.0, 72.0, 80.0, 96.0, 120.0, 144.0, 192.0)

SEGMENT_V = 15.0
"""Mean volts between neighbouring bars of a commutator above which it flashes over (common
practice, no source: 15 of small machines without interpoles)."""

ROUND_OVER = 1.2
"""What a maker's own volts are passed by at most while nobody has asked him; common practice."""


class AtVolts(BaseModel):
    """One pack's volts: rpm, watts and what they ask of the motor."""

    volts: float
    now: bool
    rpm: float | None
    shaft_w: float | None
    copper_w: float
    word: Literal["ok", "watch", "stop"]
    say: str


class VoltsAnswer(BaseModel):
    """Equal torque at usual volts: `torque_nm` of one motor, which takes `amps`.

    `ohm` is what its own volts at rest are over the amps, brushes included.
    """

    torque_nm: float
    amps: float
    ohm: float
    rows: list[AtVolts]
    say: str


def volts_of(build: Build, context: RuleContext) -> VoltsAnswer | None:
    """Return the same torque at other volts; None for a motor that came with its inverter.

    The amps are the motor's rated ones, or those of its hill where nothing is rated.
    """
    motor, controller = context.drive.motor, context.drive.controller
    if motor.has_inverter:
        return None
    rated = build.motor.continuous_current_a
    amps = rated if rated is not None else abs(float(context.moments.climb.state.motor_current_a))
    if not np.isfinite(amps) or amps <= 0:
        return None
    amps_ = scalar(amps)
    here = float(context.drive.pack.nominal_v)
    drop = float(controller.path_drop_v(amps_))
    ohm = float(motor.voltage_v(scalar(0.0), amps_)) / amps
    volts = sorted({*(v for v in USUAL_V if 0.5 * here <= v <= 2.1 * here), round(here, 1)})
    rows = [_row(build, context, amps, v, v == round(here, 1), drop) for v in volts]
    speed = motor.speed_at_voltage_rad_s(amps_, scalar(here - drop))
    torque = float(motor.shaft_torque_nm(speed, amps_))
    return VoltsAnswer(
        torque_nm=torque,
        amps=amps,
        ohm=ohm,
        rows=rows,
        say=f"{torque:.0f} N.m take {amps:.0f} A at any volts, and as much heat in the copper. "
        "Speed goes with the volts less what amps times ohms take.",
    )


def _row(
    build: Build, context: RuleContext, amps: float, volts: float, now: bool, drop: float
) -> AtVolts:
    motor = context.drive.motor
    turns = motor.speed_at_voltage_rad_s(scalar(amps), scalar(volts - drop))
    torque = motor.shaft_torque_nm(turns, scalar(amps))
    rpm = number(turns * RPM_PER_RAD_S)
    word, say = _judged(build, volts, rpm)
    return AtVolts(
        volts=volts,
        now=now,
        rpm=None if rpm is None or rpm <= 0 else rpm,
        shaft_w=number(torque * turns) if rpm is not None and rpm > 0 else None,
        copper_w=float(motor.copper_heat_w(scalar(amps))),
        word=word,
        say=say,
    )


def _judged(
    build: Build, volts: float, rpm: float | None
) -> tuple[Literal["ok", "watch", "stop"], str]:
    motor = build.motor
    if rpm is None or rpm <= 0:
        return "stop", "The amps take all the volts: it does not turn."
    if motor.max_rpm is not None and rpm > motor.max_rpm:
        return "stop", f"{rpm:,.0f} rpm, above the {motor.max_rpm:,.0f} that it is made for."
    limit = motor.max_voltage_v
    if limit is not None and volts > limit:
        over = 100 * (volts / limit - 1)
        word: Literal["watch", "stop"] = "watch" if volts <= ROUND_OVER * limit else "stop"
        return word, (
            f"{over:.0f} % above the {limit:g} V its maker allows: brushes and commutator were "
            "tried at those. Ask him first."
        )
    bars, poles = motor.slots, motor.poles
    if motor.commutation == "brushed" and bars is not None and poles is not None:
        segment = volts * poles / bars
        if segment > SEGMENT_V:
            return "stop", (
                f"{segment:.0f} V between neighbouring bars, above {SEGMENT_V:.0f}: it flashes "
                "over."
            )
        say = f"{segment:.1f} V between neighbouring bars of {SEGMENT_V:.0f}"
        return "ok", f"{say}, with a bar for each slot."
    if limit is None and motor.commutation == "brushed":
        return "watch", (
            "Its highest volts are not told. Count the commutator's bars, ask its maker, and watch "
            "for a ring of sparks."
        )
    return "ok", "Within what is told of it."
