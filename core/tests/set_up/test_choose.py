"""Controllers held against builds: hard gates by hand arithmetic, then taste by the weights."""

import pytest

from powertrain.archetypes import all_archetypes
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.shelf import ControllerPart
from powertrain.set_up.choose import choose_controller
from powertrain.set_up.gates import Wanted
from powertrain.set_up.tastes import TasteWeights
from powertrain.shelf.shipped import shipped_shelf
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all


def part(name="one", drives="brushed", settable=False, **said):
    controller = {
        "continuous_current_a": 40.0,
        "peak_current_a": 90.0,
        "rating_side": "motor",
        "max_voltage_v": 17.0,
        "min_voltage_v": 6.0,
        "outputs": 1,
        **said,
    }
    return ControllerPart.model_validate(
        {
            "id": name,
            "name": name,
            "drives": drives,
            "settable": settable,
            "controller": {k: v for k, v in controller.items() if v is not None},
        }
    )


def gate(answer, key):
    one = (answer.passed + answer.failed)[0]
    return next(gate for gate in one.gates if gate.id == key)


@pytest.mark.parametrize(
    ("said", "key"),
    [
        # Three cells off the charger are 12.6 V; they rest at 3 x 3.9 V.
        ({"max_voltage_v": 12.5}, "full_volts"),
        ({"capacitor_voltage_v": 12.5}, "capacitors"),
        ({"min_voltage_v": 12.0}, "least_volts"),
        ({"continuous_current_a": 2.0}, "amps_long"),
        ({"peak_current_a": 1.0}, "amps_peak"),
        ({"drives": "brushless"}, "drives"),
    ],
)
def test_each_gate_shuts_by_itself(make, said, key):
    assert [one.id for one in choose_controller(make(), [part()]).passed] == ["one"]
    answer = choose_controller(make(), [part(**said)])
    assert answer.passed == []
    assert [one.id for one in answer.failed[0].gates if one.passed is False] == [key]


def test_one_that_gives_up_before_the_pack_is_empty_passes_and_says_so(make):
    answer = choose_controller(make(), [part(min_voltage_v=10.0)])
    assert [one.id for one in answer.passed] == ["one"]
    assert "before the pack is empty" in gate(answer, "least_volts").say


def test_amps_for_long_are_those_of_the_hill(make):
    # 2.4 kg on 30 %: F = m g (sin a + 0.03 cos a), through 48:1 at 80 % on a wheel of 370 mm.
    answer = choose_controller(make(), [part()])
    force = 2.4 * 9.80665 * (0.30 + 0.03) / 1.09**0.5
    torque = force * 0.370 / 6.2831853 / 48 / 0.8
    k = 60 / (6.2831853 * 1300)
    held_a = torque / k + 0.8
    assert answer.needs.held_on == "on its hill"
    # The little that the air takes comes on top.
    assert answer.needs.long_motor_a == pytest.approx(held_a, rel=0.02)
    started = (1.25 * torque) / k + 0.8
    assert answer.needs.start_motor_a == pytest.approx(started, rel=0.02)


def test_what_is_not_stated_is_a_question_and_no_refusal(make):
    silent = part(continuous_current_a=None, peak_current_a=None, min_voltage_v=None, outputs=None)
    answer = choose_controller(make(), [silent])
    open_gates = {one.id for one in answer.passed[0].gates if one.passed is None}
    assert open_gates == {"outputs", "least_volts", "amps_long", "amps_peak"}


def test_a_rating_at_the_pack_is_held_against_the_pack(make):
    answer = choose_controller(make(), [part(rating_side="battery")])
    pack_a = answer.needs.long_pack_a
    assert f"{pack_a:.3g} A of the pack" in gate(answer, "amps_long").say


def test_a_crawler_with_hall_sensors_wants_a_controller_that_reads_them(make):
    build = make(motor={"commutation": "brushless", "sensor": "hall", "poles": 4})
    blind = part(drives="brushless", sensor=["none"], max_erpm=1e6)
    reads = part("reads", drives="brushless", sensor=["none", "hall"], max_erpm=1e6)
    answer = choose_controller(build, [blind, reads])
    assert [one.id for one in answer.passed] == ["reads"]
    # 12.6 V x 1,300 rpm/V x 2 pairs, less what no-load amps take.
    slow = part(drives="brushless", sensor=["hall"], max_erpm=30_000)
    shut = choose_controller(build, [slow]).failed[0].gates
    assert [one.id for one in shut if one.passed is False] == ["erpm"]


