"""Temperatures of a build: limits, estimates, conditions, stall and repeated duty."""

import math

import numpy as np
import pytest

from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.compile.build import compile_build, compile_drive, compile_limits
from powertrain.documents.reading import check_build
from powertrain.heat.limits import limit_sources
from powertrain.heat.stall import stall_of
from powertrain.heat.temperatures import flows_of, temperatures
from powertrain.operating.steady import steady
from powertrain.stated import Stated
from powertrain.verdicts.context import RuleContext

GIVEN = {
    "winding_j_per_k": 180.0,
    "case_j_per_k": 900.0,
    "winding_to_case_k_per_w": 0.2,
    "case_to_air_k_per_w": 0.6,
}


def case_of(changes):
    build = check_build(document_with(changes))
    return RuleContext.of(build)


def climbing(changes, seconds=60.0):
    """Return temperatures `seconds` into a steady 15 km/h on 8 %."""
    build = check_build(document_with(changes))
    drive = compile_drive(build)
    state = steady(drive, scalar(15 / 3.6), scalar(8.0))
    flows = flows_of(drive, state)
    return temperatures(compile_build(build).thermal, flows, compile_limits(build), scalar(seconds))


def test_the_insulation_classes():
    # IEC 60085 (from memory): A 105, E 120, B 130, F 155, H 180.
    found = {
        letter: compile_limits(
            check_build(document_with({"motor.insulation_class": letter}))
        ).winding
        for letter in "AEBFH"
    }
    assert found == {"A": 105, "E": 120, "B": 130, "F": 155, "H": 180}


def test_a_limit_is_the_makers_before_the_classs_before_the_trades():
    said = {"motor.max_winding_c": 140, "motor.insulation_class": "H"}
    assert compile_limits(check_build(document_with(said))).winding == 140
    assert compile_limits(check_build(document_with(said))).case == 140
    plain = compile_limits(check_build(document_with({})))
    # Common practice, no source: a controller's case 60 to 65 C, packs 60 C.
    assert (plain.controller, plain.pack) == (65, 60)


@pytest.mark.parametrize(
    ("mass_kg", "case_c", "winding_c"),
    # Common practice, no source: what a hand stands for a model's motor, more for larger ones.
    [(0.2, 65, 105), (3.0, 80, 130), (55.0, 100, 155)],
)
def test_a_case_without_a_makers_figure_is_judged_by_its_size(mass_kg, case_c, winding_c):
    build = check_build(document_with({"motor.mass_kg": mass_kg}))
    found = compile_limits(build)
    assert (found.case, found.winding) == (case_c, winding_c)
    assert "usual for" in limit_sources(Stated(build))["case"]


def test_steady_case_by_hand():
    # In still air and a vented place: case rise = heat x K/W, winding above it by R12.
    changes = {"motor.thermal": GIVEN, "motor.cooling": {"air": "closed"}}
    seen = climbing({**changes, "motor.thermal": {**GIVEN, "case_to_air_k_per_w": 0.05}})
    build = check_build(document_with(changes))
    state = steady(compile_drive(build), scalar(15 / 3.6), scalar(8.0))
    cold, turning = float(state.copper_heat_w), float(state.no_load_loss_w)
    rise = 0.0
    for _ in range(200):
        copper = cold * (1 + 0.00393 * rise)
        case = (copper + turning) * 0.05 * 2
        rise = case + copper * 0.2
    assert seen.case.steady_c == pytest.approx(20 + case, rel=1e-9)
    assert seen.winding.steady_c == pytest.approx(20 + rise, rel=1e-9)


def test_what_is_given_goes_before_what_is_estimated():
    build = check_build(document_with({"motor.thermal": GIVEN, "motor.mass_kg": 2.6}))
    store = compile_build(build).thermal
    assert float(store.motor.case_j_per_k) == 900
    assert "motor" not in compile_build(build).estimated
    for said, known_from in (
        ({}, "constants"),
        ({"motor.mass_kg": 2}, "mass"),
        ({"motor.diameter_mm": 80}, "size"),
    ):
        other = compile_build(check_build(document_with(said)))
        assert other.estimated["motor"] == known_from


def test_estimates_are_of_the_right_order():
    # A winding of 18 % of 2.6 kg at 385 J/(kg K), a case of the rest at 460 (handbook values).
    build = check_build(document_with({"motor.mass_kg": 2.6}))
    store = compile_build(build).thermal
    assert float(store.motor.winding_j_per_k) == pytest.approx(0.18 * 2.6 * 385)
    assert float(store.motor.case_j_per_k) == pytest.approx(0.82 * 2.6 * 460)


@pytest.mark.parametrize(
    ("better", "worse"),
    [
        ({"motor.cooling.fan_mps": 6}, {}),
        ({"motor.cooling.sink_cm2": 400}, {}),
        ({"motor.cooling.air": "open"}, {"motor.cooling.air": "vented"}),
        ({"motor.cooling.air": "vented"}, {"motor.cooling.air": "closed"}),
        ({"conditions.ambient_c": 5}, {"conditions.ambient_c": 35}),
        ({"motor.mass_kg": 4}, {"motor.mass_kg": 2}),
        ({"motor.count": 2}, {}),
        ({}, {"conditions.parts_c": 60}),
        ({}, {"motor.thermal.magnet_pct_per_k": 0.2}),
        ({}, {"vehicle.mass_kg": 260}),
    ],
)
def test_what_cools_and_what_heats(better, worse):
    def hottest(more):
        seen = climbing({"motor.mass_kg": 2.6, **more}, 600.0)
        return float(seen.winding.after_c), float(seen.case.after_c)

    assert all(np.less(hottest(better), hottest(worse)))


