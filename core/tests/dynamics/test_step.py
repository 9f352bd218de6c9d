"""A drive in time against closed forms, an integrator of its own equations, and its ledger."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.battery.open_circuit import OpenCircuit
from powertrain.compile.build import compile_build
from powertrain.documents.reading import check_build
from powertrain.dynamics.march import Marcher, flat
from powertrain.dynamics.step import step
from powertrain.dynamics.system_state import Demand, SystemState
from powertrain.heat.nodes import COPPER_PER_K
from powertrain.levers.operations import Turn, carry_out
from powertrain.stated import Stated

FULL = scalar(1.0)
LEVEL = scalar(0.0)
K = 60 / (2 * np.pi * 60)
RATIO = 60 / 16 * 44 / 18
RADIUS = 1.830 / (2 * np.pi)


def trike(**more):
    return check_build(document_with(more))


def marched(build, throttle, grade, *, seconds=0.1, curve=flat, read=()):
    compiled = compile_build(build)
    marcher = Marcher(Stated(build), seconds, curve=curve)
    demand = Demand(np.asarray(throttle, float), np.asarray(grade, float))
    return compiled, marcher.run(SystemState.at_rest(compiled, FULL), demand, read)


def by_hand(time_s, throttle):
    """Return the trike's speed by equations written here, its limits out of the way."""
    ohm = 0.045 + 0.006 + throttle**2 * (13 / 4 * 0.020 + 0.010)

    def changes(_, speed):
        motor_rad_s = speed[0] / RADIUS * RATIO
        amps = max((throttle * 13 * 4.1 - K * motor_rad_s) / ohm, 0.0)
        push_n = (amps - 1.4) * K * RATIO * 0.955 * 0.975 / RADIUS
        return [(push_n - 0.009 * 195 * 9.80665 - 0.5 * 1.225 * 0.85 * speed[0] ** 2) / 195]

    return float(solve_ivp(changes, (0, time_s), [0.0], rtol=1e-10, atol=1e-12).y[0, -1])


UNLIMITED = {
    "controller": {"resistance_ohm": 0.006},
    "vehicle.traction": {"friction": 5.0, "driven_share": 1.0},
}


@pytest.mark.parametrize("throttle", [0.3, 0.7])
@pytest.mark.parametrize("time_s", [1.0, 4.0, 20.0])
def test_speed_of_an_integrator_of_the_same_equations(time_s, throttle):
    # scipy.integrate.solve_ivp on equations written in the test.
    build = trike(**UNLIMITED)
    wanted = by_hand(time_s, throttle)
    errors = []
    for seconds in (0.1, 0.05):
        count = round(time_s / seconds)
        compiled, march = marched(build, np.full(count, throttle), np.zeros(count), seconds=seconds)
        speed = float(compiled.drive.speed_mps(march.ends.output_rad_s)[0])
        errors.append(abs(speed - wanted))
    assert errors[0] < 2e-3 * wanted
    assert errors[1] < 0.35 * errors[0] or errors[1] < 1e-9


def test_every_watt_hour_is_booked():
    throttle = np.clip(0.5 + 0.6 * np.sin(np.arange(6000) / 90), 0.0, 1.0)
    grade = 4 * np.sin(np.arange(6000) / 700)
    compiled, march = marched(trike(), throttle, grade)
    wh = {name: float(value[0]) for name, value in march.wh.items()}
    assert wh["cells"] == pytest.approx(wh["pack_heat"] + wh["terminals"], rel=1e-9)
    motor = wh["copper_heat"] + wh["brush_heat"] + wh["no_load_loss"]
    assert wh["terminals"] == pytest.approx(wh["controller_heat"] + motor + wh["shaft"], rel=1e-9)
    moved = wh["rolling"] + wh["climbing"] + wh["air"] + wh["speeding_up"]
    assert wh["output"] == pytest.approx(moved, rel=1e-9)
    # What sped it up is there as motion, by m v^2/2.
    speed = float(compiled.drive.speed_mps(march.ends.output_rad_s)[0])
    assert wh["speeding_up"] + wh["held"] == pytest.approx(195 * speed**2 / 2 / 3600, rel=1e-9)


def test_charge_is_the_amp_hours_that_left():
    build = trike()
    _, march = marched(build, np.full(3000, 0.8), np.zeros(3000), read=("battery_current_a",))
    amp_hours = march.readings["battery_current_a"][:, 0].sum() * 0.1 / 3600
    assert 1 - float(march.ends.charge[0]) == pytest.approx(amp_hours / 13.6, rel=1e-9)


