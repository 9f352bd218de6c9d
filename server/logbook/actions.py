"""Keep measured runs, learn from them, and make what was learned a version of the build."""

from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from builds.actions.change import save_version
from builds.models import Build, Version
from builds.querysets import version_of
from common.documents import plain
from common.errors import NotFound
from logbook.models import MeasuredRun
from logbook.schemas import MOST_RUNS, KeepRunRequest
from powertrain.calibrate.answer import Calibrated, calibrated
from powertrain.calibrate.predict import AsRidden
from powertrain.documents.describe import changes_between
from powertrain.documents.log import FORMAT, check_log
from powertrain.documents.reading import check_build
from powertrain.doubt.draws import Doubt
from powertrain.errors import Refusal

NO_PART_OF_A_RUN = ("provenance", "name", "moments", "format")
"""What of a version says nothing of the vehicle that was ridden."""


def keep_run(user: Any, build_id: UUID, run_id: UUID, asked: KeepRunRequest) -> MeasuredRun:
    """Keep a run; sent again under its id it replaces itself, and comes back if it was taken out.

    Raises
    ------
    NotFound
        If there is no such build or version, or the id is of a run of another build.
    Refusal
        If the run can't be one of that version.
    """
    with transaction.atomic():
        build = Build.objects.one(user, build_id, lock=True)
        version = version_of(build, asked.version)
        document = plain(asked.run)
        log = check_log({"format": FORMAT, "runs": [{**document, "id": "this run"}]})
        # What was otherwise on the day must be something that the vehicle has.
        AsRidden.of(check_build(version.document), log.runs[0], 0)
        known = MeasuredRun.objects.filter(pk=run_id).first()
        if known is not None and known.build_id != build.pk:
            raise NotFound("run", "is not among those of this build")
        if known is None and build_runs(build).count() >= MOST_RUNS:
            raise Refusal("run", f"is one more than the {MOST_RUNS} that a logbook holds")
        kept, _ = MeasuredRun.objects.update_or_create(
            pk=run_id,
            defaults={
                "build": build,
                "version": version.number,
                "document": document,
                "removed_at": None,
            },
        )
    return kept


def take_run_out(user: Any, build_id: UUID, run_id: UUID) -> None:
    """Take a run out; keeping it again brings it back.

    Raises
    ------
    NotFound
        If there is none.
    """
    build = Build.objects.one(user, build_id)
    if not build_runs(build).filter(pk=run_id).update(removed_at=timezone.now()):
        raise NotFound("run", "is not among those of this build")


def build_runs(build: Build) -> Any:
    """Return the runs that stand in a build's logbook, the first made first."""
    return MeasuredRun.objects.filter(build=build, removed_at=None)


def open_runs(build: Build) -> list[MeasuredRun]:
    """Return the runs that the build as it stands has not learned from yet.

    A version that was fitted and undone has taught nothing: its runs count again.
    """
    line = _line(build)
    return [run for run in build_runs(build) if run.taught_in not in line]


def _line(build: Build) -> set[int]:
    """Return the numbers of the versions that the one that stands was made from, and its own."""
    parents = dict(Version.objects.filter(build=build).values_list("number", "parent"))
    line: set[int] = set()
    at: int | None = build.head
    while at is not None and at not in line:
        line.add(at)
        at = parents.get(at)
    return line


def log_document(build: Build, runs: list[MeasuredRun]) -> dict[str, Any]:
    """Return a log document of some runs, each changed from the version that stands."""
    base = version_of(build, build.head).document
    names = {
        one: f"run {place}"
        for place, one in enumerate(build_runs(build).values_list("pk", flat=True), 1)
    }
    versions = dict(
        Version.objects.filter(build=build, number__in={run.version for run in runs}).values_list(
            "number", "document"
        )
    )
    return {
        "format": FORMAT,
        "name": build.name,
        "runs": [
            {
                **run.document,
                "id": names[run.pk],
                "changes": {
                    **_changes(base, versions[run.version]),
                    **run.document.get("changes", {}),
                },
            }
            for run in runs
        ],
    }


def _changes(base: dict[str, Any], ridden: dict[str, Any]) -> dict[str, Any]:
    """Return what a version differs by from another, by document path.

    What was only learned since was the same when it was ridden, whatever was thought of it: values
    that were fitted, and others that differ by no more than they are doubtful.
    """
    learned = {
        path
        for document in (base, ridden)
        for path, known in document.get("provenance", {}).items()
        if known.get("origin") == "fitted"
    }
    doubtful = {item.path: item.tolerance for item in Doubt.of(check_build(base)).inputs}
    found = {}
    for change in changes_between(base, ridden):
        path, now, then = change["path"], change["before"], change["after"]
        if path.split(".")[0] in NO_PART_OF_A_RUN:
            continue
        # A whole part may be what was learned, as a propeller's point on the scale.
        if any(one == path or one.startswith(f"{path}.") for one in learned):
            continue
        if path in doubtful and now and then:
            factor = max(now / then, then / now)
            if factor <= 1 + doubtful[path]:
                continue
        found[path] = then
    return found


def learned_from(build: Build, runs: list[MeasuredRun]) -> Calibrated:
    """Return what some runs teach the build as it stands."""
    document = check_build(version_of(build, build.head).document)
    return calibrated(document, check_log(log_document(build, runs)))


def accept(user: Any, build_id: UUID, base: int, run_ids: list[UUID], change_id: UUID) -> Build:
    """Save what some runs teach as the next version, and note that they are learned.

    Raises
    ------
    NotFound
        If a run is not in the logbook.
    Refusal
        If a run was learned from already.
    Conflict
        If `base` no longer stands.
    """
    build = Build.objects.one(user, build_id)
    if Version.objects.filter(build=build, change_id=change_id).exists():
        return build
    waiting = {run.pk: run for run in open_runs(build)}
    there = set(build_runs(build).values_list("pk", flat=True))
    for place, run_id in enumerate(run_ids):
        if run_id not in there:
            raise NotFound(f"runs.{place}", "is not among those of this build")
        if run_id not in waiting:
            raise Refusal(f"runs.{place}", "has taught this build already; it counts once")
    found = learned_from(build, [waiting[run_id] for run_id in run_ids])
    with transaction.atomic():
        saved = save_version(user, build_id, base, found.build, change_id)
        MeasuredRun.objects.filter(pk__in=run_ids).update(taught_in=saved.head)
    return saved
