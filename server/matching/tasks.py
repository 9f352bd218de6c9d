"""The work of a search, done by a worker that only needs the database."""

import logging
import threading
import time
from collections.abc import Iterator
from datetime import timedelta
from typing import Any, TypeVar

from django.db import DatabaseError, close_old_connections, transaction
from django.db.models import F
from django.utils import timezone
from procrastinate.contrib.django import app

from powertrain.documents.brief import Brief as BriefDocument
from powertrain.documents.reading import check_model
from powertrain.errors import Refusal
from powertrain.match.answer import Blocked, Relaxed, answer_of
from powertrain.match.relax import blocked, relaxations
from powertrain.match.search import Search
from powertrain.match.tally import Tally

log = logging.getLogger(__name__)

TOLD_EVERY_S = 0.4
"""How often progress is written down."""

ANSWERED_EVERY_S = 3.0
"""How often the best so far are written out in full, after the first of them."""

SHOWN, FIRST_SHOWN, AT_ONCE = 30, 5, 1
"""Results in a whole answer, in one on the way, and in the very first."""

FIRST_WITHIN_S = 4.0
"""How long a first result is looked for among a few parts, before all are gone through."""

searching = threading.Event()
"""Set while this process searches, so that what is not urgent can wait."""

MOST_ATTEMPTS = 2
"""Times that a search is begun: once more after it ended unexpectedly; then it is told as
failed."""

LEFT_BEHIND_S = 10.0
"""After this time a search that nobody does, and that no worker will take, is looked after."""


@app.task(name="search_shelf", queue="searches")
def search_shelf(match_id: str) -> None:
    """Take one match from the queue; whatever happens, it ends, or is tried once more."""
    close_old_connections()
    searching.set()
    try:
        carry_out(match_id)
    except DatabaseError:
        # What it has found can't be written down: another connection begins it once more.
        log.exception("match=%s action=lost_database", match_id)
        raise
    except Exception as problem:
        log.exception("match=%s action=break", match_id)
        once_more(match_id, f"It broke off: {type(problem).__name__}.")
    finally:
        searching.clear()


def carry_out(match_id: str) -> None:
    """Search the shelf for one match, and write down how it goes."""
    from matching.models import Match

    match = Match.objects.filter(pk=match_id).first()
    if match is None or match.is_over:
        return
    if match.cancel_asked:
        _end(match, Match.State.CANCELLED)
        return
    if match.attempts >= MOST_ATTEMPTS:
        _end(match, Match.State.FAILED, f"The search ended unexpectedly. {BEGIN_AGAIN}")
        return
    waiting = Match.objects.filter(pk=match.pk, state=match.state)
    if not waiting.update(state=Match.State.RUNNING, attempts=F("attempts") + 1):
        return  # Called off at this very moment.
    match.refresh_from_db()
    try:
        brief = check_model(BriefDocument, match.document)
        _search(match, brief)
    except Refusal as refusal:
        _end(match, Match.State.FAILED, f"{refusal.where}: {refusal.what}")


BEGIN_AGAIN = "What it had found stays; begin it again if you like."


def once_more(match_id: str, why: str) -> None:
    """Put a search that ended unexpectedly into the queue again, or end it with a reason."""
    from matching.models import Match

    match = Match.objects.filter(pk=match_id).first()
    if match is None or match.is_over:
        return
    if match.cancel_asked:
        _end(match, Match.State.CANCELLED)
    elif match.attempts >= MOST_ATTEMPTS:
        _end(match, Match.State.FAILED, f"{why} {BEGIN_AGAIN}")
    else:
        Match.objects.filter(pk=match_id).update(state=Match.State.WAITING)
        search_shelf.defer(match_id=match_id)


