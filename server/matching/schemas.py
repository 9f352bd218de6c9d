"""The API's forms of briefs and matches. Documents and answers are the core's own models."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from ninja import Schema
from pydantic import Field

from common.schemas import StrictSchema
from powertrain.documents.brief import Brief as BriefDocument
from powertrain.documents.describe import FieldInfo
from powertrain.match.answer import Margin, MatchAnswer
from powertrain.match.why import WhyAnswer

Place = Annotated[str, Field(pattern=r"^[a-z0-9_.]{1,200}$")]


class BriefRequest(StrictSchema):
    """A whole brief, and whether to search the shelf for it at once.

    `said` are the places in it that a person said, all others are guesses; left out, it stays as
    it was, and of a new brief everything is said.
    """

    document: BriefDocument
    said: list[Place] | None = Field(None, max_length=200)
    search: bool = False


class MatchCard(Schema):
    """How far a search is."""

    id: UUID
    brief_id: UUID
    state: str
    considered: int
    to_solve: int
    solved: int
    feasible: int
    problem: str
    made_at: datetime
    ended_at: datetime | None


class MatchProgress(MatchCard):
    """How far a search is, and the answer as far as there is one."""

    document: dict[str, Any]
    answer: MatchAnswer | None


class Made(Schema):
    """The build that was made."""

    id: UUID


class BuildOf(Schema):
    """A build that was made for a brief, by its name."""

    id: UUID
    name: str


class BriefAnswer(Schema):
    """A brief as it stands, with its last search and the builds that were made for it.

    `said` are the places that a person said, all others are guesses; None if all was said.
    `weights` are all of them, those that the document leaves out as they usually are.
    """

    id: UUID
    name: str
    changed_at: datetime
    document: BriefDocument
    said: list[str] | None
    weights: dict[str, float]
    match: MatchCard | None
    builds: list[BuildOf]


class BriefCard(Schema):
    """A brief in the list."""

    id: UUID
    name: str
    changed_at: datetime
    match: MatchCard | None


class RemovedBrief(Schema):
    """A brief that was taken out of the list."""

    id: UUID
    name: str
    removed_at: datetime


class BriefsAsked(Schema):
    """A page of briefs; `after` is the `next` of the page before."""

    after: str = Field("", max_length=400)
    limit: int = Field(50, ge=1, le=100)


class BriefList(Schema):
    """A page of the owner's briefs, the last changed first; `total` counts all.

    `next` is what the next page is asked for with, empty after the last. `removed` are the last
    that were taken out of the list.
    """

    briefs: list[BriefCard]
    total: int
    next: str
    removed: list[RemovedBrief]


class StartBrief(Schema):
    """A brief to begin from: an archetype's vehicle without its drive, all of it guessed."""

    id: str
    title: str
    say: str
    document: BriefDocument


class WhyRequest(Schema):
    """The part, or the parts together, that somebody asks about."""

    motor: str | None = None
    controller: str | None = None
    battery: str | None = None
    propeller: str | None = None


class WhyTold(Schema):
    """Why they do or don't."""

    answer: WhyAnswer


class MakeRequest(Schema):
    """Which result becomes a build."""

    rank: int


class BriefMade(Schema):
    """The brief that a build has now."""

    id: UUID


class MetBrief(Schema):
    """How far a build meets its brief as it stands; None for a build without one.

    `changed` says that the brief has been changed since the build was made for it.
    """

    brief_id: UUID | None
    name: str
    changed: bool
    margins: dict[str, Margin]


class BriefFields(Schema):
    """Every field of a brief with its unit and explanation."""

    fields: list[FieldInfo]
