"""What a drive does at a share of its throttle, within the same limits as at full throttle.

A chopper at a duty d makes of a source (V, R) one of d V behind d^2 R, of which it passes a motor
amp for each d amps of the pack (common practice: an averaged chopper). Part throttle is full
throttle on that source.
"""

from dataclasses import replace

import numpy as np

from powertrain.arrays import Array, choose
from powertrain.drive import Drive
from powertrain.operating.full_throttle import FullThrottle, at_full_duty, full_throttle
from powertrain.operating.limits import Limit

LEAST_DUTY = 1e-6
"""A duty below this is none: the amps it would pass are set to nought."""


def at_throttle(
    drive: Drive, output_rad_s: Array, situation: Array, throttle: Array
) -> FullThrottle:
    """Return what the drive does at a throttle, in its best gear.

    Parameters
    ----------
    drive : Drive
        One drive or arrays; broadcasts with all others.
    output_rad_s : array_like
        Speed of the output shaft, at least zero.
    situation : array_like
        That of the load.
    throttle : array_like
        Share of the pack's volts that is asked, nought to one. Where a limit binds the controller
        passes less.
    """
    pack, controller = drive.pack, drive.controller
    duty = np.clip(throttle, LEAST_DUTY, 1.0)
    seen = replace(
        drive,
        pack=replace(
            pack,
            open_circuit_v=pack.open_circuit_v * duty,
            resistance_ohm=pack.resistance_ohm * duty * duty,
        ),
        controller=controller.at_duty(duty),
    )
    part = at_full_duty(seen, output_rad_s, situation)
    part = replace(part, battery_current_a=part.battery_current_a * duty)
    off = throttle <= LEAST_DUTY
    if np.any(off):
        part = choose(off, closed(drive, part, output_rad_s), part)
    if drive.wide_open() is drive:
        return part
    # What acts at full throttle alone does not act at less.
    return choose(throttle >= 1, full_throttle(drive, output_rad_s, situation), part)


def closed(drive: Drive, like: FullThrottle, output_rad_s: Array) -> FullThrottle:
    """Return the drive with its throttle closed: no amps, and what turning takes."""
    return carrying(drive, like, output_rad_s, like.motor_current_a * 0.0)


def carrying(drive: Drive, like: FullThrottle, output_rad_s: Array, amps: Array) -> FullThrottle:
    """Return a drive whose motors carry some amps of which none come from the pack, in its gear."""
    geared = drive.in_gear(like.gear)
    torque_nm = geared.motor.shaft_torque_nm(geared.motor_rad_s(output_rad_s), amps)
    output = geared.output_nm(torque_nm)
    return replace(
        like,
        motor_current_a=amps,
        battery_current_a=amps * 0.0 + drive.controller.standby_a,
        shaft_torque_nm=torque_nm,
        output_nm=output,
        force_n=drive.force_n(output),
        limited_by=np.full_like(like.limited_by, Limit.NOTHING),
    )
