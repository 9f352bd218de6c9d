"""What a ride and a test day take and answer."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints

from common.schemas import StrictSchema
from powertrain.documents.build import Build as BuildDocument
from powertrain.documents.run import Ride
from powertrain.runs.answer import RunAnswer
from powertrain.verdicts.verdict import Verdict

MOST_DRAWS = 256

Latitude = Annotated[float, Field(ge=-90, le=90)]
Longitude = Annotated[float, Field(ge=-360, le=360)]
OnTrack = Annotated[
    # A list in JSON stands for the three.
    tuple[Latitude, Longitude, Annotated[float, Field(ge=0)]],
    Field(strict=False),
]
Track = Annotated[list[OnTrack], Field(min_length=2, max_length=5000)]
"""Where a road lies: latitude, longitude, and metres along it."""

Air = Annotated[float, Field(ge=-60, le=60)]


class RideRequest(StrictSchema):
    """A build, the course it is ridden on, and how many draws its bands are of."""

    document: BuildDocument
    ride: Ride
    draws: int = Field(0, ge=0, le=MOST_DRAWS)


class PlacedRequest(StrictSchema):
    """A build, its course, and where on earth that lies."""

    document: BuildDocument
    ride: Ride
    track: Track | None = None


class KeepRequest(StrictSchema):
    """A ride to keep with the version of a build that it was ridden on."""

    version: int = Field(ge=1, le=2_000_000_000)
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
    ride: Ride
    air_c: Air | None = None
    track: Track | None = None


class KeptRideCard(Schema):
    """A ride that is kept; `older` where the build has changed since."""

    id: UUID
    name: str
    version: int
    older: bool
    made_at: datetime
    ride: Ride
    air_c: float | None
    track: list[tuple[float, float, float]] | None
    told: RunAnswer
    verdicts: list[Verdict]


class MeterDayRequest(StrictSchema):
    """A ride of a vehicle that nobody sees, drawn from what is doubtful in a version of a build."""

    version: int = Field(ge=1, le=2_000_000_000)
    ride: Ride
    air_c: Air | None = None
    seed: int = Field(ge=0, le=2**53)
    cleared: bool = True
    """Whether the logger in the controller was cleared before."""


class Pace(Schema):
    """How many times as fast as in life."""

    pace: float = Field(1.0, ge=0.1, le=100)


class FaceInfo(Schema):
    """A figure of an instrument, how often it is new and how far behind it is, in seconds."""

    id: str
    instrument: str
    column: str
    every_s: float
    lag_s: float


class MeterDayBegun(Schema):
    """A test day: its faces, how long it lasts, and the log document of its readings."""

    id: UUID
    faces: list[FaceInfo]
    lasts_s: float
    logger_rows: int
    log: dict[str, Any]
