"""Launch against an ordinary differential equation, integrated independently."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from core.tests.conftest import document_with
from core.tests.operating.test_full_throttle import circuit_of
from powertrain.arrays import scalar, stack
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.operating.launch import launch
from powertrain.operating.top_speed import top_speed_mps


def integrated(document, to_mps: float) -> tuple[float, float]:
    """Time and distance by Runge-Kutta on Newton's law, with the chopper raised by its duty."""
    circuit = circuit_of(document)
    reduction, eta = 1.0, 1.0
    for stage in document["gearing"]:
        reduction *= stage["driven_teeth"] / stage["driver_teeth"]
        eta *= stage["efficiency"]
    radius = document["wheel"]["rolling_circumference_mm"] / 1000 / (2 * np.pi)
    vehicle, motor = document["vehicle"], document["motor"]
    turning = motor["count"] * motor.get("rotor_inertia_kg_m2", 0) * reduction**2 / radius**2
    mass = vehicle["mass_kg"] * vehicle.get("rotating_mass_factor", 1.0) + turning

    def push(v: float) -> float:
        w = v / radius * reduction
        amps = circuit.motor_a(circuit.full_throttle_duty(w), w)
        return (
            motor["count"]
            * circuit.constant
            * (amps - motor["no_load_current_a"])
            * (reduction * eta / radius)
        )

    def law(_: float, y: np.ndarray) -> list[float]:
        road = vehicle["mass_kg"] * 9.80665 * vehicle["rolling_resistance"]
        road += 0.5 * 1.225 * vehicle["drag_area_m2"] * y[0] ** 2
        return [(push(y[0]) - road) / mass, y[0]]

    def arrives(_: float, y: np.ndarray) -> float:
        return y[0] - to_mps

    arrives.terminal = True
    run = solve_ivp(law, (0, 500), [0.0, 0.0], events=arrives, rtol=1e-9, atol=1e-9, max_step=0.05)
    return float(run.t_events[0][0]), float(run.y_events[0][0][1])


@pytest.mark.parametrize(
    ("changes", "to_kmh"),
    [
        ({}, 20.0),
        ({}, 36.5),
        ({"motor.count": 2, "motor.rotor_inertia_kg_m2": 0.002}, 25.0),
        ({"controller.battery_current_limit_a": None}, 30.0),
        ({"vehicle.rotating_mass_factor": 1.2, "controller.motor_current_limit_a": 40}, 15.0),
    ],
)
def test_agrees_with_an_independent_integration(changes, to_kmh):
    document = document_with(changes)
    run = launch(compile_drive(check_build(document)), scalar(to_kmh / 3.6))
    time_s, distance_m = integrated(document, to_kmh / 3.6)
    assert run.time_s == pytest.approx(time_s, rel=2e-5)
    assert run.distance_m == pytest.approx(distance_m, rel=2e-5)


def test_a_speed_that_is_never_reached_takes_for_ever(drive_with):
    drive = drive_with({})
    top = float(top_speed_mps(drive, scalar(0.0)))
    assert np.isinf(launch(drive, scalar(1.001 * top)).time_s)
    assert np.isfinite(launch(drive, scalar(0.999 * top)).time_s)


def test_peaks_are_the_limits_that_bind(drive_with):
    run = launch(drive_with({}), scalar(30 / 3.6))
    assert run.peak_motor_current_a == pytest.approx(80, rel=1e-12)
    assert run.peak_battery_current_a == pytest.approx(45, rel=1e-12)


def test_many_launches_at_once(drive_with):
    drives = [drive_with({"vehicle.mass_kg": mass}) for mass in (150, 195, 260)]
    together = launch(stack(drives), scalar(5.0))
    alone = [float(launch(drive, scalar(5.0)).time_s) for drive in drives]
    assert together.time_s.tolist() == pytest.approx(alone, rel=1e-12)
    assert alone == sorted(alone)
