"""A Hall sensor that sits beside its place: torque lost by a late or early commutation."""

import math

from pydantic import BaseModel

from powertrain.errors import Refusal


class HallAnswer(BaseModel):
    """How far off it is in electrical degrees, and what that costs: 1 - cos of it."""

    electrical_deg: float
    torque_lost_pct: float


def hall_of(offset_deg: float, poles: int, *, mechanical: bool) -> HallAnswer:
    """Return what an offset costs.

    Parameters
    ----------
    offset_deg : float
        Electrical degrees, or those of the rotor where `mechanical`.
    poles : int
        Magnets of the rotor, counted singly: an even number.

    Raises
    ------
    Refusal
        If the poles are odd.
    """
    if poles % 2:
        raise Refusal("poles", "must be an even number: each north has its south")
    electrical = offset_deg * (poles / 2 if mechanical else 1.0)
    return HallAnswer(
        electrical_deg=electrical,
        torque_lost_pct=100 * (1 - math.cos(math.radians(electrical))),
    )
