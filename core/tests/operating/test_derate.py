"""The hobby formula by hand, and the load factor that the physics implies."""

import pytest

from powertrain.arrays import scalar
from powertrain.operating.derate import derated_rpm, implied_load_factor
from powertrain.operating.top_speed import top_speed


def test_by_hand(drive_with):
    # Common practice, no source: 60 KV x (53.3 V - 20 A x 75 mohm) x 0.9.
    rpm = derated_rpm(drive_with({}), scalar(20.0), scalar(0.1))
    assert rpm == pytest.approx(60 * (53.3 - 20 * 0.075) * 0.9, rel=1e-12)


def test_no_current_and_no_factor_is_kv_times_volts(drive_with):
    ideal = {"motor.kv_rpm_per_v": 1800, "battery.series": 3, "battery.cell_voltage_v": 4.0}
    assert derated_rpm(drive_with(ideal), scalar(0.0), scalar(0.0)) == pytest.approx(21600)


def test_the_implied_factor_gives_the_rpm_of_the_physics(drive_with):
    drive = drive_with({})
    state = top_speed(drive, scalar(0.0))
    factor = implied_load_factor(drive, state)
    # 16.75 A through motor and controller, 51 mohm, of 52.04 V: 1.6 %.
    assert factor == pytest.approx(16.7475 * 0.051 / 52.0439, rel=1e-4)
    assert derated_rpm(drive, state.battery_current_a, factor) == pytest.approx(
        float(state.motor_rpm), rel=1e-12
    )


def test_volts_that_the_brushes_take_turn_nothing_backwards(drive_with):
    # 710 A through 75 mohm leave 53.3 - 53.25 = 0.05 V, and brushes that drop 0.8 V all of it.
    brushed = drive_with({"motor.brush_drop_v": 0.8})
    assert derated_rpm(brushed, scalar(710.0), scalar(0.1)) == 0
