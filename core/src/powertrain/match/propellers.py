"""Every propeller that may be chosen, by id, and what candidates have of theirs."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.documents.propeller import Propeller
from powertrain.documents.vehicle import Stage
from powertrain.load.air import density_of
from powertrain.match.alike import Columns, alike_of, numbers_of
from powertrain.propeller.propeller import Blades
from powertrain.stated import Stated


@dataclass(frozen=True)
class PropellerColumns:
    """What candidates have of their propellers; `one` stands for all of them."""

    one: Propeller
    numbers: Columns
    """Numbers of the document by path, a row for each candidate."""
    mass_kg: Array
    price: Array
    stages: Array

    def of_build(self) -> Mapping[str, Array]:
        """Return the numbers of the propellers."""
        return self.numbers

    def documents(self) -> dict[str, Any]:
        """Return a propeller that states the same things as all of them."""
        return {"propeller": self.one}


@dataclass(frozen=True)
class Propellers:
    """Propellers by id, one for each motor, behind a gearing that is the same for all or none.

    `group` numbers those that state the same things; a document of one, with columns, stands for
    them all. `mass_kg` and `price` are of as many as there are motors.
    """

    ids: tuple[str, ...]
    documents: tuple[Propeller, ...]
    mass_kg: Array
    price: Array
    group: NDArray[np.int64]
    stages: tuple[Stage, ...]
    numbers: tuple[Columns, ...]
    """Of each group, over all propellers; rows of others are no numbers."""

    @classmethod
    def of(
        cls, named: list[tuple[str, Propeller, float]], motors: int, stages: list[Stage]
    ) -> "Propellers":
        """Return propellers with their ids and prices, for a number of motors."""
        ids, documents, prices = zip(*named, strict=True) if named else ((), (), ())
        group, numbers = np.zeros(len(named), np.int64), []
        for number, places in enumerate(alike_of(list(documents))):
            group[places] = number
            columns = numbers_of([documents[place] for place in places], "propeller.")
            numbers.append(
                {path: _spread(col, places, len(named)) for path, col in columns.items()}
            )
        return cls(
            tuple(ids),
            tuple(documents),
            motors * np.array([one.mass_kg or 0.0 for one in documents], float),
            motors * np.array(prices, float),
            group,
            tuple(stages),
            tuple(numbers),
        )

    def __len__(self) -> int:
        return len(self.ids)

    def columns(self, places: Any) -> PropellerColumns:
        """Return what candidates with these have of them."""
        places = np.asarray(places)
        number = int(self.group[places[0]]) if len(places) else 0
        columns = {path: column[places] for path, column in self.numbers[number].items()}
        return PropellerColumns(
            self.documents[int(places[0])] if len(places) else self.documents[0],
            columns,
            self.mass_kg[places],
            self.price[places],
            np.full(len(places), float(len(self.stages))),
        )

    def none(self, count: int) -> PropellerColumns:
        """Return the first of them without mass or price: what is asked of it does not matter."""
        nothing = np.zeros(count)
        return PropellerColumns(self.documents[0], {}, nothing, nothing, nothing)

    def alike(self, places: NDArray[np.int64]) -> Iterator[NDArray[Any]]:
        """Yield candidates group by group."""
        groups = self.group[places]
        for number in np.unique(groups):
            yield np.flatnonzero(groups == number)

    def document_of(self, place: int) -> dict[str, Any]:
        """Return one of them, and the gearing before it."""
        return {"propeller": self.documents[place], "gearing": list(self.stages)}

    def bought(self, place: int) -> dict[str, Any]:
        """Return which to buy."""
        return {"gearing": [], "propeller": self.ids[place], "ratio": 1.0, "twins": 1}

    def blades_of(self, conditions: Stated, places: NDArray[np.int64]) -> list[Blades]:
        """Return some in numbers, in the air of a document."""
        air = density_of(conditions)
        return [Blades.of(Stated(self.documents[place]), air) for place in places]


def _spread(column: Array, places: NDArray[np.int64], count: int) -> Array:
    whole = np.full(count, np.nan)
    whole[places] = column
    return whole
