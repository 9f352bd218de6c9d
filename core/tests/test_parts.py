"""Each part by itself, against numbers worked out by hand."""

import math

import numpy as np
import pytest

from powertrain.arrays import scalar, stack, with_axis
from powertrain.battery.pack import Pack
from powertrain.transmission.train import Train


def test_pack_resistance_and_volts_by_hand(drive_with):
    pack = drive_with({}).pack
    # 13/4 x 20 mohm + 10 mohm; 13 x 4.1 V; 13 x 4.20 V at the end of charge.
    assert pack.resistance_ohm == pytest.approx(0.075)
    assert pack.open_circuit_v == pytest.approx(53.3)
    assert pack.charger_v == pytest.approx(54.6)
    assert pack.voltage_v(scalar(45.0)) == pytest.approx(49.925)


def test_the_most_a_pack_can_give_is_at_half_its_volts(drive_with):
    pack = drive_with({}).pack
    most_w = pack.greatest_power_w(scalar(0.0))
    assert most_w == pytest.approx(53.3**2 / 4 / 0.075)
    current = pack.current_at_power_a(most_w, scalar(0.0))
    assert pack.voltage_v(current) == pytest.approx(53.3 / 2, rel=1e-6)


def test_power_from_a_pack_without_resistance_is_plain_division():
    stiff = Pack(*map(scalar, (50.0, 0.0, 52.0, 48.0, 10.0, 1.0, 5.0)))
    assert stiff.current_at_power_a(scalar(500.0), scalar(0.2)) == pytest.approx(10.2)


def test_a_train_multiplies_ratios_and_losses(drive_with):
    train = drive_with({}).train
    assert train.ratio == pytest.approx(60 / 16 * 44 / 18)
    assert train.efficiency == pytest.approx(0.955 * 0.975)
    losses = train.stage_losses_w(scalar(1000.0))
    assert [float(loss) for loss in losses] == pytest.approx([45.0, 955 * 0.025])


def test_a_wheel_that_drives_pays_the_losses_the_other_way(drive_with):
    train = drive_with({}).train
    # 100 W at the wheel's side leave 100 x .975 x .955 at the shaft.
    losses = train.stage_losses_w(scalar(-100 * 0.975 * 0.955))
    assert sum(float(loss) for loss in losses) == pytest.approx(100 * (1 - 0.975 * 0.955))
    for torque in (3.0, -3.0):
        there = train.wheel_torque_nm(scalar(torque))
        assert train.shaft_torque_nm(there) == pytest.approx(torque, rel=1e-14)


def test_a_hub_motor_has_no_train():
    empty = Train((), ())
    assert (float(empty.ratio), float(empty.efficiency)) == (1.0, 1.0)
    assert empty.stage_losses_w(scalar(500.0)) == ()


@pytest.mark.parametrize(
    ("speed", "wind", "force"),
    [(5.0, 0.0, 13.015625), (5.0, 5.0, 52.0625), (5.0, -10.0, -13.015625)],
)
def test_air_drag_goes_with_the_square_and_turns_with_the_wind(drive_with, speed, wind, force):
    # 0.5 x 1.225 x 0.85 x v|v|.
    road = drive_with({"conditions.headwind_mps": wind}).wheels.road
    assert road.air_n(scalar(speed)) == pytest.approx(force)


def test_grade_is_a_tangent(drive_with):
    road = drive_with({}).wheels.road
    weight = 195 * 9.80665
    assert road.climbing_n(scalar(100.0)) == pytest.approx(weight / math.sqrt(2))
    assert road.rolling_n(scalar(100.0)) == pytest.approx(weight * 0.009 / math.sqrt(2))
    assert road.climbing_n(scalar(-8.0)) == pytest.approx(-float(road.climbing_n(scalar(8.0))))


def test_spinning_parts_count_with_the_square_of_the_reduction(drive_with):
    heavy = drive_with(
        {
            "motor.count": 2,
            "motor.rotor_inertia_kg_m2": 0.001,
            "wheel.inertia_kg_m2": 0.2,
            "vehicle.rotating_mass_factor": 1.1,
        }
    )
    radius, reduction = 1.83 / (2 * math.pi), 60 / 16 * 44 / 18
    wanted = 195 * 1.1 + (0.2 + 2 * 0.001 * reduction**2) / radius**2
    assert heavy.inertia_kg_m2 / heavy.load.travel_m**2 == pytest.approx(wanted, rel=1e-12)


def test_stacked_parts_keep_their_order_and_take_another_axis(drive_with):
    drives = stack([drive_with({"vehicle.mass_kg": mass}) for mass in (100, 200, 300)])
    assert drives.wheels.road.mass_kg.tolist() == [100, 200, 300]
    forces = with_axis(drives).wheels.road.force_n(np.array([0.0, 5.0]), scalar(0.0))
    assert forces.shape == (3, 2)
    assert np.all(np.diff(forces, axis=0) > 0)


def test_parts_of_different_kinds_do_not_stack(drive_with):
    drive = drive_with({})
    with pytest.raises(TypeError):
        stack([drive.pack, drive.load])
