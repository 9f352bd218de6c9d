"""How much motor there is in a kilogram, by how it is made: ``Km^2 = q m^(5/3)``.

Km is torque over the root of its copper heat, k/sqrt(R), m the mass in kg; the exponent is that of
geometric scaling. The qualities q are common practice, no source: ferrite cans with brushes hold
little, many poles on a wide rim much.
"""

from dataclasses import dataclass
from typing import Literal

Make = Literal["brushed", "inrunner", "outrunner", "hub", "brushless", "series_wound", "packaged"]


@dataclass(frozen=True)
class OfMake:
    """What motors of one make have in common.

    `quality` is Km^2 in (N.m)^2/W of one of a kilogram; `lasting_w_per_kg` the copper heat that it
    carries off for long; `loss_share` the loss torque over the torque that makes that heat.
    `off` is the factor within which a resistance guessed from it lies eight times in ten.
    """

    quality: float
    lasting_w_per_kg: float
    loss_share: float
    off: float


MAKES: dict[Make, OfMake] = {
    "brushed": OfMake(0.014, 40.0, 0.12, 2.0),
    "inrunner": OfMake(0.03, 45.0, 0.05, 1.9),
    "outrunner": OfMake(0.065, 80.0, 0.04, 1.9),
    "hub": OfMake(0.16, 28.0, 0.04, 2.0),
    "brushless": OfMake(0.06, 55.0, 0.045, 2.8),
    "series_wound": OfMake(0.012, 30.0, 0.04, 2.2),
    "packaged": OfMake(0.01, 30.0, 0.03, 2.5),
}
"""`brushless` stands for one whose rotor is not known to be inside, outside or the wheel."""


def usual_km2(make: Make, mass_kg: float) -> float:
    """Return the usual Km^2 of a motor of a mass."""
    return float(MAKES[make].quality * mass_kg ** (5 / 3))
