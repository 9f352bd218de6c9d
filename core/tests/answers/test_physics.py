"""What was found wrong against an independent solver, held against arithmetic by hand."""

import numpy as np
import pytest
from scipy.integrate import quad

from core.tests.conftest import document_with
from core.tests.motor.test_kinds import packaged
from powertrain.arrays import scalar
from powertrain.compile.build import compile_build, compile_drive, compile_limits
from powertrain.documents.reading import check_build
from powertrain.heat.stall import stall_of
from powertrain.operating.launch import launch
from powertrain.operating.limits import Limit
from powertrain.operating.on_road import full_throttle_at
from powertrain.operating.steady import can_hold, steady
from powertrain.operating.top_speed import top_speed, top_speed_mps
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

LEVEL = scalar(0.0)


def drive(changes):
    return compile_drive(check_build(document_with(changes)))


def judged(changes):
    build = check_build(document_with(changes))
    return {one.id: one for one in judge_all(RuleContext.of(build))[0]}


@pytest.mark.parametrize("share", [0.5, 0.8, 0.95, 0.99])
@pytest.mark.parametrize(
    "changes",
    [
        {},
        {"controller.battery_current_limit_a": 25},
        {"controller": {"resistance_ohm": 0.006}},
        {"motor": packaged().model_dump(exclude_none=True)},
    ],
)
def test_a_coarse_launch_is_good_to_a_thousandth_near_the_top(changes, share):
    one = drive(changes)
    to = share * float(top_speed_mps(one, LEVEL))
    coarse, fine = (launch(one, scalar(to), fine=how) for how in (False, True))

    def seconds(speed):
        spare = float(
            full_throttle_at(one, scalar(speed)).force_n - one.wheels.road.force_n(speed, LEVEL)
        )
        return float(one.inertia_kg_m2 / one.load.travel_m**2) / spare

    wanted = quad(lambda v: v * seconds(v), 0, to, limit=400, epsrel=1e-7)[0]
    assert float(fine.distance_m) == pytest.approx(wanted, rel=2e-4)
    assert float(coarse.distance_m) == pytest.approx(wanted, rel=2e-3)
    assert float(coarse.time_s) == pytest.approx(float(fine.time_s), rel=2e-3)


@pytest.mark.parametrize("sheet", [{"efficiency": 0.9}, {}, {"iron_loss_w": 40.0}])
def test_a_motor_with_its_inverter_is_warm_at_standstill(sheet):
    motor = packaged(**sheet, mass_kg=12.0).model_dump(exclude_none=True)
    build = check_build(document_with({"motor": motor, "controller": {"resistance_ohm": 0}}))
    one = compile_drive(build)
    held = full_throttle_at(one, LEVEL)
    assert held.battery_current_a > 0
    stalled = stall_of(one, compile_build(build).thermal, compile_limits(build))
    assert np.isfinite(stalled.seconds)
    # 60 N.m at 2,500 rpm are 15.7 kW; holding it takes 4 % of that by common practice.
    watts = float(stalled.state.copper_heat_w + stalled.state.brush_heat_w)
    drag = sheet.get("iron_loss_w", 0)
    assert watts == pytest.approx(0.04 * (60 * 2500 * np.pi / 30 + drag), rel=1e-6)


def test_a_flat_efficiency_stays_what_is_stated_at_speed():
    one = drive({"motor": packaged(efficiency=0.9).model_dump(exclude_none=True)})
    state = steady(one, scalar(8.0), LEVEL)
    lost = float(state.motor_heat_w)
    assert float(state.shaft_w) / (float(state.shaft_w) + lost) == pytest.approx(0.9, rel=1e-9)


REGEN = {
    "controller.battery_current_limit_a": None,
    "controller.motor_current_limit_a": None,
    "vehicle.drag_area_m2": 0.1,
}


