"""The ways to change speed: each figure is the bench's, each rule that of the trade or a book."""

import math

import numpy as np
import pytest

from core.tests.gearing.conftest import set_on
from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.documents.build import Build
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.gearing.boost import boost
from powertrain.gearing.chart import speed_chart
from powertrain.gearing.overvolt import overvolt
from powertrain.gearing.roads import roads
from powertrain.gearing.windings import windings
from powertrain.shelf.shipped import shipped_shelf

BUILDS = {one.id: one.document for one in all_archetypes()}


def top_of(build: Build) -> float:
    return solve(build).doubt.figures["top_speed_kmh"].value


# Windings


def test_windings_of_one_can_give_the_same_torque(build):
    told = windings(build, shipped_shelf())
    numbers = [one.number for one in told.windings]
    assert numbers == sorted(numbers)
    assert sum(one.own for one in told.windings) == 1
    for one in told.windings:
        # Kt = 60/(2 pi KV); R KV^2 and KV times rated amps are those of the can (common practice).
        assert one.torque_per_amp_nm == pytest.approx(60 / (2 * math.pi * one.number), rel=1e-6)
        assert one.resistance_ohm * one.number**2 == pytest.approx(0.045 * 60**2)
        assert one.lasting_a * 60 == pytest.approx(55 * one.number)
        own = next(other for other in told.windings if other.own)
        assert one.lasting_torque_nm == pytest.approx(own.lasting_torque_nm)
        assert one.copper_w == pytest.approx(own.copper_w)


def test_a_windings_figures_are_the_benchs(build):
    for one in windings(build, shipped_shelf()).windings:
        bench = solve(set_on(build, one.change)).doubt.figures
        assert one.top_speed_kmh == pytest.approx(bench["top_speed_kmh"].value, rel=1e-6)
        assert one.winding_climb_c == pytest.approx(bench["winding_c"].value, abs=0.01)


def test_a_windings_constants_are_as_sure_as_what_they_come_from(build):
    known = {
        "motor.kv_rpm_per_v": {"origin": "measured", "tolerance_pct": 10},
        "motor.resistance_ohm": {"origin": "measured", "tolerance_pct": 20},
    }
    one = next(
        one
        for one in windings(set_on(build, {"provenance": known}), shipped_shelf()).windings
        if one.own
    )
    # A tolerance is met four times in five; Kt goes with 1/KV, copper heat with R.
    for key, off in (
        ("torque_per_amp_nm", 1.1),
        ("lasting_torque_nm", 1.1),
        ("resistance_ohm", 1.2),
        ("copper_w", 1.2),
    ):
        value, (low, middle, high) = getattr(one, key), one.bands[key]
        assert middle == pytest.approx(value, rel=0.01)
        assert high == pytest.approx(value * off, rel=0.015)
        assert low == pytest.approx(value / off, rel=0.015)
    assert one.bands["power_w"][0] < one.power_w < one.bands["power_w"][2]


def test_the_chart_is_as_sure_as_the_kv(build):
    def within(off):
        known = {"motor.kv_rpm_per_v": {"origin": "measured", "tolerance_pct": off}}
        return speed_chart(set_on(build, {"provenance": known}), shipped_shelf()).within_pct

    # Free rpm are volts times KV but for what turning takes, a few percent of it.
    assert within(10) == pytest.approx(10, abs=0.7)
    assert within(3) == pytest.approx(3, abs=0.7)


def test_the_teeth_that_keep_todays_speed_do(build):
    today = top_of(build)
    for one in windings(build, shipped_shelf()).windings:
        kept = top_of(set_on(build, one.keeps_change))
        # Whole teeth come within a few percent; amps limits do not move with the winding.
        assert kept == pytest.approx(today, rel=0.06)
    own = next(one for one in windings(build, shipped_shelf()).windings if one.own)
    assert own.keeps_teeth == [16, 60]


def test_an_inverters_motor_has_no_other_winding(build):
    document = build.model_dump(mode="json", exclude_unset=True)
    document["motor"] = {
        "kind": "packaged",
        "peak_torque_nm": 20,
        "base_rpm": 2600,
        "base_voltage_v": 48,
        "top_rpm": 6000,
    }
    packaged = check_build(document)
    assert windings(packaged, shipped_shelf()).windings == []
    assert speed_chart(packaged, shipped_shelf()).windings == [0.0]


# Speed chart


def test_free_rpm_is_volts_times_kv_less_what_turning_takes(build):
    told = speed_chart(build, shipped_shelf())
    at, own = told.states.index("nominal"), told.rows[told.own[0]][told.own[1]]
    # 13 cells at 3.7 V and 60 KV, less I0 R: closed form of the free motor.
    ohm = 0.045 + 0.006 + 13 / 4 * 0.020 + 0.010
    assert own.free_rpm[at] == pytest.approx(60 * (13 * 3.7 - 1.4 * ohm), rel=2e-3)
    assert own.change["battery.series"] == 13


def test_a_cell_of_the_chart_is_what_the_bench_shows_of_it(build):
    told = speed_chart(build, shipped_shelf())
    for row, column in ((0, 0), (len(told.cells) - 1, len(told.windings) - 1), told.own):
        cell = told.rows[row][column]
        tried = set_on(build, {**cell.change, "battery.cell_voltage_v": 3.7})
        bench = solve(tried)
        top = next(one for one in bench.moments if one.id == "top_speed")
        at = told.states.index("nominal")
        assert cell.loaded_rpm[at] == pytest.approx(top.state.motor_rpm, rel=1e-6)


