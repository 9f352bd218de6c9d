"""Timing that is stated acts, and a lever moves nothing but the timing."""

import pytest

from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.gearing.roads import roads
from powertrain.levers.board import levers_board
from powertrain.levers.operations import Press, carry_out
from powertrain.operating.top_speed import top_speed
from powertrain.shelf.shipped import shipped_shelf
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all


def pressed(document, step, times):
    for _ in range(times):
        operation = Press(do="press", lever="motor.timing_deg", step=step)
        document = carry_out(document, operation)
    return document


def judged(changes):
    build = check_build(document_with(changes))
    return {one.id: one for one in judge_all(RuleContext.of(build))[0]}


@pytest.mark.parametrize(
    "stated",
    [{}, {"motor.timing_deg": 20.5}, {"motor.timing_deg": 30, "motor.constants_at_timing_deg": 30}],
)
def test_as_many_presses_down_as_up_leave_the_very_document(stated):
    document = document_with(stated)
    times = 12 if not stated else 5
    there = pressed(document, 1, times)
    assert there["motor"]["kv_rpm_per_v"] == document["motor"]["kv_rpm_per_v"]
    assert there["motor"]["timing_deg"] == stated.get("motor.timing_deg", 0) + 5 * times
    assert pressed(there, -1, times) == document


def top_kmh(document):
    drive = compile_drive(check_build(document))
    return float(kmh_from_mps(top_speed(drive, scalar(0.0)).speed_mps))


def test_a_press_and_a_statement_are_the_same():
    document = document_with({})
    board = levers_board(check_build(document))
    row = next(one for one in board.rows if (one.lever, one.step) == ("motor.timing_deg", 1))
    stated = document_with({"motor.timing_deg": 5})
    assert pressed(document, 1, 1) == stated
    gain = row.effects["top_speed_kmh"][0]
    assert gain == pytest.approx(top_kmh(stated) - top_kmh(document), rel=1e-4)
    back = levers_board(check_build(stated))
    down = next(one for one in back.rows if (one.lever, one.step) == ("motor.timing_deg", -1))
    assert down.effects["top_speed_kmh"][0] == pytest.approx(-gain, rel=1e-4)


def test_less_than_the_constants_were_taken_at_is_less_kv():
    there = {"motor.timing_deg": 30, "motor.constants_at_timing_deg": 30}
    assert top_kmh(document_with(there)) == pytest.approx(top_kmh(document_with({})))
    less = document_with({**there, "motor.timing_deg": 10})
    assert top_kmh(less) < top_kmh(document_with({}))


@pytest.mark.parametrize(
    ("changes", "severity", "limit"),
    [
        ({"motor.timing_deg": 30, "controller.timing_deg": 30}, "stop", 60),
        ({"motor.timing_deg": 30, "controller.timing_deg": 29.5}, "watch", 60),
        ({"motor.timing_deg": 30, "controller.timing_deg": 30, "motor.poles": 14}, "stop", 60),
        ({"motor.timing_deg": 30, "controller.timing_deg": 30, "motor.poles": 2}, "ok", 80),
    ],
)
def test_the_sum_is_judged_by_the_poles(changes, severity, limit):
    seen = judged(changes)["timing_sum"]
    assert (seen.severity, seen.limit) == (severity, limit)


def test_the_tooth_that_takes_back_what_timing_costs_is_named():
    document = {"motor.timing_deg": 20}
    fix = judged(document)["timing_sum"].fix
    (path,) = fix.change
    (teeth,) = fix.change.values()
    ratio = 60 / 16
    then = 60 / teeth if path.endswith("driver_teeth") else teeth / 16
    # KV times 1.1 asks for a tenth more reduction.
    assert then / ratio == pytest.approx(1.1, rel=0.02)
    # The free wheel turns again as it did.
    assert top_kmh(document_with({**document, **fix.change})) < top_kmh(document_with(document))


def test_timing_turned_at_a_motor_without_sensors_is_told():
    told = judged({"motor.timing_deg": 20, "motor.sensor": "none"})
    assert told["timing_sensor"].severity == "watch"
    assert "timing_sensor" not in judged({"motor.timing_deg": 20, "motor.sensor": "hall"})


def test_a_road_that_needs_too_much_timing_is_none():
    build = check_build(document_with({}))
    near = next(one for one in roads(build, 38.0, shipped_shelf()).roads if one.id == "timing")
    assert near.reached
    assert near.change["motor.timing_deg"] <= 45
    far = next(one for one in roads(build, 46.0, shipped_shelf()).roads if one.id == "timing")
    assert not far.reached
    assert "at the most" in far.why