def test_weaker_magnets_take_more_amps_for_the_same_push():
    cold = climbing({"motor.thermal": GIVEN})
    weak = climbing({"motor.thermal": {**GIVEN, "magnet_pct_per_k": 0.2}})
    # The case settles so far above the amps' reference that k has lost its share of it.
    rise = float(weak.case.steady_c) - 20
    lost = 0.002 * rise
    build = check_build(document_with({"motor.thermal": GIVEN}))
    state = steady(compile_drive(build), scalar(15 / 3.6), scalar(8.0))
    copper = float(state.copper_heat_w) / (1 - lost) ** 2
    winding = float(weak.winding.steady_c)
    through = (winding - float(weak.case.steady_c)) / 0.2
    assert through == pytest.approx(copper * (1 + 0.00393 * (winding - 20)), rel=1e-3)
    assert weak.winding.steady_c > cold.winding.steady_c


def test_a_short_stall_stores_all_its_heat():
    # Adiabatic: C dT = I^2 R (1 + a T) dt, so t = C/(a P) ln(1 + a dT); two of three phases.
    changes = {
        "motor.thermal": {**GIVEN, "winding_j_per_k": 40.0, "winding_to_case_k_per_w": 20.0},
        "controller.motor_current_limit_a": 150,
        "controller.battery_current_limit_a": 200,
        "controller.mass_kg": 5,
        "motor.max_winding_c": 105,
    }
    build = check_build(document_with(changes))
    drive = compile_drive(build)
    seen = stall_of(drive, compile_build(build).thermal, compile_limits(build))
    heat = 150**2 * 0.045
    wanted = 40 * 2 / 3 / (0.00393 * heat) * math.log(1 + 0.00393 * (105 - 20))
    assert seen.first == "winding"
    assert seen.seconds == pytest.approx(wanted, rel=0.01)


def test_repeated_duty_keeps_the_mean_at_the_limit():
    heavy = {
        "motor.thermal": GIVEN,
        "vehicle.mass_kg": 420,
        "motor.cooling.air": "closed",
        "motor.max_winding_c": 105,
    }
    seen = climbing({**heavy, "motor.max_case_c": 400})
    share = float(seen.repeat_share)
    assert 0 < share < 1
    build = check_build(document_with(heavy))
    state = steady(compile_drive(build), scalar(15 / 3.6), scalar(8.0))
    hot = float(state.copper_heat_w) * (1 + 0.00393 * (105 - 20))
    case = (105 - 20 - share * hot * 0.2) / (share * (hot + float(state.no_load_loss_w)))
    # What is left for the case is its resistance to air; a closed box doubles the stated one.
    assert case == pytest.approx(0.6 * 2, rel=1e-9)


def test_copper_that_runs_away_has_no_steady_temperature():
    hard = {"motor.thermal": {**GIVEN, "case_to_air_k_per_w": 3.0}, "vehicle.mass_kg": 320}
    seen = climbing(hard)
    assert bool(seen.runs_away)
    assert math.isinf(float(seen.winding.steady_c))
    assert math.isfinite(float(seen.winding.to_limit_s))


def test_the_verdict_on_heat_leads_to_a_cure():
    tall = {
        "gearing.0.driver_teeth": 24,
        "motor.mass_kg": 1.6,
        "moments.climb_grade_pct": 10,
        "moments.climb_length_m": 1500,
        "controller.battery_current_limit_a": 90,
    }
    case = case_of(tall)
    from powertrain.documents.paths import changed
    from powertrain.verdicts.registry import judge_all

    seen = next(v for v in judge_all(case)[0] if v.id == "winding_temperature")
    assert seen.severity == "stop"
    assert seen.fix is not None
    assert "of the time" in seen.why
    cured = check_build(changed(document_with(tall), seen.fix.change))
    after = next(v for v in judge_all(RuleContext.of(cured))[0] if v.id == "winding_temperature")
    assert after.severity != "stop"
    assert after.value <= after.limit


def test_a_bare_can_gives_off_three_eighths_less_in_still_air(build_with):
    """Half of a painted part's heat is radiated, and bright metal radiates a quarter of that."""
    closed = {"motor.cooling.air": "closed"}

    def leaves(changes):
        motor = compile_build(build_with({**closed, **changes})).thermal.motor
        return float(motor.air.conductance_w_per_k(motor.case_to_air_k_per_w, scalar(0.0)))

    painted, bare = leaves({}), leaves({"motor.cooling.surface": "bare"})
    assert bare / painted == pytest.approx(0.5 + 0.5 * 0.25, rel=1e-9)
    assert leaves({"motor.cooling.surface": "painted"}) == painted
    # What is stated was measured on the surface that it has.
    stated = {"motor.thermal.case_to_air_k_per_w": 2.0}
    bare_stated = leaves({**stated, "motor.cooling.surface": "bare"})
    assert bare_stated == pytest.approx(leaves(stated), rel=1e-9)
