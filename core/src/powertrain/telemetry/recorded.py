"""What was recorded over time, whatever recorded it."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[np.float64]


@dataclass
class Recorded:
    """A logger's table: `columns` by what they hold, in the units of a run's table.

    `said` tells for each column of the file what it was taken for (None: not understood);
    `marked` the rows in which a value lies far off its neighbours, by column; they stay in.
    """

    columns: dict[str, Numbers]
    said: dict[str, str | None]
    marked: dict[str, list[int]] = field(default_factory=dict)
    notes: list[str] = field(default_factory=list)

    @property
    def times(self) -> Numbers:
        """Seconds from the first row."""
        return self.columns["time_s"]
