"""Full throttle at a speed: which limit binds, and what flows then."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, scalar
from powertrain.drive import Drive
from powertrain.operating.limits import Limit


@dataclass(frozen=True)
class FullThrottle:
    """The electrical state at full throttle; arrays over whatever was asked."""

    motor_current_a: Array
    battery_current_a: Array
    shaft_torque_nm: Array
    force_n: Array
    limited_by: NDArray[np.int8]


def motor_side_power_w(drive: Drive, speed_rad_s: Array, current_a: Array) -> Array:
    """Return what the controller passes to all motors: n I (V_motor + I R_c)."""
    path_v = drive.motor.voltage_v(speed_rad_s, current_a)
    path_v = path_v + current_a * drive.controller.resistance_ohm
    return drive.motor.count * current_a * path_v


def full_throttle(drive: Drive, speed_mps: Array) -> FullThrottle:
    """Return what the drive does at full throttle and `speed_mps`.

    First the current that the pack's voltage drives at duty 1; then each controller's motor
    current limit; only if the pack's current would *then* exceed its limit, the current at which
    it equals that limit. Above the speed where the current vanishes the motors are overrun:
    they carry none and hold back with their loss torque.

    Parameters
    ----------
    drive : Drive
        One drive or arrays; broadcasts with `speed_mps`.
    speed_mps : array_like
        Speed of the vehicle, at least zero.
    """
    pack, controller, motor = drive.pack, drive.controller, drive.motor
    standby_a, n = controller.standby_a, motor.count
    speed_rad_s = drive.motor_speed_rad_s(speed_mps)

    source_v = pack.voltage_v(standby_a)
    source_ohm = n * pack.resistance_ohm + controller.resistance_ohm
    by_voltage_a = np.maximum(motor.current_at_voltage_a(speed_rad_s, source_v, source_ohm), 0.0)
    held = by_voltage_a > controller.motor_current_limit_a
    current_a = np.minimum(by_voltage_a, controller.motor_current_limit_a)

    chopped_a = pack.current_at_power_a(
        motor_side_power_w(drive, speed_rad_s, current_a), standby_a
    )
    battery_a = np.where(held, chopped_a, n * current_a + standby_a)
    limit_a = controller.battery_current_limit_a
    over = battery_a > limit_a
    if np.any(over):
        with np.errstate(invalid="ignore"):
            share_w = np.where(np.isfinite(limit_a), pack.power_w(limit_a, standby_a) / n, 0.0)
        at_limit_a = motor.current_at_power_a(speed_rad_s, share_w, controller.resistance_ohm)
        current_a = np.where(
            over, np.minimum(at_limit_a, controller.motor_current_limit_a), current_a
        )
        battery_a = np.where(over, limit_a, battery_a)

    torque_nm = motor.shaft_torque_nm(speed_rad_s, current_a)
    limited_by = np.where(over, Limit.BATTERY_CURRENT, np.where(held, Limit.MOTOR_CURRENT, 0))
    return FullThrottle(
        motor_current_a=current_a,
        battery_current_a=battery_a,
        shaft_torque_nm=torque_nm,
        force_n=drive.wheel_force_n(torque_nm),
        limited_by=limited_by.astype(np.int8),
    )


def zero_current_speed_mps(drive: Drive) -> Array:
    """Return the speed at which full throttle drives no current any more."""
    source_v = drive.pack.voltage_v(drive.controller.standby_a)
    return drive.road_speed_mps(drive.motor.speed_at_voltage_rad_s(scalar(0.0), source_v))


def corner_speeds_mps(drive: Drive) -> tuple[Array, Array, Array]:
    """Return the speeds at which one limit can hand over to another, in closed form.

    Motor current to voltage, motor current to pack current, pack current to voltage. A corner
    that does not exist is NaN or below zero; one may also lie where a third limit binds.
    """
    pack, controller, motor = drive.pack, drive.controller, drive.motor
    standby_a, n = controller.standby_a, motor.count
    motor_a, pack_a = controller.motor_current_limit_a, controller.battery_current_limit_a
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        held_v = pack.voltage_v(n * motor_a + standby_a) - motor_a * controller.resistance_ohm
        shared_v = pack.power_w(pack_a, standby_a) / (n * motor_a)
        shared_v = shared_v - motor_a * controller.resistance_ohm
        each_a = (pack_a - standby_a) / n
        spare_v = pack.voltage_v(pack_a) - each_a * controller.resistance_ohm
        speeds = (
            motor.speed_at_voltage_rad_s(motor_a, held_v),
            motor.speed_at_voltage_rad_s(motor_a, shared_v),
            motor.speed_at_voltage_rad_s(each_a, spare_v),
        )
    return tuple(drive.road_speed_mps(speed) for speed in speeds)  # type: ignore[return-value]
