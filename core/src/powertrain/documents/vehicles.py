"""What a drive may move, as a document says it: the kinds that there are."""

from powertrain.documents.vehicle import Vehicle

VehicleDocument = Vehicle
"""Any kind. A new kind is a file here, its load in `powertrain.load`, and a line in the list of
either."""

VEHICLE_DOCUMENTS: tuple[type[Vehicle], ...] = (Vehicle,)
