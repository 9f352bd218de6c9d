"""Everything that can be read off a drive at one moment, watt by watt from cells to road."""

from dataclasses import dataclass, replace
from functools import reduce

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled, floats, is_traced, scalar, shape_of, somewhere
from powertrain.drive import Drive
from powertrain.operating.full_throttle import (
    FullThrottle,
    fastest_rad_s,
    full_throttle,
    motor_side_power_w,
)
from powertrain.operating.limits import Limit
from powertrain.units import rpm_from_rad_s

ONE = scalar(1.0)

POWER_POINTS = 160
"""Speeds at which the greatest power is looked for."""


ROUNDING = 1e-9


@dataclass(frozen=True)
class State:
    """One operating state, or arrays of them. Motor values are of one motor, watts of all.

    The ledger closes at every part: ``cells_w - pack_heat_w = terminals_w``, less
    ``controller_heat_w``, the motors' heats and ``auxiliaries_w`` ``= shaft_w``, less
    ``stage_losses_w`` ``= output_w``, which is what the load takes, brakes and speeding up
    together. `gear` is the factor of the gear engaged, one where there is no gearbox.
    """

    speed_mps: Array
    """Of what the output shaft moves."""
    situation: Array
    motor_rpm: Array
    output_rad_s: Array
    motor_current_a: Array
    battery_current_a: Array
    battery_voltage_v: Array
    motor_voltage_v: Array
    duty: Array
    shaft_torque_nm: Array
    output_torque_nm: Array
    force_n: Array
    cells_w: Array
    pack_heat_w: Array
    terminals_w: Array
    controller_heat_w: Array
    copper_heat_w: Array
    brush_heat_w: Array
    no_load_loss_w: Array
    auxiliaries_w: Array
    """What runs along, from the pack and off the shaft."""
    shaft_w: Array
    stage_losses_w: tuple[Array, ...]
    output_w: Array
    useful_w: Array
    """What of it does what the drive is for."""
    taken_w: tuple[Array, ...]
    """What each of the load's `takes` takes."""
    brakes_w: Array
    """What brakes hold back beside the motors, where those may not push more into the pack."""
    speeding_up_w: Array
    limited_by: NDArray[np.int8]
    gear: Array

    @property
    def efficiency(self) -> Array:
        """Useful power over power at the pack's terminals; NaN where the drive does not push."""
        pushes = (self.terminals_w > 0) & (self.useful_w >= -ROUNDING * self.terminals_w)
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            share = self.useful_w / self.terminals_w
        # Of next to nothing that is drawn while the hill does the work there is none, either.
        # Of a shaft that turns free the watts are nought, whatever the last digit says.
        share = np.where(np.abs(share) < ROUNDING, 0.0, share)
        return np.where(pushes & (share <= 1 + ROUNDING), share, np.nan)

    @property
    def motor_heat_w(self) -> Array:
        """All heat of all motors."""
        return self.copper_heat_w + self.brush_heat_w + self.no_load_loss_w


def state_at(
    drive: Drive,
    output_rad_s: Array,
    situation: Array,
    motor_current_a: Array,
    battery_current_a: Array,
    limited_by: NDArray[np.int8],
    gear: Array = ONE,
) -> State:
    """Return the whole state of a drive whose currents at a speed are known, in `gear`.

    What the torque exceeds the load's by speeds it up and is booked as such.
    """
    drive = drive.in_gear(gear)
    pack, motor, n = drive.pack, drive.motor, drive.motor.count
    output_rad_s, situation = floats(output_rad_s), floats(situation)
    motor_rad_s = drive.motor_rad_s(output_rad_s)
    torque_nm = motor.shaft_torque_nm(motor_rad_s, motor_current_a)
    output_nm = drive.output_nm(torque_nm)
    battery_current_a, auxiliaries_w = _with_auxiliaries(drive, motor_rad_s, battery_current_a)
    own_a = drive.controller.standby_a - drive.controller.fed_a
    battery_v = pack.voltage_v(battery_current_a)
    motor_v = motor.voltage_v(motor_rad_s, motor_current_a)
    path_drop_v = drive.controller.path_drop_v(motor_current_a)
    path_v = motor_v + path_drop_v
    path_heat_w = n * motor_current_a * path_drop_v
    shaft_w = n * torque_nm * motor_rad_s
    output_w = output_nm * output_rad_s
    taken_w = drive.load.parts_w(output_rad_s, situation)
    with np.errstate(divide="ignore", invalid="ignore"):
        duty = np.where(battery_v > 0, np.minimum(path_v / battery_v, 1.0), 1.0)
    return State(
        speed_mps=drive.load.speed_mps(output_rad_s, situation),
        situation=situation,
        motor_rpm=rpm_from_rad_s(motor_rad_s),
        output_rad_s=output_rad_s,
        motor_current_a=motor_current_a,
        battery_current_a=battery_current_a,
        battery_voltage_v=battery_v,
        motor_voltage_v=motor_v,
        duty=duty,
        shaft_torque_nm=torque_nm,
        output_torque_nm=output_nm,
        force_n=drive.load.force_n(output_nm, output_rad_s, situation),
        cells_w=pack.open_circuit_v * battery_current_a,
        pack_heat_w=battery_current_a**2 * pack.resistance_ohm,
        terminals_w=battery_v * battery_current_a,
        controller_heat_w=path_heat_w + battery_v * own_a,
        copper_heat_w=n * motor.copper_heat_w(motor_current_a),
        brush_heat_w=n * motor.brush_heat_w(motor_rad_s, motor_current_a),
        no_load_loss_w=n * motor.no_load_loss_w(motor_rad_s, motor_current_a),
        auxiliaries_w=auxiliaries_w,
        shaft_w=shaft_w,
        stage_losses_w=drive.train.stage_losses_w(shaft_w),
        output_w=output_w,
        useful_w=drive.load.useful_w(output_w, taken_w),
        taken_w=taken_w,
        brakes_w=np.zeros_like(output_w),
        speeding_up_w=reduce(np.subtract, taken_w, output_w),
        limited_by=limited_by,
        gear=gear,
    )


