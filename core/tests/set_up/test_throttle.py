"""Steps, curve and the slowest steady speed against arithmetic by hand."""

import math

import pytest

from powertrain.errors import Refusal
from powertrain.set_up.throttle import throttle_of

REST_V = 3 * 3.9
KMH_PER_V = 1300 / 48 * 0.370 * 60 / 1000
"""KV through gears and wheel: rpm of the wheel for a volt, by its way, in km/h."""


class TestSteps:
    def test_half_of_them_go_forward_unless_reverse_has_none(self, make):
        assert throttle_of(make()).steps_forward == 512
        assert throttle_of(make(controller={"steps_shared": True})).steps_forward == 512
        assert throttle_of(make(controller={"steps_shared": False})).steps_forward == 1024

    def test_straight_they_are_all_alike(self, make):
        told = throttle_of(make())
        for volts in (told.volts_per_step.low, told.volts_per_step.half, told.volts_per_step.high):
            assert volts == pytest.approx(REST_V / 512, rel=1e-9)
        assert told.kmh_per_step.half == pytest.approx(REST_V / 512 * KMH_PER_V, rel=1e-9)

    def test_a_curve_makes_the_first_fine_and_the_last_coarse(self, make):
        # Half trigger at 20 % of the volts: volts = x^p, p = ln 0.2/ln 0.5 = 2.3219.
        told = throttle_of(make(controller={"curve": {"half_throttle_pct": 20.0}}))
        p = math.log(0.2) / math.log(0.5)
        assert told.volts_per_step.low == pytest.approx(REST_V * (1 / 512) ** p, rel=1e-9)
        assert told.volts_per_step.high == pytest.approx(REST_V * (1 - (511 / 512) ** p), rel=1e-9)
        below = 0.5**p - (255 / 512) ** p
        above = (257 / 512) ** p - 0.5**p
        assert told.volts_per_step.half == pytest.approx(REST_V * (below + above) / 2, rel=1e-9)

    def test_it_is_drawn_from_rest_to_full_trigger(self, make):
        told = throttle_of(make(controller={"curve": {"half_throttle_pct": 20.0}}))
        drawn = {round(one.trigger_pct): one.volts_pct for one in told.curve}
        assert (drawn[0], drawn[100]) == (0.0, 100.0)
        assert drawn[50] == pytest.approx(20.0, rel=1e-9)
        # A quarter of the trigger passes 20 % of 20 %.
        assert 24 in drawn
        assert 26 in drawn
        assert drawn[24] < 4.0 < drawn[26]
        by_points = {"curve": {"points": [{"trigger_pct": 30.0, "volts_pct": 10.0}]}}
        told = throttle_of(make(controller=by_points))
        ends = [(one.trigger_pct, one.volts_pct) for one in told.curve]
        assert ends == [(0, 0), (pytest.approx(30), pytest.approx(10)), (100, 100)]

    def test_points_are_joined_by_straight_lines(self, make):
        points = [{"trigger_pct": 50.0, "volts_pct": 10.0}]
        told = throttle_of(make(controller={"curve": {"points": points}}))
        assert told.volts_per_step.low == pytest.approx(REST_V * 0.2 / 512, rel=1e-9)
        assert told.volts_per_step.high == pytest.approx(REST_V * 1.8 / 512, rel=1e-9)

    def test_the_curve_of_its_own_goes_before_the_old_number(self, make):
        both = {"half_throttle_pct": 40.0, "curve": {"half_throttle_pct": 20.0}}
        one = {"curve": {"half_throttle_pct": 20.0}}
        assert throttle_of(make(controller=both)) == throttle_of(make(controller=one))

    def test_without_steps_nothing_is_made_up(self, make):
        told = throttle_of(make(controller={"throttle_steps": None}))
        assert told.steps_forward is None
        assert told.volts_per_step.low is None
        assert told.slowest_steady_kmh is None
        assert told.start_volts is not None


