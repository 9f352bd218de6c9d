"""Propellers by the family: sizes by a rule, each held fast on a scale once.

What a family's tests read follows pitch over diameter as it does with blades of its kind: thrust
grows with pitch until the blades stall standing, power goes on growing (common practice, no
source; the figures are invented and belong to no maker).
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from powertrain.documents.shelf import PropellerPart

INCH_MM = 25.4
AIR_KG_M3 = 1.225

RATIOS = (0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)
THRUST: dict[int, tuple[float, ...]] = {
    2: (0.073, 0.091, 0.103, 0.106, 0.100, 0.090, 0.083, 0.080),
    3: (0.091, 0.116, 0.136, 0.147, 0.144, 0.130, 0.116, 0.109),
    4: (0.105, 0.135, 0.161, 0.180, 0.184, 0.172, 0.150, 0.136),
}
"""C_T standing at `RATIOS` of pitch over diameter, by the number of blades."""

POWER: dict[int, tuple[float, ...]] = {
    2: (0.0235, 0.0320, 0.0412, 0.0503, 0.0594, 0.0694, 0.0810, 0.0930),
    3: (0.0320, 0.0440, 0.0575, 0.0708, 0.0830, 0.0945, 0.1080, 0.1240),
    4: (0.0395, 0.0550, 0.0720, 0.0895, 0.1055, 0.1193, 0.1330, 0.1510),
}
"""C_P likewise."""


@dataclass(frozen=True)
class Family:
    """Propellers of one make: what they have in common, and the sizes, in inches.

    `thrust` and `power` say how its tests read beside the usual; `tip_mps` is the tips' speed that
    its maker allows, `density` its mass over the cube of its diameter.
    """

    name: str
    blades: int
    inches: tuple[tuple[float, tuple[float, ...]], ...]
    thrust: float
    power: float
    tip_mps: float
    density: float
    price: float


FAMILIES = (
    Family(
        "Sallowfen R",
        2,
        (
            (5, (3, 4, 5)),
            (6, (3, 4, 5, 6)),
            (7, (3, 4, 5, 6)),
            (8, (4, 5, 6, 8)),
            (9, (4, 5, 6, 7)),
            (10, (4, 5, 6, 7, 8)),
            (11, (5, 6, 7, 8)),
            (12, (5, 6, 8, 10)),
            (13, (5, 6, 8, 10)),
            (14, (6, 7, 8, 10)),
        ),
        0.98,
        1.0,
        185.0,
        1.3,
        2.4,
    ),
    Family(
        "Sallowfen T",
        3,
        (
            (6, (3, 4, 5)),
            (8, (4, 5, 6)),
            (10, (5, 6, 7)),
            (12, (6, 7, 8)),
            (14, (7, 8, 9)),
            (16, (8, 9, 10)),
        ),
        0.97,
        1.03,
        165.0,
        1.7,
        3.6,
    ),
    Family(
        "Sallowfen Q",
        2,
        (
            (15, (5, 6, 8, 10)),
            (16, (5, 6, 8, 10)),
            (17, (6, 8, 10, 12)),
            (18, (6, 8, 10, 12)),
            (20, (7, 8, 10, 12)),
            (22, (8, 10, 12, 14)),
            (24, (8, 9, 10, 12, 14)),
        ),
        1.0,
        0.98,
        150.0,
        1.0,
        3.2,
    ),
    Family(
        "Heronholt W",
        2,
        (
            (26, (10, 12, 14, 16)),
            (28, (10, 12, 14, 16)),
            (30, (11, 13, 15, 18)),
            (32, (12, 14, 16, 18)),
            (34, (13, 15, 17, 20)),
            (36, (14, 16, 18, 20, 22)),
            (40, (15, 18, 20, 22, 25)),
            (44, (16, 18, 20, 22, 24)),
        ),
        0.96,
        1.02,
        175.0,
        1.6,
        5.5,
    ),
)


def propellers() -> Iterator[PropellerPart]:
    """Yield every propeller of the shelf."""
    for family in FAMILIES:
        for diameter, pitches in family.inches:
            for pitch in pitches:
                yield _part(family, diameter, pitch)


def _part(family: Family, diameter: float, pitch: float) -> PropellerPart:
    size_m = diameter * INCH_MM / 1000
    turns = 0.55 * family.tip_mps / (np.pi * size_m)
    ct = family.thrust * np.interp(pitch / diameter, RATIOS, THRUST[family.blades])
    cp = family.power * np.interp(pitch / diameter, RATIOS, POWER[family.blades])
    name = f"{family.name} {diameter:g}x{pitch:g}"
    return PropellerPart.model_validate(
        {
            "id": name.lower().replace(" ", "-"),
            "name": name,
            "propeller": {
                "name": name,
                "diameter_mm": round(diameter * INCH_MM, 1),
                "pitch_mm": round(pitch * INCH_MM, 1),
                "blades": family.blades,
                "mass_kg": _digits(family.density * size_m**3, 2),
                "max_rpm": _digits(60 * family.tip_mps / (np.pi * size_m), 2),
                "price": round(1.5 + family.price * (size_m / 0.25) ** 1.6, 1),
                "static": {
                    "rpm": _digits(60 * turns, 2),
                    "thrust_n": _digits(ct * AIR_KG_M3 * turns**2 * size_m**4, 3),
                    "shaft_power_w": _digits(cp * AIR_KG_M3 * turns**3 * size_m**5, 3),
                },
            },
            "provenance": {
                f"propeller.static.{key}": {"origin": "data_sheet"}
                for key in ("thrust_n", "shaft_power_w")
            },
        }
    )


def _digits(value: float, digits: int) -> float:
    return float(f"{value:.{digits}g}")