@pytest.mark.parametrize(
    ("stated", "most"),
    [
        ({"controller.regen_current_limit_a": 10}, 10),
        ({"controller.regen_current_limit_a": 0}, 0),
        ({"battery.charge_current_a": 7}, 7),
        ({"battery.charge_current_a": 7, "controller.regen_current_limit_a": 10}, 7),
        ({"battery.cell_voltage_v": 4.2}, 0),
    ],
)
def test_braking_pushes_no_more_into_the_pack_than_it_may(stated, most):
    free, held = drive(REGEN), drive({**REGEN, **stated})
    speed, grade = scalar(7.0), scalar(-9.0)
    without, state = steady(free, speed, grade), steady(held, speed, grade)
    assert without.battery_current_a < -12
    assert float(state.battery_current_a) == pytest.approx(-most, abs=1e-9)
    assert bool(can_hold(held, state))
    assert state.brakes_w > 0
    # The ledger: what the road gives is what motors and brakes hold back.
    road = sum(state.taken_w)
    assert float(state.output_w - state.brakes_w) == pytest.approx(float(road), rel=1e-9)
    inside = state.terminals_w - state.controller_heat_w - state.motor_heat_w
    assert float(inside) == pytest.approx(float(state.shaft_w), abs=1e-6 * abs(float(road)))


def test_an_overrun_has_no_efficiency():
    state = top_speed(drive({}), scalar(-12.0))
    assert np.isnan(state.efficiency)


def test_a_pack_past_its_greatest_power_is_told_with_the_limit_that_pushes_harder():
    # 13 cells of 60 mohm in one string hold back 0.78 ohm; motor and path 0.051.
    weak = {
        "controller": {"resistance_ohm": 0.006},
        "battery.parallel": 1,
        "battery.cell_resistance_mohm": 60,
    }
    seen = judged(weak)["pack_peak_power"]
    assert seen.severity == "watch"
    assert seen.limit == pytest.approx(53.3 / (2 * 0.79))
    now = float(full_throttle_at(drive(weak), LEVEL).force_n)
    then = float(full_throttle_at(drive({**weak, **seen.fix.change}), LEVEL).force_n)
    assert then > 1.5 * now
    assert "pack_peak_power" not in judged({})


def test_a_weak_pack_gives_no_more_than_what_the_motor_amps_limit_takes():
    # 19 cells of 59 mohm hold back 1.156 ohm: at full duty 62 A would flow, over the pack amps
    # limit of 56. Chopped down, 164 A through 13 mohm and 0.308 V take 398 W, which is 6.1 A.
    weak = {
        "motor.commutation": "brushed",
        "motor.kv_rpm_per_v": 8,
        "motor.resistance_ohm": 0.005,
        "motor.no_load_current_a": 0,
        "vehicle.mass_kg": 2000,
        "controller": {
            "resistance_ohm": 0.0079,
            "motor_current_limit_a": 164.2,
            "battery_current_limit_a": 56.5,
            "switching_loss_v": 0.308,
        },
        "battery.series": 19,
        "battery.parallel": 1,
        "battery.cell_resistance_mohm": 59,
        "battery.wiring_resistance_mohm": 35,
        "battery.cell_voltage_v": 3.78,
    }
    seen = full_throttle_at(drive(weak), LEVEL)
    rest_v, ohm = 19 * 3.78, 19 * 0.059 + 0.035
    watts = 164.2**2 * 0.0129 + 0.308 * 164.2
    amps = (rest_v - np.sqrt(rest_v**2 - 4 * ohm * watts)) / (2 * ohm)
    assert float(seen.motor_current_a) == pytest.approx(164.2)
    assert float(seen.battery_current_a) == pytest.approx(amps, rel=1e-9)
    assert Limit(int(seen.limited_by)) is Limit.MOTOR_CURRENT


