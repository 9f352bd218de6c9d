"""The bench in one gear: that gear's push and rpm, and no other."""

import pytest

from core.tests.conversion.conftest import tractor_with
from powertrain.bench.engaged import engaged, solve_in_gear
from powertrain.bench.solve import solve

ASKED = {"moments": {"climb_grade_pct": 10, "climb_speed_kmh": 5, "cruise_kmh": 10}}


@pytest.mark.parametrize(("gear", "ratio"), [(1, 28), (2, 16), (3, 9)])
def test_the_motor_turns_by_that_gears_ratio(gear, ratio):
    answer = solve_in_gear(tractor_with(ASKED), "now", gear)
    cruise = next(moment for moment in answer.moments if moment.id == "cruise")
    # 10 km/h on 2.1 m of wheel: 79.4 turns a minute.
    assert cruise.state.motor_rpm == pytest.approx(10 / 3.6 / 2.1 * 60 * ratio)
    assert {moment.gear for moment in answer.moments} == {gear}
    assert answer.map.gears_force_n == []


def test_none_and_no_gearbox_are_as_ever(build_with):
    build = tractor_with(ASKED)
    assert solve_in_gear(build, "now", None).model_dump() == solve(build).model_dump()
    assert engaged(build_with({}), 2) == (build_with({}), None)


def test_beyond_the_tallest_there_is_only_the_tallest():
    _, number = engaged(tractor_with({}), 9)
    assert number == 3


def test_of_ratios_in_any_order_the_first_gear_is_the_shortest():
    mixed = tractor_with({"gearing.0.ratios": [9, 28, 16]})
    assert engaged(mixed, 1)[0].gearing[0].ratios == [28]
