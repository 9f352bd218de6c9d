"""What the engine's questions take and answer."""

from typing import Any

from ninja import Schema
from pydantic import Field

from powertrain.bench.answer import Answer
from powertrain.by_then import When
from powertrain.compare.terms import Terms
from powertrain.documents.build import Build as BuildDocument
from powertrain.documents.describe import FieldInfo, KindName
from powertrain.levers.operations import Operation


class SolveRequest(Schema):
    """A document, and what was done to it that is not carried out yet."""

    document: BuildDocument
    operations: list[Operation] = Field(default_factory=list, max_length=100)
    when: When = "now"
    """When it is looked at: as it is now, with a full pack, or at the end of its trip."""
    gear: int | None = Field(None, ge=1, le=100)
    """In which gear of its gearbox, from the shortest; the best at each speed where left out."""


class Change(Schema):
    """One value that differs."""

    path: str
    label: str
    unit: str
    before: Any
    after: Any


class SolveAnswer(Schema):
    """The document after the operations, and all that the bench shows of it."""

    document: BuildDocument
    changes: list[Change]
    answer: Answer


class FieldList(Schema):
    """Every field a build document may have, and every single fact of a motor and of a cell.

    `fact_kinds` are the kinds of motor whose constants facts can tell.
    """

    fields: list[FieldInfo]
    motor_facts: list[FieldInfo]
    cell_facts: list[FieldInfo]
    motor_kinds: list[KindName]
    fact_kinds: list[str]


class CompareRequest(Schema):
    """Two to five builds, the first of which sets the terms."""

    documents: list[BuildDocument]
    terms: Terms = Terms()


class BaselineRequest(Schema):
    """A build, and the line of the table that it is held against; the nearest if none."""

    document: BuildDocument
    chosen: str | None = None
