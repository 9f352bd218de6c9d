"""The API of conversions: gears beside an engine's, fit, high volts, the whole price."""

from django.http import HttpRequest
from ninja import Router

from common.schemas import REFUSED
from conversion import schemas
from powertrain.conversion.answer import ConversionAnswer, conversion_of
from powertrain.conversion.field import FieldAnswer, field_of
from powertrain.conversion.wound_field import WoundField, WoundFieldAnswer, wound_field
from shelf.whole import shelf_of

router = Router(tags=["engine"])


@router.post("/conversion", response={200: ConversionAnswer, **REFUSED}, operation_id="conversion")
def conversion(request: HttpRequest, payload: schemas.ConversionRequest) -> ConversionAnswer:
    """Return what the conversion of a vehicle asks."""
    shelf = shelf_of(request.user, "chargers", "converters", "contactors", "fuses")
    return conversion_of(payload.document, shelf)


@router.post("/field", response={200: FieldAnswer, **REFUSED}, operation_id="field")
def field(request: HttpRequest, payload: schemas.FieldRequest) -> FieldAnswer:
    """Return the motor with its field's coils joined in another way."""
    return field_of(payload.document, payload.connection)


@router.post(
    "/wound-field", response={200: WoundFieldAnswer, **REFUSED}, operation_id="wound_field"
)
def terminals(request: HttpRequest, payload: WoundField) -> WoundFieldAnswer:
    """Return what a motor is by the ohms at its terminals: series, shunt or compound."""
    return wound_field(payload)
