"""A Hall sensor that sits beside its place: torque lost by a late or early commutation."""

import math

from pydantic import BaseModel

from powertrain.errors import Refusal


class HallAnswer(BaseModel):
    """How far off it is in electrical degrees, and what that costs: 1 - cos of it.

    `ripple_pct` is how far the torque swings within each sixth of a turn, of its mean; of a
    sinusoidal back-EMF in six steps it is 13 % with the sensor in its place.
    """

    electrical_deg: float
    torque_lost_pct: float
    ripple_pct: float


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
        ripple_pct=_ripple_pct(abs(electrical)),
    )


def _ripple_pct(off_deg: float) -> float:
    """Return the swing of cos over the sixth of a turn about an offset, of its mean there."""
    if off_deg >= 60:
        return 100.0
    most = math.cos(math.radians(max(off_deg - 30, 0.0)))
    least = math.cos(math.radians(off_deg + 30))
    mean = math.cos(math.radians(off_deg)) * 3 / math.pi
    return min(100 * (most - least) / mean, 100.0)
