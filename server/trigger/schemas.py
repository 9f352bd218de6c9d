"""What a drive by hand takes and answers."""

from uuid import UUID

from ninja import Schema
from pydantic import Field

from common.schemas import StrictSchema
from powertrain.documents.build import Build as BuildDocument
from powertrain.dynamics.trigger import STEEPEST_PCT


class Pull(StrictSchema):
    """How the trigger is held, from 1 (pulled) over 0 to -1 (pushed), and the slope."""

    trigger: float = Field(0.0, ge=-1, le=1)
    grade_pct: float = Field(0.0, ge=-STEEPEST_PCT, le=STEEPEST_PCT)


class DriveRequest(StrictSchema):
    """A build to be driven, and the slope it begins on."""

    document: BuildDocument
    grade_pct: float = Field(0.0, ge=-STEEPEST_PCT, le=STEEPEST_PCT)


class TraceRequest(DriveRequest):
    """A build, a slope, and how far the trigger is pulled."""

    trigger: float = Field(1.0, ge=0, le=1)


class DriveStarted(Schema):
    """The drive: how it is asked for, and how long its frames are."""

    id: UUID
    frame_s: float