def look_after() -> int:
    """Take up searches that nobody does any more; return how many there were.

    A search is left behind when its worker lost the database and could not say so, or when
    nothing of it stands in the queue.
    """
    from procrastinate.contrib.django.models import ProcrastinateJob

    from matching.models import Match

    before = timezone.now() - timedelta(seconds=LEFT_BEHIND_S)
    open_ones = [Match.State.WAITING, Match.State.RUNNING]
    known = Match.objects.filter(state__in=open_ones, made_at__lt=before)
    live = ProcrastinateJob.objects.filter(status__in=["todo", "doing"], task_name="search_shelf")
    taken_up = 0
    for pk in list(known.values_list("pk", flat=True)):
        with transaction.atomic():
            # Every worker looks: the others wait here, and find it in the queue again.
            known.select_for_update().filter(pk=pk).first()
            if live.filter(args__match_id=str(pk)).exists():
                continue
            log.warning("match=%s action=look_after", pk)
            once_more(str(pk), "The search ended unexpectedly.")
            taken_up += 1
    return taken_up


def _search(match: Any, brief: BriefDocument) -> None:
    from matching.candidates import candidates_of

    candidates = candidates_of(match.brief.owner, brief)
    if candidates.first is not None:
        _find_one(match, Search(brief, candidates.first, best=SHOWN))
    shelf = candidates.shelf
    search = Search(brief, shelf, best=SHOWN)
    for _ in _told(match, search, search.steps()):
        if _is_called_off(match):
            if search.tally.feasible or match.answer is None:
                match.answer = _so_far(search, FIRST_SHOWN)
            _end(match, match.State.CANCELLED)
            return
    relaxed: list[Relaxed] = []
    stands: list[Blocked] = []
    if not search.tally.feasible:
        relaxed = list(_until_called_off(match, relaxations(brief, shelf)))
        if not relaxed:
            stands = list(_until_called_off(match, blocked(brief, shelf, search)))
    answer = answer_of(search, SHOWN, relaxed, by_trio=True, blocked=stands)
    answer = answer.model_copy(update={"left_out": candidates.left_out})
    match.answer = answer.model_dump(mode="json")
    _end(match, match.State.DONE)


def _find_one(match: Any, search: Search) -> None:
    """Write down a first result from among a few parts, so that nobody waits for all."""
    begun = time.monotonic()
    for tally in search.steps():
        if tally.feasible:
            match.answer = _so_far(search, AT_ONCE)
            match.save(update_fields=["answer"])
            return
        if time.monotonic() - begun > FIRST_WITHIN_S:
            return


Found = TypeVar("Found")


def _until_called_off(match: Any, found: Iterator[Found]) -> Iterator[Found]:
    for one in found:
        yield one
        if _is_called_off(match):
            return


def _told(match: Any, search: Search, steps: Iterator[Tally]) -> Iterator[None]:
    """Write progress down on the way, and pause each time it was."""
    told = answered = 0.0
    for tally in steps:
        now = time.monotonic()
        first = tally.feasible > 0 and match.answer is None
        if not first and now - told < TOLD_EVERY_S:
            continue
        told = now
        fields = _counted(match, tally)
        if first or (tally.feasible and now - answered > ANSWERED_EVERY_S):
            shown = AT_ONCE if first else FIRST_SHOWN
            match.answer = _so_far(search, shown)
            answered, fields = now, [*fields, "answer"]
        match.save(update_fields=fields)
        yield
    _counted(match, search.tally)


def _so_far(search: Search, shown: int) -> dict[str, Any]:
    """Return the answer of a search under way, at once rather than with bands."""
    return answer_of(search, shown, by_trio=True, bands=False).model_dump(mode="json")


def _counted(match: Any, tally: Tally) -> list[str]:
    match.considered, match.to_solve = tally.considered, tally.to_solve
    match.solved, match.feasible = tally.solved, tally.feasible
    return ["considered", "to_solve", "solved", "feasible"]


def _is_called_off(match: Any) -> bool:
    return bool(type(match).objects.filter(pk=match.pk, cancel_asked=True).exists())


def _end(match: Any, state: str, problem: str = "") -> None:
    match.state, match.problem, match.ended_at = state, problem, timezone.now()
    match.save(
        update_fields=[
            "state",
            "problem",
            "ended_at",
            "answer",
            "considered",
            "to_solve",
            "solved",
            "feasible",
        ]
    )
    log.info("match=%s action=end state=%s solved=%s", match.pk, state, match.solved)
