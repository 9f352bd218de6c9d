"""The first time under power, by what is built."""

import json
from pathlib import Path

import pytest

from powertrain.documents.reading import check_build
from powertrain.set_up.sheet import sheet_of

DEMO = Path(__file__).parents[3] / "server/builds/demo"


def steps_of(build):
    return {step.id: step for step in sheet_of(build).first_power}


def test_what_can_stop_it_is_tried_before_full_trigger_and_limits_stand_then(make):
    order = list(steps_of(make()))
    assert order[0] == "lifted"
    assert order.index("fail_safe") < order.index("limits") < order.index("full")
    assert order[-1] == "ride"


def test_figures_to_expect_are_those_of_the_build(make):
    steps = steps_of(make(motor={"peak_current_a": 30.0}))
    assert steps["pack"].expect == pytest.approx(3 * 3.9)
    assert steps["limits"].expect == 30
    # KV times the volts that friction leaves: less than 1,300 x 11.7, and not by much.
    assert 0.95 * 1300 * 3 * 4.2 < steps["full"].expect < 1300 * 3 * 4.2


@pytest.mark.parametrize(
    ("motor", "words"),
    [
        ({}, "Swap its two wires"),
        ({"commutation": "brushless"}, "any two of its three wires"),
        ({"commutation": "brushless", "sensor": "hall"}, "Let the controller turn it round"),
    ],
)
def test_the_other_way_round_by_what_the_motor_has(make, motor, words):
    assert words in steps_of(make(motor=motor))["direction"].say


def test_a_series_motor_is_never_pulled_whole_without_its_load():
    trolley = check_build(json.loads((DEMO / "peat-trolley.json").read_text()))
    steps = steps_of(trolley)
    assert "races" in steps["full"].say
    assert steps["full"].expect is None
    assert "not both" in steps["direction"].say


def test_above_sixty_volts_a_touch_is_spoken_of_and_twins_are_felt(make):
    assert "touch" not in steps_of(make())
    steps = steps_of(make(battery={"series": 16, "cell_voltage_v": 4.0}, motor={"count": 2}))
    assert steps["touch"].expect == pytest.approx(64)
    assert "twins" in steps
