"""How far a pack goes: usable energy between two states of charge, losses in the pack counted."""

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.drive import Drive
from powertrain.operating.settings import Usable
from powertrain.operating.state import State
from powertrain.units import kmh_from_mps

FOR_EVER_H = 1e6
"""Hours of a century, beyond which nothing is told of how long a charge lasts."""


def usable_wh(usable: Usable, drive: Drive) -> Array:
    """Return the usable energy at the cells' nominal volts."""
    return usable.share * drive.pack.nominal_v * drive.pack.capacity_ah


def hours_left(drive: Drive, usable: Usable, state: State) -> Array:
    """Return how long usable energy feeds a state; infinite where none is drawn."""
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        hours = usable_wh(usable, drive) / state.cells_w
        return np.where((state.cells_w > 0) & (hours < FOR_EVER_H), hours, np.inf)


def range_km(drive: Drive, usable: Usable, state: State) -> Array:
    """Return how far usable energy goes at a steady state; NaN where nothing is drawn."""
    hours = hours_left(drive, usable, state)
    speed_kmh = kmh_from_mps(state.speed_mps)
    moves = np.isfinite(hours) & (speed_kmh > 0)
    return np.where(moves, np.where(moves, hours, 0.0) * speed_kmh, scalar(np.nan))
