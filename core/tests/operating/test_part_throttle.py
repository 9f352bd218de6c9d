"""Part throttle against an averaged chopper written in plain numbers, and its two ends."""

import numpy as np
import pytest

from core.tests.conftest import document_with
from core.tests.reference.chopper_by_duty import Circuit
from powertrain.arrays import scalar
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.part_throttle import at_throttle

LEVEL = scalar(0.0)
TRIKE = Circuit(
    open_v=13 * 4.1,
    pack_ohm=13 / 4 * 0.020 + 0.010,
    path_ohm=0.006,
    motor_ohm=0.045,
    constant=60 / (2 * np.pi * 60),
    motors=1,
    motor_limit_a=80.0,
    pack_limit_a=45.0,
)


def drive(**more):
    return compile_drive(check_build(document_with(more)))


@pytest.mark.parametrize("throttle", [0.1, 0.35, 0.6, 0.85, 1.0])
@pytest.mark.parametrize("motor_rad_s", [0.0, 60.0, 150.0, 250.0])
def test_amps_of_an_averaged_chopper(motor_rad_s, throttle):
    # A duty within the limits passes what the circuit says; beyond, the largest duty within them.
    duty = min(throttle, TRIKE.full_throttle_duty(motor_rad_s))
    amps = max(TRIKE.motor_a(duty, motor_rad_s), 0.0)
    one = drive()
    at = at_throttle(one, one.output_rad_s(scalar(motor_rad_s)), LEVEL, scalar(throttle))
    assert float(at.motor_current_a) == pytest.approx(amps, rel=1e-9, abs=1e-9)
    if amps > 0:
        assert float(at.battery_current_a) == pytest.approx(duty * amps, rel=1e-9)


def test_wide_open_is_full_throttle():
    one = drive()
    speeds = np.linspace(0.0, 40.0, 30)
    whole, all_of_it = full_throttle(one, speeds), at_throttle(one, speeds, LEVEL, scalar(1.0))
    for name in ("motor_current_a", "battery_current_a", "output_nm", "limited_by"):
        np.testing.assert_array_equal(getattr(all_of_it, name), getattr(whole, name))


def test_closed_it_drags_with_its_losses_alone():
    one = drive()
    at = at_throttle(one, scalar(10.0), LEVEL, scalar(0.0))
    assert float(at.motor_current_a) == 0
    # k I0 at each motor's shaft, through the stages backwards.
    drag_nm = 60 / (2 * np.pi * 60) * 1.4
    assert float(at.shaft_torque_nm) == pytest.approx(-drag_nm, rel=1e-9)
    assert float(at.output_nm) < -drag_nm


def test_turbo_waits_for_full_throttle():
    turbo = drive(**{"controller.turbo_timing_deg": 20})
    plain, fast = drive(), scalar(36.0)
    shares = np.array([0.9, 0.99])
    np.testing.assert_allclose(
        at_throttle(turbo, fast, LEVEL, shares).motor_current_a,
        at_throttle(plain, fast, LEVEL, shares).motor_current_a,
    )
    wide = at_throttle(turbo, fast, LEVEL, scalar(1.0)).motor_current_a
    assert float(wide) > float(at_throttle(plain, fast, LEVEL, scalar(1.0)).motor_current_a)
