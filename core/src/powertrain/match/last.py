"""What is chosen last, once motor, controller and pack are there: a gearing, or a propeller.

A search knows no more of it than stands here. Gearings and what bounds them are in `gearings` and
`bounds`, propellers in `propellers` and `bounds_in_air`.
"""

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Protocol

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.compile.build import CompiledBuild

if TYPE_CHECKING:
    from powertrain.match.groups import PartSets

Places = NDArray[np.int64]
Mask = NDArray[np.bool_]


class LastColumns(Protocol):
    """What candidates have of it, one or an array of them; `price` is NaN where it is not known."""

    @property
    def mass_kg(self) -> Array:
        """Its mass."""
        ...

    @property
    def price(self) -> Array:
        """Its price."""
        ...

    @property
    def stages(self) -> Array:
        """How many reductions it has."""
        ...

    def of_build(self) -> Mapping[str, Array]:
        """Return the numbers that a build has of it, by document path."""
        ...

    def documents(self) -> Mapping[str, Any]:
        """Return the parts of a build that stand for all of them, by field of the document."""
        ...


class Last(Protocol):
    """All that may be chosen, each by its place."""

    def __len__(self) -> int:
        """Return how many there are."""
        ...

    def columns(self, places: Any) -> LastColumns:
        """Return what candidates with these have of them, all of them `alike`."""
        ...

    def none(self, count: int) -> LastColumns:
        """Return what stands for it where it does not matter yet: no mass, no price."""
        ...

    def alike(self, places: Places) -> Iterator[NDArray[Any]]:
        """Yield which of some candidates one document can stand for, together all of them."""
        ...

    def document_of(self, place: int) -> dict[str, Any]:
        """Return what a build's document has of one: `gearing`, `propeller`."""
        ...

    def bought(self, place: int) -> dict[str, Any]:
        """Return what to buy for one, as fields of `powertrain.match.answer.Parts`."""
        ...


@dataclass(frozen=True)
class Intervals:
    """Stretches of places that may do.

    `trio` is a row, `low` and `counts` are places among those that are possible at all. A trio may
    have none or several. `rejected` says how many candidates fell out, by the reason.
    """

    trio: Places
    low: Places
    counts: Places
    rejected: Counter[str]


class Bounds(Protocol):
    """What rules out candidates before any is solved; a sound bound rules out nothing else."""

    def refused(self) -> Iterator[tuple[str, Mask]]:
        """Yield what falls out by itself, whatever it is joined to, and why."""
        ...

    def motors_refused(self) -> tuple[str, Mask]:
        """Return which motors nothing of the kind can be joined to, and why."""
        ...

    def intervals(self, trios: "PartSets", level: CompiledBuild, places: Places) -> Intervals:
        """Return which of the possible `places` each trio may use.

        Parameters
        ----------
        level : CompiledBuild
            The trios joined to `Last.none`.
        """
        ...

    def of_candidates(
        self, trios: "PartSets", row: Places, place: Places
    ) -> Iterator[tuple[str, Mask]]:
        """Yield which candidates pass what is told of parts alone, and the reason."""
        ...
