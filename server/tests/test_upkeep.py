"""What may go goes when it is time, and nothing else; how large all of it is."""

from datetime import timedelta

import pytest
from django.db import connection
from django.utils import timezone

from accounts.personal import the_owner
from builds.actions.create import create_build
from builds.actions.remove import remove_build
from builds.models import Build, Version
from matching.actions.brief import keep_brief, set_away
from matching.actions.search import begin_search
from matching.models import Brief, Match
from upkeep.prune import prune

NOW = timezone.now()


@pytest.fixture
def owner(db):
    return the_owner()


@pytest.fixture
def brief(owner):
    return keep_brief(owner, {"format": "young-torrent.brief/1", "name": "Punt"})


def searched(brief, days: int) -> Match:
    when = NOW - timedelta(days=days)
    return Match.objects.create(
        brief=brief, document={}, state="done", made_at=when, ended_at=when, answer={"results": []}
    )


def ages() -> list[int]:
    return sorted((NOW - match.ended_at).days for match in Match.objects.exclude(ended_at=None))


def test_old_searches_go_but_the_last_of_a_brief_stays(owner, brief):
    for days in (1, 29, 31, 300):
        searched(brief, days)
    other = keep_brief(owner, {"name": "Sled"})
    for days in (200, 400):
        searched(other, days)
    assert prune() == 3
    assert ages() == [1, 29, 200]
    assert prune() == 0


def test_a_search_that_still_runs_stays(owner, brief):
    begin_search(owner, brief.pk)
    Match.objects.update(made_at=NOW - timedelta(days=90))
    searched(brief, 1)
    assert prune() == 0


def test_how_long_is_for_the_owner_to_say(api, owner, brief):
    for days in (1, 8, 40):
        searched(brief, days)
    status, told = api.post("/upkeep", {"searches_days": 7, "removed_days": None})
    assert (status, told["policy"]) == (200, {"searches_days": 7, "removed_days": None})
    assert prune() == 2
    assert api.post("/upkeep", {"searches_days": None, "removed_days": None})[0] == 200
    searched(brief, 4000)
    assert prune() == 0
    for bad in ({"searches_days": 0, "removed_days": None}, {"searches_days": "7"}, {}):
        assert api.post("/upkeep", bad)[0] == 422
    assert api.get("/upkeep")[1]["policy"] == {"searches_days": None, "removed_days": None}


def test_what_was_taken_out_of_the_lists_stays_unless_it_is_said(api, owner, brief, trike):
    kept, gone, late = (create_build(owner, trike) for _ in range(3))
    for build in (gone, late):
        remove_build(owner, build.pk)
    set_away(owner, brief.pk, away=True)
    long_ago = NOW - timedelta(days=500)
    Build.objects.filter(pk=gone.pk).update(removed_at=long_ago)
    Brief.objects.update(removed_at=long_ago)
    assert prune() == 0
    api.post("/upkeep", {"searches_days": 30, "removed_days": 365})
    assert prune() == 2
    assert set(Build.objects.values_list("pk", flat=True)) == {kept.pk, late.pk}
    assert Version.objects.count() == 2
    assert not Brief.objects.exists()


def test_notes_of_work_done_go_after_a_week(owner, brief):
    for status in ("succeeded", "failed", "todo"):
        begin_search(owner, brief.pk)
        with connection.cursor() as cursor:
            cursor.execute(
                "update procrastinate_jobs set status = %s where id = (select max(id) from"
                " procrastinate_jobs)",
                [status],
            )
    assert prune() == 0
    with connection.cursor() as cursor:
        cursor.execute("update procrastinate_events set at = now() - interval '8 days'")
    assert prune() == 2
    with connection.cursor() as cursor:
        cursor.execute("select status from procrastinate_jobs")
        assert cursor.fetchall() == [("todo",)]


def test_how_it_all_stands_is_told(api, tmp_path, settings):
    assert api.get("/upkeep")[1]["stands"] == []
    place = tmp_path / "status.json"
    place.write_text('{"stands": {"database": "up", "web": "is starting"}}')
    settings.STATUS = str(place)
    assert api.get("/upkeep")[1]["stands"] == [
        {"what": "database", "how": "up"},
        {"what": "web", "how": "is starting"},
    ]


def test_how_large_it_is_is_told(api, owner, brief, trike):
    create_build(owner, trike)
    _, told = api.get("/upkeep")
    sizes = {size["what"]: (size["count"], size["bytes"]) for size in told["sizes"]}
    assert {what: count for what, (count, _) in sizes.items()} == {
        "builds": 1,
        "kept rides": 0,
        "measured runs": 0,
        "photos of runs": 0,
        "tables that loggers sent": 0,
        "test days": 0,
        "parts of your own": 0,
        "briefs": 1,
        "searches": 0,
        "notes of work done": 0,
    }
    # A page of PostgreSQL is 8192 bytes: a table with a row has at least one.
    assert sizes["builds"][1] >= 2 * 8192
    assert told["database_bytes"] > sum(size for _, size in sizes.values())
