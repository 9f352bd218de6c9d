"""Two writers at the same moment: one line, both kept."""

import copy
import threading
import uuid
from datetime import timedelta

import pytest
from django.db import connection
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from accounts.personal import the_owner
from builds.actions.change import save_version
from builds.actions.create import create_build
from builds.models import Build, Version
from common.errors import Conflict
from matching.actions.brief import keep_brief
from matching.models import Match
from matching.tasks import look_after
from powertrain.documents.shelf import CellPart
from shelf.actions.keep import add_part, bring_in
from shelf.models import Part


@pytest.mark.django_db(transaction=True)
def test_of_many_writers_from_one_version_one_stands_and_all_are_kept(trike):
    owner = the_owner()
    build = create_build(owner, trike)
    start = threading.Barrier(6)
    outcomes: list[str] = []

    def write(cells: int) -> None:
        document = copy.deepcopy(trike)
        document["battery"]["series"] = cells
        start.wait()
        try:
            save_version(owner, build.pk, 1, document, uuid.uuid4())
            outcomes.append("stands")
        except Conflict:
            outcomes.append("aside")
        finally:
            connection.close()

    writers = [threading.Thread(target=write, args=(cells,)) for cells in range(6, 12)]
    for writer in writers:
        writer.start()
    for writer in writers:
        writer.join()
    assert sorted(outcomes) == ["aside"] * 5 + ["stands"]
    versions = list(Build.objects.get(pk=build.pk).versions.all())
    assert [version.number for version in versions] == [1, 2, 3, 4, 5, 6, 7]
    cells = {version.document["battery"]["series"] for version in versions}
    assert cells == {13, *range(6, 12)}
    standing = [version.number for version in versions if not version.aside]
    assert standing == [1, Build.objects.get(pk=build.pk).head]


def at_once(count, do):
    """Return what became of doing something in many threads at the same moment."""
    start = threading.Barrier(count)
    outcomes = []

    def one(number: int) -> None:
        start.wait()
        try:
            outcomes.append(do(number))
        except Exception as problem:
            outcomes.append(problem)
        finally:
            connection.close()

    threads = [threading.Thread(target=one, args=(number,)) for number in range(count)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return outcomes


@pytest.mark.django_db(transaction=True)
def test_a_beginning_that_is_sent_many_times_at_once_is_one_build(trike):
    owner = the_owner()
    for _ in range(4):
        change = uuid.uuid4()
        begun = at_once(6, lambda _, change=change: create_build(owner, trike, change).pk)
        assert len(set(begun)) == 1
    assert Build.objects.count() == 4


@pytest.mark.django_db(transaction=True)
def test_one_mark_is_of_one_change_of_each_build(trike):
    owner = the_owner()
    builds = [create_build(owner, trike).pk for _ in range(2)]
    change = uuid.uuid4()
    saved = at_once(6, lambda n: save_version(owner, builds[n % 2], 1, trike, change).pk)
    assert sorted(saved) == sorted(builds * 3)
    for build in builds:
        assert Version.objects.filter(build_id=build, change_id=change).count() == 1
    # Nor is a build begun by the mark of a change to another one that build.
    assert create_build(owner, trike, change).pk not in builds


@pytest.mark.django_db(transaction=True)
def test_parts_of_one_name_that_come_at_once_are_all_kept():
    owner = the_owner()
    cell = {"name": "Reed", "chemistry": "li_ion", "capacity_ah": 3.0, "resistance_mohm": 26.0}
    refs = at_once(6, lambda _: add_part(owner, "cells", cell).ref)
    assert sorted(refs) == ["reed", *(f"reed-{n}" for n in range(2, 7))]


@pytest.mark.django_db(transaction=True)
def test_the_same_parts_brought_in_at_once_are_there_once():
    owner = the_owner()
    cells = [
        CellPart(id=f"c{n}", name="C", chemistry="li_ion", capacity_ah=3.0, resistance_mohm=26.0)
        for n in range(40)
    ]
    told = at_once(4, lambda n: bring_in(owner, "cells", cells if n % 2 else cells[::-1]))
    assert sorted(told) == [(0, 0)] * 3 + [(40, 0)]
    assert Part.objects.count() == 40


@pytest.mark.django_db(transaction=True)
def test_a_search_that_was_left_behind_is_taken_up_by_one_of_all_who_look():
    brief = keep_brief(the_owner(), {"format": "young-torrent.brief/1", "name": "Punt"})
    for _ in range(3):
        Match.objects.all().delete()
        long_ago = timezone.now() - timedelta(hours=1)
        match = Match.objects.create(brief=brief, document={}, made_at=long_ago)
        at_once(4, lambda _: look_after())
        jobs = ProcrastinateJob.objects.filter(args__match_id=str(match.pk))
        assert jobs.count() == 1
