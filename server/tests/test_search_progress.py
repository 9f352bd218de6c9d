"""How a search tells what it found on the way, is called off, and outlives its worker."""

import copy
import json
from datetime import timedelta
from pathlib import Path

import pytest
from django.db import OperationalError, connection
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from matching import tasks
from matching.actions.search import call_off, keep_and_search
from matching.models import Match
from matching.tasks import AT_ONCE, FIRST_SHOWN, carry_out, search_shelf

EXAMPLES = Path(__file__).parents[2] / "docs/examples"
BRIEF = json.loads((EXAMPLES / "brief-trike.json").read_text())


@pytest.fixture
def match(db, django_user_model, monkeypatch) -> Match:
    """A search of some hundred thousand candidates that tells at every step how far it is."""
    monkeypatch.setattr(tasks, "TOLD_EVERY_S", 0.0)
    monkeypatch.setattr(tasks, "ANSWERED_EVERY_S", 0.0)
    monkeypatch.setattr(tasks, "close_old_connections", lambda: None)
    owner = django_user_model.objects.create(username="ferry")
    document = copy.deepcopy(BRIEF)
    document["owned"] = {"controller": "withyvane-t100-60", "battery": "merewisp-c21-50-10s4p"}
    brief = keep_and_search(owner, document)
    found: Match = brief.matches.get()
    return found


def looking(monkeypatch, see, match, *, stop_at=None, break_at=None):
    """Let `see` look at what stands in the database each time the worker tells something."""
    seen = []

    def pause(_):
        seen.append(see(Match.objects.get(pk=match.pk)))
        if break_at is not None and len(seen) == break_at:
            raise KeyboardInterrupt
        return stop_at is not None and len(seen) >= stop_at

    monkeypatch.setattr(tasks, "_is_called_off", pause)
    return seen


def told(match):
    results = [] if match.answer is None else match.answer["results"]
    return match.state, match.solved, match.feasible, match.to_solve, results


def test_the_first_answer_is_one_result_and_the_whole_one_has_its_doubt(match, monkeypatch):
    seen = looking(monkeypatch, told, match)
    carry_out(str(match.pk))
    assert len(seen) > 3
    assert {state for state, *_ in seen} == {"running"}
    for counts in ([one[1] for one in seen], [one[2] for one in seen]):
        assert counts == sorted(counts)
    assert all(solved <= to_solve for _, solved, _, to_solve, _ in seen)
    answered = [one for one in seen if one[4]]
    # Somebody waits for the first; those after it are few, and without the time bands take.
    assert len(answered[0][4]) == AT_ONCE
    assert all(len(one[4]) <= FIRST_SHOWN for one in answered)
    assert all(result["bands"] == {} for one in answered for result in one[4])
    match.refresh_from_db()
    answer = match.answer
    assert (match.state, match.solved) == ("done", match.to_solve)
    assert answer["considered"] == answer["feasible"] + sum(answer["rejected"].values())
    assert len(answer["results"]) > FIRST_SHOWN
    assert all(result["bands"] for result in answer["results"])
    # Scores on the way are never above the best of all.
    best = answer["results"][0]["score"]
    assert all(one[4][0]["score"] <= best + 1e-9 for one in answered)


def test_called_off_half_way_it_says_what_it_had_and_stays_so(match, monkeypatch):
    looking(monkeypatch, told, match, stop_at=2)
    carry_out(str(match.pk))
    match.refresh_from_db()
    assert match.state == "cancelled"
    assert match.ended_at is not None
    assert 0 < match.solved <= match.to_solve
    assert match.answer["feasible"] == match.feasible
    assert len(match.answer["results"]) <= FIRST_SHOWN
    before = match.ended_at
    carry_out(str(match.pk))
    match.refresh_from_db()
    assert match.ended_at == before


