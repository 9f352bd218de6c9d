"""What the questions of a conversion take."""

from typing import Literal

from common.schemas import StrictSchema
from powertrain.documents.build import Build as BuildDocument


class ConversionRequest(StrictSchema):
    """A build whose conversion is asked about."""

    document: BuildDocument


class FieldRequest(ConversionRequest):
    """How the coils of its motor's field are to be joined."""

    connection: Literal["series", "series_parallel", "parallel"]
