"""Rolling out with the motors off: speeds over time, for many vehicles at once.

``J dw/dt = -(T_load + T_motors)``: what the road asks, and the motors' loss torque, which they are
dragged against through their gearing. The time from one speed to a lower one is ``int J dw / T``;
read the other way round it gives the speed at a time.
"""

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import scalar, with_axis
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm
from powertrain.units import kmh_from_mps, mps_from_kmh

Numbers = NDArray[np.float64]

SPEEDS = 240
"""Speeds between the first and rest at which the drag is looked at."""


def coasted_kmh(drive: Drive, begins_kmh: Numbers, at_s: Numbers, grade_pct: float) -> Numbers:
    """Return the speeds at some times after each vehicle rolled at its first.

    Parameters
    ----------
    drive : Drive
        Arrays over vehicles.
    begins_kmh : array, shape (vehicles,)
    at_s : array, shape (times,)
        The first is when they began.

    Returns
    -------
    array, shape (vehicles, times)
        NaN where a vehicle would not slow down.
    """
    situation = scalar(grade_pct)
    along = with_axis(drive)
    begins = mps_from_kmh(np.asarray(begins_kmh, float))[:, None]
    # Closer together at the lower end, where a slow vehicle takes long.
    shares = np.linspace(1.0, 0.0, SPEEDS) ** 1.5
    speeds = begins * shares
    turns = along.output_at_mps(speeds)
    motors = along.motor_rad_s(turns)
    dragged_nm = along.output_nm(along.motor.shaft_torque_nm(motors, np.zeros_like(motors)))
    against_nm = asked_nm(along.load, turns, situation) - np.minimum(dragged_nm, 0.0)
    slows = np.broadcast_to(against_nm, turns.shape) > 0
    with np.errstate(divide="ignore", invalid="ignore"):
        per = np.where(slows, along.inertia_kg_m2 / against_nm, np.nan)
    steps = 0.5 * (per[:, 1:] + per[:, :-1]) * -np.diff(turns, axis=1)
    times = np.concatenate([np.zeros((len(steps), 1)), np.cumsum(steps, axis=1)], axis=1)
    wanted = np.asarray(at_s, float) - float(at_s[0])
    found = np.stack(
        [
            np.interp(wanted, own, speed)
            if np.isfinite(own).all()
            else np.full(len(wanted), np.nan)
            for own, speed in zip(times, speeds, strict=True)
        ]
    )
    return kmh_from_mps(found)
