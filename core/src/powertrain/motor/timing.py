"""Timing advance: works like extra KV, paid for in no-load amps.

KV rises by about half a percent for each electrical degree beyond those at which the motor's
constants were taken, no-load amps by the square of that (common practice, no source). What is set
at the motor and in the controller always acts; boost comes in over a window of rpm; turbo acts at
full throttle alone.
"""

from dataclasses import dataclass

from powertrain.arrays import Array, scalar, scalar_or
from powertrain.constants import RPM_PER_RAD_S
from powertrain.documents.electrics import Controller
from powertrain.documents.motor import MotorDocument

KV_PER_DEGREE = 0.005
"""Share of KV that a degree of timing adds; common practice, no source."""

LEAST_SHARE = 0.2
"""However far back the timing stands, so much of the KV is left; arithmetic stops there."""


@dataclass(frozen=True)
class Timing:
    """Degrees beyond those of the motor's constants, and where boost acts."""

    always_deg: Array
    boost_deg: Array
    boost_from_rad_s: Array
    boost_to_rad_s: Array
    turbo_deg: Array

    @classmethod
    def of(cls, motor: MotorDocument, controller: Controller) -> "Timing | None":
        """Return the timing that documents state, None where they state none."""
        stated = (motor.timing_deg, controller.timing_deg, controller.boost_timing_deg,
                  controller.turbo_timing_deg, motor.constants_at_timing_deg)  # fmt: skip
        if all(degrees is None for degrees in stated):
            return None
        begins, ends = controller.boost_from_rpm, controller.boost_to_rpm
        begins = 0.0 if begins is None else begins
        return cls(
            always_deg=scalar_or(motor.timing_deg, 0.0)
            + scalar_or(controller.timing_deg, 0.0)
            - scalar_or(motor.constants_at_timing_deg, 0.0),
            boost_deg=scalar_or(controller.boost_timing_deg, 0.0),
            boost_from_rad_s=scalar(begins) / RPM_PER_RAD_S,
            boost_to_rad_s=scalar(begins if ends is None else ends) / RPM_PER_RAD_S,
            turbo_deg=scalar_or(controller.turbo_timing_deg, 0.0),
        )


def acting_deg(motor: MotorDocument, controller: Controller) -> tuple[float, float]:
    """Return all stated degrees, and those of them that act beyond the motor's constants."""
    parts = (motor.timing_deg, controller.timing_deg, controller.boost_timing_deg,
             controller.turbo_timing_deg)  # fmt: skip
    total = sum(degrees for degrees in parts if degrees is not None)
    return total, total - (motor.constants_at_timing_deg or 0.0)


def kv_share(degrees: Array) -> Array:
    """Return KV over that of the constants, with so many degrees more."""
    return 1.0 + KV_PER_DEGREE * degrees
