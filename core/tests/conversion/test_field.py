"""Coils joined in another way: what ampere-turns and Ohm's law leave no choice of."""

import numpy as np
import pytest

from core.tests.conversion.conftest import TRACTOR, tractor_with
from powertrain.compile.build import compile_drive
from powertrain.conversion.field import field_of
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal

AMPS = np.array([5.0, 40.0, 90.0, 180.0, 350.0])


def joined(connection, before=TRACTOR):
    told = field_of(check_build(before), connection)
    return check_build({**before, "motor": told.motor}), told


@pytest.mark.parametrize(("connection", "branches"), [("series_parallel", 2), ("parallel", 4)])
def test_the_same_ampere_turns_give_the_same_torque_for_each_amp(connection, branches):
    # A coil of b branches carries I/b: b times the amps are the same ampere-turns, the same flux.
    after, _ = joined(connection)
    one, other = (compile_drive(build).motor for build in (check_build(TRACTOR), after))
    np.testing.assert_allclose(
        other.constant_nm_per_a(branches * AMPS), one.constant_nm_per_a(AMPS), rtol=1e-12
    )
    gross = other.shaft_torque_nm(0.0, branches * AMPS) + 2.5
    np.testing.assert_allclose(gross, branches * (one.shaft_torque_nm(0.0, AMPS) + 2.5), rtol=1e-12)


@pytest.mark.parametrize(
    ("connection", "ohm"),
    # By hand: 12 mohm of four coils in a row are 3 mohm each; two rows of two are 6/2 = 3 mohm, all
    # side by side 3/4 mohm; armature and brushes keep 28 - 12 = 16 mohm.
    [("series", 0.028), ("series_parallel", 0.019), ("parallel", 0.01675)],
)
def test_ohms_of_branches_are_those_of_ohms_law(connection, ohm):
    assert joined(connection)[0].motor.resistance_ohm == pytest.approx(ohm, rel=1e-12)


def test_joined_there_and_back_it_is_the_same_motor():
    there, _ = joined("parallel")
    back = field_of(there, "series").motor
    for key in ("half_saturation_current_a", "resistance_ohm", "saturated_constant_nm_per_a"):
        assert back[key] == pytest.approx(TRACTOR["motor"][key], rel=1e-12)
    assert back["field"]["resistance_ohm"] == pytest.approx(0.012, rel=1e-12)


def test_it_says_what_becomes_of_the_motor():
    assert "turns faster" in joined("parallel")[1].why
    assert "16 coils" not in joined("parallel")[1].why
    assert "how they are joined now" in joined("series")[1].why
    slow = changed(TRACTOR, {"motor.field.connection": "parallel"})
    assert "pulls more" in joined("series", slow)[1].why


@pytest.mark.parametrize(
    ("changes", "where"),
    [
        ({"motor.field": None}, "motor.field"),
        ({"motor.field.coils": 3}, "motor.field.coils"),
    ],
)
def test_what_cannot_be_joined_so_is_refused_by_name(changes, where):
    with pytest.raises(Refusal) as told:
        field_of(tractor_with(changes), "series_parallel")
    assert told.value.where == where


@pytest.mark.parametrize(
    ("changes", "where"),
    [
        ({"motor.field.resistance_ohm": 0.03}, "motor.field.resistance_ohm"),
        (
            {"motor.field.coils": 3, "motor.field.connection": "series_parallel"},
            "motor.field.coils",
        ),
    ],
)
def test_a_field_that_cannot_be_is_refused(changes, where):
    with pytest.raises(Refusal) as told:
        tractor_with(changes)
    assert told.value.where == where


def test_another_kind_has_no_such_field(build_with):
    with pytest.raises(Refusal) as told:
        field_of(build_with({}), "series")
    assert told.value.where == "motor.kind"
