"""What a wish is: a figure, a limit, and when it can be told."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.documents.electrics import Battery, Controller
from powertrain.documents.motor import MotorDocument
from powertrain.drive import Drive
from powertrain.match.seen import Seen

Mask = NDArray[np.bool_]
Ask = Callable[[Any], float | None]
"""Asks one part's document for a figure, None where it does not say."""


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


@dataclass(frozen=True)
class OfPart(Wished):
    """A wish that one part's document answers."""

    part: Literal["motor", "controller", "pack"]
    ask: Ask

    def of(self, motor: MotorDocument, controller: Controller, battery: Battery) -> float | None:
        """Return the figure of a whole set of parts."""
        document = {"motor": motor, "controller": controller, "pack": battery}[self.part]
        return self.ask(document)


@dataclass(frozen=True)
class OfSum(Wished):
    """A wish that parts answer together: what they weigh or cost."""

    value: Callable[[Seen], Array]


@dataclass(frozen=True)
class OfDrive(Wished):
    """A wish that the solved drive answers.

    Where `quick` is there, it tells from the drive alone whether the wish is met, without any
    search; `value` needs the moments. `steady` says that cruise and climb are enough of them,
    `ungeared` that gearing makes no difference.
    """

    value: Callable[[Seen], Array]
    quick: Callable[[Drive], Mask] | None = None
    steady: bool = False
    ungeared: bool = False
    stands: Callable[[Seen], Mask] | None = None
    """Where the figure itself is only found for one drive, whether many keep the limit."""
