"""The engine against values from outside it; sources stand in reference/SOURCES.md."""

import math

import fluids
import numpy as np
import pint
import pytest

from powertrain import units
from powertrain.arrays import scalar
from powertrain.battery.pack import Pack
from powertrain.constants import STANDARD_GRAVITY_MPS2
from powertrain.documents.battery import Battery
from powertrain.documents.motors import PermanentMagnetMotor
from powertrain.load.air import density_kg_m3
from powertrain.motor.permanent_magnet import PermanentMagnet
from powertrain.operating.free import free_running
from powertrain.operating.top_speed import top_speed
from powertrain.stated import Stated
from powertrain.units import torque_constant_nm_per_a

U = pint.UnitRegistry()


def motor(kv: float, ohm: float, no_load_a: float = 0.0) -> PermanentMagnet:
    return PermanentMagnet.of(
        Stated(
            PermanentMagnetMotor(
                kind="permanent_magnet",
                kv_rpm_per_v=kv,
                resistance_ohm=ohm,
                no_load_current_a=no_load_a,
            )
        )
    )


def test_torque_constant_is_the_inverse_of_kv():
    # SI identity, by a units library: 1/KV in V.s/rad is the same number in N.m/A.
    for kv in (60.0, 880.0, 3000.0):
        in_si = (1 / (kv * U.rpm / U.volt)).to(U.newton * U.meter / U.ampere / U.radian)
        assert torque_constant_nm_per_a(kv) == pytest.approx(in_si.magnitude, rel=1e-12)
    assert torque_constant_nm_per_a(1.0) == pytest.approx(9.5493, abs=5e-5)


@pytest.mark.parametrize(
    ("convert", "value", "given", "wanted"),
    [
        (units.rpm_from_rad_s, 100.0, "rad/s", "rpm"),
        (units.mps_from_kmh, 18.0, "km/hour", "m/s"),
        (units.kmh_from_mps, 5.0, "m/s", "km/hour"),
    ],
)
def test_conversions_agree_with_a_units_library(convert, value, given, wanted):
    assert convert(value) == pytest.approx(U.Quantity(value, given).to(wanted).magnitude, rel=1e-12)


def test_standard_gravity():
    assert U.Quantity(1, "standard_gravity").to("m/s^2").magnitude == STANDARD_GRAVITY_MPS2


def test_permanent_magnet_machine_of_a_simulation_library():
    # gym-electric-motor 3.0.3: r_a 0.1, psi_e 0.1, 48 V, 5 N.m -> 50.0 A, 430.0 rad/s.
    machine = motor(units.rpm_from_rad_s(1.0) / 0.1, 0.1)
    current = machine.current_at_torque_a(scalar(0.0), scalar(5.0))
    assert current == pytest.approx(50.0, abs=0.05)
    speed = machine.speed_at_voltage_rad_s(current, scalar(48.0))
    assert speed == pytest.approx(430.0, abs=0.05)
    back = machine.current_at_voltage_a(speed, scalar(48.0), scalar(0.0))
    assert back == pytest.approx(50.0, abs=0.05)


@pytest.mark.parametrize(
    ("amps", "rpm", "torque"), [(95, 1173, 190), (195, 1144, 388), (295, 1115, 587)]
)
def test_constant_flux_machine_of_a_textbook(amps, rpm, torque):
    # Chapman 4e, ex. 9-1 (from memory); 0.6 % for the rounding of the book's steps.
    machine = motor(1200 / 250, 0.06)
    speed = machine.speed_at_voltage_rad_s(scalar(amps), scalar(250.0))
    assert units.rpm_from_rad_s(speed) == pytest.approx(rpm, rel=0.006)
    assert machine.shaft_torque_nm(speed, scalar(amps)) == pytest.approx(torque, rel=0.006)


def test_greatest_power_and_efficiency_of_the_linear_motor():
    # Closed forms, for a motor on a stiff 48 V source.
    volts, no_load_a = 48.0, 2.0
    machine = motor(100.0, 0.08, no_load_a)
    stall_a = volts / 0.08
    speeds = np.linspace(0, volts * 100.0 / units.rpm_from_rad_s(1.0), 20001)
    amps = machine.current_at_voltage_a(speeds, scalar(volts), scalar(0.0))
    shaft_w = machine.shaft_torque_nm(speeds, amps) * speeds
    k = torque_constant_nm_per_a(100.0)
    stall_torque, free_speed = k * (stall_a - no_load_a), (volts - no_load_a * 0.08) / k
    assert shaft_w.max() == pytest.approx(stall_torque * free_speed / 4, rel=1e-6)
    with np.errstate(divide="ignore", invalid="ignore"):
        efficiency = np.where(amps > no_load_a, shaft_w / (volts * amps), 0.0)
    assert efficiency.max() == pytest.approx((1 - math.sqrt(no_load_a / stall_a)) ** 2, rel=1e-6)


