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
from builds.cards import cards_of
from builds.errors import OperationRefused
from builds.incoming import pieces, text_lines
from builds.models import Build
from builds.querysets import stored_documents, version_of
from builds.views_of import archetype_card, as_row, build_answer, plain, version_card
from common.pages import page_after
from common.schemas import MISSING, REFUSED
from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.compare.baseline import BaselineAnswer, baseline
from powertrain.compare.compared import CompareAnswer, compare
from powertrain.documents.build import Build as BuildDocument
from powertrain.documents.describe import all_fields, changes_between, fields_of_facts, motor_kinds
from powertrain.documents.reading import check_build
from powertrain.documents.table import write_rows
from powertrain.errors import Refusal
from powertrain.identify.answer import IdentifyAnswer, identified
from powertrain.identify.facts import CellFacts, Facts, MotorFacts
from powertrain.levers.operations import carry_out

router = Router()


@router.post(
    "/solve",
    response={200: schemas.SolveAnswer, **REFUSED},
    exclude_unset=True,
    tags=["engine"],
    operation_id="solve",
)
def solve_build(request: HttpRequest, payload: schemas.SolveRequest) -> schemas.SolveAnswer:
    """Carry out operations on a whole document and return everything the bench shows of it."""
    before = plain(payload.document)
    after = before
    for index, operation in enumerate(payload.operations):
        try:
            after = carry_out(after, operation)
        except Refusal as refusal:
            raise OperationRefused(index, refusal) from None
    document = check_build(after)
    return schemas.SolveAnswer(
        document=document,
        changes=[schemas.Change(**change) for change in changes_between(before, after)],
        answer=solve(document),
    )


@router.post(
    "/compare", response={200: CompareAnswer, **REFUSED}, tags=["engine"], operation_id="compare"
)
def compare_builds(request: HttpRequest, payload: schemas.CompareRequest) -> CompareAnswer:
    """Return two to five builds beside one another on equal terms."""
    return compare(payload.documents, payload.terms)


@router.post(
    "/baseline",
    response={200: BaselineAnswer, **REFUSED},
    tags=["engine"],
    operation_id="baseline",
)
def hold_against_table(request: HttpRequest, payload: schemas.BaselineRequest) -> BaselineAnswer:
    """Return what the trade's table says of such a vehicle beside what is computed."""
    return baseline(payload.document, payload.chosen)


@router.get("/fields", response=schemas.FieldList, tags=["engine"], operation_id="fields")
def fields(request: HttpRequest) -> schemas.FieldList:
    """Return every field of the build document with its unit and explanation."""
    return schemas.FieldList(
        fields=all_fields(),
        motor_facts=fields_of_facts(MotorFacts, "motor."),
        cell_facts=fields_of_facts(CellFacts, "cell."),
        motor_kinds=motor_kinds(),
    )


@router.post(
    "/identify",
    response={200: IdentifyAnswer, **REFUSED},
    tags=["engine"],
    operation_id="identify",
)
def identify(request: HttpRequest, payload: Facts) -> IdentifyAnswer:
    """Return the constants that facts of a motor or of cells tell, and what contradicts."""
    return identified(payload)


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
    found = Build.objects.of(request.user).named(asked.words).annotate(low=Lower("name"))
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
    openapi_extra=schemas.CSV,
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
    response={200: schemas.BroughtIn, **REFUSED},
    tags=["builds"],
    operation_id="bring_in_builds",
    openapi_extra=schemas.TEXT,
)
def bring_in(request: HttpRequest) -> schemas.BroughtIn:
    """Begin a build for every good row of a table; bad rows are told by line and column."""
    added, bad, count = bring_in_builds(request.user, text_lines(pieces(request)))
    told = [schemas.Bad(line=row.line, column=row.column, what=row.what) for row in bad]
    return schemas.BroughtIn(added=added, changed=0, bad=told, bad_count=count)


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
