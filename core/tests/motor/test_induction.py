"""The induction machine against a simulation library, a textbook and a search over all flux."""

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_drive
from powertrain.documents.motors import InductionMotor, PermanentMagnetMotor
from powertrain.documents.reading import check_build
from powertrain.motor.induction import DC_PER_PEAK, Induction
from powertrain.motor.kinds import turned
from powertrain.operating.state import state_at_full_throttle
from powertrain.operating.steady import steady
from powertrain.stated import Stated

REFERENCE = Path(__file__).parents[1] / "reference/induction_machine.json"
LIBRARY = json.loads(REFERENCE.read_text())
PLENTY = 1e6

CART = {
    "kind": "induction",
    "stator_poles": 4,
    "stator_resistance_ohm": 0.011,
    "rotor_resistance_ohm": 0.008,
    "leakage_inductance_mh": 0.06,
    "magnetising_inductance_mh": 0.9,
    "magnetising_current_a": 75.0,
    "inverter_current_a": 300.0,
    "top_rpm": 6500.0,
    "drag_torque_nm": 0.6,
}


def machine(parameters, phase_v, **limits):
    """Return the model for constants as the library names them, its iron and amps without limit."""
    given = {"flux_a": PLENTY, "most_a": PLENTY, "top_rad_s": PLENTY, "drag_nm": 0.0, **limits}
    return Induction(
        count=scalar(1.0),
        inertia_kg_m2=scalar(0.0),
        pole_pairs=scalar(parameters["n_p"]),
        stator_ohm=scalar(parameters["R_s"]),
        rotor_ohm=scalar(parameters["R_R"]),
        leakage_h=scalar(parameters["L_sgm"]),
        magnetising_h=scalar(parameters["L_M"]),
        phase_v=scalar(phase_v),
        **{key: scalar(value) for key, value in given.items()},
    )


def of_document(volts, **more):
    return Induction.of(Stated(InductionMotor(**(CART | more)))).fed_by(scalar(volts), scalar(0.0))


def points(of):
    machines = LIBRARY["machines"].values()
    return [(found["parameters"], point) for found in machines for point in found[of]]


@pytest.mark.parametrize(("parameters", "point"), points("points"))
def test_amps_and_watts_at_the_volts_of_a_simulation_library(parameters, point):
    # motulator 0.5.0, InductionMachine; values in reference/induction_machine.json. With iron
    # that never fills, the fewest amps at full volts are those of the smaller of two slips.
    motor = machine(parameters, LIBRARY["phase_v"])
    assert point["slip_rad_s"] > parameters["R_R"] / parameters["L_M"]
    speed, torque = scalar(point["speed_rad_s"]), scalar(point["torque_nm"])
    amps = motor.current_at_torque_a(speed, torque)
    assert float(amps) == pytest.approx(point["peak_a"] * DC_PER_PEAK, rel=1e-7)
    assert float(amps * motor.voltage_v(speed, amps)) == pytest.approx(
        point["terminal_w"], rel=1e-7
    )
    heat_w = motor.copper_heat_w(amps) + motor.brush_heat_w(speed, amps)
    assert float(heat_w + torque * speed) == pytest.approx(point["terminal_w"], rel=1e-7)


@pytest.mark.parametrize(("parameters", "point"), points("breakdown"))
def test_breakdown_torque_of_a_simulation_library(parameters, point):
    # motulator 0.5.0: the greatest torque over all slips at one speed and `phase_v`.
    motor = machine(parameters, LIBRARY["phase_v"])
    speed = scalar(point["speed_rad_s"])
    amps = motor.current_at_voltage_a(speed, scalar(0.0), scalar(0.0))
    torque = motor.shaft_torque_nm(speed, amps)
    assert float(torque) == pytest.approx(point["torque_nm"], rel=1e-7)
    assert float(motor.current_at_torque_a(speed, 2 * torque)) == pytest.approx(float(amps))


def textbook(line_v):
    # 460 V, 60 Hz, four poles, star: R1 0.641, R2 0.332, X1 1.106, X2 0.464, XM 26.3 ohm
    # (Chapman, Electric Machinery Fundamentals 4e, ex. 7-3; from memory). The T circuit's rotor is
    # seen through L_m/(L_m + L_2).
    hertz = 2 * np.pi * 60
    own, rotor, shared = 1.106 / hertz, 0.464 / hertz, 26.3 / hertz
    seen = shared / (shared + rotor)
    return machine(
        {
            "n_p": 2,
            "R_s": 0.641,
            "R_R": 0.332 * seen**2,
            "L_sgm": own + seen * rotor,
            "L_M": shared * seen,
        },
        line_v * np.sqrt(2 / 3),
    )


