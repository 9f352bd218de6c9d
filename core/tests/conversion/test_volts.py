"""Equal torque at other volts against V - I R, to the last digit."""

import pytest

from core.tests.conversion.conftest import tractor_with
from powertrain.conversion.volts import volts_of
from powertrain.verdicts.context import RuleContext


def at(changes):
    build = tractor_with({"motor.continuous_current_a": 180, **changes})
    return volts_of(build, RuleContext.of(build))


def test_rpm_goes_with_volts_less_what_amps_take():
    found = at({})
    rpm = {row.volts: row.rpm for row in found.rows}
    # At 180 A: 28 + 2 mohm and 1.5 V at the brushes take 6.9 V of any.
    for volts in (48.0, 60.0, 96.0):
        assert rpm[volts] / rpm[72.0] == pytest.approx((volts - 6.9) / (72 - 6.9), rel=1e-12)
    # k(180) = 0.4 x 180/270 = 0.2667: (72 - 6.9)/0.2667 rad/s = 2,331 rpm
    assert rpm[72.0] == pytest.approx(2331.2, abs=0.1)
    assert found.torque_nm == pytest.approx(0.4 * 180 / 270 * 180 - 2.5)


def test_it_is_not_in_proportion_to_the_volts():
    rpm = {row.volts: row.rpm for row in at({}).rows}
    assert rpm[144.0] / rpm[72.0] > 2.1


def test_the_same_heat_at_any_volts():
    assert {row.copper_w for row in at({}).rows} == {180**2 * 0.028}


def test_the_makers_volts_are_respected():
    words = {row.volts: row.word for row in at({"motor.max_voltage_v": 80}).rows}
    assert words[72.0] == words[80.0] == "ok"
    assert words[96.0] == "watch"
    assert words[120.0] == "stop"


def test_rpm_above_the_makers_is_a_stop():
    words = {row.volts: row.word for row in at({"motor.max_rpm": 3000}).rows}
    assert words[80.0] != "stop"
    assert words[96.0] == "stop"


def test_volts_between_bars_are_counted():
    # 96 V on 4 poles and 33 bars: 11.6 V between neighbours; 144 V are 17.5.
    words = {row.volts: row for row in at({"motor.slots": 33, "motor.poles": 4}).rows}
    assert words[96.0].word == "ok"
    assert "11.6 V" in words[96.0].say
    assert words[144.0].word == "stop"


def test_untold_volts_are_not_taken_for_none():
    assert {row.word for row in at({}).rows} == {"watch"}