def test_volts_fall_with_charge_where_a_curve_is_known():
    def usual(compiled):
        return OpenCircuit.usual("li_ion", scalar(13.0))

    build = trike(**{"battery.cell_capacity_ah": 0.5})
    throttle, grade = np.full(3000, 1.0), np.zeros(3000)
    read = ("speed_mps", "battery_voltage_v")
    _, known = marched(build, throttle, grade, curve=usual, read=read)
    _, same = marched(build, throttle, grade, read=read)
    assert np.all(np.diff(same.readings["speed_mps"][1500:, 0]) > -1e-9)
    assert known.readings["speed_mps"][-1, 0] < 0.97 * known.readings["speed_mps"][600, 0]


def test_each_node_begins_where_it_is_said_to():
    # Copper at 120, the rest as cold as the air, no amps: the copper cools into the can.
    compiled = compile_build(trike())
    air = compiled.thermal.ambient_c
    begins = SystemState(LEVEL, FULL, scalar(120.0), air, air, air)
    ends = step(compiled, flat(compiled), begins, Demand(LEVEL, LEVEL), scalar(5.0)).ends
    motor = compiled.thermal.motor
    leaves = float(motor.air.conductance_w_per_k(motor.case_to_air_k_per_w, LEVEL))

    def changes(_, x):
        through = (x[0] - x[1]) / float(motor.winding_to_case_k_per_w)
        return [
            -through / float(motor.winding_j_per_k),
            (through - leaves * (x[1] - 20.0)) / float(motor.case_j_per_k),
        ]

    wanted = solve_ivp(changes, (0, 5), [120.0, 20.0], rtol=1e-10, atol=1e-10).y[:, -1]
    assert [float(ends.winding_c), float(ends.case_c)] == pytest.approx(wanted.tolist(), rel=1e-7)
    assert float(ends.controller_c) == pytest.approx(20.0, abs=0.01)
    assert COPPER_PER_K > 0


def test_it_does_not_roll_back():
    _, march = marched(trike(), np.zeros(50), np.full(50, 10.0))
    assert float(march.ends.output_rad_s[0]) == 0


@pytest.mark.parametrize("kind", ["permanent_magnet", "series_wound", "packaged", "induction"])
def test_a_march_is_so_many_steps(kind):
    build = check_build(carry_out(document_with({}), Turn(do="turn", kind=kind)))
    throttle = np.concatenate([np.full(40, 0.9), np.full(20, 0.2), np.full(20, 1.0)])
    grade = np.where(np.arange(80) < 50, 0.0, 3.0)
    compiled, march = marched(build, throttle, grade)
    state = SystemState.at_rest(compiled, FULL)
    for share, steep in zip(throttle, grade, strict=True):
        demand = Demand(scalar(float(share)), scalar(float(steep)))
        state = step(compiled, flat(compiled), state, demand, scalar(0.1)).ends
    for name, value in vars(state).items():
        found = float(np.ravel(getattr(march.ends, name))[0])
        assert found == pytest.approx(float(value), rel=1e-9), name


def test_variants_march_as_each_alone():
    columns = {
        "vehicle.mass_kg": np.array([150.0, 195.0, 260.0]),
        "motor.resistance_ohm": np.array([0.03, 0.045, 0.07]),
    }
    demand = Demand(np.full(200, 0.9), np.full(200, 1.0))
    many = compile_build(trike(), columns)
    begins = SystemState.at_rest(many, np.ones(3))
    together = Marcher(Stated(trike()), 0.1, columns=columns).run(begins, demand).ends
    for place in range(3):
        one = trike(**{path: values[place] for path, values in columns.items()})
        _, alone = marched(one, demand.throttle, demand.situation)
        for name, value in vars(together).items():
            assert value[place] == pytest.approx(float(getattr(alone.ends, name)[0]), rel=1e-9)


def test_small_motors_do_not_swing_on_long_steps():
    # A model car: its speed settles within a tenth of a second, and a step takes longer.
    build = trike(**{"vehicle.mass_kg": 1.5, "controller": {"resistance_ohm": 0.006}})
    _, march = marched(build, np.full(60, 0.5), np.zeros(60), seconds=0.5, read=("output_rad_s",))
    speeds = march.readings["output_rad_s"][:, 0]
    assert np.all(np.diff(speeds) > -1e-6 * speeds[-1])
    assert speeds[-1] == pytest.approx(speeds[-20], rel=1e-6)
