"""Full throttle at a speed: which limit binds, and what flows then."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, choose, everywhere, scalar, somewhere
from powertrain.drive import Drive
from powertrain.operating.limits import Limit

AT_REST = scalar(0.0)

TIE = 1e-9
"""Share of a torque by which two gears must differ to be told apart."""


@dataclass(frozen=True)
class FullThrottle:
    """The electrical state at full throttle; arrays over whatever was asked.

    `gear` is the factor of the gear that pushes most, one where there is no gearbox.
    """

    motor_current_a: Array
    battery_current_a: Array
    shaft_torque_nm: Array
    output_nm: Array
    force_n: Array
    limited_by: NDArray[np.int8]
    gear: Array


def motor_side_power_w(drive: Drive, speed_rad_s: Array, current_a: Array) -> Array:
    """Return what the controller passes to all motors: n I (V_motor + V_path)."""
    path_v = drive.motor.voltage_v(speed_rad_s, current_a)
    path_v = path_v + drive.controller.path_drop_v(current_a)
    return drive.motor.count * current_a * path_v


def full_throttle(
    drive: Drive, output_rad_s: Array, situation: Array | None = None
) -> FullThrottle:
    """Return what the drive does at full throttle and an output speed, in its best gear.

    First the current that the pack's voltage drives at duty 1; then each controller's motor
    current limit; only if the pack's current would *then* exceed its limit, the current at which
    it equals that limit; and where the grip is known, what the driven wheels can put down. Above
    the speed where the current vanishes the motors are overrun: they carry none and hold back
    with their loss torque.

    Parameters
    ----------
    drive : Drive
        One drive or arrays; broadcasts with `output_rad_s`.
    output_rad_s : array_like
        Speed of the output shaft, at least zero.
    situation : array_like
        That of the load, its usual one if none; it matters to grip alone.
    """
    situation = drive.load.usual if situation is None else situation
    return at_full_duty(drive.wide_open(), output_rad_s, situation)


def at_full_duty(drive: Drive, output_rad_s: Array, situation: Array) -> FullThrottle:
    """Return `full_throttle` of a drive with nothing that acts at full throttle alone."""
    gears = drive.train.gears
    if len(gears) == 1:
        return _in_gear(drive, output_rad_s, situation, gears[0])
    best = _in_gear(drive.in_gear(gears[0]), output_rad_s, situation, gears[0])
    for gear in gears[1:]:
        other = _in_gear(drive.in_gear(gear), output_rad_s, situation, gear)
        # Of gears that push the same the shorter stays, whatever the last digit says.
        more = other.output_nm > best.output_nm + TIE * np.abs(best.output_nm)
        best = choose(more, other, best)
    return best


def output_nm(drive: Drive, output_rad_s: Array, situation: Array | None = None) -> Array:
    """Return the torque of `full_throttle` alone, for searches that need nothing else."""
    drive = drive.wide_open()
    best_nm: Array | None = None
    for gear in drive.train.gears:
        geared = drive.in_gear(gear)
        speed_rad_s = geared.motor_rad_s(output_rad_s)
        current_a = _currents(geared, speed_rad_s, pack_too=False)[0]
        torque_nm = geared.output_nm(geared.motor.shaft_torque_nm(speed_rad_s, current_a))
        best_nm = torque_nm if best_nm is None else np.maximum(best_nm, torque_nm)
    if drive.load.grips and best_nm is not None:
        situation = drive.load.usual if situation is None else situation
        best_nm = np.minimum(best_nm, drive.load.holds_nm(situation))
    return best_nm  # type: ignore[return-value]


Torque = Callable[[Array], Array]
"""Newton-metres at the output shaft as a function of its speed."""


def torque_by_limit(drive: Drive) -> list[Torque]:
    """Return, for each electric limit, the torque that it alone leaves, smooth over speed.

    Where the pack is not driven beyond its greatest power, `output_nm` is the least of them and
    of what the load holds. With a gearbox they are those of the tallest gear.
    """
    geared = drive.wide_open().in_gear(drive.train.gears[-1])
    pack, controller, motor = geared.pack, geared.controller, geared.motor
    standby_a, n = controller.standby_a, motor.count
    most_a = np.minimum(controller.motor_current_limit_a, motor.own_current_limit_a)
    source_v = pack.voltage_v(standby_a) - controller.switching_v
    source_ohm = n * pack.resistance_ohm + controller.resistance_ohm

    def at(current_a: Callable[[Array], Array]) -> Torque:
        def torque(output_rad_s: Array) -> Array:
            speed_rad_s = geared.motor_rad_s(output_rad_s)
            torque_nm = motor.shaft_torque_nm(speed_rad_s, current_a(speed_rad_s))
            return geared.output_nm(torque_nm)

        return torque

    branches = [
        at(
            lambda speed_rad_s: np.minimum(
                motor.current_at_voltage_a(speed_rad_s, source_v, source_ohm),
                motor.own_current_limit_a,
            )
        )
    ]
    if somewhere(np.isfinite(most_a)):
        branches.append(at(lambda speed_rad_s: most_a))
    limit_a = controller.battery_current_limit_a
    if somewhere(np.isfinite(limit_a)):
        share_w = pack.power_w(limit_a, standby_a) / n
        ohm, drop_v = controller.resistance_ohm, controller.switching_v
        branches.append(at(lambda w: motor.current_at_power_a(w, share_w, ohm, drop_v)))
    return branches


Currents = tuple[Array, Array, NDArray[np.bool_], NDArray[np.bool_]]


def _currents(drive: Drive, speed_rad_s: Array, *, pack_too: bool = True) -> Currents:
    """Return motor and pack amps with grip not asked, and where which limit holds them.

    The flags are the motor amps limit and the pack amps limit. Only the motor amps count where
    nothing else is asked for, `pack_too` being false.
    """
    pack, controller, motor = drive.pack, drive.controller, drive.motor
    standby_a, n = controller.standby_a, motor.count
    own, most_a = motor.has_inverter, controller.motor_current_limit_a
    if own:
        most_a = np.minimum(most_a, motor.own_current_limit_a)

    source_v = pack.voltage_v(standby_a) - controller.switching_v
    source_ohm = n * pack.resistance_ohm + controller.resistance_ohm
    by_voltage_a = np.maximum(motor.current_at_voltage_a(speed_rad_s, source_v, source_ohm), 0.0)
    held = by_voltage_a > most_a
    current_a = np.minimum(by_voltage_a, most_a)

    power_w = motor_side_power_w(drive, speed_rad_s, current_a)
    chopped_a = pack.current_at_reachable_power_a(power_w, standby_a)
    battery_a = np.where(held | own, chopped_a, n * current_a + standby_a)
    limit_a = controller.battery_current_limit_a
    over = battery_a > limit_a
    if own:
        over = over | (power_w > pack.greatest_power_w(standby_a))
    if somewhere(over):
        greatest_w = pack.greatest_power_w(standby_a)
        with np.errstate(invalid="ignore"):
            # Beyond the amps of its greatest power a pack gives less again, not more.
            within = limit_a < pack.current_at_reachable_power_a(greatest_w, standby_a)
            share_w = np.where(within, pack.power_w(limit_a, standby_a), greatest_w)
        share_w = np.where(np.isfinite(share_w), share_w, 0.0) / n
        at_limit_a = motor.current_at_power_a(
            speed_rad_s, share_w, controller.resistance_ohm, controller.switching_v
        )
        current_a = np.where(over, np.minimum(at_limit_a, most_a), current_a)
        if not pack_too:
            return current_a, battery_a, held, over
        # A pack that sags far gives few amps at full duty; chopped down to what it can give, the
        # motor amps limit may hold first, and then the pack gives what that takes.
        first = over & (at_limit_a > most_a)
        at_most_a = np.minimum(limit_a, pack.current_at_power_a(n * share_w, standby_a))
        battery_a = np.where(over, at_most_a, battery_a)
        if somewhere(first):
            held_w = motor_side_power_w(drive, speed_rad_s, current_a)
            held_pack_a = pack.current_at_reachable_power_a(held_w, standby_a)
            battery_a = np.where(first, held_pack_a, battery_a)
            over, held = over & ~first, held | first
    return current_a, battery_a, held, over


SURELY = 0.999
"""Share of the grip up to which no rounding can make a wheel slip."""


def without_idle_grip(drive: Drive, situation: Array) -> Drive:
    """Return drives without their grip where not one of them could slip; else as they are.

    Torque is greatest at rest, and no slope up to `situation` leaves less grip, so that one look
    there spares one at each speed.
    """
    free = replace(drive, load=drive.load.slipless())
    within = output_nm(free, AT_REST, situation) <= SURELY * drive.load.holds_nm(situation)
    return free if everywhere(within) else drive


def _in_gear(drive: Drive, output_rad_s: Array, situation: Array, gear: Array) -> FullThrottle:
    motor, standby_a = drive.motor, drive.controller.standby_a
    speed_rad_s = drive.motor_rad_s(output_rad_s)
    current_a, battery_a, held, over = _currents(drive, speed_rad_s)
    limited_by = np.where(over, Limit.BATTERY_CURRENT, np.where(held, Limit.MOTOR_CURRENT, 0))
    weak = ~over & (speed_rad_s > motor.base_speed_rad_s)
    limited_by = np.where(weak, Limit.VOLTAGE, limited_by)
    torque_nm = motor.shaft_torque_nm(speed_rad_s, current_a)
    output = drive.output_nm(torque_nm)
    if drive.load.grips:
        holds_nm = drive.load.holds_nm(situation)
        slips = output > holds_nm
        if somewhere(slips):
            held_nm = drive.shaft_torque_for_nm(np.where(slips, holds_nm, 0.0))
            held_a = motor.current_at_torque_a(speed_rad_s, held_nm)
            current_a = np.where(slips, held_a, current_a)
            held_w = motor_side_power_w(drive, speed_rad_s, current_a)
            held_pack_a = drive.pack.current_at_power_a(held_w, standby_a)
            battery_a = np.where(slips, held_pack_a, battery_a)
            torque_nm = np.where(slips, held_nm, torque_nm)
            output = np.where(slips, holds_nm, output)
            limited_by = np.where(slips, Limit.TRACTION, limited_by)
    return FullThrottle(
        motor_current_a=current_a,
        battery_current_a=battery_a,
        shaft_torque_nm=torque_nm,
        output_nm=output,
        force_n=drive.load.force_n(output, output_rad_s, situation),
        limited_by=limited_by.astype(np.int8),
        gear=gear,
    )


def fastest_rad_s(drive: Drive) -> Array:
    """Return the output speed above which full throttle does not push, in the tallest gear."""
    drive = drive.wide_open()
    source_v = drive.pack.voltage_v(drive.controller.standby_a) - drive.controller.switching_v
    output_rad_s = drive.output_rad_s(drive.motor.fastest_rad_s(source_v))
    return output_rad_s / drive.train.gears[-1]


def corners_to(drive: Drive, shape: tuple[int, ...], most_rad_s: Array) -> Array:
    """Return the corners along a last axis, each within rest and `most_rad_s` (of `shape`)."""
    found = np.stack([np.broadcast_to(c, shape) for c in corner_speeds_rad_s(drive)], axis=-1)
    found = np.where(np.isfinite(found), found, 0.0)
    return np.minimum(np.maximum(found, 0.0), np.broadcast_to(most_rad_s, shape)[..., None])


def corner_speeds_rad_s(drive: Drive) -> tuple[Array, ...]:
    """Return the output speeds at which one limit can hand over to another, in closed form.

    Motor current to voltage, motor current to pack current, pack current to voltage, kinks of
    the motor's own curve, and grip to each of the limits, for every gear. A corner that does not
    exist is NaN or below zero; one may also lie where another limit binds.
    """
    drive = drive.wide_open()
    pack, controller, motor = drive.pack, drive.controller, drive.motor
    standby_a, n = controller.standby_a, motor.count
    most_a = np.minimum(controller.motor_current_limit_a, motor.own_current_limit_a)
    amps = [most_a]
    if drive.load.grips:
        held_nm = drive.shaft_torque_for_nm(drive.load.holds_nm(drive.load.usual))
        amps.append(motor.current_at_torque_a(AT_REST, held_nm))
    pack_a = controller.battery_current_limit_a
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        each_a = (pack_a - standby_a) / n
        spare_v = pack.voltage_v(pack_a) - controller.path_drop_v(each_a)
        speeds = [motor.speed_at_voltage_rad_s(each_a, spare_v), *motor.corners_rad_s()]
        for amp in amps:
            held_v = pack.voltage_v(n * amp + standby_a) - controller.path_drop_v(amp)
            shared_v = pack.power_w(pack_a, standby_a) / (n * amp) - controller.path_drop_v(amp)
            speeds.append(motor.speed_at_voltage_rad_s(amp, held_v))
            speeds.append(motor.speed_at_voltage_rad_s(amp, shared_v))
    outputs = [drive.output_rad_s(speed) for speed in speeds]
    return tuple(output / gear for gear in drive.train.gears for output in outputs)
