"""What to look at before a test day, by what the machine has."""

import json
from pathlib import Path

import pytest

from powertrain.documents.reading import check_build
from powertrain.set_up.day_list import day_list
from powertrain.verdicts.context import RuleContext

DEMO = Path(__file__).parents[3] / "server/builds/demo"


def checks_of(build):
    return {check.id: check for check in day_list(build, RuleContext.of(build, cures=False))}


def demo(name):
    return check_build(json.loads((DEMO / f"{name}.json").read_text()))


def test_a_chained_trike_asks_for_its_chain_brakes_and_helmet():
    checks = checks_of(demo("causeway-trike"))
    assert {"lifted", "chain", "bolts", "brakes", "pack", "logger", "helmet", "bystanders"} <= set(
        checks
    )
    assert "belt" not in checks
    assert "axle" not in checks
    assert next(iter(checks)) == "lifted"
    assert list(checks)[-1] == "place"


def test_a_small_model_is_asked_for_no_helmet_and_its_signal_is_taken_away(make):
    checks = checks_of(make())
    assert "helmet" not in checks
    assert "brakes" not in checks
    assert "Signal taken away" in checks["fail_safe"].say
    # Three cells at 3.9 V, as its document says.
    assert checks["pack"].expect == pytest.approx(11.7)


def test_a_series_motor_has_no_free_turns_to_expect():
    assert checks_of(demo("peat-trolley"))["lifted"].expect is None


def test_high_volts_and_a_full_pack_that_brakes_are_spoken_of(make):
    assert "touch" not in checks_of(make())
    checks = checks_of(
        make(
            battery={"series": 16, "cell_voltage_v": 4.18},
            controller={"regen_current_limit_a": 10.0},
        )
    )
    assert checks["touch"].say.startswith("Above 60 V")
    assert "regeneration" in checks
