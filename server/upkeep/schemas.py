"""The API's forms of upkeep."""

from typing import Annotated

from ninja import Schema
from pydantic import Field

from common.schemas import StrictSchema

Days = Annotated[int, Field(ge=1, le=36_500)]


class PolicyRequest(StrictSchema):
    """How many days things are kept that may go; None is for good."""

    searches_days: Days | None
    removed_days: Days | None


class RoomTaken(Schema):
    """How many there are of something, and the bytes that they take on the disk."""

    what: str
    count: int
    bytes: int


class Stands(Schema):
    """How something that is kept running stands: "up", or why not."""

    what: str
    how: str


class UpkeepAnswer(Schema):
    """What is kept how long, how large it is, and how many bytes the disk has left.

    `free_bytes` is None where that is not known, `stands` empty where nobody keeps it running.
    """

    stands: list[Stands]

    policy: PolicyRequest
    sizes: list[RoomTaken]
    database_bytes: int
    free_bytes: int | None


class Became(Schema):
    """What became of one kind of things in an archive.

    `added` were not there, `went_on` have more history in the archive, `beside` went on in both
    and are there twice now, `known` were there already.
    """

    added: int
    went_on: int
    beside: int
    known: int


class ArchiveTold(Schema):
    """What became of an archive."""

    builds: Became
    parts: Became
    briefs: Became