def test_rated_point_of_a_textbook():
    # Chapman ex. 7-3 (from memory): at 2.2 % slip 18.88 A, 12,530 W in, 62.8 N.m induced.
    motor, speed = textbook(460.0), scalar(1800 * (1 - 0.022) * 2 * np.pi / 60)
    amps = motor.current_at_torque_a(speed, scalar(62.8))
    assert float(amps) / DC_PER_PEAK / np.sqrt(2) == pytest.approx(18.88, rel=0.003)
    assert float(amps * motor.voltage_v(speed, amps)) == pytest.approx(12_530, rel=0.003)
    assert float(motor.copper_heat_w(amps)) == pytest.approx(685, rel=0.004)


def test_pull_out_of_a_textbook():
    # Chapman ex. 7-5 (from memory): pull-out 229 N.m at 1,444 rpm, slip 0.198. An inverter that
    # may choose the frequency does no worse, and a tenth less of volts takes a fifth of torque.
    speed = scalar(1444 * 2 * np.pi / 60)
    amps = textbook(460.0).current_at_voltage_a(speed, scalar(0.0), scalar(0.0))
    most = float(textbook(460.0).shaft_torque_nm(speed, amps))
    assert most > 229
    less = textbook(414.0)
    amps = less.current_at_voltage_a(speed, scalar(0.0), scalar(0.0))
    assert float(less.shaft_torque_nm(speed, amps)) == pytest.approx(0.81 * most, rel=1e-9)


def fewest_amps(motor, speed, product):
    """Return the fewest amps over all flux for a d q, by trying; None where volts allow none."""
    d = np.linspace(1e-3, float(motor.flux_a), 200_001)
    q = product / d
    slip = motor.rotor_ohm * q / (motor.magnetising_h * d)
    stator = motor.pole_pairs * speed + slip
    real = motor.stator_ohm * d - stator * motor.leakage_h * q
    imaginary = motor.stator_ohm * q + stator * (motor.leakage_h + motor.magnetising_h) * d
    allowed = np.hypot(real, imaginary) <= float(motor.phase_v)
    return float(np.hypot(d, q)[allowed].min()) if allowed.any() else None


@pytest.mark.parametrize("share", [0.05, 0.3, 0.7, 0.97])
@pytest.mark.parametrize("speed", [0.0, 40.0, 150.0, 320.0, 650.0])
def test_it_carries_the_fewest_amps_that_iron_and_volts_allow(speed, share):
    motor = of_document(48.0)
    most = float(motor._greatest(scalar(speed)))
    amps = np.hypot(*motor._at_product(scalar(speed), scalar(share * most)))
    assert float(amps) == pytest.approx(fewest_amps(motor, speed, share * most), rel=5e-5)
    if most < float(np.prod(motor._full())):
        assert fewest_amps(motor, speed, 1.0002 * most) is None


def test_amps_torque_and_power_are_one_curve():
    motor = of_document(48.0)
    speeds = np.linspace(0.0, 600.0, 25)[:, None]
    amps = np.array([5.0, 40.0, 120.0, 250.0])
    torque = motor.shaft_torque_nm(speeds, amps)
    reached = motor.current_at_torque_a(speeds, torque)
    bound = motor.current_at_voltage_a(speeds, scalar(48.0), scalar(0.0))
    free = np.broadcast_to(amps, reached.shape) <= bound
    np.testing.assert_allclose(reached[free], np.broadcast_to(amps, reached.shape)[free], rtol=1e-9)
    # A little of path, as a controller would add it.
    taken_w = amps * motor.voltage_v(speeds, amps) + amps * (amps * 0.002 + 0.4)
    again = motor.current_at_power_a(speeds, taken_w, scalar(0.002), scalar(0.4))
    np.testing.assert_allclose(again[free], np.broadcast_to(amps, again.shape)[free], rtol=1e-8)


