"""Each wish by itself: it keeps those candidates, and no others, whose figure is on its side.

The figure is asked of each candidate's build alone, or added up from the parts by hand.
"""

from collections.abc import Callable
from itertools import permutations, product
from typing import Any

import numpy as np
import pytest

from core.tests.match.small import brief_of
from powertrain.arrays import scalar
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_build, compile_drive, compile_limits
from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Shelf
from powertrain.drive import Drive
from powertrain.heat.stall import stall_of
from powertrain.match.answer import parts_of
from powertrain.match.judged import judge
from powertrain.match.search import Search
from powertrain.operating.launch import launch
from powertrain.operating.top_speed import top_speed

MODEST: dict[str, Any] = {
    "cruise_kmh": 12.0,
    "climb": {"grade_pct": 2.0, "speed_kmh": 6.0},
    "launch": {"to_kmh": 10.0, "within_s": 500.0},
}
"""Wishes that nearly everything meets, and that fix at which moments all are looked at."""


class Candidate:
    """A feasible candidate: its build, and what the shelf says of its parts."""

    def __init__(self, brief: Brief, shelf: Shelf, search: Search, key: tuple[int, ...]) -> None:
        self.key = key
        self.build = judge(brief, search.options, key).build
        parts = parts_of(search.options, key)
        self.motor = next(part for part in shelf.motors if part.id == parts.motor)
        self.controller = next(part for part in shelf.controllers if part.id == parts.controller)
        self.pack = next(part for part in shelf.packs if part.id == parts.battery)
        self.teeth = [
            size
            for stage in parts.gearing
            for ref, count in (
                (stage.driver, stage.driver_teeth),
                (stage.driven, stage.driven_teeth),
            )
            for item in shelf.teeth
            if item.id == ref
            for size in item.sizes
            if size.teeth == count
        ]

    @property
    def drive(self) -> Drive:
        return compile_drive(self.build)


def brief_with(wishes: dict[str, Any], name: str = "trike") -> tuple[Brief, Shelf]:
    brief, shelf = brief_of(name)
    document = brief.model_dump(mode="json", exclude_unset=True)
    return Brief.model_validate({**document, "wishes": wishes}), shelf


def feasible(wishes: dict[str, Any], name: str = "trike") -> list[Candidate]:
    brief, shelf = brief_with(wishes, name)
    search = Search(brief, shelf, best=100_000).run()
    assert len(search.best.keys) == search.tally.feasible
    return [
        Candidate(brief, shelf, search, tuple(int(place) for place in key))
        for key in search.best.keys
    ]


@pytest.fixture(scope="module")
def modest() -> list[Candidate]:
    found = feasible(MODEST)
    assert len(found) > 40
    return found


def price(one: Candidate) -> float:
    parts = sum(
        part.price for part in (one.motor.motor, one.controller.controller, one.pack.battery)
    )
    return float(parts + sum(size.price or 0.0 for size in one.teeth))


def added_kg(one: Candidate) -> float:
    parts = (one.motor.motor.mass_kg, one.controller.controller.mass_kg, one.pack.battery.mass_kg)
    return float(sum(parts) + sum(size.mass_kg or 0.0 for size in one.teeth))


def top_kmh(one: Candidate) -> float:
    return float(top_speed(one.drive, scalar(0.0)).speed_mps) * 3.6


def goes_km(one: Candidate) -> float:
    return float(solve(one.build).doubt.figures["range_km"].value)


def start_s(one: Candidate) -> float:
    return float(launch(one.drive, scalar(10 / 3.6)).time_s)


def stall_s(one: Candidate) -> float:
    drive = one.drive
    thermal, limits = compile_build(one.build).thermal, compile_limits(one.build)
    return float(stall_of(drive, thermal, limits).seconds)


