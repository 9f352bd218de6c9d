"""What a moment is: a drive, or many, as it is at one, and what was asked of it there."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.operating.launch import Launch
from powertrain.operating.peaks import Peaks
from powertrain.operating.settings import MomentId
from powertrain.operating.state import State

CRUISE_SHARE = 0.6
"""An ordinary trip as a share of the top speed, when the document names no cruise."""

LAUNCH_SHARE = 0.5
"""Where a launch ends as a share of the top speed, when the document names no speed."""


@dataclass(frozen=True)
class MomentTargets:
    """What the moments ask of a drive, in numbers; `assumed` names what the document left open."""

    launch_to_mps: Array
    climb_situation: Array
    climb_mps: Array | None
    cruise_mps: Array
    assumed: tuple[MomentId, ...]


@dataclass(frozen=True)
class Moment:
    """A drive, or many, at one moment.

    `target_kmh` and `situation` say what was asked; `assumed` that the document left it open;
    `met` whether the drive does it. Where it does not, `state` is what it does instead.
    """

    id: MomentId
    state: State
    target_kmh: float | None
    situation: float
    assumed: bool
    met: NDArray[np.bool_]


@dataclass(frozen=True)
class MomentStates:
    """All five, with the launch as it runs from standstill."""

    launch: Moment
    climb: Moment
    cruise: Moment
    top_speed: Moment
    wheels_up: Moment
    launch_run: Launch | None
    peaks: Peaks
    """The most amps at full throttle, at any speed from rest to top speed."""
    climb_top: State
    """Full throttle on the climb's grade, whatever speed is asked there."""
    tops: State
    """The first drive at top speed on several grades, rising: the level, four hills spread over
    what it can push, and the document's own."""
    targets: MomentTargets

    def all(self) -> tuple[Moment, ...]:
        """Return them in the order in which they are shown."""
        return (self.launch, self.climb, self.cruise, self.top_speed, self.wheels_up)
