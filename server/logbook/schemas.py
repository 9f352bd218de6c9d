"""What a logbook takes and answers."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from common.schemas import StrictSchema
from engine.schemas import Change
from powertrain.calibrate.answer import Calibrated, ReadingFitted
from powertrain.calibrate.implied import Implied
from powertrain.documents.controller_settings import Day
from powertrain.documents.log import Observation, RunConditions
from powertrain.documents.run import RideStart
from powertrain.set_up.day_list import DayCheck
from powertrain.telemetry.find import Proposed

MOST_RUNS = 500


class MeasuredRunBody(StrictSchema):
    """A run as it was measured; `changes` say what of the vehicle was otherwise on the day."""

    date: Day | None = None
    note: str | None = Field(None, max_length=2000)
    conditions: RunConditions = Field(default_factory=RunConditions)
    start: RideStart = Field(default_factory=RideStart)
    changes: dict[str, Any] = Field(default_factory=dict, max_length=50)
    observations: list[Observation] = Field(min_length=1, max_length=200)


class KeepRunRequest(StrictSchema):
    """A run to keep, and the version of the build that was ridden."""

    version: int = Field(ge=1, le=2_000_000_000)
    run: MeasuredRunBody


class MeasuredRunCard(Schema):
    """A run of the logbook: what was different from the run before, and whether it was learned."""

    id: UUID
    version: int
    made_at: datetime
    run: MeasuredRunBody
    changes: list[Change]
    learned: bool
    photos: list[UUID]
    teeth: list[list[int]]
    """Of each stage with teeth, as it was ridden: driver and driven."""
    labels: dict[str, str]
    """What the paths of its own changes are called."""


class PhotoKept(Schema):
    """A photo that stands with a run."""

    id: UUID


class LineOpened(Schema):
    """A line to send a logger's table over; the token is told this once."""

    id: UUID
    token: str
    path: str


class LineState(Schema):
    """How the line stands that was opened last."""

    id: UUID
    open: bool
    pieces: int


class PieceAsked(Schema):
    """The number of a piece, by which one that is sent again is known."""

    piece: int | None = Field(None, ge=1, le=2_000_000_000)


class PieceTaken(Schema):
    """The piece that was kept."""

    piece: int


class Expected(Schema):
    """Each reading of a run beside what was predicted of it, and what its speeds say alone."""

    readings: list[ReadingFitted]
    implied: list[Implied]


class Learned(Schema):
    """What the runs that are not learned yet teach, and which they are."""

    runs: list[UUID]
    version: int
    found: Calibrated
    labels: dict[str, str]
    """What the paths of changes between runs are called."""


class AcceptRequest(Schema):
    """Make what was learned the build: on top of a version, of just these runs."""

    base: int = Field(ge=1, le=2_000_000_000)
    runs: list[UUID] = Field(min_length=1, max_length=MOST_RUNS)
    change_id: UUID


class Mapped(Schema):
    """What somebody says that columns hold, as ``NAME=KEY``."""

    column: list[Annotated[str, StringConstraints(max_length=300, pattern="=")]] = Field(
        default_factory=list, max_length=100
    )

    def mapping(self) -> dict[str, str]:
        """Return what each column holds, by its name in the file."""
        pairs = (said.rpartition("=") for said in self.column)
        return {name: key for name, _, key in pairs}


class TwoTables(Mapped):
    """Two tables in one body, the second right after the first."""

    first_bytes: int = Field(ge=1, le=200_000_000)


class TimedWay(StrictSchema):
    """A way or a lap by stopwatch."""

    way_m: float = Field(gt=0, le=1e6, allow_inf_nan=False)
    time_s: float = Field(ge=0.2, le=1e6, allow_inf_nan=False)


class DayList(Schema):
    """What to look at before a day of testing."""

    before: list[DayCheck]


class TableRead(Schema):
    """How a logger's table was understood, and the observations that it proposes.

    `said` is what each of its columns was taken for, None where that can't be told.
    """

    rows: int
    lasts_s: float
    said: dict[str, str | None]
    marked: dict[str, int]
    notes: list[str]
    proposed: list[Proposed]


Plain = dict[str, Any]
