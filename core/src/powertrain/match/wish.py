"""What a wish is: a figure, a limit, and when it can be told."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.drive import Drive
from powertrain.match.candidates import Candidates
from powertrain.stated import Stated

Mask = NDArray[np.bool_]
Ask = Callable[[Stated], Array]
"""Asks one part for a figure, NaN where it does not say."""


@dataclass(frozen=True)
class Rejection:
    """Why a candidate falls out by a wish, as people say it, and where in the brief it stands.

    `field` is the way to it among the wishes, one or two names.
    """

    words: str
    field: tuple[str, ...]


@dataclass(frozen=True)
class Wished:
    """One figure with one limit.

    `sense` is 1 for at least and -1 for at most. `at` says in which state it is judged.
    """

    id: str
    label: str
    unit: str
    limit: float
    sense: Literal[1, -1]
    at: str

    def margin(self, value: Array) -> Array:
        """Return how much room is left as a share of the limit, negative where it is missed."""
        scale = abs(self.limit) if self.limit else 1.0
        return self.sense * (value - self.limit) / scale

    def met(self, value: Array) -> Mask:
        """Return whether the limit is kept, by more than arithmetic can blur; not where unknown."""
        return np.asanyarray(self.margin(value) >= -1e-9)

    def figure(self, candidates: Candidates) -> Array:
        """Return the figure of candidates; NaN where it is not known."""
        raise NotImplementedError


@dataclass(frozen=True)
class OfPart(Wished):
    """A wish that one part's document answers."""

    part: Literal["motor", "controller", "pack", "propeller"]
    ask: Ask

    def figure(self, candidates: Candidates) -> Array:
        """Return what the part states."""
        return self.ask(candidates.said.under("battery" if self.part == "pack" else self.part))


@dataclass(frozen=True)
class OfSum(Wished):
    """A wish that parts answer together: what they weigh or cost."""

    value: Callable[[Candidates], Array]

    def figure(self, candidates: Candidates) -> Array:
        """Return what the parts sum up to."""
        return self.value(candidates)


@dataclass(frozen=True)
class OfDrive(Wished):
    """A wish that the solved drive answers.

    Where `quick` is there, it tells from the drive alone whether the wish is met, without any
    search; `value` needs the moments. `steady` says that cruise and climb are enough of them,
    `ungeared` that gearing makes no difference.
    """

    value: Callable[[Candidates], Array]
    quick: Callable[[Drive], Mask] | None = None
    steady: bool = False
    ungeared: bool = False
    stands: Callable[[Candidates], Mask] | None = None
    """Where the figure itself is only found for one drive, whether many keep the limit."""

    def figure(self, candidates: Candidates) -> Array:
        """Return what the drive does."""
        return self.value(candidates)
