"""Keep a ride, take it out, and begin a test day."""

from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from builds.models import Build
from builds.querysets import version_of
from common.documents import plain
from common.errors import NotFound
from powertrain.documents.run import Run, check_run, with_rest_volts
from powertrain.instruments.hidden import day_of
from powertrain.instruments.meters import meter_frames
from powertrain.runs.answer import ridden_draws, run_answer
from powertrain.runs.ride import ride
from powertrain.runs.step_length import step_of
from powertrain.runs.verdicts import ride_verdicts
from runs.models import KeptRide, MeterDay
from runs.schemas import KeepRequest, MeterDayRequest

KEPT_DRAWS = 64
LONG_S = 3600.0
"""A ride that takes longer is kept without bands."""

MOST_DAYS = 20
"""Of one build; they can be had again by their seeds."""


def run_in_air(
    document: dict[str, Any], rest: dict[str, Any], air_c: float | None, *, craft: bool
) -> Run:
    """Return the run of a stored build in other air than its own.

    `craft` says whether it may be of a craft.
    """
    if air_c is not None:
        document = {
            **document,
            "conditions": {**document.get("conditions", {}), "ambient_c": air_c},
        }
    return check_run({**rest, "build": with_rest_volts(document)}, craft=craft)


def keep_ride(user: Any, build_id: UUID, ride_id: UUID, asked: KeepRequest) -> KeptRide:
    """Ride a version of a build and keep what it comes to; kept already, it comes back as it was.

    Raises
    ------
    NotFound
        If there is no such build or version.
    """
    build = Build.objects.one(user, build_id)
    known = KeptRide.objects.filter(pk=ride_id, build=build).first()
    if known is not None:
        KeptRide.objects.filter(pk=ride_id).update(removed_at=None)
        known.removed_at = None
        return known
    rest = {**plain(asked.ride), "name": asked.name}
    stored = version_of(build, asked.version).document
    run = run_in_air(stored, rest, asked.air_c, craft=True)
    ridden = ride(run, step_s=step_of(run))
    many = ridden_draws(run, ridden, KEPT_DRAWS) if float(ridden.t_s[0]) <= LONG_S else None
    told = run_answer(run, ridden=ridden, many=many)
    verdicts = ride_verdicts(run, told, ridden)
    kept, _ = KeptRide.objects.get_or_create(
        pk=ride_id,
        defaults={
            "build": build,
            "version": asked.version,
            "name": asked.name,
            "ride": rest,
            "air_c": asked.air_c,
            "track": asked.track,
            "told": told.model_dump(mode="json"),
            "verdicts": [one.model_dump(mode="json") for one in verdicts],
        },
    )
    if kept.build_id != build.pk:
        raise NotFound("ride", "is not among those of this build")
    return kept


def ride_of(user: Any, build_id: UUID, ride_id: UUID) -> KeptRide:
    """Return a ride that is kept with a build of `user`.

    Raises
    ------
    NotFound
        If there is none.
    """
    build = Build.objects.one(user, build_id)
    kept = KeptRide.objects.filter(pk=ride_id, build=build, removed_at=None).first()
    if kept is None:
        raise NotFound("ride", "is not among those of this build")
    return kept


def take_out(user: Any, build_id: UUID, ride_id: UUID) -> None:
    """Take a ride out; keeping it again brings it back."""
    kept = ride_of(user, build_id, ride_id)
    KeptRide.objects.filter(pk=kept.pk).update(removed_at=timezone.now())


def begin_day(user: Any, build_id: UUID, asked: MeterDayRequest) -> MeterDay:
    """Drive a hidden vehicle near a version of a build, and keep what instruments read of it.

    Raises
    ------
    NotFound
        If there is no such build or version.
    """
    build = Build.objects.one(user, build_id)
    document = version_of(build, asked.version).document
    run = run_in_air(document, plain(asked.ride), asked.air_c, craft=False)
    day = day_of(run, asked.seed, cleared=asked.cleared)
    frames = [frame.model_dump() for frame in meter_frames(day.run, day.ridden, asked.seed)]
    with transaction.atomic():
        kept = MeterDay.objects.create(
            build=build, seed=asked.seed, log=day.log, rows=day.rows, frames=frames
        )
        old = MeterDay.objects.filter(build=build).values_list("pk", flat=True)[MOST_DAYS:]
        MeterDay.objects.filter(pk__in=list(old)).delete()
    return kept


def day_with(user: Any, build_id: UUID, day_id: UUID) -> MeterDay:
    """Return a test day of a build of `user`.

    Raises
    ------
    NotFound
        If there is none, or it is gone with many newer ones.
    """
    build = Build.objects.one(user, build_id)
    found = MeterDay.objects.filter(pk=day_id, build=build).first()
    if found is None:
        raise NotFound("day", "is not among those of this build; begin it again")
    return found
