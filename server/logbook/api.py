"""The API of logbooks."""

import csv
import json
from io import StringIO
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from builds.models import Build
from builds.querysets import version_of
from builds.schemas import BuildAnswer
from builds.views_of import build_answer
from common.incoming import pieces
from common.schemas import CSV, MISSING, REFUSED, TEXT
from engine.schemas import Change
from logbook import lines_api, photos_api, schemas
from logbook.actions import (
    accept,
    build_runs,
    keep_run,
    learned_from,
    log_document,
    open_runs,
    take_run_out,
)
from logbook.models import MeasuredRun
from logbook.photos import run_photos
from powertrain.calibrate.answer import expected
from powertrain.calibrate.implied import TimedSpeed, implied, timed_speed
from powertrain.calibrate.readings import readings_of
from powertrain.documents.describe import changes_between, label_of
from powertrain.documents.log import FORMAT, check_log
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.set_up.day_list import day_list
from powertrain.telemetry.align import aligned
from powertrain.telemetry.find import proposals
from powertrain.telemetry.read import read_log
from powertrain.telemetry.recorded import Recorded
from powertrain.verdicts.context import RuleContext

router = Router(tags=["logbook"])
router.add_router("", photos_api.router)
router.add_router("", lines_api.router)

AT = "/builds/{build_id}/logbook"


@router.get(
    AT,
    response={200: list[schemas.MeasuredRunCard], **MISSING},
    exclude_unset=True,
    operation_id="logbook",
)
def runs(request: HttpRequest, build_id: UUID) -> list[schemas.MeasuredRunCard]:
    """Return the runs of a build, the first first, each with what was changed before it."""
    build = Build.objects.one(request.user, build_id)
    waiting = {run.pk for run in open_runs(build)}
    cards: list[schemas.MeasuredRunCard] = []
    before: MeasuredRun | None = None
    for run in build_runs(build):
        cards.append(_card(build, run, before, learned=run.pk not in waiting))
        before = run
    return cards


@router.put(
    AT + "/runs/{run_id}",
    response={200: schemas.MeasuredRunCard, **MISSING},
    exclude_unset=True,
    operation_id="keep_run",
)
def keep(
    request: HttpRequest, build_id: UUID, run_id: UUID, payload: schemas.KeepRunRequest
) -> schemas.MeasuredRunCard:
    """Keep a run under its sender's id: sent twice, it is there once."""
    kept = keep_run(request.user, build_id, run_id, payload)
    build = Build.objects.one(request.user, build_id)
    before = build_runs(build).filter(made_at__lt=kept.made_at).last()
    return _card(build, kept, before, learned=kept not in open_runs(build))


@router.delete(AT + "/runs/{run_id}", response={204: None, **MISSING}, operation_id="take_run_out")
def take(request: HttpRequest, build_id: UUID, run_id: UUID) -> Status[None]:
    """Take a run out of the logbook; keeping it under the same id brings it back."""
    take_run_out(request.user, build_id, run_id)
    return Status(204, None)


@router.post(
    AT + "/expected",
    response={200: schemas.Expected, **MISSING},
    operation_id="expected_readings",
)
def predicted(
    request: HttpRequest, build_id: UUID, payload: schemas.KeepRunRequest
) -> schemas.Expected:
    """Return each reading of a run, kept or not, beside what was predicted of it."""
    build = Build.objects.one(request.user, build_id)
    document = check_build(version_of(build, payload.version).document)
    run = payload.run.model_dump(mode="json", exclude_unset=True)
    log = check_log({"format": FORMAT, "runs": [{**run, "id": "this run"}]})
    return schemas.Expected(readings=expected(document, log), implied=implied(document, log))


@router.get(
    AT + "/learn", response={200: schemas.Learned, **MISSING}, operation_id="learn_from_runs"
)
def learn(request: HttpRequest, build_id: UUID) -> schemas.Learned:
    """Return what the runs teach that the build as it stands has not learned from."""
    build = Build.objects.one(request.user, build_id)
    waiting = open_runs(build)
    found = learned_from(build, waiting)
    document = version_of(build, build.head).document
    named = {item.path: item.label for item in found.inputs}
    changed = {path for gap in found.explained for path in gap.by_changes}
    return schemas.Learned(
        runs=[run.pk for run in waiting],
        version=build.head,
        found=found,
        labels={path: named.get(path) or label_of(path, document) for path in changed},
    )


@router.post(
    AT + "/accept",
    response={200: BuildAnswer, **MISSING},
    exclude_unset=True,
    operation_id="accept_learned",
)
def take_over(request: HttpRequest, build_id: UUID, payload: schemas.AcceptRequest) -> BuildAnswer:
    """Save what some runs teach as the next version; undone like any other."""
    change_id = payload.change_id
    return build_answer(accept(request.user, build_id, payload.base, payload.runs, change_id))


