"""Limits, ramp, drag brake, timing and the sheet of all settings, against hand arithmetic."""

import json
import math

import pytest
from hypothesis import given, settings

from core.tests.strategies import builds
from powertrain.archetypes import all_archetypes
from powertrain.compile.build import compile_build
from powertrain.documents.reading import check_build
from powertrain.set_up.drag_brake import drag_brake_of
from powertrain.set_up.limits import limits_of
from powertrain.set_up.ramp import ramp_of
from powertrain.set_up.sheet import sheet_of

GRIPS = {"traction": {"friction": 5.0}}

IDS = [
    "motor_current_limit_a",
    "battery_current_limit_a",
    "regen_current_limit_a",
    "cut_off_v",
    "max_rpm",
    "timing_deg",
    "boost_timing_deg",
    "turbo_timing_deg",
    "half_throttle_pct",
    "ramp_pct_per_s",
    "drag_brake_pct",
    "brake_pct",
    "start_power_pct",
    "dead_band_pct",
    "pwm_hz",
    "reverse",
    "rollback_from_c",
]


def limits(build):
    return limits_of(build, compile_build(build))


class TestLimits:
    def test_motor_amps_are_the_lower_of_both_peaks(self, make):
        motor = {"peak_current_a": 40.0, "continuous_current_a": 15.0}
        assert limits(make(motor=motor)).motor_current_a == 40
        both = make(motor=motor, controller={"peak_current_a": 30.0})
        assert limits(both).motor_current_a == 30
        # With none stated, those for long are all that is known to be stood.
        assert limits(make(motor={"continuous_current_a": 15.0})).motor_current_a == 15
        assert limits(make()).motor_current_a is None

    def test_a_controller_told_in_peaks_of_a_phase_is_told_more(self, make):
        build = make(motor={"peak_current_a": 40.0}, controller={"motor_current_is": "phase_peak"})
        assert limits(build).motor_current_a == pytest.approx(40 / 0.8660, rel=1e-9)

    def test_pack_amps_leave_the_pack_above_its_cut_off(self, make):
        # 3 x 6 + 7 mOhm; 11.7 V at rest, cut-off 3 x 3.3 V.
        build = make(battery={"cut_off_cell_v": 3.3})
        told = limits(build)
        assert told.cut_off_v == pytest.approx(9.9)
        assert told.battery_current_a == pytest.approx((11.7 - 9.9) / 0.025, rel=1e-6)
        held = make(battery={"cut_off_cell_v": 3.3, "peak_current_a": 50.0})
        assert limits(held).battery_current_a == 50

    def test_no_more_than_all_motors_take(self, make):
        build = make(motor={"peak_current_a": 20.0, "count": 2})
        assert limits(build).battery_current_a == 40

    def test_nothing_is_pushed_into_a_pack_that_takes_nothing(self, make):
        assert limits(make(battery={"charge_current_a": 0.0})).regen_current_a == 0
        both = make(battery={"charge_current_a": 5.0}, controller={"regen_current_limit_a": 9.0})
        assert limits(both).regen_current_a == 5
        assert limits(make()).regen_current_a is None


