"""Top speed, its properties, and what it says at the ends of its range."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.optimize import brentq

from core.tests.strategies import MOTORS, builds
from ops.draws import examples
from powertrain.arrays import scalar, stack
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.operating.free import free_running
from powertrain.operating.limits import Limit
from powertrain.operating.on_road import full_throttle_at
from powertrain.operating.steady import can_hold, energy_wh_per_km, steady
from powertrain.operating.top_speed import top_speed, top_speed_mps
from powertrain.roots import falling_root


def test_voltage_limited_top_speed_by_hand(drive_with):
    # On the flat the trike is limited by voltage: bisect the balance of forces written out here.
    k, reduction, eta, radius = (
        9.549296585513721 / 60,
        60 / 16 * 44 / 18,
        0.955 * 0.975,
        1.83 / (2 * np.pi),
    )

    def spare(v: float) -> float:
        amps = (53.3 - k * v / radius * reduction) / (0.075 + 0.006 + 0.045)
        push = k * (amps - 1.4) * reduction * eta / radius
        return push - (195 * 9.80665 * 0.009 + 0.5 * 1.225 * 0.85 * v * v)

    wanted = brentq(spare, 1.0, 11.0, xtol=1e-13)
    assert top_speed_mps(drive_with({}), scalar(0.0)) == pytest.approx(wanted, rel=1e-12)


def test_falling_roots_agree_with_another_solver():
    offsets = np.array([0.0, 1.0, 3.3, 1e-9, 7.0])
    functions = [lambda x, o=o: o - x**3 - 0.1 * x for o in offsets]
    found = falling_root(lambda x: offsets - x**3 - 0.1 * x, np.zeros(5), np.full(5, 10.0))
    wanted = [0.0] + [brentq(f, 0, 10, xtol=1e-300, rtol=1e-15) for f in functions[1:]]
    assert found == pytest.approx(wanted, rel=1e-12)


def test_falling_roots_outside_the_bracket_are_its_ends():
    found = falling_root(lambda x: np.array([-1.0, 20.0]) - x, np.zeros(2), np.full(2, 10.0))
    assert found.tolist() == [0.0, 10.0]


def test_cannot_start_reports_stall(drive_with):
    state = top_speed(drive_with({}), scalar(40.0))
    assert state.limited_by == Limit.CANNOT_MOVE
    assert state.speed_mps == 0
    assert state.motor_current_a == 80
    assert state.output_w == 0
    assert state.copper_heat_w == pytest.approx(80**2 * 0.045)


def test_a_descent_outruns_the_motor(drive_with):
    drive = drive_with({})
    state = top_speed(drive, scalar(-8.0))
    assert state.limited_by == Limit.OVERRUN
    assert state.motor_current_a == 0
    # Coasting: slope less tyres less air less the motor's loss torque, its loss divided by eta.
    reduction, radius = 60 / 16 * 44 / 18, 1.83 / (2 * np.pi)
    drag = 9.549296585513721 / 60 * 1.4 * reduction / radius / (0.955 * 0.975)
    slope = 195 * 9.80665 * np.sin(np.arctan(0.08))
    tyres = 195 * 9.80665 * 0.009 * np.cos(np.arctan(0.08))
    wanted = np.sqrt((slope - tyres - drag) / (0.5 * 1.225 * 0.85))
    assert state.speed_mps == pytest.approx(wanted, rel=1e-10)


def test_a_descent_with_no_air_runs_away(drive_with):
    drive = drive_with({"vehicle.drag_area_m2": 0})
    assert np.isinf(top_speed_mps(drive, scalar(-8.0)))
    assert np.isfinite(top_speed_mps(drive, scalar(2.0)))


@examples(80)
@given(builds(), st.floats(0, 12))
def test_push_meets_road_at_top_speed(document, grade):
    drive = compile_drive(check_build(document))
    state = top_speed(drive, scalar(grade))
    assume(state.limited_by not in (Limit.CANNOT_MOVE, Limit.OVERRUN))
    push = float(full_throttle_at(drive, state.speed_mps, scalar(grade)).force_n)
    asked = float(drive.wheels.road.force_n(state.speed_mps, scalar(grade)))
    scale = abs(push) + abs(float(drive.wheels.road.weight_n)) * 1e-3
    assert push == pytest.approx(asked, abs=1e-7 * scale)


@examples(60)
@given(
    builds(),
    st.sampled_from(["rolling_resistance", "drag_area_m2", "grade"]),
    st.floats(1.001, 2.0),
)
def test_more_resistance_never_raises_top_speed(document, which, more):
    drive = compile_drive(check_build(document))
    grade = 3.0
    before = float(top_speed_mps(drive, scalar(grade)))
    if which == "grade":
        after = float(top_speed_mps(drive, scalar(grade * more)))
    else:
        # With the wind from behind, a larger sail helps: then there is nothing to test.
        assume(which != "drag_area_m2" or document["conditions"]["headwind_mps"] >= 0)
        vehicle = {**document["vehicle"], which: document["vehicle"][which] * more}
        heavier = compile_drive(check_build({**document, "vehicle": vehicle}))
        after = float(top_speed_mps(heavier, scalar(grade)))
    assert after <= before * (1 + 1e-9)


@examples(60)
@given(builds(), st.floats(0, 10))
def test_the_ledger_closes_at_every_part(document, grade):
    drive = compile_drive(check_build(document))
    for state in (top_speed(drive, scalar(grade)), free_running(drive).full_charge):
        size = 1e-9 * max(abs(float(state.cells_w)), abs(float(state.output_w)), 1e-6)
        heat = state.controller_heat_w + state.motor_heat_w
        ends = sum(state.taken_w) + state.speeding_up_w
        assert abs(state.cells_w - state.pack_heat_w - state.terminals_w) <= size
        assert abs(state.shaft_w - sum(state.stage_losses_w) - state.output_w) <= size
        assert abs(ends - state.output_w) <= size
        if state.limited_by != Limit.OVERRUN:
            assert abs(state.terminals_w - heat - state.shaft_w) <= size


@examples(40)
@given(builds(), st.floats(0.2, 0.95))
def test_steady_travel_closes_too_and_can_be_held_below_top_speed(document, share):
    drive = compile_drive(check_build(document))
    top = float(top_speed_mps(drive, scalar(0.0)))
    assume(top > 0.1)
    state = steady(drive, scalar(share * top), scalar(0.0))
    assume(state.force_n > 0)
    assert can_hold(drive, state)
    heat = state.controller_heat_w + state.motor_heat_w
    assert state.terminals_w == pytest.approx(heat + state.shaft_w, rel=1e-9)
    assert state.speeding_up_w == pytest.approx(0, abs=1e-9 * abs(state.output_w))
    assert not can_hold(drive, steady(drive, scalar(1.01 * top), scalar(0.0)))


def test_cruise_of_the_trike(drive_with):
    # Tyres 195 kg x 9.80665 x 0.009 and air 0.5 x 1.225 x 0.85 x 25 at 5 m/s, then part by part.
    force = 195 * 9.80665 * 0.009 + 0.5 * 1.225 * 0.85 * 25
    k, reduction, eta = 9.549296585513721 / 60, 60 / 16 * 44 / 18, 0.955 * 0.975
    speed_rad_s = 5.0 / (1.83 / (2 * np.pi)) * reduction
    amps = force * 1.83 / (2 * np.pi) / reduction / eta / k + 1.4
    power = amps * (k * speed_rad_s + amps * 0.051)
    pack_a = brentq(lambda i: (53.3 - i * 0.075) * i - power, 0, 50, xtol=1e-13)
    state = steady(drive_with({}), scalar(5.0), scalar(0.0))
    assert state.motor_current_a == pytest.approx(amps, rel=1e-12)
    assert state.battery_current_a == pytest.approx(pack_a, rel=1e-10)
    assert energy_wh_per_km(state) == pytest.approx(power / 18, rel=1e-10)


@examples(30)
@given(
    st.sampled_from(sorted(MOTORS)).flatmap(
        lambda kind: st.lists(builds(kind, plain=True), min_size=2, max_size=4)
    ),
    st.floats(-6, 12),
)
def test_a_thousand_builds_or_one(documents, grade):
    for document in documents:
        document["gearing"] = documents[0]["gearing"]
    drives = [compile_drive(check_build(document)) for document in documents]
    together = top_speed_mps(stack(drives), scalar(grade))
    alone = [float(top_speed_mps(drive, scalar(grade))) for drive in drives]
    assert together.tolist() == pytest.approx(alone, rel=1e-12)


@examples(40)
@given(builds())
def test_everything_doubled_keeps_the_figures_of_each_motor(document):
    def doubled() -> dict:
        twice = {**document}
        twice["motor"] = {**document["motor"], "count": 2 * document["motor"]["count"]}
        battery = {**document["battery"], "parallel": 2 * document["battery"]["parallel"]}
        battery["wiring_resistance_mohm"] = document["battery"]["wiring_resistance_mohm"] / 2
        twice["battery"] = battery
        vehicle = document["vehicle"]
        twice["vehicle"] = {
            **vehicle,
            "mass_kg": 2 * vehicle["mass_kg"],
            "drag_area_m2": 2 * vehicle["drag_area_m2"],
        }
        controller = {**document["controller"]}
        for key in ("battery_current_limit_a", "standby_current_a"):
            if key in controller:
                controller[key] *= 2
        twice["controller"] = controller
        return twice

    # What is assumed of the grip goes by a vehicle's size; here it is stated.
    vehicle = document["vehicle"]
    document["vehicle"] = {**vehicle, "traction": vehicle.get("traction") or {"friction": 0.8}}
    one = top_speed(compile_drive(check_build(document)), scalar(2.0))
    two = top_speed(compile_drive(check_build(doubled())), scalar(2.0))
    assert two.speed_mps == pytest.approx(float(one.speed_mps), rel=1e-9)
    assert two.motor_current_a == pytest.approx(float(one.motor_current_a), rel=1e-7, abs=1e-9)
    assert two.limited_by == one.limited_by


def test_many_at_once_are_each_as_alone(drive_with):
    masses = np.linspace(100, 300, 5_000)
    found = top_speed_mps(heavier(drive_with({}), masses), scalar(3.0))
    some = [0, 1, 2_500, 4_999]
    alone = [
        float(top_speed_mps(drive_with({"vehicle.mass_kg": masses[i]}), scalar(3.0))) for i in some
    ]
    assert found[some].tolist() == pytest.approx(alone, rel=1e-12)
    assert np.all(np.diff(found) < 0)


def heavier(drive, mass_kg):
    road = replace(drive.wheels.road, mass_kg=mass_kg)
    return replace(drive, load=replace(drive.wheels, road=road))


@examples(30)
@given(
    st.sampled_from(sorted(MOTORS)).flatmap(lambda kind: builds(kind, plain=True)),
    st.lists(st.floats(0.9, 1.12), min_size=3, max_size=3),
)
def test_variants_near_one_another_are_found_as_if_alone(document, masses):
    drive = compile_drive(check_build(document))
    kilograms = np.array([float(drive.wheels.road.mass_kg) * share for share in (1.0, *masses)])
    many = heavier(drive, kilograms)
    first = float(top_speed_mps(drive, scalar(1.0)))
    assume(0.05 < first < 1e3)
    near = top_speed_mps(many, np.ones(4), np.full(4, first))
    alone = top_speed_mps(many, scalar(1.0))
    assert near.tolist() == pytest.approx(alone.tolist(), rel=1e-5, abs=1e-6)