def test_more_cells_and_faster_windings_turn_faster(build):
    told = speed_chart(build, shipped_shelf())
    free = np.array([[cell.free_rpm for cell in row] for row in told.rows], float)
    assert np.all(np.diff(free, axis=0) > 0)
    assert np.all(np.diff(free, axis=1) > 0)
    assert told.window_rpm is None
    small = next(one for one in BUILDS.values() if one.name == "Fast model car")
    # The trade's window for small fast motors; common practice, no source.
    assert speed_chart(small, shipped_shelf()).window_rpm == [36_000, 38_000]


# More volts


def test_the_watts_stay_where_they_were(build):
    told = overvolt(build, 16)
    # 18 A at 36 V and 12.5 A at 52 V are the same watts (common practice): in proportion.
    assert told.change["controller.battery_current_limit_a"] == pytest.approx(
        45 * 13 / 16, abs=0.06
    )
    assert told.then.full_v == pytest.approx(16 * 4.2)
    assert told.over_pct == pytest.approx(100 * 3 / 13)
    bench = solve(set_on(build, told.change))
    wheels_up = next(one for one in bench.moments if one.id == "wheels_up")
    assert told.then.free_rpm == pytest.approx(wheels_up.state.motor_rpm)
    assert told.then.bands["free_rpm"] == wheels_up.bands["motor_rpm"]


def test_thirteen_cells_are_over_fifty_volt_capacitors_and_eleven_are_not(build):
    # 13 lithium cells at the end of charge are 54.6 V, over 50 V capacitors (common practice).
    low = set_on(build, {"battery.series": 10, "controller.capacitor_voltage_v": 50})
    weights = {
        series: next(
            one.weight for one in overvolt(low, series).conditions if one.id == "capacitors"
        )
        for series in (11, 13)
    }
    assert weights == {11: "fine", 13: "stop"}
    assert overvolt(low, 13).verdict.startswith("Not like this")


def test_what_is_not_known_is_a_condition_and_both_schools_are_told(trike):
    told = overvolt(check_build(trike), 14)
    weights = {one.id: one.weight for one in told.conditions}
    assert weights["free_rpm"] == weights["capacitors"] == "condition"
    assert "condition" in told.verdict
    assert len(told.schools) == 2
    with pytest.raises(Refusal):
        overvolt(check_build(trike), 13)


# Roads


def test_every_road_is_worked_to_the_same_speed(build):
    told = roads(build, 42.0, shipped_shelf())
    assert {road.id for road in told.roads} == {"gearing", "winding", "cells", "timing"}
    for road in told.roads:
        assert road.reached, road
        assert road.figures["top_speed_kmh"] == pytest.approx(42.0, rel=1e-6)
        bought = set_on(build, road.change)
        assert road.bought["top_speed_kmh"] == pytest.approx(top_of(bought), rel=1e-6)
        assert road.bought["top_speed_kmh"] >= 42.0 * (1 - 1e-3)
    teeth = next(road for road in told.roads if road.id == "gearing")
    assert len(teeth.parts) == 1
    # The cheapest such wheel on the shelf, looked up by hand.
    ((path, count),) = teeth.change.items()
    side, stage = path.split(".")[2].removesuffix("_teeth"), build.gearing[int(path.split(".")[1])]
    sold = [
        size.price
        for item in shipped_shelf().teeth
        if (item.kind, item.side, item.pitch_mm) == (stage.kind, side, stage.pitch_mm)
        for size in item.sizes
        if size.teeth == count
    ]
    assert teeth.price == (min(sold) if sold else None)
    winding = next(road for road in told.roads if road.id == "winding")
    exact = set_on(
        build, {**winding.change, "motor.kv_rpm_per_v": float(winding.measure.split()[0])}
    )
    bench = solve(exact).doubt.figures
    for key, band in winding.bands.items():
        assert band == pytest.approx(bench[key].band, rel=5e-3), key


def test_a_road_that_does_not_lead_there_says_how_far_it_goes(build):
    told = roads(build, 70.0, shipped_shelf())
    teeth = next(road for road in told.roads if road.id == "gearing")
    assert not teeth.reached
    assert float(teeth.why.split()[2]) < 70
    with pytest.raises(Refusal):
        roads(build, 20.0, shipped_shelf())


# Helper


def test_a_helper_adds_its_push_and_an_overspun_one_feeds_its_tap(build):
    told = boost(build, build, 13, 0.0)
    # The same drive twice pushes twice.
    assert told.helper_n == pytest.approx(told.base_n)
    assert told.together_kmh > told.alone_kmh
    low = boost(build, build, 6, 10.0)
    assert low.helps_to_kmh < low.alone_kmh
    assert low.feeds_a > 0
    # Amps that a motor turned at k w above its volts pushes back: (k w - V)/R, closed form.
    k = 60 / (2 * math.pi * 60)
    speed_rad_s = low.helper_rpm_at_top * 2 * math.pi / 60
    ohm = 0.045 + 0.006 + 6 / 4 * 0.020 + 0.010
    assert low.feeds_a == pytest.approx((k * speed_rad_s - 6 * 4.1) / ohm, rel=0.02)
    assert any("freewheel" in finding.say for finding in low.findings)
    assert all(n == 0 for v, n in zip(low.speeds_kmh, low.helper_n, strict=True) if v < 10)
    with pytest.raises(Refusal):
        boost(build, build, 14, 0.0)


def test_a_helper_on_a_tap_empties_its_cells_sooner(build):
    slow = set_on(build, {"gearing.0.driver_teeth": 32})
    told = boost(slow, set_on(slow, {"motor.kv_rpm_per_v": 200}), 6, 0.0)
    assert told.tap_share > 1
    assert any("tapped cells" in finding.say for finding in told.findings)