@router.get(AT + "/document", response={200: schemas.Plain, **MISSING}, operation_id="log_document")
def document(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """Return the logbook as a log document, changes told from the version that stands."""
    build = Build.objects.one(request.user, build_id)
    text = json.dumps(log_document(build, list(build_runs(build))), indent=1)
    return _file(text, "application/json", "log.json")


@router.get(
    AT + "/table",
    response={200: str, **MISSING},
    operation_id="log_table",
    openapi_extra=CSV,
)
def table(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """Return every reading of the logbook as a table."""
    build = Build.objects.one(request.user, build_id)
    log = check_log(log_document(build, list(build_runs(build))))
    text = StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(["run", "date", "kind", "what", "measured", "within_four_times_in_five"])
    for reading in readings_of(log):
        date = log.runs[reading.run].date or ""
        row = [reading.run_id, date, reading.kind, reading.field, reading.measured]
        writer.writerow([*row, f"{reading.tolerance:.6g}"])
    return _file(text.getvalue(), "text/csv; charset=utf-8", "log.csv")


@router.get(AT + "/day-list", response={200: schemas.DayList, **MISSING}, operation_id="day_list")
def before_a_day(request: HttpRequest, build_id: UUID) -> schemas.DayList:
    """Return what to look at on this machine before a day of testing."""
    build = Build.objects.one(request.user, build_id)
    document = check_build(version_of(build, build.head).document)
    return schemas.DayList(before=day_list(document, RuleContext.of(document, cures=False)))


@router.post("/timed-speed", response={200: TimedSpeed, **REFUSED}, operation_id="timed_speed")
def by_stopwatch(request: HttpRequest, payload: schemas.TimedWay) -> TimedSpeed:
    """Return the speed over a marked way or a lap, with the doubt of the watch."""
    return timed_speed(payload.way_m, payload.time_s)


@router.post(
    "/log-tables",
    response={200: schemas.TableRead, **REFUSED},
    operation_id="read_two_log_tables",
    openapi_extra=TEXT,
)
def read_tables(request: HttpRequest, asked: Query[schemas.TwoTables]) -> schemas.TableRead:
    """Return what two records of one ride tell together, laid beside each other by its course."""
    body = b"".join(pieces(request))
    if asked.first_bytes >= len(body):
        raise Refusal("first_bytes", "is all of the body; the second table comes right after")
    first = read_log(body[: asked.first_bytes], asked.mapping())
    return _table_read(aligned(first, read_log(body[asked.first_bytes :], asked.mapping())))


@router.post(
    "/log-table",
    response={200: schemas.TableRead, **REFUSED},
    operation_id="read_log_table",
    openapi_extra=TEXT,
)
def read_table(request: HttpRequest, asked: Query[schemas.Mapped]) -> schemas.TableRead:
    """Return how a logger's table is understood, and what it proposes to learn from."""
    return _table_read(read_log(b"".join(pieces(request)), asked.mapping()))


def _table_read(log: Recorded) -> schemas.TableRead:
    return schemas.TableRead(
        rows=len(log.times),
        lasts_s=float(log.times[-1]),
        said=log.said,
        marked={key: len(places) for key, places in log.marked.items()},
        notes=log.notes,
        proposed=proposals(log),
    )


def _card(
    build: Build, run: MeasuredRun, before: MeasuredRun | None, *, learned: bool
) -> schemas.MeasuredRunCard:
    changes: list[Change] = []
    if before is not None and before.version != run.version:
        then, now = (version_of(build, one.version).document for one in (before, run))
        changes = [
            Change(**change)
            for change in changes_between(then, now)
            if not change["path"].startswith("provenance")
        ]
    ridden = version_of(build, run.version).document
    return schemas.MeasuredRunCard(
        id=run.pk,
        version=run.version,
        made_at=run.made_at,
        run=schemas.MeasuredRunBody.model_validate(run.document, strict=False),
        changes=changes,
        learned=learned,
        photos=[photo.pk for photo in run_photos(run).only("id")],
        teeth=_teeth(ridden),
        labels={path: label_of(path, ridden) for path in run.document.get("changes", {})},
    )


def _teeth(document: dict[str, Any]) -> list[list[int]]:
    return [
        [stage["driver_teeth"], stage["driven_teeth"]]
        for stage in document.get("gearing", [])
        if "driver_teeth" in stage
    ]


def _file(text: str, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(text, content_type=kind)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
