"""Begin a search, call it off, and make a build of what it found."""

import logging
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from builds.actions.create import create_build
from builds.models import Build
from common.errors import NotFound
from matching.actions.brief import keep_brief
from matching.models import Brief, Match, Origin
from matching.querysets import MatchQuerySet
from matching.tasks import search_shelf

log = logging.getLogger(__name__)


@transaction.atomic
def begin_search(user: Any, brief_id: UUID) -> Match:
    """Put a search for a brief into the queue; searches for it that still run are called off."""
    brief = Brief.objects.one(user, brief_id)
    _leave(brief.matches.all())
    match = Match.objects.create(brief=brief, document=brief.document)
    search_shelf.defer(match_id=str(match.pk))
    log.info("match=%s action=begin", match.pk)
    return match


@transaction.atomic
def keep_and_search(
    user: Any,
    document: dict[str, Any],
    brief_id: UUID | None = None,
    said: list[str] | None = None,
) -> Brief:
    """Store a brief and begin to search for it, both or neither; see `keep_brief`."""
    brief = keep_brief(user, document, brief_id, said)
    begin_search(user, brief.pk)
    return brief


@transaction.atomic
def call_off(user: Any, match_id: UUID) -> Match:
    """Call a search off; what it found so far stays.

    One that waits ends here and now; one that runs is left by its worker in a moment.
    """
    match = Match.objects.one(user, match_id)
    _leave(Match.objects.filter(pk=match.pk))
    match.refresh_from_db()
    return match


def _leave(matches: MatchQuerySet) -> None:
    matches.filter(state=Match.State.WAITING).update(
        state=Match.State.CANCELLED, cancel_asked=True, ended_at=timezone.now()
    )
    matches.filter(state=Match.State.RUNNING).update(cancel_asked=True)


@transaction.atomic
def make_build(user: Any, match_id: UUID, rank: int) -> Build:
    """Make a build of one result, with its brief attached.

    Raises
    ------
    NotFound
        If the search has no such result.
    """
    match = Match.objects.one(user, match_id)
    results = (match.answer or {}).get("results", [])
    found = next((result for result in results if result["rank"] == rank), None)
    if found is None:
        raise NotFound("result", f"{rank} does not exist")
    build = create_build(user, found["build"])
    Origin.objects.create(build=build, brief=match.brief, document=match.document)
    return build
