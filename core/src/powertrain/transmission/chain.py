"""Roller chain and toothed belt over two wheels: lengths, centre distances, wrap.

A strand lies on the pitch circles; its free parts are the tangents between them. That is exact
for a belt, and for a chain but for the chords of its links (its length is off by less than a
hundredth of a pitch from 15 teeth on).
"""

import math
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from powertrain.arrays import Array
from powertrain.errors import Refusal

Real = TypeVar("Real", float, Array)
"""A number or an array of them."""


def sprocket_pitch_diameter_mm(pitch_mm: Real, teeth: Real) -> Real:
    """Return the circle on which the rollers of a chain lie: p / sin(180/z).

    Source: ISO 606; Machinery's Handbook.
    """
    return pitch_mm / np.sin(np.pi / teeth)  # type: ignore[no-any-return]


def sprocket_outside_diameter_mm(pitch_mm: Real, teeth: Real) -> Real:
    """Return the diameter over the tips of a sprocket: p (0.6 + cot(180/z)).

    Source: American National Standard (ASME B29.1), Machinery's Handbook; from memory.
    """
    return pitch_mm * (0.6 + 1 / np.tan(np.pi / teeth))  # type: ignore[no-any-return]


def pulley_pitch_diameter_mm(pitch_mm: Real, teeth: Real) -> Real:
    """Return the pitch circle of a toothed pulley: z p / pi (ISO 5296, ISO 13050)."""
    return teeth * pitch_mm / np.pi


@dataclass(frozen=True)
class Strand:
    """A strand around two wheels; lengths in mm.

    `small` and `large` are pitch radii.
    """

    small_mm: float
    large_mm: float
    centre_mm: float

    @property
    def slope_rad(self) -> float:
        """Angle between a free part and the line of centres."""
        return math.asin((self.large_mm - self.small_mm) / self.centre_mm)

    @property
    def length_mm(self) -> float:
        """Length of the strand: both tangents and what lies on the wheels."""
        slope = self.slope_rad
        tangents = 2 * self.centre_mm * math.cos(slope)
        return (
            tangents + self.small_mm * (math.pi - 2 * slope) + self.large_mm * (math.pi + 2 * slope)
        )

    @property
    def wrap_deg(self) -> float:
        """Angle of the smaller wheel that the strand lies on."""
        return 180.0 - 2 * math.degrees(self.slope_rad)


def strand_of(small_mm: float, large_mm: float, length_mm: float) -> Strand:
    """Return the strand of a given length; its centre distance by bisection.

    Raises
    ------
    Refusal
        If the strand is too short to go around both wheels side by side.
    """
    small_mm, large_mm = min(small_mm, large_mm), max(small_mm, large_mm)
    low = max(large_mm - small_mm, 1e-9) * (1 + 1e-12)
    if Strand(small_mm, large_mm, low).length_mm > length_mm:
        raise Refusal("links", "is too short to go around both wheels")
    high = low + length_mm
    for _ in range(200):
        middle = (low + high) / 2
        if Strand(small_mm, large_mm, middle).length_mm < length_mm:
            low = middle
        else:
            high = middle
    return Strand(small_mm, large_mm, (low + high) / 2)


def teeth_in_mesh(strand: Strand, teeth: int) -> float:
    """Return how many teeth of the smaller wheel the strand lies on."""
    return teeth * strand.wrap_deg / 360


STANDARD_BELTS: dict[float, tuple[int, ...]] = {
    5.08: (
        30,
        35,
        40,
        45,
        50,
        55,
        60,
        65,
        70,
        75,
        80,
        85,
        90,
        95,
        100,
        105,
        110,
        115,
        120,
        125,
        130,
    ),
    9.525: (33, 40, 50, 56, 60, 64, 68, 72, 76, 80, 86, 92, 98, 104, 112, 120, 128, 136, 144, 160),
    12.7: (
        48,
        54,
        60,
        66,
        72,
        78,
        84,
        90,
        96,
        102,
        108,
        114,
        120,
        126,
        132,
        140,
        150,
        160,
        170,
        180,
        200,
        220,
        250,
        280,
        340,
    ),
    22.225: (58, 64, 72, 80, 88, 96, 112, 128, 144, 160, 176, 200),
    31.75: (56, 64, 72, 80, 96, 112, 128, 144),
    3.0: (50, 59, 60, 67, 70, 75, 80, 85, 90, 95, 100, 106, 111, 117, 125, 128, 140, 150, 159, 177),
    5.0: (
        60,
        68,
        71,
        75,
        80,
        85,
        90,
        95,
        100,
        105,
        107,
        110,
        115,
        120,
        127,
        130,
        142,
        150,
        160,
        180,
        200,
    ),
    8.0: (60, 70, 75, 80, 90, 100, 110, 120, 130, 140, 150, 160, 180, 200, 225, 250),
}
"""Teeth of standard endless belts by pitch in mm: XL, L, H, XH and XXH of ISO 5296; 3, 5 and
8 mm curved profiles as commonly listed (ISO 13050 series). From memory."""


def nearest_belts(pitch_mm: float, teeth: float) -> tuple[int | None, int | None]:
    """Return the standard belts just shorter and just longer; None where the table ends."""
    listed = next(
        (counts for pitch, counts in STANDARD_BELTS.items() if abs(pitch - pitch_mm) < 0.01), ()
    )
    shorter = [count for count in listed if count <= teeth]
    longer = [count for count in listed if count > teeth]
    return (shorter[-1] if shorter else None, longer[0] if longer else None)
