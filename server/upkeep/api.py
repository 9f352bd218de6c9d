"""The API of upkeep: it translates, and leaves deciding to what is beside it."""

import shutil
import tempfile

from django.conf import settings as django_settings
from django.http import HttpRequest, StreamingHttpResponse
from django.utils import timezone
from ninja import Router

from common.schemas import REFUSED
from common.standing import all_stands
from upkeep import schemas
from upkeep.bringing_in import bring_in
from upkeep.models import Policy
from upkeep.prune import policy_of
from upkeep.sizes import database_bytes, free_bytes, sizes_of
from upkeep.taking_out import taken_out

router = Router(tags=["upkeep"])

ZIP = {"responses": {200: {"content": {"application/zip": {"schema": {"type": "string"}}}}}}
ZIPPED = {
    "requestBody": {
        "content": {"application/zip": {"schema": {"type": "string", "format": "binary"}}},
        "required": True,
    }
}
"""How an archive is told to the contract, going out and coming in."""


@router.get("/archive", response={200: str, **REFUSED}, operation_id="take_out", openapi_extra=ZIP)
def take_out(request: HttpRequest) -> StreamingHttpResponse:
    """Return everything of the owner as an open archive: a ZIP of documents."""
    answer = StreamingHttpResponse(taken_out(request.user), content_type="application/zip")
    name = f"young-torrent-{timezone.now():%Y-%m-%d}.zip"
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@router.post(
    "/archive",
    response={200: schemas.ArchiveTold, **REFUSED},
    operation_id="bring_in_archive",
    openapi_extra=ZIPPED,
)
def bring_archive_in(request: HttpRequest) -> schemas.ArchiveTold:
    """Bring in an archive: what is not there is added, and nothing is doubled."""
    with tempfile.TemporaryFile() as source:
        shutil.copyfileobj(request, source)
        source.seek(0)
        told = bring_in(request.user, source)
    return schemas.ArchiveTold(
        **{
            kind: schemas.Became(
                **{became: counts[became] for became in schemas.Became.model_fields}
            )
            for kind, counts in vars(told).items()
        }
    )


@router.get("/upkeep", response={200: schemas.UpkeepAnswer, **REFUSED}, operation_id="upkeep")
def upkeep(request: HttpRequest) -> schemas.UpkeepAnswer:
    """Return what is kept how long, and how large it is."""
    return _answer(request)


@router.post("/upkeep", response={200: schemas.UpkeepAnswer, **REFUSED}, operation_id="set_policy")
def set_policy(request: HttpRequest, payload: schemas.PolicyRequest) -> schemas.UpkeepAnswer:
    """Say how long what may go is kept; it goes when a worker next looks, within the hour."""
    Policy.objects.update_or_create(owner_id=request.user.pk, defaults=payload.model_dump())
    return _answer(request)


def _answer(request: HttpRequest) -> schemas.UpkeepAnswer:
    policy = policy_of(request.user)
    return schemas.UpkeepAnswer(
        stands=[
            schemas.Stands(what=what, how=how)
            for what, how in all_stands(django_settings.STATUS).items()
        ],
        policy=schemas.PolicyRequest(
            searches_days=policy.searches_days, removed_days=policy.removed_days
        ),
        sizes=sizes_of(request.user),
        database_bytes=database_bytes(),
        free_bytes=free_bytes(),
    )
