"""Why a part does or doesn't, and how far a build meets its brief."""

import pytest

from core.tests.match.small import brief_of
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.match.matched import matched
from powertrain.match.meets import meets
from powertrain.match.reasons import in_words
from powertrain.match.search import Search
from powertrain.match.starts import start_briefs
from powertrain.match.why import narrowed, why
from powertrain.match.wish_registry import rejections, wishes_of
from powertrain.verdicts.registry import all_rules, stopping_rules


def test_a_part_that_does_is_named_with_its_best_combination():
    brief, shelf = brief_of("trike")
    told = why(brief, shelf, {"battery": "merewisp-c21-40p-12s4p"})
    only = narrowed(shelf, {"battery": "merewisp-c21-40p-12s4p"})
    assert told.feasible == Search(brief, only).run().tally.feasible > 0
    assert told.best is not None
    assert told.best.battery == "merewisp-c21-40p-12s4p"
    assert told.relaxed == []


def test_a_part_that_does_not_is_told_by_how_far():
    brief, shelf = brief_of("trike")
    # A hub motor of 10 rpm/V runs at 370 rpm free on ten cells: 370 x 1.83 m x 60 = 41 km/h.
    told = why(brief, shelf, {"motor": "millsluice-h246-10"})
    assert told.feasible == 0
    assert {reason.id for reason in told.reasons} & {"hub_motor", "climb", "motor_current"}
    shares = sum(reason.share for reason in told.reasons)
    assert 0 < shares <= 1 + 1e-12
    with pytest.raises(Refusal, match="no-such"):
        why(brief, shelf, {"motor": "no-such"})


def test_a_result_on_the_bench_meets_the_brief_as_the_match_said():
    brief, shelf = brief_of("trike")
    result = matched(brief, shelf, 1).results[0]
    now = meets(brief, check_build(result.build))
    assert set(now) == set(result.margins)
    for wish, margin in result.margins.items():
        if wish != "budget":  # what toothed wheels cost is not in a build
            assert now[wish].value == pytest.approx(margin.value)
    assert now["budget"].value < result.margins["budget"].value


def test_every_reason_has_its_words():
    brief = start_briefs()[0].document
    assert not {wish.id for wish in wishes_of(brief)} - set(rejections())
    # A rule brings its own: one that is new needs no other file.
    told = {name: in_words(name) for name in stopping_rules()}
    assert told == {name: rule.rejects for name, rule in all_rules().items() if rule.rejects}


def test_the_briefs_to_begin_from_ask_for_less_than_their_vehicles_do():
    for start in start_briefs():
        assert start.document.vehicle.mass_kg > 0
        wishes = start.document.wishes
        if start.document.is_craft:
            assert wishes.thrust_to_weight > 0
            assert wishes.cruise_kmh > 0
            continue
        top = wishes.top_speed_kmh
        assert top is not None
        assert 0 < top.min < top.max
