"""The API of a drive by hand: begin it, hold the trigger, watch its frames."""

from collections.abc import Iterator
from uuid import UUID

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Router

from common.schemas import MISSING, REFUSED
from powertrain.dynamics.trigger import Traced, traced_pull
from trigger import schemas
from trigger.driving import DRIVES, Drive

router = Router(tags=["trigger"])

EVENTS = {"responses": {200: {"content": {"text/event-stream": {"schema": {"type": "string"}}}}}}
"""How an answer that is a stream of events is told to the contract."""


@router.post(
    "/trigger", response={200: schemas.DriveStarted, **REFUSED}, operation_id="trigger_begin"
)
def begin(request: HttpRequest, payload: schemas.DriveRequest) -> schemas.DriveStarted:
    """Begin a drive at rest, its trigger let go."""
    key, drive = DRIVES.begin(payload.document, payload.grade_pct)
    return schemas.DriveStarted(id=key, frame_s=drive.driven.frame_s)


@router.get(
    "/trigger/{uuid:key}/frames",
    response={200: None, **MISSING},
    operation_id="trigger_frames",
    openapi_extra=EVENTS,
)
def frames(request: HttpRequest, key: UUID) -> StreamingHttpResponse:
    """Stream the frames of a drive as server-sent events; the drive ends with the stream."""
    drive = DRIVES.of(key)
    drive.seen = True
    return StreamingHttpResponse(
        _events(key, drive), content_type="text/event-stream", headers={"X-Accel-Buffering": "no"}
    )


@router.put("/trigger/{uuid:key}", response={204: None, **MISSING}, operation_id="trigger_hold")
def hold(request: HttpRequest, key: UUID, payload: schemas.Pull) -> HttpResponse:
    """Hold the trigger otherwise, or change the slope."""
    drive = DRIVES.of(key)
    drive.trigger, drive.grade_pct = payload.trigger, payload.grade_pct
    return HttpResponse(status=204)


@router.post("/trigger/traced", response={200: Traced, **REFUSED}, operation_id="trigger_traced")
def traced(request: HttpRequest, payload: schemas.TraceRequest) -> Traced:
    """Return a pull of the trigger that was written down: held, and let go."""
    return traced_pull(payload.document, payload.trigger, payload.grade_pct)


def _events(key: UUID, drive: Drive) -> Iterator[bytes]:
    try:
        for frame in drive.frames():
            yield b"data: " + frame.model_dump_json().encode() + b"\n\n"
        yield b"event: end\ndata: {}\n\n"
    finally:
        DRIVES.end(key)
