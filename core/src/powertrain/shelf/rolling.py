"""Wheels, toothed wheels, strands, wires and connectors.

A toothed wheel's mass goes with the square of its diameter, its price follows its mass
(common practice, no source). Chains pull an eighth of what breaks them (ISO 606), belts by
their width.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi
from typing import Any, Literal

from powertrain.documents.shelf import ConnectorPart, StrandPart, ToothedRange, WheelPart, WirePart


@dataclass(frozen=True)
class Teeth:
    """Drivers and driven wheels of one pitch or module."""

    code: str
    kind: Literal["chain", "belt", "spur"]
    measure_mm: float
    efficiency: float
    thick_mm: float
    drivers: tuple[int, ...]
    driven: tuple[int, ...]
    strength: tuple[tuple[str, float], ...] = ()
    kg_per_mm3: float = 7.8e-6
    solid: float = 0.5
    """Part of a driven wheel's disc that is not cut away."""


PINIONS, SPROCKETS = tuple(range(9, 31)), tuple(range(9, 26))
"""Every size of small pitches is sold."""

TEETH = (
    Teeth(
        "Lockgate M05",
        "spur",
        0.5,
        0.97,
        4.0,
        PINIONS,
        (46, 52, 60, 68, 76, 90),
        (("face_mm", 4.0), ("allowed_stress_mpa", 60.0)),
        1.2e-6,
    ),
    Teeth(
        "Lockgate M08",
        "spur",
        0.8,
        0.97,
        6.0,
        PINIONS,
        (44, 46, 50, 56, 66),
        (("face_mm", 6.0), ("allowed_stress_mpa", 150.0)),
    ),
    Teeth(
        "Lockgate M10",
        "spur",
        1.0,
        0.975,
        8.0,
        PINIONS,
        (40, 46, 54, 72),
        (("face_mm", 8.0), ("allowed_stress_mpa", 250.0)),
    ),
    Teeth(
        "Lockgate M20",
        "spur",
        2.0,
        0.975,
        16.0,
        (12, 15, 20),
        (40, 50, 60),
        (("face_mm", 16.0), ("allowed_stress_mpa", 250.0)),
    ),
    Teeth(
        "Lockgate T3",
        "belt",
        3.0,
        0.96,
        9.0,
        (14, 16, 20),
        (36, 48, 60),
        (("allowed_pull_n", 90.0),),
        2.7e-6,
    ),
    Teeth(
        "Lockgate T5",
        "belt",
        5.0,
        0.965,
        15.0,
        (14, 16, 18, 20),
        (36, 48, 60, 72),
        (("allowed_pull_n", 420.0),),
        2.7e-6,
    ),
    Teeth(
        "Lockgate T8",
        "belt",
        8.0,
        0.97,
        30.0,
        (22, 28, 34),
        (56, 80, 112),
        (("allowed_pull_n", 1500.0),),
        2.7e-6,
    ),
    Teeth("Lockgate C6", "chain", 6.35, 0.955, 3.0, SPROCKETS, (44, 54, 64)),
    Teeth("Lockgate C8", "chain", 8.0, 0.96, 3.0, SPROCKETS, (44, 54, 68)),
    Teeth("Lockgate C12", "chain", 12.7, 0.97, 2.8, SPROCKETS, (32, 36, 40, 44, 48, 52)),
    Teeth("Lockgate C15", "chain", 15.875, 0.97, 6.0, (11, 13, 15), (38, 45, 54)),
)


def teeth() -> Iterator[ToothedRange]:
    """Yield drivers and driven wheels of every pitch and module."""
    for made in TEETH:
        for side, counts in (("driver", made.drivers), ("driven", made.driven)):
            name = f"{made.code} {'drivers' if side == 'driver' else 'driven wheels'}"
            measure = "module_mm" if made.kind == "spur" else "pitch_mm"
            yield ToothedRange.model_validate(
                {
                    "id": f"{made.code} {side}".lower().replace(" ", "-"),
                    "name": name,
                    "kind": made.kind,
                    "side": side,
                    measure: made.measure_mm,
                    "efficiency": made.efficiency,
                    "sizes": [_size(made, side, count) for count in counts],
                    **dict(made.strength),
                }
            )