class TestRamp:
    def test_a_grabbed_trigger_meets_nothing_but_resistance(self, make):
        told = ramp_of(compile_build(make()))
        amps = 11.7 / (0.25 + 0.01 + 0.025)
        assert told.inrush_a == pytest.approx(amps, rel=1e-9)
        assert told.least_pack_v == pytest.approx(11.7 - amps * 0.025, rel=1e-9)

    def test_a_soft_pack_wants_a_slower_ramp_and_a_stiff_one_none(self, make):
        soft = {"cell_resistance_mohm": 60.0, "cut_off_cell_v": 3.4}
        told = ramp_of(compile_build(make(vehicle=GRIPS, battery=soft)))
        assert told.limited_by == "cut_off"
        worse = {**soft, "cell_resistance_mohm": 75.0}
        softer = ramp_of(compile_build(make(vehicle=GRIPS, battery=worse)))
        assert softer.fastest_pct_per_s < told.fastest_pct_per_s

    def test_it_is_as_fast_as_small_steps_of_the_motion_allow(self, make):
        """The same ramp, followed one step after another with a step of its own."""
        soft = {"cell_resistance_mohm": 60.0, "cut_off_cell_v": 3.4}
        build = make(vehicle=GRIPS, battery=soft)
        told = ramp_of(compile_build(build))
        k, ohm, pack_ohm = 60 / (2 * math.pi * 1300), 0.26, (3 * 60 + 7) / 1000
        r, mass = 0.370 / (2 * math.pi), 2.4
        drag_n = mass * 9.80665 * 0.03

        def lowest_v(rate):
            speed, low, steps = 0.0, 11.7, 40_000
            dt = 100 / rate / steps
            for step in range(1, steps + 1):
                duty = step / steps
                turns = speed / r * 48
                amps = max((duty * 11.7 - k * turns) / (ohm + duty**2 * pack_ohm), 0.0)
                low = min(low, 11.7 - duty * amps * pack_ohm)
                torque = k * (amps - 0.8)
                push = torque * 48 / r * (0.8 if torque > 0 else 1 / 0.8)
                air = 0.5 * 1.2 * 0.02 * speed**2
                inertia = build.vehicle.rotating_mass_factor * mass
                speed = max(speed + (push - drag_n - air) / inertia * dt, 0.0)
            return low

        assert lowest_v(told.fastest_pct_per_s * 0.97) >= 10.2
        assert lowest_v(told.fastest_pct_per_s * 1.06) < 10.2

    def test_limits_that_hold_the_amps_make_any_ramp_do(self, make):
        held = make(vehicle=GRIPS, controller={"battery_current_limit_a": 3.0})
        told = ramp_of(compile_build(held))
        assert told.limited_by == "current_limit"
        row = next(row for row in sheet_of(held).settings if row.id == "ramp_pct_per_s")
        # 100 % at 10,000 % a second.
        assert row.why.startswith("Any ramp will do, even full in 0.01 s: the amps limits")

    def test_a_rider_and_the_grip_are_asked(self, make):
        car = make(
            vehicle={"mass_kg": 60.0, "traction": {"friction": 3.0}},
            motor={"resistance_ohm": 0.004, "kv_rpm_per_v": 300.0},
            battery={"cell_resistance_mohm": 0.2, "wiring_resistance_mohm": 0.2, "series": 12},
        )
        assert ramp_of(compile_build(car)).limited_by == "rider"
        slick = make(vehicle={"traction": {"friction": 0.05}})
        assert ramp_of(compile_build(slick)).limited_by == "grip"


class TestDragBrake:
    def test_creeps_where_the_shorted_motor_holds_the_slope(self, make):
        build = make()
        slope = math.atan(0.30)
        weight = 2.4 * 9.80665
        k = 60 / (2 * math.pi * 1300)
        pull = weight * (math.sin(slope) - 0.03 * math.cos(slope))
        torque = pull * 0.370 / (2 * math.pi) / 48 * 0.8 - k * 0.8
        turns = torque * 0.26 / k**2
        told = drag_brake_of(build, compile_build(build))
        assert told.creep_kmh == pytest.approx(turns / 48 * 0.370 / (2 * math.pi) * 3.6, rel=1e-6)
        assert told.heat_w == pytest.approx(torque * turns, rel=1e-6)

    def test_half_of_the_brake_creeps_twice_as_fast(self, make):
        whole, half = make(), make(controller={"drag_brake_pct": 50.0})
        one, two = (drag_brake_of(b, compile_build(b)) for b in (whole, half))
        assert two.creep_kmh == pytest.approx(2 * one.creep_kmh, rel=1e-9)

    def test_friction_alone_holds_up_to_a_slope_and_no_further(self, make):
        build = make()
        holds = drag_brake_of(build, compile_build(build)).holds_grade_pct
        under = make(moments={"climb_grade_pct": holds - 0.01})
        over = make(moments={"climb_grade_pct": holds + 0.01})
        assert drag_brake_of(under, compile_build(under)).creep_kmh == 0
        assert drag_brake_of(over, compile_build(over)).creep_kmh > 0


