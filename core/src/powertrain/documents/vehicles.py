"""What a drive may move, as a document says it: the kinds that there are."""

from typing import Annotated

from pydantic import Field

from powertrain.documents.craft import Aircraft, Hull
from powertrain.documents.hoist import Hoist
from powertrain.documents.vehicle import Vehicle

VehicleDocument = Annotated[Vehicle | Hoist | Aircraft | Hull, Field(discriminator="kind")]
"""Any kind. A new kind is a file here, its load in `powertrain.load`, and a line in the list of
either."""

VEHICLE_DOCUMENTS: tuple[type[Vehicle | Hoist | Aircraft | Hull], ...] = (
    Vehicle,
    Hoist,
    Aircraft,
    Hull,
)
