"""Full throttle against a chopper whose duty is raised until a limit is met."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.tests.reference.chopper_by_duty import Circuit
from core.tests.strategies import MOTORS, builds
from ops.draws import examples
from powertrain.arrays import scalar, stack
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.operating.free import held as held_fast
from powertrain.operating.full_throttle import corner_speeds_rad_s, without_idle_grip
from powertrain.operating.limits import Limit
from powertrain.operating.on_road import fastest_mps, full_throttle_at, push_n


def circuit_of(document) -> Circuit:
    battery, motor, controller = document["battery"], document["motor"], document["controller"]
    cells_ohm = battery["series"] / battery["parallel"] * battery["cell_resistance_mohm"] / 1000
    return Circuit(
        open_v=battery["series"] * battery["cell_voltage_v"],
        pack_ohm=cells_ohm + battery["wiring_resistance_mohm"] / 1000,
        path_ohm=controller["resistance_ohm"],
        motor_ohm=motor["resistance_ohm"],
        constant=60 / (2 * math.pi * motor["kv_rpm_per_v"]),
        motors=motor["count"],
        motor_limit_a=controller.get("motor_current_limit_a", math.inf),
        pack_limit_a=controller.get("battery_current_limit_a", math.inf),
        standby_a=controller.get("standby_current_a", 0.0),
        brush_v=motor.get("brush_drop_v", 0.0) + controller.get("switching_loss_v", 0.0),
    )


@examples(150)
@given(builds("permanent_magnet", plain=True), st.floats(0, 0.98))
def test_agrees_with_raising_the_duty(document, share):
    drive = held_fast(compile_drive(check_build(document)))
    speed_mps = share * float(fastest_mps(drive))
    speed_rad_s = float(drive.motor_rad_s(drive.output_at_mps(scalar(speed_mps))))
    circuit = circuit_of(document)
    if speed_mps <= 0 or circuit.motors * circuit.pack_ohm > circuit.motor_ohm + circuit.path_ohm:
        return  # Past the pack's greatest power more duty gives less current: no first limit.
    duty = circuit.full_throttle_duty(speed_rad_s)
    at = full_throttle_at(drive, scalar(speed_mps))
    wanted = max(0.0, circuit.motor_a(duty, speed_rad_s))
    assert at.motor_current_a == pytest.approx(wanted, rel=1e-6, abs=1e-6)
    if wanted > 1e-3:
        pack = circuit.pack_a(duty, speed_rad_s)
        assert at.battery_current_a == pytest.approx(pack, rel=1e-6, abs=1e-6)


def test_each_limit_binds_where_it_should(drive_with):
    drive = drive_with({})
    speeds = np.array([0.0, 12.0, 25.0, 36.0]) / 3.6
    limits = [Limit(code) for code in full_throttle_at(drive, speeds).limited_by]
    assert limits == [
        Limit.MOTOR_CURRENT,
        Limit.MOTOR_CURRENT,
        Limit.BATTERY_CURRENT,
        Limit.VOLTAGE,
    ]


def test_absent_limits_do_not_bind(drive_with):
    drive = drive_with(
        {
            "controller.motor_current_limit_a": None,
            "controller.battery_current_limit_a": None,
            "vehicle.traction": {"friction": 5},
        }
    )
    at = full_throttle_at(drive, scalar(0.0))
    # Stall: 53.3 V through pack 75 mohm, path 6 mohm and motor 45 mohm.
    assert at.motor_current_a == pytest.approx(53.3 / (0.075 + 0.006 + 0.045), rel=1e-12)
    assert at.limited_by == Limit.VOLTAGE


def test_corners_are_where_the_limits_hand_over(drive_with):
    drive = drive_with({})
    corners = [float(drive.speed_mps(one)) for one in corner_speeds_rad_s(drive)]
    inside = [corner for corner in corners if corner > 0]
    found = {
        (
            int(full_throttle_at(drive, scalar(corner * (1 - 1e-6))).limited_by),
            int(full_throttle_at(drive, scalar(corner * (1 + 1e-6))).limited_by),
        )
        for corner in inside
    }
    assert (Limit.MOTOR_CURRENT, Limit.BATTERY_CURRENT) in found
    assert (Limit.BATTERY_CURRENT, Limit.VOLTAGE) in found


@examples(60)
@given(builds(), st.floats(0.3, 0.99), st.floats(0, 1))
def test_a_lower_limit_never_raises_what_it_limits(document, share, place):
    free = {**document, "controller": {"resistance_ohm": 0.005}}
    drive = compile_drive(check_build(free))
    speed = scalar(place * float(fastest_mps(drive)))
    before = full_throttle_at(drive, speed)
    for key, value in (
        ("motor_current_limit_a", float(before.motor_current_a)),
        ("battery_current_limit_a", float(before.battery_current_a)),
    ):
        if value < 0.2:
            continue
        lower = {**free, "controller": {**free["controller"], key: share * value}}
        after = full_throttle_at(compile_drive(check_build(lower)), speed)
        amps = after.motor_current_a if "motor" in key else after.battery_current_a
        assert amps <= value * (1 + 1e-12)


@examples(25)
@given(
    st.sampled_from(sorted(MOTORS)).flatmap(
        lambda kind: st.lists(builds(kind, plain=True), min_size=2, max_size=5)
    )
)
def test_alone_or_in_an_array_is_the_same(documents):
    for document in documents:
        document["gearing"] = documents[0]["gearing"]
    drives = [compile_drive(check_build(document)) for document in documents]
    together = full_throttle_at(stack(drives), np.full(len(drives), 2.5))
    for index, drive in enumerate(drives):
        alone = full_throttle_at(drive, scalar(2.5))
        assert together.force_n[index] == pytest.approx(float(alone.force_n), rel=1e-12)
        assert together.limited_by[index] == alone.limited_by


@examples(300)
@given(builds(), st.floats(0, 1), st.floats(-30, 30))
def test_push_is_greatest_at_rest_so_that_one_look_tells_of_grip(document, share, grade):
    drive = compile_drive(check_build(document))
    speeds = np.array([0.0, share]) * min(float(fastest_mps(drive)), 200.0)
    free = held_fast(drive)
    at_rest_n, further_n = push_n(free, np.abs(speeds))
    assert further_n <= at_rest_n + 1e-9 * abs(at_rest_n) + 1e-9
    # Wherever grip is left out, it would have changed nothing.
    spared = without_idle_grip(drive, scalar(abs(grade)))
    for slope in (0.0, grade, abs(grade)):
        told = full_throttle_at(drive, np.abs(speeds), scalar(slope))
        assert full_throttle_at(spared, np.abs(speeds), scalar(slope)).force_n == pytest.approx(
            told.force_n, rel=1e-12
        )
