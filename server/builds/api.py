"""The API of builds: it translates, and leaves deciding to actions and core."""

import json
from uuid import UUID

from django.db.models.functions import Lower
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Query, Router, Status

from builds import schemas
from builds.actions.bring_in import bring_in_builds
from builds.actions.change import pin, redo, restore, save_version, undo
from builds.actions.create import create_build
from builds.actions.remove import bring_back, remove_build
from builds.actions.tick import tick_off
from builds.cards import cards_of
from builds.models import Build
from builds.querysets import stored_documents, version_of
from builds.views_of import archetype_card, as_row, build_answer, version_card
from common.documents import plain
from common.incoming import pieces, text_lines
from common.pages import page_after
from common.schemas import CSV, MISSING, REFUSED, TEXT, Bad, BroughtIn
from powertrain.archetypes import all_archetypes
from powertrain.documents.build import Build as BuildDocument
from powertrain.documents.reading import check_build
from powertrain.documents.table import write_rows
from powertrain.errors import Refusal

router = Router()


@router.get(
    "/archetypes",
    response=list[schemas.ArchetypeCard],
    exclude_unset=True,
    tags=["builds"],
    operation_id="archetypes",
)
def archetypes(request: HttpRequest) -> list[schemas.ArchetypeCard]:
    """Return the vehicles to begin from."""
    return [archetype_card(archetype) for archetype in all_archetypes()]


@router.get(
    "/builds",
    response={200: schemas.BuildList, **REFUSED},
    tags=["builds"],
    operation_id="list_builds",
)
def list_builds(request: HttpRequest, asked: Query[schemas.BuildsAsked]) -> schemas.BuildList:
    """Return a page of the owner's builds, the last changed first unless it is asked otherwise."""
    found = (
        Build.objects.of(request.user)
        .whose(asked.whose)
        .named(asked.words)
        .annotate(low=Lower("name"))
    )
    by = ["low", "id"] if asked.sort == "name" else ["-changed_at", "-id"]
    page, after = page_after(found, by, asked.after, asked.limit)
    removed = Build.objects.removed(request.user)[:20]
    return schemas.BuildList(
        builds=cards_of(page),
        total=found.count(),
        next=after,
        removed=[
            schemas.RemovedCard(id=build.pk, name=build.name, removed_at=build.removed_at)
            for build in removed
            if build.removed_at is not None
        ],
    )


@router.post(
    "/builds",
    response={201: schemas.BuildAnswer, **REFUSED},
    exclude_unset=True,
    tags=["builds"],
    operation_id="create_build",
)
def create(request: HttpRequest, payload: schemas.CreateRequest) -> Status[schemas.BuildAnswer]:
    """Begin a build."""
    build = create_build(request.user, plain(payload.document), payload.change_id)
    return Status(201, build_answer(build))


@router.get(
    "/builds/table",
    response={200: str, **REFUSED},
    tags=["builds"],
    operation_id="export_builds",
    openapi_extra=CSV,
)
def table(request: HttpRequest) -> StreamingHttpResponse:
    """Return all builds as a table, CSV with units in its header.

    One whose document can't be read any more has a row with its name alone.
    """
    stored = stored_documents(Build.objects.of(request.user))
    answer = StreamingHttpResponse(
        write_rows("builds", map(as_row, stored)), content_type="text/csv; charset=utf-8"
    )
    answer.headers["Content-Disposition"] = 'attachment; filename="builds.csv"'
    return answer


@router.post(
    "/builds/bring-in",
    response={200: BroughtIn, **REFUSED},
    tags=["builds"],
    operation_id="bring_in_builds",
    openapi_extra=TEXT,
)
def bring_in(request: HttpRequest) -> BroughtIn:
    """Begin a build for every good row of a table; bad rows are told by line and column."""
    added, bad, count = bring_in_builds(request.user, text_lines(pieces(request)))
    told = [Bad(line=row.line, column=row.column, what=row.what) for row in bad]
    return BroughtIn(added=added, changed=0, bad=told, bad_count=count)


@router.get(
    "/builds/{build_id}",
    response={200: schemas.BuildAnswer, **MISSING},
    exclude_unset=True,
    tags=["builds"],
    operation_id="read_build",
)
def read(request: HttpRequest, build_id: UUID) -> schemas.BuildAnswer:
    """Return a build as it stands."""
    return build_answer(Build.objects.one(request.user, build_id))


