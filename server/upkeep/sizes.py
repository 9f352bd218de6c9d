"""How large what is kept is, in words that say what it is."""

import os
import shutil
from typing import Any

from django.db import connection

from builds.models import Build
from logbook.models import LoggerLine, MeasuredRun, RunPhoto
from matching.models import Brief, Match
from runs.models import KeptRide, MeterDay
from shelf.models import Part
from upkeep.schemas import RoomTaken

TABLES = {
    "builds": ("builds_build", "builds_version"),
    "kept rides": ("runs_keptride",),
    "measured runs": ("logbook_measuredrun",),
    "photos of runs": ("logbook_runphoto",),
    "tables that loggers sent": ("logbook_loggerline", "logbook_linepiece"),
    "test days": ("runs_meterday",),
    "parts of your own": ("shelf_part", "shelf_partversion"),
    "briefs": ("matching_brief", "matching_origin"),
    "searches": ("matching_match",),
    "notes of work done": ("procrastinate_jobs", "procrastinate_events"),
}
"""Tables by what they hold."""


def sizes_of(user: Any) -> list[RoomTaken]:
    """Return the count of each kind of thing of `user`, and the bytes that all of them take."""
    counts = {
        "builds": Build.objects.filter(owner=user).count(),
        "measured runs": MeasuredRun.objects.filter(build__owner=user).count(),
        "photos of runs": RunPhoto.objects.filter(run__build__owner=user).count(),
        "tables that loggers sent": LoggerLine.objects.filter(build__owner=user).count(),
        "kept rides": KeptRide.objects.filter(build__owner=user).count(),
        "test days": MeterDay.objects.filter(build__owner=user).count(),
        "parts of your own": Part.objects.filter(owner=user).count(),
        "briefs": Brief.objects.filter(owner=user).count(),
        "searches": Match.objects.filter(brief__owner=user).count(),
    }
    with connection.cursor() as cursor:
        cursor.execute("select count(*) from procrastinate_jobs")
        counts["notes of work done"] = cursor.fetchone()[0]
        return [
            RoomTaken(what=what, count=counts[what], bytes=_bytes_of(cursor, tables))
            for what, tables in TABLES.items()
        ]


def _bytes_of(cursor: Any, tables: tuple[str, ...]) -> int:
    cursor.execute(
        "select sum(pg_total_relation_size(name::regclass)) from unnest(%s::text[]) as of(name)",
        [list(tables)],
    )
    return int(cursor.fetchone()[0])


def database_bytes() -> int:
    """Return the bytes of the whole database."""
    with connection.cursor() as cursor:
        cursor.execute("select pg_database_size(current_database())")
        return int(cursor.fetchone()[0])


def free_bytes() -> int | None:
    """Return the bytes that are left on the disk, None where that is not known."""
    place = os.environ.get("YT_DB_HOME")
    try:
        return shutil.disk_usage(place).free if place else None
    except OSError:
        return None
