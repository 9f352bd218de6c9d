"""Held stalled at full throttle: which node passes its limit first, and when."""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, greatest, scalar
from powertrain.drive import Drive
from powertrain.heat.limits import NODES, Limits, NodeId
from powertrain.heat.passing import seconds_at_nought
from powertrain.heat.store import Store
from powertrain.heat.temperatures import after, stalled, temperatures
from powertrain.operating.state import State


@dataclass(frozen=True)
class Stall:
    """The stalled state, the seconds to the first limit, and the node that passes it."""

    state: State
    seconds: float
    node: NodeId


def stall_of(drive: Drive, store: Store, limits: Limits) -> Stall:
    """Return how long one drive may be held stalled; infinite if for ever."""
    state, local, flows = stalled(drive, store)
    heat = temperatures(local, flows, limits, scalar(60.0))
    times: list[Array] = [getattr(heat, node).to_limit_s for node in NODES]
    first = int(np.argmin([float(time) for time in times]))
    return Stall(state, float(times[first]), NODES[first])


TABLE = np.geomspace(0.05, 20.0, 11)
"""Times at which stalls of many drives are looked at, as factors on the one they vary."""


def stall_seconds(drive: Drive, store: Store, limits: Limits, near: Stall) -> Array:
    """Return how long each of many drives may be held stalled, read between times of a table.

    Infinite where no limit is passed within twenty times that of `near`, whose variants they
    are.
    """
    _, local, flows = stalled(drive, store)
    begins = 0 < near.seconds < np.inf
    at_s = (near.seconds if begins else 3600.0) * TABLE[:, None]
    reached = after(local, flows, at_s)
    over = [reached[node] - getattr(limits, node).value_c for node in NODES]
    worst = greatest(*over)
    return seconds_at_nought(at_s, worst)
