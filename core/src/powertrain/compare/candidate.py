"""One build of several that are compared, with what is asked of it."""

from dataclasses import dataclass
from functools import cached_property

from powertrain.bench.answer import Answer
from powertrain.compare.trip import trip_of
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.runs.answer import RunAnswer


@dataclass(frozen=True)
class Compared:
    """A build on equal terms; `hours` are those of use over which costs are counted."""

    build: Build
    drive: Drive
    answer: Answer
    hours: float

    @cached_property
    def trip(self) -> RunAnswer | None:
        """Its trip over its own hill, ridden when it is first asked for."""
        return trip_of(self.build, self.answer)


Said = tuple[float | None, str]
"""A value with a note, '' where there is nothing to add."""
