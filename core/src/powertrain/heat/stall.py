"""Held stalled at full throttle: which node passes its limit first, and when."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, greatest, scalar
from powertrain.drive import Drive
from powertrain.heat.limits import NODES, NodeId, TemperatureLimits
from powertrain.heat.parameters import ThermalParameters
from powertrain.heat.passing import seconds_at_nought
from powertrain.heat.temperatures import after, stalled, temperatures
from powertrain.operating.state import State


@dataclass(frozen=True)
class Stall:
    """The stalled state, the seconds to the first limit (infinite: never), and whose that is.

    `node` is a place among `NODES`.
    """

    state: State
    seconds: Array
    node: NDArray[np.int64]

    @property
    def first(self) -> NodeId:
        """The node that passes its limit first, of one drive."""
        return NODES[int(self.node)]


def stall_of(drive: Drive, thermal: ThermalParameters, limits: TemperatureLimits) -> Stall:
    """Return how long drives may be held stalled."""
    state, local, flows = stalled(drive, thermal)
    heat = temperatures(local, flows, limits, scalar(60.0))
    times = np.stack(np.broadcast_arrays(*(getattr(heat, node).to_limit_s for node in NODES)))
    return Stall(state, np.min(times, axis=0), np.argmin(times, axis=0))


TABLE = np.geomspace(0.05, 20.0, 11)
"""Times at which stalls of many drives are looked at, as factors on the one they vary."""


def stall_seconds(
    drive: Drive, thermal: ThermalParameters, limits: TemperatureLimits, near: Stall
) -> Array:
    """Return how long each of many drives may be held stalled, read between times of a table.

    Infinite where no limit is passed within twenty times that of `near`, whose variants they
    are.
    """
    _, local, flows = stalled(drive, thermal)
    near_s = float(near.seconds)
    at_s = (near_s if 0 < near_s < np.inf else 3600.0) * TABLE[:, None]
    reached = after(local, flows, at_s)
    over = [reached[node] - limits.of(node) for node in NODES]
    worst = greatest(*over)
    return seconds_at_nought(at_s, worst)
