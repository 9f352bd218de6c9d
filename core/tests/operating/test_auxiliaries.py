"""What runs along takes its watts at every moment, and the ledger closes with it."""

import numpy as np
import pytest

from powertrain.compile.build import compile_build
from powertrain.results import results_of
from powertrain.verdicts.context import RuleContext

LAMPS = {"name": "Lamps", "power_w": 60, "driven_by": "dc_dc"}
PUMP = {"name": "Pump", "power_w": 150, "driven_by": "tail_shaft"}


def moments(build_with, *along):
    build = build_with({"auxiliaries": list(along), "controller.standby_current_a": 0.1})
    return results_of(compile_build(build)).moments


def states(build_with, *along):
    return {moment.id: moment.state for moment in moments(build_with, *along).all()}


def test_what_the_pack_feeds_takes_its_watts_at_every_moment(build_with):
    for state in states(build_with, LAMPS).values():
        assert state.auxiliaries_w == pytest.approx(60)


def test_at_a_held_speed_pack_watts_rise_by_exactly_that(build_with):
    bare, lit = states(build_with)["cruise"], states(build_with, LAMPS)["cruise"]
    assert lit.speed_mps == bare.speed_mps
    assert lit.shaft_w == pytest.approx(bare.shaft_w, rel=1e-12)
    # Beside that, the standby amps are met at volts lower by the sag of the lamps' amps.
    standby_w = 0.1 * (lit.battery_voltage_v - bare.battery_voltage_v)
    assert lit.terminals_w - bare.terminals_w == pytest.approx(60 + standby_w, abs=1e-9)


def test_what_hangs_on_the_shaft_asks_for_its_torque(build_with):
    bare, pumping = states(build_with)["cruise"], states(build_with, PUMP)["cruise"]
    rad_s = bare.motor_rpm * np.pi / 30
    assert rad_s > 600 * np.pi / 30
    # T = P/w of torque more; by the motor's own constant k = 9.5493/60 that is P/(w k) amps more.
    amps = 150 / rad_s / (9.549297 / 60)
    assert pumping.motor_current_a - bare.motor_current_a == pytest.approx(amps, rel=1e-6)
    assert pumping.auxiliaries_w == pytest.approx(150)
    assert pumping.shaft_w == pytest.approx(bare.shaft_w)


def test_a_pump_at_rest_does_no_work(build_with):
    context = RuleContext.of(build_with({"auxiliaries": [PUMP]}))
    at_rest = float(context.start.shaft_torque_nm)
    bare = float(RuleContext.of(build_with({})).start.shaft_torque_nm)
    # Below idle, 600 rpm, its torque is that at idle: 150 W over 62.83 rad/s.
    assert bare - at_rest == pytest.approx(150 / 62.8319, rel=1e-5)


@pytest.mark.parametrize("along", [(LAMPS,), (PUMP,), (LAMPS, PUMP)])
def test_the_ledger_closes_at_every_moment(build_with, along):
    for state in states(build_with, *along).values():
        left = state.terminals_w - state.controller_heat_w - state.motor_heat_w
        assert left - state.auxiliaries_w == pytest.approx(state.shaft_w, abs=1e-6)


def test_what_takes_nothing_changes_nothing(build_with):
    idle = [{**one, "power_w": 0} for one in (LAMPS, PUMP)]
    bare, none = states(build_with), states(build_with, *idle)
    for which, state in none.items():
        assert state.auxiliaries_w == 0
        assert state.cells_w == pytest.approx(bare[which].cells_w, rel=1e-9)


def test_the_pack_limit_holds_with_them(build_with):
    for state in states(build_with, LAMPS, PUMP).values():
        assert state.battery_current_a <= 45 * (1 + 1e-9)


def test_wheels_up_a_pump_slows_the_motor_a_little(build_with):
    bare, pumping = states(build_with)["wheels_up"], states(build_with, PUMP)["wheels_up"]
    assert 0.9 * bare.motor_rpm < pumping.motor_rpm < bare.motor_rpm


def test_a_slower_top_speed_and_a_shorter_way(build_with):
    bare, along = states(build_with), states(build_with, LAMPS, PUMP)
    assert along["top_speed"].speed_mps < bare["top_speed"].speed_mps
