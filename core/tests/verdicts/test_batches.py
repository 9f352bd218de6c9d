"""A rule is one function of numbers: many builds at once are judged as each of them alone."""

import json
from collections import Counter
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given
from hypothesis import strategies as st

from core.tests.conftest import document_with
from core.tests.strategies import builds
from ops.draws import examples
from powertrain.compile.build import compile_build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.results import searched_results, steady_results, wheels_up_results
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.registry import all_rules, judge_all, stopping_rules

DEMO = Path(__file__).parents[3] / "server/builds/demo"


def stopped_by(context):
    """Return the rules of which a verdict in words says stop."""
    verdicts, _ = judge_all(context)
    said = {verdict.id for verdict in verdicts if verdict.severity == "stop"}
    return {
        name
        for name, rule in all_rules().items()
        if {found.id for found in rule.findings(context)} & said
    }


def agree(document):
    """Return what stops a build in words, which is what its numbers say."""
    context = RuleContext.of(check_build(document))
    said = stopped_by(context)
    assert {name for name, rule in stopping_rules().items() if np.all(rule.stops(context))} == said
    return said


@pytest.mark.parametrize("name", sorted(path.stem for path in DEMO.glob("*.json")))
def test_they_agree_on_the_demo_builds(name):
    agree(json.loads((DEMO / f"{name}.json").read_text()))


RATINGS = st.fixed_dictionaries(
    {},
    optional={
        "motor.max_rpm": st.floats(500, 20_000),
        "motor.max_voltage_v": st.floats(10, 100),
        "motor.continuous_current_a": st.floats(2, 100),
        "motor.peak_current_a": st.floats(5, 200),
        "motor.peak_duration_s": st.floats(1, 100),
        "motor.poles": st.integers(1, 20).map(lambda pairs: 2 * pairs),
        "motor.timing_deg": st.floats(0, 50),
        "controller.max_erpm": st.floats(2_000, 200_000),
        "controller.max_voltage_v": st.floats(10, 100),
        "controller.capacitor_voltage_v": st.floats(10, 100),
        "controller.continuous_current_a": st.floats(2, 100),
        "controller.peak_current_a": st.floats(5, 200),
        "controller.rating_side": st.sampled_from(["motor", "battery"]),
        "controller.timing_deg": st.floats(0, 50),
        "controller.outputs": st.integers(1, 4),
        "controller.regen_current_limit_a": st.floats(0, 40),
        "battery.charge_current_a": st.floats(1, 40),
        "battery.continuous_current_a": st.floats(2, 100),
        "battery.peak_current_a": st.floats(5, 200),
        "moments.climb_grade_pct": st.floats(1, 20),
        "moments.climb_speed_kmh": st.floats(2, 30),
        "moments.climb_length_m": st.floats(10, 2000),
        "moments.cruise_kmh": st.floats(2, 40),
        "wiring": st.just({"pack_wire_mm2": 2.5, "connector_current_a": 30.0}),
        "vehicle.traction": st.just(
            {
                "friction": 0.5,
                "wheelbase_m": 1.0,
                "centre_height_m": 0.6,
                "centre_to_driven_axle_m": 0.3,
            }
        ),
    },
)


@examples(40, suppress_health_check=[HealthCheck.too_slow])
@given(document=builds(), ratings=RATINGS)
def test_they_agree_on_any_build(document, ratings):
    agree(changed(document, ratings))


def test_only_rules_that_say_why_ever_stop():
    said = Counter()
    for changes in (
        {"battery.series": 40, "controller.max_voltage_v": 60, "motor.max_rpm": 3000},
        {"gearing.0.driver_teeth": 5, "gearing.0.pitch_mm": 6.35},
        {"motor.continuous_current_a": 10, "moments": {"climb_grade_pct": 15.0}},
        {"controller": {"resistance_ohm": 0.001}, "motor.mass_kg": 0.1},
        {"motor.timing_deg": 80, "controller.outputs": 1, "motor.count": 2},
    ):
        said.update(agree(document_with(changes)))
    assert len(said) >= 9
    assert set(said) <= set(stopping_rules())


SETTINGS = {
    "motor.continuous_current_a": 45,
    "motor.mass_kg": 2.5,
    "motor.max_rpm": 4000,
    "battery.continuous_current_a": 40,
    "moments.climb_grade_pct": 7,
    "moments.climb_speed_kmh": 12,
    "moments.cruise_kmh": 18,
    "motor.poles": 14,
    "controller.max_voltage_v": 58,
    "controller.max_erpm": 40000,
    "wiring.pack_wire_mm2": 4,
    "gearing.0.pitch_mm": 12.7,
    "moments.launch_to_kmh": 12,
}


