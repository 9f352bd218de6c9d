"""The API's forms. Documents and answers are the core's own models."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from common.schemas import ErrorBody
from engine.schemas import Change
from powertrain.archetypes import GroupId
from powertrain.bench.answer import StateAnswer
from powertrain.documents.build import Build as BuildDocument

Number = Annotated[int, Field(ge=1, le=2_000_000_000)]


class CreateRequest(Schema):
    """A first document."""

    document: BuildDocument
    change_id: UUID


class SaveRequest(Schema):
    """The next version, made from version `base`."""

    base: Number
    document: BuildDocument
    change_id: UUID


class StepRequest(Schema):
    """The version that stood when undo or redo was pressed."""

    base: Number


class RestoreRequest(Schema):
    """The version to bring back, and the one that stood."""

    base: Number
    number: Number


class PinRequest(Schema):
    """The version to compare with."""

    number: Number


ListId = Literal["teeth", "power", "day"]
"""The lists of a build that are ticked off: the cautious way up, the first time under power, and
what is looked at before a test day."""


class Ticked(Schema):
    """What is done of a list, by the names of its items, and how many there are (0: not known)."""

    done: list[Annotated[str, Field(max_length=200)]] = Field(max_length=500)
    of: int = Field(0, ge=0, le=10_000)


class Pinned(Schema):
    """The state that differences are shown against."""

    number: int
    document: BuildDocument


class BuildAnswer(Schema):
    """A build as it stands."""

    id: UUID
    name: str
    demo: str
    head: int
    can_undo: bool
    can_redo: bool
    changed_at: datetime
    document: BuildDocument
    pinned: Pinned
    ticks: dict[ListId, Ticked]


class BuildFigures(Schema):
    """A build in a line: its stream at cruise, and what to say of it."""

    drive: str
    motors: int
    state: StateAnswer
    cruise_mps: float
    top_speed_mps: float
    climb_speed_mps: float
    climb_met: bool
    titles: dict[str, str]
    stops: int
    watches: int


class BuildCard(Schema):
    """A build in the list.

    `figures` is None while they are still worked out, or where the document can't be read; then
    `problem` says why.
    """

    id: UUID
    name: str
    demo: str
    changed_at: datetime
    figures: BuildFigures | None
    problem: ErrorBody | None


class RemovedCard(Schema):
    """A build that was taken out of the list."""

    id: UUID
    name: str
    removed_at: datetime


class BuildsAsked(Schema):
    """Which builds of the list: those whose name holds some words, a page at a time.

    `whose` are all, those that are the user's own, or the workshop's examples; an example that
    was changed is the user's own.
    `after` is the `next` of the page before.
    """

    words: str = Field("", max_length=200)
    sort: Literal["changed", "name"] = "changed"
    whose: Literal["all", "own", "examples"] = "all"
    after: str = Field("", max_length=400)
    limit: int = Field(24, ge=1, le=100)


class BuildList(Schema):
    """A page of the owner's builds; `total` counts all that were asked for.

    `next` is what the next page is asked for with, empty after the last. `removed` are the last
    that were taken out of the list.
    """

    builds: list[BuildCard]
    total: int
    next: str
    removed: list[RemovedCard]


class VersionCard(Schema):
    """A version in the history."""

    number: int
    parent: int | None
    aside: bool
    made_at: datetime
    made_by: str
    changes: list[Change]


class ArchetypeCard(Schema):
    """A vehicle to begin from."""

    id: str
    group: GroupId
    title: str
    say: str
    document: BuildDocument
    state: StateAnswer
    top_speed_mps: float