@router.put(
    "/builds/{build_id}/ticks/{of_list}",
    response={204: None, **MISSING},
    tags=["builds"],
    operation_id="tick_off",
)
def tick(
    request: HttpRequest, build_id: UUID, of_list: schemas.ListId, payload: schemas.Ticked
) -> Status[None]:
    """Keep what is ticked off of one of a build's lists; the last one who ticks is right."""
    tick_off(request.user, build_id, of_list, payload)
    return Status(204, None)


@router.delete(
    "/builds/{build_id}",
    response={204: None, **MISSING},
    tags=["builds"],
    operation_id="remove_build",
)
def remove(request: HttpRequest, build_id: UUID) -> Status[None]:
    """Take a build out of the list; it can be brought back."""
    remove_build(request.user, build_id)
    return Status(204, None)


@router.post(
    "/builds/{build_id}/bring-back",
    response={204: None, **MISSING},
    tags=["builds"],
    operation_id="bring_back",
)
def back(request: HttpRequest, build_id: UUID) -> Status[None]:
    """Put a removed build back into the list."""
    bring_back(request.user, build_id)
    return Status(204, None)


@router.get(
    "/builds/{build_id}/document",
    response={200: BuildDocument, **MISSING},
    tags=["builds"],
    operation_id="export_build",
)
def export(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """Return the build document as a file; as it is stored where it can't be read any more."""
    build = Build.objects.one(request.user, build_id)
    stored = version_of(build, build.head).document
    try:
        document = plain(check_build(stored))
    except Refusal:
        document = stored
    response = HttpResponse(json.dumps(document, indent=1), content_type="application/json")
    name = "".join(c if c.isascii() and c.isalnum() else "-" for c in build.name.lower())
    response.headers["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return response


@router.get(
    "/builds/{build_id}/versions",
    response={200: list[schemas.VersionCard], **MISSING},
    tags=["versions"],
    operation_id="list_versions",
)
def versions(request: HttpRequest, build_id: UUID) -> list[schemas.VersionCard]:
    """Return the history of a build, the newest first."""
    build = Build.objects.one(request.user, build_id)
    newest = build.versions.select_related("made_by").defer("document").order_by("-number")
    return [version_card(version) for version in newest[:200]]


@router.post(
    "/builds/{build_id}/versions",
    response={200: schemas.BuildAnswer, **MISSING},
    exclude_unset=True,
    tags=["versions"],
    operation_id="save_version",
)
def save(request: HttpRequest, build_id: UUID, payload: schemas.SaveRequest) -> schemas.BuildAnswer:
    """Store the next version; 409 if another change came first, with this one kept aside."""
    document = plain(payload.document)
    return build_answer(
        save_version(request.user, build_id, payload.base, document, payload.change_id)
    )


@router.post(
    "/builds/{build_id}/undo",
    response={200: schemas.BuildAnswer, **MISSING},
    exclude_unset=True,
    tags=["versions"],
    operation_id="undo",
)
def step_back(
    request: HttpRequest, build_id: UUID, payload: schemas.StepRequest
) -> schemas.BuildAnswer:
    """Go back one change."""
    return build_answer(undo(request.user, build_id, payload.base))


@router.post(
    "/builds/{build_id}/redo",
    response={200: schemas.BuildAnswer, **MISSING},
    exclude_unset=True,
    tags=["versions"],
    operation_id="redo",
)
def step_forward(
    request: HttpRequest, build_id: UUID, payload: schemas.StepRequest
) -> schemas.BuildAnswer:
    """Go forward one change."""
    return build_answer(redo(request.user, build_id, payload.base))


@router.post(
    "/builds/{build_id}/restore",
    response={200: schemas.BuildAnswer, **MISSING},
    exclude_unset=True,
    tags=["versions"],
    operation_id="restore",
)
def bring_version_back(
    request: HttpRequest, build_id: UUID, payload: schemas.RestoreRequest
) -> schemas.BuildAnswer:
    """Make an older version stand again."""
    return build_answer(restore(request.user, build_id, payload.base, payload.number))


@router.post(
    "/builds/{build_id}/pin",
    response={200: schemas.BuildAnswer, **MISSING},
    exclude_unset=True,
    tags=["versions"],
    operation_id="pin",
)
def pin_version(
    request: HttpRequest, build_id: UUID, payload: schemas.PinRequest
) -> schemas.BuildAnswer:
    """Choose the version that the present one is compared with."""
    return build_answer(pin(request.user, build_id, payload.number))
