"""What an instrument reads of a true value: its noise, its resolution, its usual tolerance.

Tolerances are common practice, no source: the reading lies within them four times in five.
"""

from dataclasses import dataclass

import numpy as np

from powertrain.documents.log import Instrument
from powertrain.doubt.draws import FOUR_IN_FIVE


@dataclass(frozen=True)
class Tool:
    """Its tolerance, absolute or as a share, and the smallest step that it shows."""

    absolute: float
    share: float
    shows: float

    def tolerance(self, value: float) -> float:
        """Return within what a reading of a value lies four times in five."""
        return max(self.absolute, self.share * abs(value), 1e-9)

    def reads(self, value: float, chance: np.random.Generator) -> float:
        """Return a reading of a value."""
        off = chance.normal() * self.tolerance(value) / FOUR_IN_FIVE
        return round(round((value + off) / self.shows) * self.shows, 9)


TOOLS: dict[Instrument, Tool] = {
    "satellite": Tool(0.4, 0.0, 0.1),
    "tachometer": Tool(0.0, 0.005, 1.0),
    "tape": Tool(3.0, 0.0, 1.0),
    "infrared": Tool(2.0, 0.0, 0.1),
    "clamp": Tool(0.0, 0.03, 0.1),
    "watt_meter": Tool(0.0, 0.01, 0.01),
    "logger": Tool(0.0, 0.01, 0.01),
    "stopwatch": Tool(0.15, 0.0, 0.01),
    "hand": Tool(10.0, 0.0, 5.0),
}