CASES: dict[str, tuple[Callable[[Candidate], float], Callable[[float], dict[str, Any]], int]] = {
    "budget": (price, lambda limit: {"budget": limit}, -1),
    "mass": (added_kg, lambda limit: {"max_added_mass_kg": limit}, -1),
    "at least as fast": (top_kmh, lambda limit: {"top_speed_kmh": {"min": limit}}, 1),
    "at most as fast": (top_kmh, lambda limit: {"top_speed_kmh": {"max": limit}}, -1),
    "range": (goes_km, lambda limit: {"range_km": limit}, 1),
    "start": (start_s, lambda limit: {"launch": {"to_kmh": 10.0, "within_s": limit}}, -1),
    "stall": (stall_s, lambda limit: {"hold_stall_s": limit}, 1),
    # Lithium-ion cells end charging at 4.2 V each (data sheets).
    "volts": (
        lambda one: one.pack.battery.series * 4.2,
        lambda limit: {"max_full_charge_v": limit},
        -1,
    ),
    "motor's length": (
        lambda one: one.motor.motor.length_mm,
        lambda limit: {"motor_space": {"length_mm": limit}},
        -1,
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_a_wish_keeps_those_on_its_side_and_no_others(name, modest):
    value, wish, sign = CASES[name]
    values = {one.key: value(one) for one in modest}
    # Half way across the widest gap in the middle of all values, where no rounding matters.
    ends = np.unique(list(values.values()))
    ends = ends[np.isfinite(ends)]
    middle = ends[len(ends) // 4 : len(ends) - len(ends) // 4 + 1]
    middle = middle if len(middle) > 1 else ends
    gap = int(np.argmax(np.diff(middle)))
    limit = float(middle[gap] + middle[gap + 1]) / 2
    wanted = {key for key, one in values.items() if sign * one >= sign * limit}
    assert 0 < len(wanted) < len(values)
    assert {one.key for one in feasible({**MODEST, **wish(limit)})} == wanted


def test_a_box_is_filled_whichever_way_a_controller_is_turned(modest):
    def fits(one: Candidate, room: tuple[float, float, float]) -> bool:
        own = one.controller.controller
        sides = (own.length_mm, own.width_mm, own.height_mm)
        return any(
            all(side <= place for side, place in zip(turned, room, strict=True))
            for turned in permutations(sides)
        )

    smallest = min(
        (one.controller.controller for one in modest),
        key=lambda own: own.length_mm * own.width_mm * own.height_mm,
    )
    room = (smallest.height_mm + 0.5, smallest.length_mm + 0.5, smallest.width_mm + 0.5)
    wanted = {one.key for one in modest if fits(one, room)}
    assert 0 < len(wanted) < len(modest)
    box = dict(zip(("length_mm", "width_mm", "height_mm"), room, strict=True))
    found = feasible({**MODEST, "controller_space": box})
    assert {one.key for one in found} == wanted


def test_brushes_are_a_matter_of_the_motor_alone():
    mild = {"cruise_kmh": 4.0, "launch": {"to_kmh": 3.0, "within_s": 500.0}}
    every = feasible(mild, "trolley")
    kinds = {one.key: one.motor.motor.commutation for one in every}
    assert set(kinds.values()) == {"brushed", "brushless"}
    for kind in ("brushed", "brushless"):
        found = feasible({**mild, "commutation": kind}, "trolley")
        assert {one.key for one in found} == {key for key, of in kinds.items() if of == kind}


def test_an_event_that_admits_one_motor_leaves_that_motor_with_every_other_part(modest):
    motors = sorted({one.motor.id for one in modest})
    assert len(motors) > 1
    for motor in motors:
        found = feasible({**MODEST, "allowed_parts": [motor]})
        assert {one.key for one in found} == {one.key for one in modest if one.motor.id == motor}


def test_what_is_owned_costs_nothing_and_nothing_else_changes(modest):
    pack = modest[0].pack
    brief, shelf = brief_with(MODEST)
    document = brief.model_dump(mode="json", exclude_unset=True)
    owner = Brief.model_validate({**document, "owned": {"battery": pack.id}})
    search = Search(owner, shelf, best=100_000).run()
    theirs = [one for one in modest if one.pack.id == pack.id]
    assert search.tally.feasible == len(theirs)
    cheapest = min(price(one) for one in theirs) - pack.battery.price
    assert float(search.front.points[:, 0].min()) == pytest.approx(cheapest)


def test_no_wish_at_all_is_met_by_whatever_nothing_stops():
    brief, shelf = brief_with({})
    search = Search(brief, shelf, best=100_000).run()
    assert search.tally.feasible > 0
    # Only the usual limit of what is added is asked.
    assert [wish.id for wish in search.questions.wished] == ["added_mass"]
    every = product(
        *(
            range(len(part))
            for part in (
                search.options.motors,
                search.options.controllers,
                search.options.packs,
                search.options.gearings,
            )
        )
    )
    alone = [judge(brief, search.options, key) for key in every]
    wanted = {
        one.key
        for one in alone
        if one.mismatch is None
        and not one.stops
        and float(one.seen.added_kg) <= 0.6 * brief.vehicle.mass_kg
    }
    assert {tuple(int(place) for place in key) for key in search.best.keys} == wanted
    assert search.tally.considered == search.tally.feasible + sum(search.tally.rejected.values())
