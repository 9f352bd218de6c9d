"""Changing and comparing documents by path."""

import pytest

from core.tests.conftest import TRIKE
from powertrain.documents.describe import changes_between
from powertrain.documents.paths import changed, differences
from powertrain.errors import Refusal
from powertrain.levers.operations import Describe, Press, SetValues, carry_out


def test_a_change_leaves_the_original_alone(trike):
    after = changed(trike, {"gearing.1.driver_teeth": 19, "motor.max_rpm": 4000})
    assert (after["gearing"][1]["driver_teeth"], after["motor"]["max_rpm"]) == (19, 4000)
    assert trike == TRIKE


def test_taking_out_a_value_takes_its_origin_with_it(trike):
    known = {"motor.max_rpm": {"origin": "measured"}, "motor.kv_rpm_per_v": {"origin": "default"}}
    before = changed(trike, {"motor.max_rpm": 4000, "provenance": known})
    after = changed(before, {"motor.max_rpm": None})
    assert "max_rpm" not in after["motor"]
    assert list(after["provenance"]) == ["motor.kv_rpm_per_v"]


@pytest.mark.parametrize("path", ["gearing.7.driver_teeth", "gearing.x", "name.first"])
def test_a_path_to_nowhere_is_refused(trike, path):
    with pytest.raises(Refusal) as caught:
        carry_out(trike, SetValues(do="set", values={path: 3}))
    assert caught.value.where == path


def test_differences_name_each_value(trike):
    after = changed(trike, {"battery.series": 14, "motor.max_rpm": 4000})
    assert list(differences(trike, after)) == [
        ("motor.max_rpm", None, 4000),
        ("battery.series", 13, 14),
    ]
    assert list(differences(trike, trike)) == []


def test_differences_are_said_in_words(trike):
    after = changed(trike, {"gearing.0.driver_teeth": 17})
    (change,) = changes_between(trike, after)
    assert (change["label"], change["before"], change["after"]) == ("Stage 1 driver", 16, 17)


def test_a_typed_value_is_a_guess_no_longer(trike):
    before = changed(trike, {"provenance": {"vehicle.mass_kg": {"origin": "default"}}})
    after = carry_out(before, SetValues(do="set", values={"vehicle.mass_kg": 180}))
    assert after["provenance"]["vehicle.mass_kg"]["origin"] == "estimated"


def test_saying_how_a_value_is_known(trike):
    known = {"origin": "measured", "tolerance_pct": 2.0}
    say = Describe.model_validate({"do": "describe", "path": "vehicle.mass_kg", "known": known})
    assert carry_out(trike, say)["provenance"] == {"vehicle.mass_kg": known}


def test_an_outcome_that_is_no_build_is_refused_whole(trike):
    with pytest.raises(Refusal) as caught:
        carry_out(
            trike, SetValues(do="set", values={"battery.series": 14, "motor.kv_rpm_per_v": -1})
        )
    assert caught.value.where == "motor.kv_rpm_per_v"
    with pytest.raises(Refusal):
        carry_out(trike, Press(do="press", lever="no such lever", step=1))