def test_two_motors_take_two_single_ones_linked_or_a_double_one(make):
    build = make(motor={"count": 2})
    single, double = part("single", price=20.0), part("double", outputs=2, price=50.0)
    found = {one.id: one for one in choose_controller(build, [single, double]).passed}
    assert (found["single"].count, found["single"].price) == (2, 40.0)
    assert (found["double"].count, found["double"].price) == (1, 50.0)
    document = build.model_dump(mode="json", exclude_unset=True)
    placed = check_build(changed(document, found["single"].change))
    assert placed.controller.count == 2


def test_what_is_wanted_beside_shuts_too(make):
    wanted = Wanted(reverse=True, regeneration=True)
    parts = [
        part("no", reverse="none", regen_current_limit_a=0.0),
        part("yes", reverse="delayed", regen_current_limit_a=5.0),
        part("silent"),
    ]
    answer = choose_controller(make(), parts, wanted=wanted)
    assert {one.id for one in answer.passed} == {"yes", "silent"}


def test_weights_rank_and_what_each_adds_sums_to_the_rank(make):
    cheap = part("cheap", price=10.0, continuous_current_a=8.0, max_voltage_v=13.0)
    strong = part("strong", price=80.0, continuous_current_a=200.0, max_voltage_v=30.0)
    for weights, first in (
        (TasteWeights(price=10, dependability=0, cells=0), "cheap"),
        (TasteWeights(price=0, dependability=10), "strong"),
    ):
        answer = choose_controller(make(), [cheap, strong], weights)
        assert answer.passed[0].id == first
        for one in answer.passed:
            assert one.rank == pytest.approx(sum(taste.adds for taste in one.tastes))
            assert 0 <= one.rank <= 100


OF_A_CONTROLLER = {
    "controller_volts",
    "capacitor_volts",
    "controller_min_volts",
    "outputs",
    "sensor_match",
    "electrical_rpm",
}
"""Verdicts that the gates stand for, before a controller is bought."""


def test_every_archetype_finds_a_controller_that_its_own_verdicts_do_not_stop():
    parts = shipped_shelf().controllers
    for archetype in all_archetypes():
        build = archetype.document
        answer = choose_controller(build, parts)
        assert answer.passed, archetype.id
        document = build.model_dump(mode="json", exclude_unset=True)
        document.pop("provenance", None)
        for one in answer.passed:
            placed = check_build(changed(document, one.change))
            verdicts, _ = judge_all(RuleContext.of(placed))
            stops = {verdict.id for verdict in verdicts if verdict.severity == "stop"}
            assert not stops & OF_A_CONTROLLER, (archetype.id, one.name, stops)


def test_what_a_gate_shuts_out_for_its_volts_a_verdict_stops_too():
    parts = shipped_shelf().controllers
    build = next(one.document for one in all_archetypes() if one.id == "cargo-trike")
    document = build.model_dump(mode="json", exclude_unset=True)
    document.pop("provenance", None)
    seen = 0
    for one in choose_controller(build, parts).failed:
        shut = {gate.id for gate in one.gates if gate.passed is False}
        if "drives" in shut or not shut & {"full_volts", "capacitors", "least_volts"}:
            continue
        seen += 1
        verdicts, _ = judge_all(RuleContext.of(check_build(changed(document, one.change))))
        stops = {verdict.id for verdict in verdicts if verdict.severity == "stop"}
        assert stops & {"controller_volts", "capacitor_volts", "controller_min_volts"}, one.name
    assert seen > 3


def test_weights_that_nobody_moved_are_told_with_their_names(make):
    told = choose_controller(make(), [part()], TasteWeights(price=4)).weights
    assert {one.id: one.weight for one in told}["price"] == 4
    assert {one.id for one in told} == set(TasteWeights.model_fields)
    assert all(one.label for one in told)
