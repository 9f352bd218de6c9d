"""The briefs of the demo: written once, and answered by the shelf that ships."""

import pytest
from django.core.management import call_command

from builds.models import Build
from matching.models import Brief, Origin
from powertrain.documents.brief import Brief as BriefDocument
from powertrain.documents.reading import check_model
from powertrain.match.search import Search
from powertrain.shelf.shipped import shipped_shelf

pytestmark = pytest.mark.django_db

RUFF = "Old Ruff, hoist motor"


@pytest.fixture
def demo():
    call_command("load_demo")
    call_command("load_demo_briefs")


def test_each_has_its_brief_and_keeps_it(demo):
    names = set(Brief.objects.values_list("name", flat=True))
    assert names == {RUFF, "Coot airboat", "Tern survey wing"}
    one = Origin.objects.get(build__demo="tern-wing").brief
    one.name = "Mine"
    one.save()
    call_command("load_demo_briefs")
    assert set(Brief.objects.values_list("name", flat=True)) == {RUFF, "Coot airboat", "Mine"}


def test_a_craft_that_was_taken_out_gets_none():
    call_command("load_demo")
    Build.objects.filter(demo="tern-wing").update(removed_at="2026-01-01T00:00Z")
    call_command("load_demo_briefs")
    assert set(Brief.objects.values_list("name", flat=True)) == {RUFF, "Coot airboat"}


def test_the_shelf_answers_them(demo):
    for kept in Brief.objects.all():
        # What is said is said: nothing of it is a guess.
        assert kept.said is None
        brief = check_model(BriefDocument, kept.document)
        assert brief.is_craft == (kept.name != RUFF)
        search = Search(brief, shipped_shelf())
        for tally in search.steps():
            if tally.feasible:
                break
        assert search.tally.feasible > 0, kept.name
