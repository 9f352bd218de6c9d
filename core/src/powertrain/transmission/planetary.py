"""Planetary gears and differentials, whose ratio is fixed by their teeth."""

from powertrain.errors import Refusal


def planetary_ratio(sun: int, ring: int) -> float:
    """Return turns of the sun for one of the carrier with the ring held: 1 + ring/sun.

    Source: Willis' equation; e.g. Shigley, section 13-13.
    """
    if sun < 6 or ring <= sun:
        raise Refusal("ring", "must have more teeth than the sun, and the sun at least 6")
    return 1 + ring / sun


def planets_fit(sun: int, ring: int, planets: int) -> bool:
    """Return whether equal planets can stand evenly around: (sun + ring)/planets is whole."""
    return (sun + ring) % planets == 0 and (ring - sun) % 2 == 0
