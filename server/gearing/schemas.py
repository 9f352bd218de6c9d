"""The API's forms of gearing. Documents and answers are the core's own."""

from typing import Annotated, Literal

from pydantic import Field

from common.schemas import StrictSchema as Schema
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build

Speed = Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)]
Rpm = Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)]


class BuildRequest(Schema):
    """A build as it stands."""

    document: Build


class LadderRequest(Schema):
    """A build, and the one whose speed the cautious plan begins at; its own if none.

    A `brief` narrows what is the best to what meets its top speed and its hill.
    """

    document: Build
    pinned: Build | None = None
    brief: Brief | None = None
    limit: int = Field(8, ge=0, le=1000)


class PlanetaryRequest(Schema):
    """The teeth of a planetary gear, and how many planets it has."""

    sun: int = Field(ge=1, le=1000)
    ring: int = Field(ge=1, le=1000)
    planets: int = Field(3, ge=1, le=12)


class ModuleRequest(Schema):
    """Teeth to an inch of pitch diameter."""

    diametral_pitch: Annotated[float, Field(ge=0.1, le=1000, allow_inf_nan=False)]


class OvervoltRequest(Schema):
    """A build, and how many cells it might have instead."""

    document: Build
    series: int = Field(ge=1, le=100_000)


class RoadsRequest(Schema):
    """A build, and the top speed that is wished for."""

    document: Build
    wish_kmh: Speed


class SplitRequest(Schema):
    """A wanted reduction, and of what it may be made."""

    wanted: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
    kinds: list[Literal["chain", "belt", "spur"]] = Field(
        ["chain", "belt"], min_length=1, max_length=3
    )


class TyreRequest(Schema):
    """A tyre's marking, how fast it turns, and its pressure over the usual."""

    marking: str = Field(max_length=40)
    speed_kmh: Annotated[float, Field(ge=0, le=500, allow_inf_nan=False)] = 0.0
    pressure_share: Annotated[float, Field(gt=0, le=3, allow_inf_nan=False)] = 1.0


class SpeedsRequest(Schema):
    """One of three speeds that belong together."""

    document: Build
    wheel_rpm: Rpm | None = None
    motor_rpm: Rpm | None = None
    speed_kmh: Speed | None = None


class BoostRequest(Schema):
    """A build, another whose motor, controller and gearing help it, and how."""

    document: Build
    helper: Build
    tap_cells: int = Field(ge=1, le=100_000)
    from_kmh: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0