def _with_auxiliaries(
    drive: Drive, motor_rad_s: Array, battery_current_a: Array
) -> tuple[Array, Array]:
    """Return the pack's amps with what runs along at the volts of the moment, and its watts."""
    along, controller, pack = drive.auxiliaries, drive.controller, drive.pack
    if along is None:
        return battery_current_a, motor_rad_s * 0.0
    # The amps come with what runs along at other volts; what the motors get stays as it is.
    motors_w = pack.power_w(battery_current_a, controller.standby_a)
    own_a = controller.standby_a - controller.fed_a
    amps = pack.current_at_power_a(motors_w + along.pack_w, own_a)
    return amps, along.pack_w + along.shaft_nm(motor_rad_s) * motor_rad_s


def state_at_full_throttle(drive: Drive, output_rad_s: Array, situation: Array) -> State:
    """Return the state at full throttle and a speed, with what is left for speeding up."""
    at = full_throttle(drive, output_rad_s, situation)
    return state_of(drive, output_rad_s, situation, at)


def state_of(drive: Drive, output_rad_s: Array, situation: Array, at: FullThrottle) -> State:
    """Return the state at a full throttle that is known already."""
    amps, pack_a = at.motor_current_a, at.battery_current_a
    opened = drive.wide_open()
    return state_at(opened, output_rad_s, situation, amps, pack_a, at.limited_by, at.gear)


def greatest_power(drive: Drive) -> tuple[Array, Array]:
    """Return the greatest watts of all shafts at full throttle on the level, and the motor's rpm.

    Both have the shape of the drives; NaN for a drive that would turn ever faster.
    """
    fastest = filled(fastest_rad_s(drive), shape_of(drive))
    ends = np.isfinite(fastest) & (fastest > 0)
    points = np.linspace(0.0, 1.0, POWER_POINTS).reshape(-1, *[1] * fastest.ndim)
    speeds: Array = points * np.where(ends, fastest, 1.0)
    states = state_at_full_throttle(drive, speeds, np.zeros(speeds.shape))
    at = np.argmax(states.shaft_w, axis=0, keepdims=True)
    found = (
        np.take_along_axis(filled(of, speeds.shape), at, axis=0)[0]
        for of in (states.shaft_w, states.motor_rpm)
    )
    watts, rpm = (np.where(ends, value, np.nan) for value in found)
    return watts, rpm


def state_at_torque(
    drive: Drive, output_rad_s: Array, situation: Array, output_nm: Array, gear: Array = ONE
) -> State:
    """Return the part-throttle state that gives a torque at a speed, limits not asked."""
    drive = drive.in_gear(gear)
    speed_rad_s = drive.motor_rad_s(output_rad_s)
    current_a = drive.motor.current_at_torque_a(speed_rad_s, drive.shaft_torque_for_nm(output_nm))
    standby_a = drive.controller.standby_a
    power_w = motor_side_power_w(drive, speed_rad_s, current_a)
    battery_a = drive.pack.current_at_power_a(power_w, standby_a)
    nothing = np.full(np.shape(current_a), Limit.NOTHING, np.int8)
    most_a = np.minimum(drive.controller.regen_limit_a, drive.pack.charge_a)
    over = battery_a < -most_a
    if is_traced(over) or not somewhere(over):
        return state_at(drive, output_rad_s, situation, current_a, battery_a, nothing, gear)
    current_a, battery_a = within_charge(drive, speed_rad_s, current_a, battery_a, most_a)
    state = state_at(drive, output_rad_s, situation, current_a, battery_a, nothing, gear)
    rest_w = np.where(over, state.speeding_up_w, 0.0)
    return replace(state, brakes_w=rest_w, speeding_up_w=state.speeding_up_w - rest_w)


def within_charge(
    drive: Drive, motor_rad_s: Array, current_a: Array, battery_a: Array, most_a: Array
) -> tuple[Array, Array]:
    """Return motor and pack amps of which no more than `most_a` flow back; brakes take the rest."""
    over = battery_a < -most_a
    held_to_a = np.where(over, most_a, 0.0)
    controller, standby_a = drive.controller, drive.controller.standby_a
    back_w = drive.pack.power_w(-held_to_a, standby_a) / drive.motor.count
    held_a = drive.motor.braking_current_at_power_a(
        motor_rad_s, np.minimum(back_w, 0.0), controller.resistance_ohm, controller.switching_v
    )
    return (
        np.where(over, np.maximum(held_a, current_a), current_a),
        np.where(over, -held_to_a, battery_a),
    )