def test_torque_is_constant_then_falls_with_speed_then_with_its_square():
    motor = of_document(48.0)
    base = float(motor.base_speed_rad_s)
    own = motor.own_current_limit_a

    def most(speed):
        bound = motor.current_at_voltage_a(scalar(speed), scalar(48.0), scalar(0.0))
        return float(motor.shaft_torque_nm(scalar(speed), np.minimum(bound, own))) + 0.6

    d, q = 75 * np.sqrt(2), np.sqrt(2 * 300**2 - 2 * 75**2)
    assert most(0.3 * base) == pytest.approx(1.5 * 2 * 0.9e-3 * d * q, rel=1e-9)
    assert most(0.999 * base) == pytest.approx(most(0.3 * base), rel=1e-9)
    assert most(1.001 * base) < most(0.3 * base)
    # Far above, the breakdown torque goes with 1/w^2.
    far = replace(motor, top_rad_s=scalar(PLENTY), most_a=scalar(PLENTY))
    speeds = np.array([20_000.0, 40_000.0])
    amps = far.current_at_voltage_a(speeds, scalar(48.0), scalar(0.0))
    torque = far.shaft_torque_nm(speeds, amps) + 0.6
    assert torque[0] / torque[1] == pytest.approx(4.0, rel=0.02)


def test_base_speed_goes_with_the_volts_that_the_winding_leaves():
    # With hardly any resistance there is no slip and nothing dropped: in proportion.
    little = {"stator_resistance_ohm": 0.00001, "rotor_resistance_ohm": 0.00001}
    low, high = (float(of_document(volts, **little).base_speed_rad_s) for volts in (48.0, 96.0))
    assert high / low == pytest.approx(2.0, rel=1e-3)
    # |v| = w_s sqrt((L_l q)^2 + (L_s d)^2), by hand.
    d, q = 75 * np.sqrt(2), np.sqrt(2 * 300**2 - 2 * 75**2)
    henries = np.hypot(0.06e-3 * q, 0.96e-3 * d)
    assert low == pytest.approx(48 / np.sqrt(3) / henries / 2, rel=2e-3)
    # As it stands, 3.3 V of 27.7 go into the winding.
    assert float(of_document(48.0).base_speed_rad_s) < 0.9 * low


def cart(**more):
    document = document_with(
        {
            "vehicle.mass_kg": 420,
            "battery.series": 14,
            "battery.parallel": 60,
            "controller": {"resistance_ohm": 0.0},
        }
    )
    document["motor"] = CART | more
    return document


def test_ledger_of_a_cart_closes_at_every_speed():
    drive = compile_drive(check_build(cart()))
    for speed in (1.0, 4.0, 9.0, 12.0):
        held = steady(drive, scalar(speed), scalar(0.0))
        thrown = state_at_full_throttle(drive, drive.output_at_mps(scalar(speed)), scalar(0.0))
        for state in (held, thrown):
            left_w = state.terminals_w - state.controller_heat_w - state.motor_heat_w
            assert float(left_w) == pytest.approx(float(state.shaft_w), rel=1e-6)
            stages_w = float(np.sum(state.stage_losses_w))
            assert float(state.shaft_w) - stages_w == pytest.approx(float(state.output_w), rel=1e-9)


def test_the_bench_answers_for_it():
    answer = solve(check_build(cart()))
    top = next(moment for moment in answer.moments if moment.id == "top_speed")
    assert top.state is not None
    # By hand: what rolls and what the air takes at that speed is what the shaft brings.
    speed = top.state.speed_mps
    taken_n = 0.009 * 420 * 9.80665 + 0.5 * 1.225 * 0.85 * speed**2
    assert top.state.force_n == pytest.approx(taken_n, rel=1e-6)
    assert 1700 < top.state.motor_rpm < 6500
    assert top.state.motor_current_a < 300 * np.sqrt(2) * DC_PER_PEAK


def test_a_motor_turned_into_one_is_about_as_strong():
    # A third of the stall torque k V/R, seven tenths of the free speed V/k (common practice).
    brushless = PermanentMagnetMotor(
        kind="permanent_magnet", kv_rpm_per_v=60.0, resistance_ohm=0.02, no_load_current_a=0.0
    )
    constants = turned(Stated(brushless), "induction", 48.0)
    motor = of_document(48.0, **constants)
    k = 60 / (2 * np.pi) / 60.0
    torque = float(np.prod(motor._full()) * motor._torque_per_square())
    assert torque == pytest.approx(k * 48.0 / 0.02 / 3, rel=0.2)
    assert float(motor.base_speed_rad_s) == pytest.approx(0.7 * 48.0 / k, rel=0.35)