def test_cell_under_current_of_a_battery_library():
    # thevenin 0.2.1: OCV 3 + 1.2 soc, 10 Ah, 10 mohm, 20 A from soc 0.9: 3.88 V at once, and
    # 3.48 V after 600 s, in which a third of its charge is gone.
    for soc, volts in ((0.9, 3.88), (0.9 - 20 * 600 / 3600 / 10, 3.48)):
        cell = Pack.of(
            Stated(
                Battery(
                    chemistry="li_ion",
                    series=1,
                    cell_capacity_ah=10.0,
                    cell_resistance_mohm=10.0,
                    cell_voltage_v=3 + 1.2 * soc,
                )
            )
        )
        assert cell.voltage_v(scalar(20.0)) == pytest.approx(volts, abs=5e-3)


def test_cell_under_power_of_a_battery_library():
    # thevenin 0.2.1: 100 W from 3.6 V behind 10 mohm -> 30.3337 A, 3.29666 V.
    cell = Pack.of(
        Stated(
            Battery(
                chemistry="li_ion",
                series=1,
                cell_capacity_ah=10.0,
                cell_resistance_mohm=10.0,
                cell_voltage_v=3.6,
            )
        )
    )
    current = cell.current_at_power_a(scalar(100.0), scalar(0.0))
    assert current == pytest.approx(30.3337, abs=5e-5)
    assert cell.voltage_v(current) == pytest.approx(3.29666, abs=5e-6)


def test_rpm_is_kv_times_volts(drive_with):
    # Common practice, no source: 1,800 x 12 -> 21,600 rpm, without losses.
    ideal = {
        "motor.kv_rpm_per_v": 1800,
        "motor.no_load_current_a": 0,
        "battery.series": 3,
        "battery.cell_voltage_v": 4.0,
    }
    assert free_running(drive_with(ideal)).now.motor_rpm == pytest.approx(21600, rel=1e-12)


def test_rpm_goes_with_volts(drive_with):
    # Common practice, no source: 2,750 rpm at 24 V -> 4,125 at 36 V.
    rpm = []
    for cells in (6, 9):
        volts = {"battery.series": cells, "battery.cell_voltage_v": 4.0}
        ideal = {"motor.kv_rpm_per_v": 2750 / 24, "motor.no_load_current_a": 0, **volts}
        rpm.append(float(free_running(drive_with(ideal)).now.motor_rpm))
    assert rpm == pytest.approx([2750, 4125], rel=1e-12)


def test_road_speed_of_a_geared_wheel(drive_with):
    # Common practice, no source: 2,500 rpm, 15:44 teeth, 0.798 m -> 40.8 km/h.
    drive = drive_with(
        {
            "gearing": [
                {"kind": "chain", "driver_teeth": 15, "driven_teeth": 44, "efficiency": 1.0}
            ],
            "wheel.rolling_circumference_mm": 798,
        }
    )
    speed = drive.speed_mps(drive.output_rad_s(2500 / units.rpm_from_rad_s(1.0)))
    assert units.kmh_from_mps(speed) == pytest.approx(40.8, abs=0.05)


def test_road_speed_of_a_hub_motor(drive_with):
    # Common practice, no source: 260 rpm on a 26 in wheel -> 20.1 mph.
    drive = drive_with({"gearing": [], "wheel.rolling_circumference_mm": math.pi * 26 * 25.4})
    mph = U.Quantity(
        float(drive.speed_mps(drive.output_rad_s(260 / units.rpm_from_rad_s(1.0)))), "m/s"
    ).to("mph")
    assert mph.magnitude == pytest.approx(20.1, abs=0.05)


def test_efficiencies_of_the_trade(drive_with):
    # Common practice, no source: brushless motors pass on about 85-90 % of what they take.
    state = top_speed(drive_with({}), scalar(0.0))
    electrical_w = state.motor_voltage_v * state.motor_current_a
    assert 0.85 <= state.shaft_w / electrical_w <= 0.92


@pytest.mark.parametrize("metres", [0.0, 1000.0, 2000.0, 4500.0])
def test_air_thins_as_an_atmosphere_library_has_it(metres):
    # fluids 1.3.1, standard atmosphere of 1976 at geometric height (1,000 m: 1.11166 kg/m3).
    standard = fluids.ATMOSPHERE_1976(metres)
    seen = float(density_kg_m3(metres, standard.T - 273.15))
    assert seen == pytest.approx(standard.rho, rel=2e-5)


def test_height_sets_the_air_of_a_build(drive_with):
    # ISO 2533 (from memory): 1.2250 kg/m3 at the sea and 15 C.
    sea = drive_with({"conditions": {"altitude_m": 0, "ambient_c": 15}})
    assert float(sea.wheels.road.air_density_kg_m3) == pytest.approx(1.2250, abs=5e-5)
    up = drive_with({"conditions": {"altitude_m": 2000, "ambient_c": 2}})
    assert float(up.wheels.road.air_density_kg_m3) == pytest.approx(1.0065, abs=5e-4)
    # Dry air at 30 C: 1.164 kg/m3 (handbook value, from memory).
    warm = drive_with({"conditions": {"ambient_c": 30}})
    assert float(warm.wheels.road.air_density_kg_m3) == pytest.approx(1.164, abs=1e-3)
    # What is stated wins.
    both = {"conditions": {"altitude_m": 2000, "ambient_c": 2, "air_density_kg_m3": 1.1}}
    assert drive_with(both).wheels.road.air_density_kg_m3 == 1.1
    assert drive_with({"conditions": {}}).wheels.road.air_density_kg_m3 == 1.225