class TestStart:
    def test_friction_of_road_and_motor_through_both_resistances(self, make):
        # 2.4 kg at 0.03: 0.706 N on 58.9 mm, through 48 to 1 at 80 %.
        torque = 2.4 * 9.80665 * 0.03 * (0.370 / (2 * math.pi)) / 48 / 0.8
        k = 60 / (2 * math.pi * 1300)
        volts = (torque / k + 0.8) * (0.25 + 0.01)
        assert throttle_of(make()).start_volts == pytest.approx(volts, rel=1e-6)

    def test_brushes_take_their_own_volts(self, make):
        with_brushes = throttle_of(make(motor={"brush_drop_v": 0.4})).start_volts
        assert with_brushes == pytest.approx(throttle_of(make()).start_volts + 0.4, rel=1e-6)


class TestSlowest:
    def test_is_one_whole_step_where_the_motor_first_turns(self, make):
        told = throttle_of(make())
        # Straight, every step is the same speed, whichever is the first that turns it.
        assert told.slowest_steady_kmh == pytest.approx(REST_V / 512 * KMH_PER_V, rel=1e-9)

    def test_by_a_curve_it_is_the_step_that_passes_the_start(self, make):
        told = throttle_of(make(controller={"curve": {"half_throttle_pct": 20.0}}))
        p = math.log(0.2) / math.log(0.5)
        step = math.ceil((told.start_volts / REST_V) ** (1 / p) * 512)
        rise = (step / 512) ** p - ((step - 1) / 512) ** p
        assert told.slowest_steady_kmh == pytest.approx(rise * REST_V * KMH_PER_V, rel=1e-9)

    def test_each_change_that_slows_it_says_what_it_comes_to(self, make):
        told = throttle_of(make())
        paths = [one.path for one in told.slower_by]
        assert "controller.throttle_steps" in paths
        assert "motor.kv_rpm_per_v" in paths
        assert "battery.series" in paths
        speeds = [one.to_kmh for one in told.slower_by]
        assert speeds == sorted(speeds)
        assert all(speed < told.slowest_steady_kmh for speed in speeds)
        twice = next(one for one in told.slower_by if one.path == "controller.throttle_steps")
        again = throttle_of(make(controller={"throttle_steps": twice.change[twice.path]}))
        assert again.slowest_steady_kmh == pytest.approx(twice.to_kmh, rel=1e-12)
        # The next of R20 (ISO 3) below 1,300, as the lever steps.
        slower = next(one for one in told.slower_by if one.path == "motor.kv_rpm_per_v")
        assert slower.change[slower.path] == 1250
        fewer = next(one for one in told.slower_by if one.path == "battery.series")
        assert fewer.to_kmh == pytest.approx(told.slowest_steady_kmh * 2 / 3, rel=1e-9)


@pytest.mark.parametrize(
    "curve",
    [
        {"points": [{"trigger_pct": 60, "volts_pct": 40}, {"trigger_pct": 50, "volts_pct": 45}]},
        {"points": [{"trigger_pct": 40, "volts_pct": 40}, {"trigger_pct": 50, "volts_pct": 40}]},
        {"points": [{"trigger_pct": 40, "volts_pct": 100}]},
        {"points": [{"trigger_pct": 0, "volts_pct": 5}]},
        {"points": [{"trigger_pct": 100, "volts_pct": 90}]},
        {"points": [{"trigger_pct": 40, "volts_pct": 30}], "half_throttle_pct": 20},
    ],
)
def test_a_curve_that_does_not_rise_is_refused_with_its_place(make, curve):
    with pytest.raises(Refusal) as refused:
        make(controller={"curve": curve})
    assert refused.value.where == "controller.curve"


@pytest.mark.parametrize(
    ("values", "where"),
    [
        ({"boost_from_rpm": 9000.0, "boost_to_rpm": 5000.0}, "controller"),
        ({"ramp_pct_per_s": -20.0}, "controller.ramp_pct_per_s"),
        ({"offers": ["warp"]}, "controller.offers.0"),
        ({"drag_brake_pct": 120.0}, "controller.drag_brake_pct"),
    ],
)
def test_bad_settings_are_refused_with_their_place(make, values, where):
    with pytest.raises(Refusal) as refused:
        make(controller=values)
    assert refused.value.where == where
