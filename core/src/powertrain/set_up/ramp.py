"""How fast the trigger may rise: pack, grip, front and rider."""

from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.compile.build import CompiledBuild
from powertrain.operating.inrush import inrush_of
from powertrain.operating.ramp import FASTEST_PCT_S, Ramps, fastest_pct_s
from powertrain.plain import number

RIDER_MPS2 = 3.0
"""A push under which a standing rider holds on; common practice, no source."""

STANDS_KG = 130.0
"""Heavier vehicles have a seat."""

Why = Literal["cut_off", "grip", "front_lift", "rider", "current_limit"]


class RampAnswer(BaseModel):
    """The fastest ramp and what sets it; what a grabbed trigger draws without any.

    `fastest_pct_per_s` is None where no ramp at all is slow enough, and for an inverter, which
    ramps by itself.
    """

    fastest_pct_per_s: float | None
    limited_by: Why | None
    inrush_a: float | None
    least_pack_v: float | None


def ramp_of(compiled: CompiledBuild) -> RampAnswer:
    """Return how fast the duty of a build may rise from rest."""
    drive = compiled.drive
    if drive.motor.has_inverter:
        return RampAnswer(fastest_pct_per_s=None, limited_by=None, inrush_a=None, least_pack_v=None)
    rush = inrush_of(drive)
    fastest, next_one = fastest_pct_s(
        drive, lambda ramps: np.any(list(_fails(compiled, ramps).values()), axis=0)
    )
    why = next((name for name, bad in _fails(compiled, next_one).items() if bad.any()), None)
    if fastest == FASTEST_PCT_S and next_one.clipped.any():
        why = "current_limit"
    return RampAnswer(
        fastest_pct_per_s=fastest,
        limited_by=why,
        inrush_a=number(rush.battery_a),
        least_pack_v=number(rush.battery_v),
    )


def _fails(compiled: CompiledBuild, ramps: Ramps) -> dict[Why, NDArray[np.bool_]]:
    """Return which ramps fail at what, in the order in which it is told."""
    drive, vehicle = compiled.drive, compiled.ratings.vehicle
    fails: dict[Why, NDArray[np.bool_]] = {
        "cut_off": ramps.least_pack_v < compiled.ratings.pack.cut_off_v,
        "grip": ramps.slips,
    }
    if drive.rolls:
        lifts = drive.wheels.grip.lifting_mps2(drive.load.usual)
        fails["front_lift"] = ramps.hardest_mps2 > lifts
        if not bool(vehicle.is_model) and float(vehicle.mass_kg) <= STANDS_KG:
            fails["rider"] = ramps.hardest_mps2 > RIDER_MPS2
    return fails