@pytest.mark.parametrize(
    ("path", "values"),
    [
        ("gearing.0.driver_teeth", [8, 9, 12, 16, 22, 30, 45]),
        ("motor.kv_rpm_per_v", [45, 60, 80, 110, 150, 225]),
        ("motor.max_rpm", [1500, 3000, 4400, 9000]),
        ("battery.series", [4, 10, 13, 14, 20]),
        ("wiring.pack_wire_mm2", [1, 4, 16]),
        ("vehicle.mass_kg", [90, 195, 400]),
    ],
)
def test_an_array_of_builds_is_judged_as_each_of_them(path, values):
    compiled = compile_build(
        check_build(document_with(SETTINGS)),
        {"vehicle.mass_kg": np.full(len(values), 195.0), path: np.array(values, float)},
    )
    searched = Batch(compiled, searched_results(compiled, timed=True))
    steady = Batch(compiled, steady_results(compiled))
    stopped = 0
    for row, value in enumerate(values):
        alone = RuleContext.of(check_build(document_with({**SETTINGS, path: value})))
        if not (alone.moments.climb.met & alone.moments.cruise.met):
            # What can't be held is told at the speed that was asked; here that stops it.
            rule = stopping_rules()["asked_climb"]
            assert np.broadcast_to(rule.stops(searched), len(values))[row]
            assert rule.stops(alone)
            stopped += 1
            continue
        for name, rule in stopping_rules().items():
            if not rule.geared:
                continue
            says = bool(np.broadcast_to(rule.stops(searched), len(values))[row])
            assert says == bool(rule.stops(alone)), (name, value)
            used = float(np.broadcast_to(rule.load(searched), len(values))[row])
            # The array's launch is coarse, and its load with it.
            assert used == pytest.approx(float(rule.load(alone)), rel=2e-3), (name, value)
            # What needs no search never stops more than the whole picture.
            assert says or not np.broadcast_to(rule.stops(steady), len(values))[row]
            stopped += says
    assert stopped > 0


def test_wheels_in_the_air_alone_answer_the_rules_that_gearing_does_not_touch():
    build = check_build(document_with({"motor.max_rpm": 3000, "controller.max_voltage_v": 50}))
    whole = RuleContext.of(build)
    alone = Batch(whole.compiled, wheels_up_results(whole.compiled))
    ungeared = {name: rule for name, rule in stopping_rules().items() if not rule.geared}
    told = {name: bool(np.all(rule.stops(whole))) for name, rule in ungeared.items()}
    assert told == {name: bool(np.all(rule.stops(alone))) for name, rule in ungeared.items()}
    assert told["free_rpm"]
    assert told["controller_volts"]


def test_what_is_not_stated_never_stops():
    # With every rating left out an infinite one stands in its place, for one build or many.
    document = document_with({})
    for part in ("motor", "controller", "battery"):
        for key in [key for key in document[part] if key.endswith("_current_a")]:
            if key != "no_load_current_a":
                del document[part][key]
    compiled = compile_build(check_build(document), {"vehicle.mass_kg": np.array([150.0, 195.0])})
    batch = Batch(compiled, searched_results(compiled, timed=True))
    for name in (
        "motor_current",
        "controller_current",
        "pack_current",
        "loaded_rpm",
        "wires",
        "outputs",
        "motor_volts",
        "controller_volts",
        "electrical_rpm",
    ):
        assert not np.any(stopping_rules()[name].stops(batch)), name


def test_they_agree_where_full_throttle_and_an_assumed_hill_both_sag_the_cells():
    # Found by exploring: two cells that 8 % of an assumed hill sag further than full throttle does.
    agree(
        {
            "format": "young-torrent.build/1",
            "name": "weak",
            "conditions": {"air_density_kg_m3": 1.0},
            "vehicle": {
                "kind": "ground",
                "mass_kg": 5.0,
                "rolling_resistance": 0.03125,
                "drag_area_m2": 1.0,
            },
            "wheel": {"rolling_circumference_mm": 150.0},
            "gearing": [
                {"kind": "gearbox", "ratios": [1.0, 2.0], "efficiency": 1.0},
                {"kind": "planetary", "ratio": 3.0, "efficiency": 0.75},
                {"kind": "chain", "driver_teeth": 9, "driven_teeth": 9, "efficiency": 0.875},
            ],
            "motor": {
                "kind": "packaged",
                "count": 1,
                "peak_torque_nm": 20.0,
                "base_rpm": 500.0,
                "base_voltage_v": 24.0,
                "top_rpm": 4500.0,
                "efficiency": 0.75,
            },
            "controller": {"resistance_ohm": 0.0},
            "battery": {
                "chemistry": "li_ion",
                "series": 2,
                "parallel": 1,
                "cell_capacity_ah": 3.0,
                "cell_resistance_mohm": 1.0,
                "wiring_resistance_mohm": 5.0,
                "cell_voltage_v": 3.0,
            },
        }
    )
