"""The volts of a resting cell over its charge.

Straight between points. The usual curves are read off data sheets of ordinary cells and off
textbook curves (Plett, Battery Management Systems, vol. 1, fig. 2.10 for lithium-ion and iron
phosphate; IEC 61951 cells for nickel; open-circuit volts of lead-acid by their acid), from memory,
good to some hundredths of a volt.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar

USUAL: dict[str, tuple[tuple[float, float], ...]] = {
    "lipo": (
        (0.0, 3.27),
        (0.05, 3.61),
        (0.1, 3.69),
        (0.2, 3.73),
        (0.3, 3.77),
        (0.4, 3.80),
        (0.5, 3.84),
        (0.6, 3.87),
        (0.7, 3.95),
        (0.8, 4.02),
        (0.9, 4.11),
        (1.0, 4.18),
    ),
    "li_ion": (
        (0.0, 3.00),
        (0.05, 3.30),
        (0.1, 3.42),
        (0.2, 3.54),
        (0.3, 3.60),
        (0.4, 3.65),
        (0.5, 3.71),
        (0.6, 3.80),
        (0.7, 3.90),
        (0.8, 3.98),
        (0.9, 4.07),
        (1.0, 4.18),
    ),
    "lifepo4": (
        (0.0, 2.80),
        (0.05, 3.10),
        (0.1, 3.20),
        (0.2, 3.24),
        (0.3, 3.27),
        (0.4, 3.29),
        (0.7, 3.32),
        (0.9, 3.34),
        (0.97, 3.36),
        (1.0, 3.40),
    ),
    "lead_acid": ((0.0, 1.95), (0.25, 2.00), (0.5, 2.04), (0.75, 2.08), (1.0, 2.13)),
    "nimh": (
        (0.0, 1.10),
        (0.05, 1.20),
        (0.2, 1.25),
        (0.5, 1.28),
        (0.8, 1.31),
        (0.95, 1.36),
        (1.0, 1.40),
    ),
}
"""Share of charge and volts of a cell that has rested, by chemistry; rising."""


@dataclass(frozen=True)
class OpenCircuit:
    """Volts of a whole pack over its charge: `at_v[i]` at a share `at[i]`, rising."""

    at: tuple[float, ...]
    at_v: tuple[Array, ...]

    @classmethod
    def flat(cls, open_circuit_v: Array) -> "OpenCircuit":
        """Return volts that do not change: what is taken where nothing is known of the curve."""
        return cls((0.0,), (open_circuit_v,))

    @classmethod
    def of_points(cls, points: Sequence[tuple[float, float]], cells: Array) -> "OpenCircuit":
        """Return the curve of a pack through points of one of its cells in series."""
        return cls(tuple(at for at, _ in points), tuple(volts * cells for _, volts in points))

    @classmethod
    def usual(cls, chemistry: str, cells: Array) -> "OpenCircuit":
        """Return the curve that is usual of a chemistry."""
        return cls.of_points(USUAL[chemistry], cells)

    def volts(self, charge: Array) -> Array:
        """Return the volts at a share of charge; beyond the ends those of the ends."""
        found = self.at_v[0] + 0.0 * charge
        for low, high, from_v, to_v in zip(
            self.at, self.at[1:], self.at_v, self.at_v[1:], strict=False
        ):
            way = np.minimum(np.maximum(charge - low, 0.0), high - low)
            found = found + (to_v - from_v) * way / (high - low)
        return found

    def charge(self, open_circuit_v: Array) -> Array:
        """Return the share of charge at which a pack rests at some volts.

        Where the curve is flat, the least; beyond its ends, nought or one. A curve of one point
        says nothing, and a full pack is taken.
        """
        if len(self.at) == 1:
            return scalar(1.0) + 0.0 * open_circuit_v
        found = self.at[0] + 0.0 * open_circuit_v
        for low, high, from_v, to_v in zip(
            self.at, self.at[1:], self.at_v, self.at_v[1:], strict=False
        ):
            way = np.minimum(np.maximum(open_circuit_v - from_v, 0.0), to_v - from_v)
            found = found + (high - low) * way / (to_v - from_v)
        return found