def test_a_worker_that_is_killed_half_way_leaves_a_search_that_another_does_anew(
    match, monkeypatch
):
    looking(monkeypatch, told, match, break_at=2)
    with pytest.raises(KeyboardInterrupt):
        carry_out(str(match.pk))
    match.refresh_from_db()
    assert (match.state, match.attempts) == ("running", 1)
    looking(monkeypatch, told, match)
    carry_out(str(match.pk))
    match.refresh_from_db()
    assert (match.state, match.attempts) == ("done", 2)
    again = keep_and_search(match.brief.owner, match.document).matches.first()
    carry_out(str(again.pk))
    again.refresh_from_db()
    # What it found does not depend on what the first worker had done.
    assert again.answer == match.answer


def test_a_search_is_of_the_brief_as_it_was_asked(match):
    brief = match.brief
    brief.document = {**brief.document, "name": "Another", "wishes": {}}
    brief.save()
    carry_out(str(match.pk))
    match.refresh_from_db()
    assert match.document["name"] == BRIEF["name"]
    assert "climb" in match.answer["results"][0]["margins"]


def test_a_search_that_is_no_longer_there_is_no_trouble(db):
    carry_out("00000000-0000-0000-0000-000000000000")
    assert not Match.objects.exists()


def queued(match) -> int:
    return ProcrastinateJob.objects.filter(
        args__match_id=str(match.pk), status__in=["todo", "doing"]
    ).count()


def test_one_that_waits_is_called_off_at_once_and_never_begun(match):
    call_off(match.brief.owner, match.pk)
    match.refresh_from_db()
    assert (match.state, match.ended_at is not None) == ("cancelled", True)
    carry_out(str(match.pk))
    match.refresh_from_db()
    assert (match.state, match.attempts) == ("cancelled", 0)


def test_whatever_breaks_in_a_search_it_is_tried_once_more_and_then_told(match, monkeypatch):
    monkeypatch.setattr(tasks, "_search", lambda *_: 1 / 0)
    search_shelf(match_id=str(match.pk))
    match.refresh_from_db()
    assert (match.state, match.attempts, queued(match)) == ("waiting", 1, 2)
    search_shelf(match_id=str(match.pk))
    match.refresh_from_db()
    assert (match.state, match.ended_at is not None) == ("failed", True)
    assert match.problem.startswith("It broke off: ZeroDivisionError.")


def test_one_whose_database_went_away_is_looked_after(match, monkeypatch):
    def away(*_):
        raise OperationalError

    monkeypatch.setattr(tasks, "_search", away)
    with pytest.raises(OperationalError):
        search_shelf(match_id=str(match.pk))
    # Its job is over, as far as the queue knows.
    with connection.cursor() as cursor:
        cursor.execute("update procrastinate_jobs set status = 'failed'")
    match.refresh_from_db()
    assert (match.state, match.attempts) == ("running", 1)
    assert tasks.look_after() == 0
    Match.objects.update(made_at=timezone.now() - timedelta(seconds=60))
    assert tasks.look_after() == 1
    match.refresh_from_db()
    assert (match.state, queued(match)) == ("waiting", 1)
    assert tasks.look_after() == 0
    with pytest.raises(OperationalError):
        search_shelf(match_id=str(match.pk))
    with connection.cursor() as cursor:
        cursor.execute("update procrastinate_jobs set status = 'failed'")
    assert tasks.look_after() == 1
    match.refresh_from_db()
    assert (match.state, match.problem) == (
        "failed",
        "The search ended unexpectedly. What it had found stays; begin it again if you like.",
    )


def test_one_that_was_called_off_and_left_behind_is_over(match):
    Match.objects.update(state="running", attempts=1, made_at=timezone.now() - timedelta(days=1))
    call_off(match.brief.owner, match.pk)
    with connection.cursor() as cursor:
        cursor.execute("delete from procrastinate_jobs")
    assert tasks.look_after() == 1
    match.refresh_from_db()
    assert match.state == "cancelled"
