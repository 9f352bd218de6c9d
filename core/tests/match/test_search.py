"""The search against a brute-force loop over the plain solver, on shelves small enough for it."""

import random
from itertools import product

import numpy as np
import pytest

from core.tests.match.small import BRIEFS, CARTS, brief_of, small_shelf
from powertrain.documents.brief import Wishes
from powertrain.documents.electrics import Controller
from powertrain.documents.vehicle import FixedStage
from powertrain.errors import Refusal
from powertrain.match.answer import answer_of
from powertrain.match.judged import judge
from powertrain.match.matched import matched
from powertrain.match.options import Options
from powertrain.match.ranking import ordered
from powertrain.match.search import Search
from powertrain.results import steady_results

WHOLE, SOME = ("trike", "trolley"), 3
"""Briefs of which every candidate is asked alone; of the others one in three, which takes less."""


@pytest.mark.parametrize("name", BRIEFS)
def test_the_search_finds_what_asking_the_plain_solver_one_by_one_finds(name):
    brief, shelf = brief_of(name)
    options = Options.of(brief, shelf)
    places = (options.motors, options.controllers, options.packs, options.gearings)
    every = list(product(*(range(len(p)) for p in places)))
    few = random.Random(7).sample(every, len(every) // SOME)
    asked = every if name in WHOLE else sorted(few)
    judged = [judge(brief, options, key) for key in asked]
    feasible = {one.key: one for one in judged if one.feasible}
    assert 0 < len(feasible) < len(judged)

    ways = {
        "step by step": Search(brief, shelf, best=10_000, loops_from=None).run(),
        "in compiled loops": Search(brief, shelf, best=10_000, loops_from=0).run(),
    }
    for way, search in ways.items():
        assert search.in_loops == (search.tally.solved if way == "in compiled loops" else 0)
        found = [tuple(int(place) for place in key) for key in search.best.keys]
        assert set(found) & set(asked) == set(feasible), way
        assert search.tally.feasible == len(found)
        assert (
            search.tally.considered
            == len(every)
            == len(found) + sum(search.tally.rejected.values())
        )
        # Alone a top speed is found to the last digit, in an array to about seven.
        mine = [place for place, key in enumerate(found) if key in feasible]
        scores = [float(feasible[found[place]].worth.score[0]) for place in mine]
        keys, told = search.best.keys[mine], search.best.score[mine]
        assert list(told) == pytest.approx(scores, abs=2e-6)
        assert list(ordered(told.round(5), keys)) == list(ordered(np.round(scores, 5), keys))
    one, other = ways.values()
    assert one.tally.rejected == other.tally.rejected
    assert one.tally.by_trio.keys() == other.tally.by_trio.keys()
    assert sorted(map(tuple, one.front.keys)) == sorted(map(tuple, other.front.keys))


def test_what_decides_by_the_numbers_themselves_is_solved_step_by_step(monkeypatch):
    brief, shelf = brief_of("trike")

    def decides(compiled):
        return steady_results(compiled) if float(compiled.drive.train.ratio[0]) > 1 else None

    monkeypatch.setattr("powertrain.match.group_loop.steady_results", decides)
    plain, tried = (Search(brief, shelf, loops_from=loops).run() for loops in (None, 0))
    assert tried.in_loops == 0
    assert tried.tally.rejected == plain.tally.rejected
    assert tried.tally.feasible == plain.tally.feasible > 0


def test_every_result_is_a_build_that_meets_the_brief():
    brief, shelf = brief_of("trike")
    answer = matched(brief, shelf, limit=5)
    assert [result.rank for result in answer.results] == [1, 2, 3, 4, 5]
    scores = [result.score for result in answer.results]
    assert scores == sorted(scores, reverse=True)
    for result in answer.results:
        assert all(margin.margin >= -1e-9 for margin in result.margins.values())
        assert 24 <= result.figures["top_speed_kmh"] <= 32
        added = result.build["vehicle"]["mass_kg"] - brief.vehicle.mass_kg
        assert added == pytest.approx(result.figures["added_mass_kg"])


def test_no_front_point_is_beaten_by_any_feasible_candidate():
    brief, shelf = brief_of("trike")
    search = Search(brief, shelf, best=10_000).run()
    options = search.options
    every = [
        (float(one.seen.price), float(one.seen.added_kg), -float(one.worth.margin))
        for key in search.best.keys
        for one in (judge(brief, options, tuple(int(place) for place in key)),)
    ]
    for point in search.front.points:
        for other in every:
            better = all(o <= p + 1e-6 for o, p in zip(other, point, strict=True))
            much = any(o < p - 1e-6 for o, p in zip(other, point, strict=True))
            assert not (better and much)
    cheapest = min(every)[0]
    assert min(search.front.points[:, 0]) == pytest.approx(cheapest)


def test_when_nothing_does_single_wishes_are_named_that_would_let_something_through():
    brief, shelf = brief_of("trike")
    tight = brief.model_copy(update={"wishes": brief.wishes.model_copy(update={"budget": 100.0})})
    answer = matched(tight, shelf)
    assert answer.feasible == 0
    assert not answer.results
    budget = next(one for one in answer.relaxed if one.wish == "budget")
    dearer = brief.model_copy(
        update={"wishes": brief.wishes.model_copy(update={"budget": budget.to + 1e-6})}
    )
    assert Search(dearer, shelf).run().tally.feasible >= 1
    too_little = brief.model_copy(
        update={"wishes": brief.wishes.model_copy(update={"budget": budget.to - 0.01})}
    )
    assert Search(too_little, shelf).run().tally.feasible == 0


def test_a_search_can_be_left_and_tells_what_it_has():
    brief, shelf = brief_of("trike")
    search = Search(brief, shelf)
    steps = search.steps()
    next(steps)
    tally = next(steps)
    steps.close()
    assert 0 < tally.solved <= tally.to_solve
    assert answer_of(search, 3).feasible == tally.feasible


def test_weights_change_the_order_and_nothing_else():
    brief, shelf = brief_of("trike")
    only_cost = {"margin": 0.0, "cost": 1.0, "mass": 0.0, "range": 0.0, "simplicity": 0.0}
    cheap = brief.model_copy(update={"weights": brief.weights.model_copy(update=only_cost)})
    plain, by_cost = matched(brief, shelf, 50), matched(cheap, shelf, 50)
    assert plain.feasible == by_cost.feasible
    assert plain.rejected == by_cost.rejected
    prices = [result.figures["price"] for result in by_cost.results]
    assert prices == sorted(prices)
    assert prices != [result.figures["price"] for result in plain.results]


def test_an_owned_part_that_the_shelf_does_not_have_is_named():
    brief, shelf = brief_of("trike")
    wrong = brief.model_copy(update={"owned": brief.owned.model_copy(update={"motor": "no-such"})})
    with pytest.raises(Refusal, match="no-such") as refused:
        Search(wrong, shelf)
    assert refused.value.where == "owned.motor"


def test_two_motors_take_a_controller_of_two_outputs_or_two_of_one():
    brief, shelf = brief_of("two motors")
    answer = matched(brief, shelf, limit=400)
    taken = {(one.parts.controller, one.parts.controllers) for one in answer.results}
    assert ("withyvane-t2x60-60", 1) in taken
    assert ("withyvane-t60-60", 2) in taken
    for one in answer.results:
        controller = one.build["controller"]
        assert controller.get("count", 1) * controller["outputs"] >= 2
        prices = {part.id: part.controller.price for part in shelf.controllers}
        assert one.figures["price"] > one.parts.controllers * prices[one.parts.controller]


def test_what_is_set_on_a_controller_rated_for_one_path_lets_both_paths_have_it():
    # Rated 40 A on the pack's side for one path; two motors may take 80 A together.
    brief, shelf = brief_of("two motors")
    own = {
        "continuous_current_a": 40.0,
        "rating_side": "battery",
        "outputs": 2,
        "max_voltage_v": 60.0,
        "resistance_ohm": 0.002,
    }
    part = next(one for one in shelf.controllers if one.id == "withyvane-t2x60-60")
    rated = part.model_copy(update={"controller": Controller.model_validate(own)})
    shelf = shelf.model_copy(update={"controllers": [rated]})
    build = judge(brief, Options.of(brief, shelf), (0, 0, 1, 0)).build
    packs = Options.of(brief, shelf).packs[1].battery.continuous_current_a
    assert build.controller.battery_current_limit_a == min(80.0, packs)


def test_no_wheel_on_the_axle_strikes_the_ground():
    brief, shelf = brief_of("small wheels")
    answer = matched(brief, shelf, limit=2000)
    assert answer.rejected["ground_clearance"] > 0
    for one in answer.results:
        if not one.build["gearing"]:
            continue
        stage = one.build["gearing"][-1]
        # A chain wheel of z teeth and pitch p is p (0.6 + cot(180/z)) across.
        across = stage["pitch_mm"] * (0.6 + 1 / np.tan(np.pi / stage["driven_teeth"]))
        assert across <= 0.94 * 420 / np.pi


def test_a_gearbox_reaches_what_its_tallest_gear_reaches():
    brief, shelf = brief_of("trike with a gearbox")
    # The tallest gear by itself, of what climbs in a lower one.
    owned = brief.owned.model_copy(
        update={"gearing": [FixedStage(kind="fixed", ratio=4.0, efficiency=0.96)]}
    )
    level = Wishes.model_validate({"top_speed_kmh": {"min": 18, "max": 44}})
    alone = matched(brief.model_copy(update={"owned": owned, "wishes": level}), shelf, 100)
    tall = {
        one.parts.motor + one.parts.controller + one.parts.battery: one for one in alone.results
    }
    shared = 0
    for one in matched(brief, shelf, 100).results:
        assert 18 <= one.figures["top_speed_kmh"] <= 44
        same = tall.get(one.parts.motor + one.parts.controller + one.parts.battery)
        if same is not None:
            shared += 1
            assert one.figures["top_speed_kmh"] >= same.figures["top_speed_kmh"] - 1e-3
    assert shared


def test_a_drive_far_heavier_than_the_vehicle_is_none_unless_asked_for():
    brief, shelf = brief_of("trolley")
    light = brief.model_copy(update={"vehicle": brief.vehicle.model_copy(update={"mass_kg": 30})})
    answer = matched(light, shelf)
    assert answer.rejected["added_mass"] > 0
    for one in answer.results:
        assert one.figures["added_mass_kg"] <= 0.6 * 30
    asked = {"wishes": light.wishes.model_copy(update={"max_added_mass_kg": 400.0})}
    assert "added_mass" not in matched(light.model_copy(update=asked), shelf).rejected


def test_where_only_fixed_rules_stand_in_the_way_they_are_named():
    # No wheel of so few millimetres clears any sprocket.
    brief, shelf = brief_of("trike")
    low = brief.model_copy(
        update={
            "wheel": brief.wheel.model_copy(update={"rolling_circumference_mm": 420.0}),
            "wishes": Wishes(),
        }
    )
    hot = [
        part.model_copy(update={"motor": part.motor.model_copy(update={"max_rpm": 300.0})})
        for part in shelf.motors
    ]
    answer = matched(low, shelf.model_copy(update={"motors": hot}))
    assert (answer.feasible, answer.relaxed) == (0, [])
    named = {one.rule: one for one in answer.blocked}
    assert named["free_rpm"].count == answer.rejected["free_rpm"]
    assert named["free_rpm"].nearest is not None or named["free_rpm"].why == ""


def test_what_would_do_is_said_the_way_round_it_is_meant():
    brief, shelf = brief_of("trike")
    for wishes, words in (
        ({"budget": 20.0}, "more than the 20 allowed"),
        ({"top_speed_kmh": {"min": 130.0}}, "less than the 130 asked for"),
    ):
        asked = brief.model_copy(update={"wishes": Wishes.model_validate(wishes)})
        answer = matched(asked, shelf)
        assert answer.feasible == 0
        assert any(words in one.say for one in answer.relaxed), answer.relaxed


def test_a_search_that_is_bounded_says_so_and_shows_what_it_has(monkeypatch):
    brief, shelf = brief_of("trike")
    monkeypatch.setattr("powertrain.match.search.MOST_SOLVED", 1)
    monkeypatch.setattr("powertrain.match.search.FIRST_BLOCK", 40)
    answer = matched(brief, shelf)
    assert not answer.whole
    assert answer.considered == answer.feasible + sum(answer.rejected.values())
    assert matched(brief, shelf).considered == answer.considered


def test_different_motors_come_first():
    brief, shelf = brief_of("trike")
    answer = answer_of(Search(brief, shelf, best=50).run(), 50, by_trio=True)
    motors = [one.parts.motor for one in answer.results]
    assert len(set(motors[:2])) == 2
    best = max(one.score for one in answer.results)
    assert answer.results[0].score == best
    # What is about as good stands before what is not, each motor of it before its near-twins.
    near = [one.parts.motor for one in answer.results if one.score >= 0.9 * best]
    assert len(set(near[: len(set(near))])) == len(set(near))


def test_another_can_comes_before_another_winding_of_the_same():
    windings = ("sedgeholt-o80-75", "sedgeholt-o80-100", "otterlode-m90-80", "otterlode-m90-60")
    brief, _ = brief_of("trike")
    search = Search(brief, small_shelf({**CARTS, "motors": windings}), best=50).run()
    results = answer_of(search, 50, by_trio=True).results
    best = results[0].score
    near = [one.parts.motor.rsplit("-", 1)[0] for one in results if one.score >= 0.9 * best]
    assert set(near) == {"sedgeholt-o80", "otterlode-m90"}
    assert near[0] != near[1]