def test_thinner_air_cools_less():
    def case_c(conditions):
        changes = {"conditions": conditions, "motor.mass_kg": 2.5, "moments.climb_grade_pct": 6}
        build = check_build(document_with(changes))
        return float(RuleContext.of(build).results.heat.case.steady_c[2])

    high = case_c({"altitude_m": 3500, "ambient_c": 20})
    assert high > case_c({"altitude_m": 0, "ambient_c": 20}) + 0.1


@pytest.mark.parametrize(
    ("told", "factor"), [("dc", 1), ("phase_peak", 0.866), ("phase_rms", 1.2247)]
)
def test_motor_amps_are_those_of_direct_current(told, factor):
    one = drive({"controller.motor_current_limit_a": 50, "controller.motor_current_is": told})
    assert float(full_throttle_at(one, LEVEL).motor_current_a) == pytest.approx(50 * factor)
    rated = judged(
        {
            "controller.motor_current_limit_a": 50,
            "controller.motor_current_is": told,
            "controller.peak_current_a": 50,
        }
    )["controller_peak"]
    assert (rated.severity, rated.value) == ("ok", pytest.approx(50))


TWO = {
    "motor.count": 2,
    "controller.count": 2,
    "controller.motor_current_limit_a": 40,
    "controller.battery_current_limit_a": 30,
    "controller.outputs": 1,
    "controller.mass_kg": 0.5,
    "controller.price": 60,
}


def test_two_controllers_share_the_motors():
    one = drive(TWO)
    assert float(one.controller.battery_current_limit_a) == 60
    verdicts = judged(TWO)
    assert verdicts["outputs"].severity == "ok"
    assert judged({**TWO, "controller.count": 1})["outputs"].severity == "stop"
    twin = drive(
        {
            **TWO,
            "controller.count": 1,
            "controller.outputs": 2,
            "controller.battery_current_limit_a": 60,
        }
    )
    a, b = (top_speed(each, LEVEL) for each in (one, twin))
    assert float(a.speed_mps) == pytest.approx(float(b.speed_mps), rel=1e-12)
    build = check_build(
        document_with(
            {
                **TWO,
                "motor.mass_kg": 2,
                "motor.price": 90,
                "battery.mass_kg": 5,
                "battery.price": 400,
            }
        )
    )
    from powertrain.bench.solve import solve

    answer = solve(build)
    assert (answer.drive_mass_kg, answer.drive_price) == (2 * 2 + 2 * 0.5 + 5, 180 + 120 + 400)


@pytest.mark.parametrize(
    ("changes", "rule", "severity"),
    [
        ({"motor.sensor": "none", "controller.sensor": ["hall"]}, "sensor_match", "stop"),
        ({"motor.sensor": "hall", "controller.sensor": ["encoder"]}, "sensor_match", "stop"),
        ({"motor.sensor": "hall", "controller.sensor": ["none"]}, "sensor_match", "ok"),
        ({"motor.sensor": "hall", "controller.sensor": ["none", "hall"]}, "sensor_match", "ok"),
        ({"controller.min_voltage_v": 60}, "controller_min_volts", "stop"),
        ({"controller.min_voltage_v": 45}, "controller_min_volts", "watch"),
        ({"controller.min_voltage_v": 18}, "controller_min_volts", "ok"),
        (
            {"vehicle.throttle_signal": "analogue", "controller.throttle_signal": "pulse"},
            "throttle_signal",
            "watch",
        ),
        (
            {"vehicle.throttle_signal": "pulse", "controller.throttle_signal": "pulse"},
            "throttle_signal",
            "ok",
        ),
    ],
)
def test_what_must_fit_is_judged(changes, rule, severity):
    assert judged(changes)[rule].severity == severity


def test_crawling_kv_is_that_of_the_motor_whatever_its_brushes_drop():
    brushed = {
        "motor.commutation": "brushed",
        "motor.slots": 3,
        "motor.brush_drop_v": 0.8,
        "motor.kv_rpm_per_v": 3300,
    }
    seen = judged(brushed)["crawling_kv"]
    assert (seen.value, seen.severity) == (pytest.approx(3300), "watch")
