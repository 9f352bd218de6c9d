"""The API of rides: what a build does on a course, rides that are kept, and test days."""

import csv
import json
from io import StringIO
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.utils import timezone
from ninja import Query, Router, Status

from builds.models import Build
from builds.querysets import version_of
from common.incoming import pieces
from common.schemas import CSV, MISSING, REFUSED, TEXT
from powertrain.documents.gpx import read_gpx
from powertrain.documents.run import Run, check_run, with_rest_volts
from powertrain.instruments.hidden import LOGGER_COLUMNS
from powertrain.instruments.meters import FACES
from powertrain.runs.answer import write_csv
from powertrain.runs.placed import ride_gpx
from powertrain.runs.ride import ride as ridden
from powertrain.runs.shown import RideShown, shown
from powertrain.runs.step_length import step_of
from powertrain.runs.way import WayRead, way_of
from runs import schemas
from runs.actions import begin_day, day_with, keep_ride, ride_of, run_in_air, take_out
from runs.live import faces_in_time
from runs.models import KeptRide

router = Router(tags=["runs"])

GPX: dict[str, Any] = {
    "responses": {200: {"content": {"application/gpx+xml": {"schema": {"type": "string"}}}}}
}
EVENTS = {"responses": {200: {"content": {"text/event-stream": {"schema": {"type": "string"}}}}}}


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
    write_csv(run, ridden(run, step_s=step_of(run)), text)
    return _file(text.getvalue(), "text/csv; charset=utf-8", "ride.csv")


@router.post(
    "/ride/gpx", response={200: str, **REFUSED}, operation_id="ride_gpx", openapi_extra=GPX
)
def gpx(request: HttpRequest, payload: schemas.PlacedRequest) -> HttpResponse:
    """Return a ride as GPX with speeds, a place each second, beginning now."""
    run = _run(payload)
    text = ride_gpx(
        run, ridden(run, step_s=step_of(run)), timezone.now().replace(microsecond=0), payload.track
    )
    return _file(text, "application/gpx+xml", "ride.gpx")


@router.post(
    "/ride/way", response={200: WayRead, **REFUSED}, operation_id="read_way", openapi_extra=TEXT
)
def way(request: HttpRequest) -> WayRead:
    """Return the road of a GPX file, smoothed, with what was done to it."""
    return way_of(read_gpx(b"".join(pieces(request))))


@router.get(
    "/builds/{build_id}/rides",
    response={200: list[schemas.KeptRideCard], **MISSING},
    operation_id="kept_rides",
)
def kept(request: HttpRequest, build_id: UUID) -> list[schemas.KeptRideCard]:
    """Return the rides that are kept with a build, the first kept first."""
    build = Build.objects.one(request.user, build_id)
    return [_card(build, one) for one in KeptRide.objects.filter(build=build, removed_at=None)]


@router.put(
    "/builds/{build_id}/rides/{ride_id}",
    response={200: schemas.KeptRideCard, **MISSING},
    operation_id="keep_ride",
)
def keep(
    request: HttpRequest, build_id: UUID, ride_id: UUID, payload: schemas.KeepRequest
) -> schemas.KeptRideCard:
    """Keep a ride with the version that it was ridden on; one that was taken out comes back."""
    found = keep_ride(request.user, build_id, ride_id, payload)
    return _card(Build.objects.one(request.user, build_id), found)


@router.delete(
    "/builds/{build_id}/rides/{ride_id}",
    response={204: None, **MISSING},
    operation_id="take_ride_out",
)
def take(request: HttpRequest, build_id: UUID, ride_id: UUID) -> Status[None]:
    """Take a kept ride out; keeping it under the same id brings it back."""
    take_out(request.user, build_id, ride_id)
    return Status(204, None)


@router.get(
    "/builds/{build_id}/rides/{ride_id}/document",
    response={200: dict[str, Any], **MISSING},
    operation_id="run_document",
)
def document(request: HttpRequest, build_id: UUID, ride_id: UUID) -> HttpResponse:
    """Return a kept ride as a run document, with the build as it was."""
    found = ride_of(request.user, build_id, ride_id)
    stored = version_of(found.build, found.version).document
    run = run_in_air(stored, found.ride, found.air_c, craft=True)
    whole = {**found.ride, "build": run.build.model_dump(mode="json", exclude_unset=True)}
    return _file(json.dumps(whole, indent=1), "application/json", "ride.json")


@router.post(
    "/builds/{build_id}/meter-days",
    response={200: schemas.MeterDayBegun, **MISSING},
    operation_id="begin_meter_day",
)
def meter_day(
    request: HttpRequest, build_id: UUID, payload: schemas.MeterDayRequest
) -> schemas.MeterDayBegun:
    """Drive a hidden vehicle, and keep what simulated instruments read of it."""
    day = begin_day(request.user, build_id, payload)
    return schemas.MeterDayBegun(
        id=day.pk,
        faces=[schemas.FaceInfo(**vars(face)) for face in FACES],
        lasts_s=day.frames[-1]["t_s"],
        logger_rows=len(day.rows),
        log=day.log,
    )


@router.get(
    "/builds/{build_id}/meter-days/{day_id}/live",
    response={200: None, **MISSING},
    operation_id="watch_instruments",
    openapi_extra=EVENTS,
)
def live(
    request: HttpRequest, build_id: UUID, day_id: UUID, asked: Query[schemas.Pace]
) -> StreamingHttpResponse:
    """Stream what the faces of the instruments show, as server-sent events, in its time."""
    frames = day_with(request.user, build_id, day_id).frames
    return StreamingHttpResponse(
        faces_in_time(frames, asked.pace),
        content_type="text/event-stream",
        headers={"X-Accel-Buffering": "no"},
    )


@router.get(
    "/builds/{build_id}/meter-days/{day_id}/logger",
    response={200: str, **MISSING},
    operation_id="read_logger",
    openapi_extra=CSV,
)
def logger(request: HttpRequest, build_id: UUID, day_id: UUID) -> HttpResponse:
    """Return what the logger in the controller recorded; its header alone where it was full."""
    text = StringIO()
    writer = csv.DictWriter(text, LOGGER_COLUMNS, lineterminator="\n")
    writer.writeheader()
    writer.writerows(day_with(request.user, build_id, day_id).rows)
    return _file(text.getvalue(), "text/csv; charset=utf-8", "logger.csv")


def _run(payload: schemas.RideRequest | schemas.PlacedRequest) -> Run:
    rest = payload.ride.model_dump(mode="json", exclude_unset=True)
    document = payload.document.model_dump(mode="json", exclude_unset=True)
    return check_run({**rest, "build": with_rest_volts(document)}, craft=True)


def _card(build: Build, found: KeptRide) -> schemas.KeptRideCard:
    same = found.version == build.head or _same(build, found.version)
    return schemas.KeptRideCard(
        id=found.pk,
        name=found.name,
        version=found.version,
        older=not same,
        made_at=found.made_at,
        ride=found.ride,
        air_c=found.air_c,
        track=found.track,
        told=found.told,
        verdicts=found.verdicts,
    )


def _same(build: Build, number: int) -> bool:
    """Return whether a version says what the one says that stands, as after an undo."""
    return bool(version_of(build, number).document == version_of(build, build.head).document)


def _file(text: str, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(text, content_type=kind)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
