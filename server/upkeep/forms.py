"""The open format of an archive, ``young-torrent.archive/1``: a ZIP of JSON documents.

``archive.json`` says what it is; ``builds/ID.json``, ``parts/KIND/ID.json`` and
``briefs/ID.json`` each hold one thing with all its history. Documents stand in it as they are
stored, also those that this program can't read any more.
"""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, StringConstraints

from builds.schemas import ListId, Ticked
from powertrain.documents.shelf import KINDS, PartRef

FORMAT = "young-torrent.archive/1"

Plain = dict[str, Any]
Number = Annotated[int, Field(ge=1, le=2_000_000_000)]
Name = Annotated[str, StringConstraints(max_length=120)]


class Form(BaseModel):
    """One thing of an archive: nothing that is not known here, so that nothing gets lost."""

    model_config = ConfigDict(extra="forbid")


class Manifest(Form):
    """What the archive is."""

    format: Literal["young-torrent.archive/1"]
    made_at: AwareDatetime
    builds: int
    parts: int
    briefs: int


class VersionForm(Form):
    """One version of a build."""

    number: Number
    parent: Number | None
    document: Plain
    changes: list[Any]
    aside: bool
    change_id: UUID | None
    made_at: AwareDatetime


class OriginForm(Form):
    """The brief that a build was made for, as it was then."""

    brief: UUID
    document: Plain


class RideForm(Form):
    """A ride that is kept with a build."""

    id: UUID
    version: Number
    name: Name
    ride: Plain
    air_c: float | None
    track: list[tuple[float, float, float]] | None
    told: Plain
    verdicts: list[Plain]
    made_at: AwareDatetime
    removed_at: AwareDatetime | None


class PhotoForm(Form):
    """A photo of a measured run: its JPEG in base64."""

    model_config = ConfigDict(ser_json_bytes="base64", val_json_bytes="base64")

    id: UUID
    jpeg: Annotated[bytes, Field(max_length=5_000_000)]
    made_at: AwareDatetime
    removed_at: AwareDatetime | None


class MeasuredForm(Form):
    """A run of a build's logbook."""

    id: UUID
    version: Number
    document: Plain
    taught_in: Number | None
    made_at: AwareDatetime
    removed_at: AwareDatetime | None
    photos: list[PhotoForm] = Field(default_factory=list, max_length=200)


class BuildForm(Form):
    """A build with all its versions, and where undo and the comparison stand."""

    id: UUID
    name: Name
    demo: Annotated[str, StringConstraints(max_length=50, pattern=r"^[-a-zA-Z0-9_]*$")]
    head: Number
    pinned: Number
    made_at: AwareDatetime
    changed_at: AwareDatetime
    removed_at: AwareDatetime | None
    ticks: dict[ListId, Ticked] = Field(default_factory=dict)
    origin: OriginForm | None
    versions: list[VersionForm] = Field(min_length=1)
    rides: list[RideForm] = Field(default_factory=list)
    measured: list[MeasuredForm] = Field(default_factory=list)


class SayingForm(Form):
    """What a part said once."""

    number: Number
    parent: Number | None
    document: Plain
    made_at: AwareDatetime


class PartForm(Form):
    """A part of one's own with all that it said."""

    id: UUID
    kind: Annotated[str, Field(pattern=f"^({'|'.join(KINDS)})$")]
    ref: PartRef
    head: Number
    made_at: AwareDatetime
    changed_at: AwareDatetime
    removed_at: AwareDatetime | None
    versions: list[SayingForm] = Field(min_length=1)


class MatchForm(Form):
    """A search: what was asked, and what was found."""

    id: UUID
    document: Plain
    state: Literal["done", "cancelled", "failed"]
    considered: int
    to_solve: int
    solved: int
    feasible: int
    answer: Plain | None
    problem: str
    made_at: AwareDatetime
    ended_at: AwareDatetime | None


class BriefForm(Form):
    """A brief with its searches, but for those that still run."""

    id: UUID
    name: Name
    document: Plain
    said: list[str] | None
    made_at: AwareDatetime
    changed_at: AwareDatetime
    removed_at: AwareDatetime | None
    matches: list[MatchForm]
