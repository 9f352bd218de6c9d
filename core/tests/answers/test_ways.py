"""What ladder, windings and helper say where a build is already in trouble."""

import pytest

from core.tests.conftest import document_with
from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.vehicle import ToothedStage
from powertrain.gearing.boost import boost
from powertrain.gearing.ladder.answer import ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import sizes_of
from powertrain.gearing.overvolt import overvolt
from powertrain.gearing.windings import windings
from powertrain.shelf.shipped import shipped_shelf

GEARED = {
    one.id: one.document
    for one in all_archetypes()
    if any(isinstance(stage, ToothedStage) for stage in one.document.gearing)
}


def ladder_of(build):
    return ladder_answer(build, rungs_of(build, sizes_of(build, shipped_shelf())))


@pytest.mark.parametrize("name", GEARED)
def test_each_kind_of_vehicle_has_a_ladder_with_a_way_up(name):
    told = ladder_of(GEARED[name])
    assert (told.open > 0 and told.best and told.plan) or told.say
    for key, rung in told.best.items():
        assert rung.stopped is None, key


@pytest.mark.parametrize("name", GEARED)
def test_without_any_amps_limit_there_is_a_ladder_too(name):
    document = GEARED[name].model_dump(mode="json", exclude_unset=True)
    for side in ("motor", "battery"):
        document["controller"].pop(f"{side}_current_limit_a", None)
    told = ladder_of(check_build(document))
    assert told.open > 0 or told.say
    assert told.best or told.say


def test_what_no_gearing_changes_is_told_once_and_holds_no_rung_off():
    # 13 cells end at 54.6 V, whatever the teeth.
    told = ladder_of(check_build(document_with({"controller.max_voltage_v": 50})))
    assert any("54.6 V" in one for one in told.fixed)
    assert told.open > 1
    assert told.best


def test_a_rung_that_is_worse_names_the_part():
    told = ladder_of(check_build(document_with({"motor.continuous_current_a": 12})))
    said = [
        rung.stopped for stage in told.stages for row in stage.near for rung in row if rung.stopped
    ]
    assert any("motor" in one for one in said)


@pytest.mark.parametrize("kv", [40, 60, 100])
def test_each_winding_says_what_its_own_figures_say(kv):
    told = windings(check_build(document_with({"motor.kv_rpm_per_v": kv})), shipped_shelf())
    now = next(one for one in told.windings if one.own)
    for one in told.windings:
        if one.own:
            continue
        more = one.top_speed_kmh - now.top_speed_kmh
        word = "as fast" if abs(more) < 0.05 else "faster" if more > 0 else "slower"
        assert f"goes {word}" in one.say
    quick = [one for one in told.windings if one.torque_per_amp_nm < now.torque_per_amp_nm]
    next_one = max(quick, key=lambda one: one.torque_per_amp_nm)
    assert ("does not go faster" in told.say) == (
        next_one.top_speed_kmh <= now.top_speed_kmh + 0.05
    )


def test_a_motor_amps_limit_set_for_a_winding_goes_with_it():
    # The copper that stands 40 A at 60 KV stands 80 A at 120 KV: half the turns, twice the wire.
    build = check_build(
        document_with(
            {
                "motor.continuous_current_a": 40,
                "motor.peak_current_a": 60,
                "controller.motor_current_limit_a": 60,
            }
        )
    )
    document = build.model_dump(mode="json", exclude_unset=True)
    told = windings(build, shipped_shelf())
    for one in told.windings:
        wound = check_build(changed(document, one.change))
        share = one.number / 60
        assert wound.motor.peak_current_a == pytest.approx(60 * share, rel=0.01)
        assert wound.controller.motor_current_limit_a == pytest.approx(60 * share, rel=0.01)


HELPER = {
    "vehicle.mass_kg": 20,
    "gearing": [{"kind": "chain", "driver_teeth": 11, "driven_teeth": 60, "efficiency": 0.95}],
    "motor.kv_rpm_per_v": 600,
    "motor.resistance_ohm": 0.1,
    "motor.no_load_current_a": 1.5,
    "motor.max_rpm": 60_000,
    "motor.continuous_current_a": 12,
    "motor.peak_current_a": 14,
    "controller": {"resistance_ohm": 0.004, "max_voltage_v": 15, "continuous_current_a": 60},
    "battery.continuous_current_a": 20,
    "battery.peak_current_a": 20,
    "battery.cell_resistance_mohm": 20,
}


def test_a_helper_that_would_burn_its_parts_is_told_by_each_of_them():
    base = check_build(
        document_with(
            {
                "battery.continuous_current_a": 20,
                "battery.peak_current_a": 20,
                "motor.max_rpm": 9000,
            }
        )
    )
    told = boost(base, check_build(document_with(HELPER)), 4, 0.0)
    stops = " ".join(one.say for one in told.findings if one.severity == "stop")
    # Four cells end at 16.8 V.
    assert "16.8 V" in stops
    assert "rated 15 V" in stops
    assert "tapped cells give" in stops
    assert "helper's motor carries" in stops
    assert "Nothing known" not in " ".join(one.say for one in told.findings)


def test_a_tap_is_judged_by_its_own_cells_when_the_base_draws_nothing():
    # Fed from the tap alone; both together may not sag below where cells are cut off.
    base = check_build(
        document_with(
            {
                "controller.motor_current_limit_a": 0.1,
                "battery.continuous_current_a": 20,
                "battery.peak_current_a": 20,
            }
        )
    )
    told = boost(base, check_build(document_with(HELPER)), 4, 0.0)
    assert any(one.severity == "stop" and "tapped cells" in one.say for one in told.findings)


def test_feeding_back_counts_for_the_base_too():
    # The helper drives the base beyond its own volts: 40 KV on 13 cells runs free at 36 rpm/V.
    base = check_build(document_with({"motor.kv_rpm_per_v": 20, "motor.max_rpm": 9000}))
    fast = {
        **HELPER,
        "motor.kv_rpm_per_v": 60,
        "motor.resistance_ohm": 0.02,
        "gearing": document_with({})["gearing"],
        "controller": {"resistance_ohm": 0.004},
    }
    told = boost(base, check_build(document_with(fast)), 13, 0.0)
    assert any("The base, overspun" in one.say for one in told.findings)


def test_the_bench_and_the_ladder_agree_on_the_present_rung():
    build = check_build(document_with({}))
    told, seen = ladder_of(build), solve(build)
    stopped = {one.title + "." for one in seen.verdicts if one.severity == "stop"}
    assert set(told.fixed) | set(told.already) == stopped


def test_a_build_that_can_not_move_is_told_so_by_every_view():
    build = check_build(document_with({"vehicle.mass_kg": 90_000}))
    told = windings(build, shipped_shelf())
    assert all(one.top_speed_kmh == 0 for one in told.windings)
    assert not any(one.climbs for one in told.windings)
    assert ladder_of(build).count > 0
    assert overvolt(build, 14).then.top_speed_kmh == 0
