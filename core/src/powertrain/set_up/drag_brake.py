"""A motor shorted by its controller: what it holds on a slope, and how slowly it lets go.

A shorted motor brakes with ``T = k^2 w/R``: at rest with nothing, so that it never holds still; it
creeps at ``w = T R/k^2``. What holds still is friction alone: tyres and the motor's own.
"""

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.compile.build import CompiledBuild
from powertrain.documents.build import Build
from powertrain.operating.shorted import can_short, short_ohm
from powertrain.plain import number
from powertrain.units import kmh_from_mps


class DragBrakeAnswer(BaseModel):
    """The slope that friction alone holds, and the creep and heat on the build's own hill.

    None where the motor does not brake when shorted, or the load is no wheel.
    """

    holds_grade_pct: float | None
    creep_kmh: float | None
    heat_w: float | None


NONE = DragBrakeAnswer(holds_grade_pct=None, creep_kmh=None, heat_w=None)


def drag_brake_of(
    build: Build, compiled: CompiledBuild, pct: float | None = None
) -> DragBrakeAnswer:
    """Return what the drag brake does on the hill of the build, downhill.

    Parameters
    ----------
    pct : float, optional
        The share of a shorted motor's braking; what the build says, else all of it.
    """
    drive = compiled.drive
    if not (drive.rolls and can_short(drive)):
        return NONE
    drive = drive.in_gear(drive.train.gears[0])
    motor, road = drive.motor, drive.wheels.road
    nothing, one = scalar(0.0), scalar(1.0)
    friction_nm = -motor.shaft_torque_nm(nothing, nothing)
    # The slope drives the wheels: what gears lose helps to hold.
    held_n = -float(drive.force_n(drive.output_nm(-friction_nm)))
    weight_n = float(road.weight_n)
    lean = np.arctan(float(road.rolling_n(nothing)) / weight_n)
    sine = np.clip(held_n / weight_n * np.cos(lean), -1.0, 1.0)
    holds_pct = number(100 * np.tan(np.minimum(np.arcsin(sine) + lean, 1.5)))

    stated = compiled.settings.climb_grade_pct
    hill = scalar(-abs(float(drive.load.hard if stated is None else stated)))
    shaft_nm = float(-drive.shaft_torque_for_nm(drive.load.still_nm(hill)) - friction_nm)
    said = build.controller.drag_brake_pct if pct is None else pct
    share = 1.0 if said is None else said / 100
    if shaft_nm <= 0:
        return DragBrakeAnswer(holds_grade_pct=holds_pct, creep_kmh=0.0, heat_w=0.0)
    if share <= 0:
        return DragBrakeAnswer(holds_grade_pct=holds_pct, creep_kmh=None, heat_w=None)
    # By the motor's own formula: the torque of one amp.
    nm_per_a = float(motor.shaft_torque_nm(nothing, one) + friction_nm)
    ohm = float(short_ohm(drive))
    turns = shaft_nm * ohm / (nm_per_a**2 * share)
    creep = kmh_from_mps(drive.speed_mps(drive.output_rad_s(scalar(turns))))
    heat_w = float(motor.count) * shaft_nm * turns
    return DragBrakeAnswer(
        holds_grade_pct=holds_pct, creep_kmh=number(creep), heat_w=number(heat_w)
    )
