"""The API of rides: each asks the core what a build does on a course."""

from io import StringIO

from django.http import HttpRequest, HttpResponse
from ninja import Router

from common.schemas import CSV, REFUSED
from powertrain.documents.run import Run, check_run
from powertrain.runs.answer import write_csv
from powertrain.runs.ride import ride as ridden
from powertrain.runs.shown import RideShown, shown
from runs import schemas

router = Router(tags=["runs"])


@router.post("/ride", response={200: RideShown, **REFUSED}, operation_id="ride")
def ride(request: HttpRequest, payload: schemas.RideRequest) -> RideShown:
    """Return a ride with its figures, bands and picture."""
    return shown(_run(payload), draws=payload.draws)


@router.post(
    "/ride/table",
    response={200: str, **REFUSED},
    operation_id="ride_table",
    openapi_extra=CSV,
)
def table(request: HttpRequest, payload: schemas.RideRequest) -> HttpResponse:
    """Return every tenth of a second of a ride as a table, CSV with units in its header."""
    run = _run(payload)
    text = StringIO()
    write_csv(run, ridden(run), text)
    response = HttpResponse(text.getvalue(), content_type="text/csv; charset=utf-8")
    response.headers["Content-Disposition"] = 'attachment; filename="ride.csv"'
    return response


def _run(payload: schemas.RideRequest) -> Run:
    rest = payload.ride.model_dump(mode="json", exclude_unset=True)
    document = payload.document.model_dump(mode="json", exclude_unset=True)
    return check_run({**rest, "build": document})
