"""A build with a full pack and at the end of its trip, against hand arithmetic."""

import numpy as np
import pytest

from powertrain.arrays import scalar
from powertrain.bench.solve import solve
from powertrain.by_then import Then, by_then, then_of
from powertrain.compile.build import compile_build
from powertrain.results import results_of
from powertrain.verdicts.context import RuleContext

CELLS, PER_CENT = 13, {100: 4.18, 10: 3.42, 20: 3.54}
"""Lithium-ion's usual curve at some charges, read from the table in `battery.open_circuit`."""


def then_at(charge: float, **warm: float) -> Then:
    nodes = {"winding": 20.0, "case": 20.0, "controller": 20.0, "pack": 20.0, **warm}
    return Then(charge, nodes, 20.0, 18.0)


@pytest.mark.parametrize(("when", "left", "per_cent"), [("full", 20, 100), ("end", 20, 20)])
def test_rest_volts_are_those_of_the_charge(build_with, when, left, per_cent):
    build = build_with({"moments.range_to_pct": left})
    assert solve(build, when).pack_rest_v == pytest.approx(CELLS * PER_CENT[per_cent])


def test_stated_points_overrule_the_usual_curve(build_with):
    points = [{"soc_pct": 0, "cell_v": 3.0}, {"soc_pct": 100, "cell_v": 4.0}]
    build = build_with({"battery.open_circuit": points, "moments.range_to_pct": 30})
    assert solve(build, "end").pack_rest_v == pytest.approx(CELLS * 3.3)


def test_copper_follows_its_temperature_and_magnets_theirs(build_with):
    """Copper by IEC 60028: 0.393 % a kelvin at 20 C; magnets by what is stated."""
    build = build_with({"motor.thermal.resistance_at_c": 25, "motor.thermal.magnet_pct_per_k": 0.2})
    compiled = compile_build(build)
    warm = by_then(build, compiled, then_at(1.0, winding=120.0, case=75.0))

    def volts(drive, turns, amps):
        return float(drive.motor.voltage_v(scalar(turns), scalar(amps)))

    ohm = volts(warm.drive, 0.0, 1.0) / volts(compiled.drive, 0.0, 1.0)
    assert ohm == pytest.approx((1 + 0.00393 * 100) / (1 + 0.00393 * 5), rel=1e-9)
    emf = volts(warm.drive, 100.0, 0.0) / volts(compiled.drive, 100.0, 0.0)
    assert emf == pytest.approx(1 - 0.002 * (75 - 25), rel=1e-6)


def test_cold_cells_have_the_resistance_that_is_stated(build_with):
    by_c = [{"c": -10, "factor": 3.0}, {"c": 20, "factor": 1.0}]
    build = build_with({"battery.resistance_by_c": by_c})
    compiled = compile_build(build)
    cold = by_then(build, compiled, then_at(0.5, pack=5.0))
    cells, leads = 13 / 4 * 0.020, 0.010
    assert float(compiled.drive.pack.resistance_ohm) == pytest.approx(cells + leads)
    assert float(cold.drive.pack.resistance_ohm) == pytest.approx(2 * cells + leads)


def test_parts_begin_as_warm_as_the_trip_has_made_them(build_with):
    build = build_with({"moments.climb_length_m": 0.5})
    compiled = compile_build(build)
    results = results_of(compiled)
    then = then_of(build, compiled, results.moments, "end")
    assert then.charge == pytest.approx(0.1)
    assert 20 < then.warm_c["case"] < then.warm_c["winding"]
    end = results_of(by_then(build, compiled, then))
    # Half a metre of a hill warms nothing.
    assert float(end.heat.case.after_c[1]) == pytest.approx(then.warm_c["case"], abs=0.5)
    # What is asked of launch and cruise stays what it is now.
    assert end.moments.targets.launch_to_mps == pytest.approx(results.moments.targets.launch_to_mps)
    assert end.moments.targets.cruise_mps == pytest.approx(results.moments.targets.cruise_mps)


def test_a_pack_that_is_nearly_empty_is_slower(build_with):
    now, full, end = (solve(build_with({}), when) for when in ("now", "full", "end"))
    speed = {id(one): one.moments[3].state.speed_mps for one in (now, full, end)}
    assert speed[id(end)] < speed[id(now)] < speed[id(full)]
    # Without friction and drag it would be the ratio of the volts, 3.42 to 4.10 a cell.
    assert speed[id(end)] / speed[id(now)] == pytest.approx(3.42 / 4.10, abs=0.04)


def test_a_hill_that_can_t_be_climbed_at_the_end_is_told_of_now(build_with):
    build = build_with({"moments.climb_speed_kmh": 30, "moments.climb_grade_pct": 8})
    told = {verdict.id: verdict for verdict in solve(build).verdicts}
    assert told["asked_climb"].severity == "ok"
    late = told["climb_at_end"]
    assert late.severity == "watch"
    assert late.title.startswith("At the end of the trip, with 10 % left")
    by_itself = {verdict.id: verdict for verdict in solve(build, "end").verdicts}
    assert by_itself["asked_climb"].severity == "stop"
    assert "climb_at_end" not in by_itself
    assert by_itself["asked_climb"].value == pytest.approx(late.value, rel=1e-3)


def test_a_sag_at_the_end_is_told_of_once(build_with):
    weak = {
        "battery.cell_resistance_mohm": 75,
        "battery.cut_off_cell_v": 3.0,
        "controller.battery_current_limit_a": 30,
    }
    told = {verdict.id: verdict for verdict in solve(build_with(weak)).verdicts}
    # 30 A through 75 mOhm/4 and a share of the leads: 0.59 V, from 4.10 V now and 3.42 V then.
    assert told["cut_off"].severity != "stop"
    assert told["cut_off_at_end"].value == pytest.approx(3.42 - 30 * (0.075 / 4 + 0.010 / 13), 0.01)
    worse = {**weak, "battery.cell_voltage_v": 3.45}
    told = {verdict.id: verdict for verdict in solve(build_with(worse)).verdicts}
    assert told["cut_off"].severity == "stop"
    assert "cut_off_at_end" not in told


def test_a_batch_without_documents_says_nothing_of_the_end(build_with):
    context = RuleContext.of(build_with({}))
    assert context.at_the_end is not None
    assert super(RuleContext, context).at_the_end is None
    end = then_of(context.build, context.compiled, context.moments, "end")
    looked_at = RuleContext(
        by_then(context.build, context.compiled, end), context.results, context.build, then=end
    )
    assert looked_at.at_the_end is None


@pytest.mark.parametrize("when", ["full", "end"])
def test_what_varies_a_build_is_moved_like_the_build(build_with, when):
    """A column of equal values gives, at another time too, the build itself in every row."""
    build = build_with({})
    compiled = compile_build(build)
    then = then_of(build, compiled, results_of(compiled).moments, when)
    one = by_then(build, compiled, then)
    cells = np.full(3, float(build.battery.series))
    many = by_then(build, compile_build(build, {"battery.series": cells}), then)
    for name in ("open_circuit_v", "resistance_ohm", "charger_v"):
        found = np.broadcast_to(getattr(many.drive.pack, name), 3)
        assert found == pytest.approx(np.full(3, float(getattr(one.drive.pack, name))))
