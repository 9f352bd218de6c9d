"""The API of photos that stand with measured runs."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from common.incoming import pieces
from common.schemas import MISSING
from logbook import schemas
from logbook.photos import keep_photo, photo_of, take_photo_out

router = Router(tags=["logbook"])

AT = "/builds/{build_id}/logbook/runs/{run_id}/photos/{photo_id}"

PICTURE: dict[str, Any] = {"schema": {"type": "string", "format": "binary"}}
TAKES: dict[str, Any] = {
    "requestBody": {"content": {"application/octet-stream": PICTURE}, "required": True}
}
GIVES: dict[str, Any] = {"responses": {200: {"content": {"image/jpeg": PICTURE}}}}


@router.put(
    AT,
    response={200: schemas.PhotoKept, **MISSING},
    operation_id="keep_photo",
    openapi_extra=TAKES,
)
def keep(request: HttpRequest, build_id: UUID, run_id: UUID, photo_id: UUID) -> schemas.PhotoKept:
    """Keep a photo, made small, without place and owner; an empty body brings one back."""
    picture = b"".join(pieces(request)) or None
    return schemas.PhotoKept(id=keep_photo(request.user, build_id, run_id, photo_id, picture).pk)


@router.get(AT, response={200: None, **MISSING}, operation_id="run_photo", openapi_extra=GIVES)
def show(request: HttpRequest, build_id: UUID, run_id: UUID, photo_id: UUID) -> HttpResponse:
    """Return a photo as JPEG."""
    jpeg = bytes(photo_of(request.user, build_id, run_id, photo_id).jpeg)
    return HttpResponse(jpeg, content_type="image/jpeg")


@router.delete(AT, response={204: None, **MISSING}, operation_id="take_photo_out")
def take(request: HttpRequest, build_id: UUID, run_id: UUID, photo_id: UUID) -> Status[None]:
    """Take a photo out; keeping it again under its id brings it back."""
    take_photo_out(request.user, build_id, run_id, photo_id)
    return Status(204, None)
