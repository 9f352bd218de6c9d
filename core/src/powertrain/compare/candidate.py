"""One build of several that are compared, with what is asked of it."""

from dataclasses import dataclass

from powertrain.bench.answer import Answer
from powertrain.documents.build import Build
from powertrain.drive import Drive


@dataclass(frozen=True)
class Compared:
    """A build on equal terms; `hours` are those of use over which costs are counted."""

    build: Build
    drive: Drive
    answer: Answer
    hours: float


Said = tuple[float | None, str]
"""A value with a note, '' where there is nothing to add."""