class TestTiming:
    def test_the_sum_its_limit_and_the_tooth_that_pays(self, make):
        build = make(
            gearing=[{"kind": "spur", "driver_teeth": 18, "driven_teeth": 46, "efficiency": 0.95}],
            motor={"commutation": "brushless", "poles": 4, "timing_deg": 10.0},
            controller={"timing_deg": 12.0, "boost_timing_deg": 20.0},
        )
        told = sheet_of(build).timing
        assert told.total_deg == 42
        assert told.limit_deg == 70
        # 42 degrees are 21 % more KV; 46/18 x 1.21 = 3.092: 56/18 is 3.111, 46/15 only 3.067.
        assert told.tooth.change == {"gearing.0.driven_teeth": 56}
        assert sheet_of(make()).timing.limit_deg == 60


class TestSheet:
    @pytest.mark.parametrize("archetype", all_archetypes(), ids=lambda one: one.id)
    def test_every_vehicle_gets_every_row_in_order(self, archetype):
        told = sheet_of(archetype.document)
        assert [row.id for row in told.settings] == IDS
        for row in told.settings:
            assert row.why.endswith(".")
            assert row.below != row.above
            assert row.offered is None
        of = {row.id: row.value for row in told.settings}
        assert of["motor_current_limit_a"] == told.limits.motor_current_a
        assert of["battery_current_limit_a"] == told.limits.battery_current_a
        assert of["regen_current_limit_a"] == told.limits.regen_current_a
        assert of["cut_off_v"] == told.limits.cut_off_v

    def test_what_the_controller_offers_is_marked(self, make):
        told = sheet_of(make(controller={"offers": ["ramp_pct_per_s"]}))
        assert {row.id for row in told.settings if row.offered} == {"ramp_pct_per_s"}
        assert not any(row.offered is None for row in told.settings)

    def test_only_amps_limits_may_be_set_below(self, make):
        told = sheet_of(make())
        assert {row.id for row in told.settings if row.at_most} == {
            "motor_current_limit_a",
            "battery_current_limit_a",
            "regen_current_limit_a",
        }

    def test_what_can_not_be_known_is_said_so(self, make):
        of = {row.id: row for row in sheet_of(make()).settings}
        assert of["motor_current_limit_a"].value is None
        assert "ask their maker" in of["motor_current_limit_a"].why
        assert of["rollback_from_c"].value is None

    def test_ripple_sets_the_frequency_where_inductance_is_known(self, make):
        motor = {"inductance_uh": 30.0, "continuous_current_a": 20.0}
        of = {row.id: row.value for row in sheet_of(make(motor=motor)).settings}
        # V/(4 L f) = a tenth of 20 A: 11.7/(4 x 30e-6 x 2) = 48.75 kHz.
        assert of["pwm_hz"] == pytest.approx(49_000)

    def test_the_highest_rpm_is_the_lower_of_motor_and_controller(self, make):
        motor = {"commutation": "brushless", "max_rpm": 50_000.0, "poles": 4}
        of = {row.id: row.value for row in sheet_of(make(motor=motor)).settings}
        assert of["max_rpm"] == 50_000
        slow = make(motor=motor, controller={"max_erpm": 60_000.0})
        of = {row.id: row.value for row in sheet_of(slow).settings}
        assert of["max_rpm"] == 30_000


@settings(max_examples=25)
@given(builds())
def test_every_build_gets_a_sheet_that_can_be_written(document):
    build = check_build(document)
    told = sheet_of(build)
    json.dumps(told.model_dump(mode="json"), allow_nan=False)
    of = {row.id: row.value for row in told.settings}
    stated = [
        amps
        for amps in (build.motor.peak_current_a, build.controller.peak_current_a)
        if amps is not None
    ]
    limit = of["motor_current_limit_a"]
    if stated and limit is not None and build.controller.rating_side != "battery":
        assert limit <= max(stated) * 1.2
    rests = build.battery.series * build.battery.cell_voltage_v
    pack = told.limits.battery_current_a
    if pack is not None and rests > told.limits.cut_off_v:
        series, parallel = build.battery.series, build.battery.parallel
        ohm = series / parallel * build.battery.cell_resistance_mohm / 1000
        ohm += build.battery.wiring_resistance_mohm / 1000
        sags_to = rests - pack * build.controller.count * ohm
        assert sags_to >= told.limits.cut_off_v - 1e-6
