"""What cold does to cells: more resistance, less charge that can be had.

Read off data sheets of ordinary cells, from memory, good to a third of the excess; common practice
where they differ. From 20 C up all is as stated.
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array

Points = tuple[tuple[float, float], ...]

RESISTANCE: dict[str, Points] = {
    "lipo": ((-20.0, 4.0), (-10.0, 2.6), (0.0, 1.8), (10.0, 1.3), (20.0, 1.0)),
    "li_ion": ((-20.0, 4.5), (-10.0, 2.8), (0.0, 1.8), (10.0, 1.3), (20.0, 1.0)),
    "lifepo4": ((-20.0, 5.0), (-10.0, 3.2), (0.0, 2.0), (10.0, 1.4), (20.0, 1.0)),
    "lead_acid": ((-20.0, 1.9), (-10.0, 1.5), (0.0, 1.25), (10.0, 1.1), (20.0, 1.0)),
    "nimh": ((-20.0, 2.5), (-10.0, 1.8), (0.0, 1.4), (10.0, 1.15), (20.0, 1.0)),
}
"""How many times its resistance a cell has at a temperature, by chemistry."""

CAPACITY: dict[str, Points] = {
    "lipo": ((-20.0, 0.60), (-10.0, 0.75), (0.0, 0.87), (10.0, 0.95), (20.0, 1.0)),
    "li_ion": ((-20.0, 0.60), (-10.0, 0.77), (0.0, 0.88), (10.0, 0.95), (20.0, 1.0)),
    "lifepo4": ((-20.0, 0.50), (-10.0, 0.70), (0.0, 0.84), (10.0, 0.94), (20.0, 1.0)),
    "lead_acid": ((-20.0, 0.50), (-10.0, 0.65), (0.0, 0.80), (10.0, 0.90), (20.0, 1.0)),
    "nimh": ((-20.0, 0.60), (-10.0, 0.75), (0.0, 0.88), (10.0, 0.95), (20.0, 1.0)),
}
"""Part of its charge that can be had of a cell at a temperature, by chemistry."""


@dataclass(frozen=True)
class Along:
    """A value straight between points, beyond the ends that of the ends."""

    points: Points

    def at(self, x: Array) -> Array:
        """Return the value at `x`, of any shape."""
        found = self.points[0][1] + 0.0 * x
        for (low, from_y), (high, to_y) in zip(self.points, self.points[1:], strict=False):
            way = np.minimum(np.maximum(x - low, 0.0), high - low)
            found = found + (to_y - from_y) * way / (high - low)
        return found
