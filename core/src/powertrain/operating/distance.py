"""How far a pack goes: usable energy between two states of charge, losses in the pack counted."""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.build import Build, Moments
from powertrain.drive import Drive
from powertrain.operating.state import State
from powertrain.units import kmh_from_mps

FOR_EVER_H = 1e6
"""Hours of a century, beyond which nothing is told of how long a charge lasts."""

FROM_PCT, TO_PCT = 100.0, 10.0
"""States of charge between which a trip is reckoned when the document names none."""


@dataclass(frozen=True)
class Usable:
    """Between which states of charge the pack is used, in percent."""

    from_pct: float
    to_pct: float

    @classmethod
    def of(cls, moments: Moments) -> "Usable":
        """Return what a document says, or the usual."""
        begins, ends = moments.range_from_pct, moments.range_to_pct
        return cls(FROM_PCT if begins is None else begins, TO_PCT if ends is None else ends)

    @property
    def share(self) -> float:
        """Return the part of the pack's energy that is used, nought if the states are swapped."""
        return max(self.from_pct - self.to_pct, 0.0) / 100

    def energy_wh(self, drive: Drive) -> Array:
        """Return the usable energy at the cells' nominal volts."""
        return self.share * drive.pack.nominal_v * drive.pack.capacity_ah


def hours_left(drive: Drive, build: Build, state: State) -> Array:
    """Return how long usable energy feeds a state; infinite where none is drawn."""
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        hours = Usable.of(build.moments).energy_wh(drive) / state.cells_w
        return np.where((state.cells_w > 0) & (hours < FOR_EVER_H), hours, np.inf)


def range_km(drive: Drive, build: Build, state: State) -> Array:
    """Return how far usable energy goes at a steady state; NaN where nothing is drawn."""
    hours = hours_left(drive, build, state)
    speed_kmh = kmh_from_mps(state.speed_mps)
    moves = np.isfinite(hours) & (speed_kmh > 0)
    return np.where(moves, np.where(moves, hours, 0.0) * speed_kmh, scalar(np.nan))
