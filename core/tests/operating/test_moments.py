"""The five moments, and what they say when the drive can't do what is asked."""

import pytest

from core.tests.conftest import document_with
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_build
from powertrain.documents.reading import check_build
from powertrain.operating.limits import Limit
from powertrain.operating.moments import moments_of


def moments(changes):
    build = check_build(document_with(changes))
    compiled = compile_build(build)
    return moments_of(compiled.settings, compiled.drive)


def test_asked_moments_are_those_of_the_document():
    asked = moments(
        {
            "moments.launch_to_kmh": 20,
            "moments.climb_grade_pct": 6,
            "moments.climb_speed_kmh": 20,
            "moments.cruise_kmh": 18,
        }
    )
    assert asked.climb.state.speed_mps == pytest.approx(20 / 3.6)
    assert asked.climb.state.situation == 6
    assert asked.cruise.state.speed_mps == pytest.approx(5)
    assert all(moment.met for moment in asked.all())
    assert asked.launch.state.speed_mps == pytest.approx(10 / 3.6)


def test_what_it_cannot_hold_is_said_with_what_it_can():
    asked = moments({"moments.cruise_kmh": 60, "moments.climb_speed_kmh": 50})
    assert not asked.cruise.met
    assert asked.cruise.state.speed_mps * 3.6 == pytest.approx(36.8, abs=0.05)
    assert not asked.climb.met
    assert asked.climb.state.speed_mps * 3.6 == pytest.approx(32.7, abs=0.05)
    assert not moments({"moments.launch_to_kmh": 60}).launch.met


def test_a_drive_that_cannot_start_says_so_in_every_moment():
    stuck = moments({"vehicle.rolling_resistance": 9.0})
    assert [moment.met for moment in stuck.all()] == [False, False, False, False, True]
    assert stuck.top_speed.state.limited_by == Limit.CANNOT_MOVE
    assert stuck.wheels_up.state.motor_rpm > 3000


@pytest.mark.parametrize(
    "changes",
    [
        {"vehicle.rolling_resistance": 9.0},
        {"vehicle.drag_area_m2": 0, "moments.climb_grade_pct": -9},
        {"moments.climb_grade_pct": -9},
        {"motor.no_load_current_a": 0, "vehicle.rolling_resistance": 0, "vehicle.drag_area_m2": 0},
        {"gearing": [], "motor.kv_rpm_per_v": 8},
        {"battery.cell_resistance_mohm": 0, "battery.wiring_resistance_mohm": 0},
        {"battery.cell_resistance_mohm": 4000},
        {"controller.standby_current_a": 2, "controller.battery_current_limit_a": 1},
        {"motor.brush_drop_v": 30000},
        {"conditions.headwind_mps": -40},
    ],
)
def test_odd_builds_are_answered_without_a_number_from_nonsense(changes):
    answer = solve(check_build(document_with(changes)))
    text = answer.model_dump_json()
    assert "NaN" not in text
    assert "Infinity" not in text
    assert len(answer.moments) == 5


def test_the_map_crosses_the_road_at_the_top_speeds():
    answer = solve(check_build(document_with({"moments.climb_grade_pct": 7})))
    own = [crossing for crossing in answer.map.crossings if crossing.own]
    assert [crossing.grade_pct for crossing in own] == [7]
    flat = answer.map.crossings[0]
    top = next(moment for moment in answer.moments if moment.id == "top_speed")
    assert flat.speed_mps == pytest.approx(top.state.speed_mps, rel=1e-12)
    assert {"motor_current", "battery_current", "voltage"} == set(answer.map.limited_by)
