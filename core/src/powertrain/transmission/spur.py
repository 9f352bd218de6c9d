"""Spur gears of involute teeth: sizes, contact, undercut and interference."""

import math
from dataclasses import dataclass

PRESSURE_DEG = 20.0
"""Pressure angle of nearly all gears that are sold."""


def module_of_diametral_pitch(teeth_per_inch: float) -> float:
    """Return the module in mm: 25.4 / P (definition)."""
    return 25.4 / teeth_per_inch


def fewest_with(ratio: float, pressure_deg: float = PRESSURE_DEG) -> float:
    """Return the fewest pinion teeth that don't interfere with a gear `ratio` times as large.

    ``2 k/((1 + 2 m) sin^2) (m + sqrt(m^2 + (1 + 2 m) sin^2))`` with k = 1. Source: Shigley,
    eq. 13-11 (16 teeth at 20 degrees and a ratio of 4, 13 at one of 1).
    """
    sine = math.sin(math.radians(pressure_deg)) ** 2
    return 2 / ((1 + 2 * ratio) * sine) * (ratio + math.sqrt(ratio**2 + (1 + 2 * ratio) * sine))


@dataclass(frozen=True)
class Mesh:
    """Two gears at a centre distance; lengths in mm."""

    module_mm: float
    driver: int
    driven: int
    centre_mm: float

    @property
    def true_centre_mm(self) -> float:
        """Centre distance at which the pitch circles touch: m (z1 + z2)/2 (ISO 54)."""
        return self.module_mm * (self.driver + self.driven) / 2

    @property
    def contact_ratio(self) -> float:
        """How many pairs of teeth bear on average; below 1.2 they knock.

        Length of the line of contact over the base pitch, for full-depth teeth at the centre
        distance there is. Source: Shigley, eq. 13-9 with the geometry of its fig. 13-15.
        """
        base = [self.module_mm * z / 2 * _cos() for z in (self.driver, self.driven)]
        tips = [self.module_mm * (z + 2) / 2 for z in (self.driver, self.driven)]
        if self.centre_mm < sum(base) or self.centre_mm <= 0:
            return 0.0
        angle = math.acos(min(1.0, sum(base) / self.centre_mm))
        line = sum(math.sqrt(tip**2 - b**2) for tip, b in zip(tips, base, strict=True))
        return (line - self.centre_mm * math.sin(angle)) / (math.pi * self.module_mm * _cos())

    @property
    def backlash_mm(self) -> float:
        """Extra backlash along the pitch circle by standing further apart: 2 dC tan(angle)."""
        return 2 * (self.centre_mm - self.true_centre_mm) * math.tan(math.radians(PRESSURE_DEG))


def _cos() -> float:
    return math.cos(math.radians(PRESSURE_DEG))


def mesh_range_mm(module_mm: float, driver: int, driven: int) -> tuple[float, float]:
    """Return the centre distances at which a pair still runs.

    From touching pitch circles to a quarter of a module more, where backlash and noise grow but
    the teeth still bear; common practice, no source.
    """
    true = module_mm * (driver + driven) / 2
    return true, true + 0.25 * module_mm
