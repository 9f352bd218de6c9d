"""Speeds and pushes of a vehicle on its wheels, for questions that are about roads."""

from powertrain.arrays import Array
from powertrain.drive import Drive
from powertrain.operating.full_throttle import (
    FullThrottle,
    fastest_rad_s,
    full_throttle,
    output_nm,
)


def full_throttle_at(
    drive: Drive, speed_mps: Array, grade_pct: Array | None = None
) -> FullThrottle:
    """Return `full_throttle` at a speed of the vehicle."""
    return full_throttle(drive, drive.output_at_mps(speed_mps), grade_pct)


def push_n(drive: Drive, speed_mps: Array, grade_pct: Array | None = None) -> Array:
    """Return the greatest push of the driven wheels at a speed of the vehicle."""
    return drive.force_n(output_nm(drive, drive.output_at_mps(speed_mps), grade_pct))


def fastest_mps(drive: Drive) -> Array:
    """Return the speed above which full throttle does not push any more, in the tallest gear."""
    return drive.speed_mps(fastest_rad_s(drive))
