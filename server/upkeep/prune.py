"""What may go: old searches, what was taken out of lists long ago, notes of work that is done."""

import logging
from datetime import timedelta
from typing import Any

from django.db import connection
from django.db.models import OuterRef, QuerySet, Subquery
from django.utils import timezone

from accounts.personal import the_owner
from builds.models import Build
from matching.models import Brief, Match
from shelf.models import Part
from upkeep.models import Policy

log = logging.getLogger(__name__)

JOBS_DAYS = 7
"""How long it is remembered which worker did what; nobody looks at it later."""

AT_A_TIME = 500


def policy_of(user: Any) -> Policy:
    """Return what `user` wants kept how long, as it usually is if nothing was said."""
    return Policy.objects.filter(owner=user).first() or Policy(owner=user)


def prune() -> int:
    """Let go of what may go; return how many things that were."""
    owner = the_owner()
    policy = policy_of(owner)
    gone = _delete(_old_searches(owner, policy.searches_days))
    for kind in (Build, Part, Brief):
        if policy.removed_days is not None:
            long_ago = _before(policy.removed_days)
            gone += _delete(kind.objects.filter(owner=owner, removed_at__lt=long_ago))
    gone += _forget_jobs()
    if gone:
        log.info("action=prune gone=%s", gone)
    return gone


def _before(days: int) -> Any:
    return timezone.now() - timedelta(days=days)


def _old_searches(owner: Any, days: int | None) -> QuerySet[Match]:
    """Return searches that are over for longer than that, but for the last one of each brief."""
    if days is None:
        return Match.objects.none()
    last = Match.objects.filter(brief=OuterRef("brief")).order_by("-made_at").values("pk")[:1]
    old = Match.objects.filter(brief__owner=owner, ended_at__lt=_before(days))
    return old.exclude(pk=Subquery(last))


def _delete(found: QuerySet[Any]) -> int:
    """Delete rows a few at a time, so that nobody waits long for their locks."""
    gone = 0
    while keys := list(found.values_list("pk", flat=True)[:AT_A_TIME]):
        found.model._default_manager.filter(pk__in=keys).delete()
        gone += len(keys)
    return gone


def _forget_jobs() -> int:
    with connection.cursor() as cursor:
        cursor.execute(
            """
            delete from procrastinate_jobs job
            where status in ('succeeded', 'failed', 'cancelled', 'aborted')
              and not exists (
                select 1 from procrastinate_events event
                where event.job_id = job.id and event.at > now() - make_interval(days => %s)
              )
            """,
            [JOBS_DAYS],
        )
        return int(cursor.rowcount)