def _size(made: Teeth, side: str, count: int) -> dict[str, Any]:
    pitch = made.measure_mm * (pi if made.kind == "spur" else 1)
    diameter = pitch * count / pi
    solid = 1.0 if side == "driver" else made.solid
    mass = max(made.kg_per_mm3 * solid * pi / 4 * diameter**2 * made.thick_mm, 0.001)
    return {
        "teeth": count,
        "mass_kg": float(f"{mass:.2g}"),
        "price": round(2.5 + 11 * mass**0.6, 1),
    }


WHEELS = (
    (55, 35),
    (85, 32),
    (100, 45),
    (110, 48),
    (150, 50),
    (200, 50),
    (254, 65),
    (305, 57),
    (406, 54),
    (508, 47),
    (559, 54),
    (622, 40),
    (400, 100),
    (480, 120),
)
"""Rim or roller diameter and tyre width in mm; from 305 on with a tyre as high as it is wide."""


def wheels() -> Iterator[WheelPart]:
    """Yield wheels from model rollers to cart tyres."""
    for rim, width in WHEELS:
        outside = rim if rim < 305 else rim + 2 * min(width, 60)
        mass = 4.5e-7 * outside**2 * width * (0.5 if rim >= 305 and width < 60 else 1.2)
        name = f"Mudlark {rim}x{width}"
        # Under its load a tyre rolls a little less than it measures.
        rolls = pi * outside * (0.995 if rim < 305 else 0.985)
        yield WheelPart.model_validate(
            {
                "id": name.lower().replace(" ", "-"),
                "name": name,
                "wheel": {"name": name, "rolling_circumference_mm": float(round(rolls))},
                "width_mm": width,
                "mass_kg": float(f"{mass / 10:.2g}"),
                "price": round(3 + 9 * (mass / 10) ** 0.7, 1),
            }
        )


CHAINS = ((6.35, 3500.0, 0.15), (8.0, 4600.0, 0.18), (12.7, 8900.0, 0.33), (15.875, 22200.0, 1.0))
BELTS = ((3.0, 90.0, 0.025), (5.0, 420.0, 0.06), (8.0, 1500.0, 0.18))


def strands() -> Iterator[StrandPart]:
    """Yield chains, an eighth of their breaking load allowed, and belts."""
    for pitch, breaks, mass in CHAINS:
        yield StrandPart(
            id=f"towpath-chain-{pitch:g}",
            name=f"Towpath chain {pitch:g} mm",
            kind="chain",
            pitch_mm=pitch,
            allowed_pull_n=breaks / 8,
            mass_kg_per_m=mass,
            price_per_m=round(4 + 14 * mass, 1),
        )
    for pitch, pull, mass in BELTS:
        yield StrandPart(
            id=f"towpath-belt-{pitch:g}",
            name=f"Towpath belt {pitch:g} mm",
            kind="belt",
            pitch_mm=pitch,
            allowed_pull_n=pull,
            mass_kg_per_m=mass,
            price_per_m=round(6 + 90 * mass, 1),
        )


AREAS_MM2 = (0.5, 0.75, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 35.0, 50.0)
CONNECTORS_A = (15, 30, 45, 60, 90, 120, 175, 350)


def wires() -> Iterator[WirePart]:
    """Yield stranded wires."""
    for area in AREAS_MM2:
        yield WirePart(
            id=f"towpath-wire-{area:g}",
            name=f"Towpath wire {area:g} mm2",
            area_mm2=area,
            price_per_m=round(0.4 + 0.32 * area, 1),
        )


def connectors() -> Iterator[ConnectorPart]:
    """Yield pairs of connectors."""
    for amps in CONNECTORS_A:
        yield ConnectorPart(
            id=f"towpath-pair-{amps}",
            name=f"Towpath pair {amps} A",
            current_a=float(amps),
            price=round(0.8 + 0.045 * amps, 1),
        )
