"""What questions about the controller take."""

from ninja import Schema
from pydantic import Field

from common.schemas import StrictSchema
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build as BuildDocument
from powertrain.set_up.tastes import TasteWeights

LONGEST_M = 50.0


class OneBuild(StrictSchema):
    """A build as it stands."""

    document: BuildDocument


class AdviseRequest(Schema):
    """A build as it stands, or a brief."""

    document: BuildDocument | None = None
    brief: Brief | None = None


class ChooseRequest(OneBuild):
    """A build, what counts for how much, and what is wanted beside what the build needs."""

    weights: TasteWeights = TasteWeights()
    reverse: bool = False
    regeneration: bool = False


class WiresRequest(OneBuild):
    """A build, and how long its cables are, one way."""

    pack_m: float = Field(0.3, ge=0.01, le=LONGEST_M)
    motor_m: float = Field(0.3, ge=0.01, le=LONGEST_M)


class ShuntRequest(OneBuild):
    """A sense resistor, the limit it makes, and what is laid beside it: stated, or of copper."""

    original_mohm: float = Field(gt=0, le=1e6)
    limit_a: float = Field(gt=0, le=1e6)
    parallel_mohm: float | None = Field(None, gt=0, le=1e9)
    copper_mm: float | None = Field(None, gt=0, le=1e6)
    copper_mm2: float | None = Field(None, gt=0, le=1e6)


class HallRequest(StrictSchema):
    """A sensor beside its place: electrical degrees, or those of the rotor."""

    offset_deg: float = Field(ge=-360, le=360)
    poles: int = Field(ge=2, le=1000)
    mechanical: bool = False
