"""Timing advance: works like extra KV, paid for in no-load amps.

KV rises by about half a percent for each electrical degree beyond those at which the motor's
constants were taken, no-load amps by the square of that (common practice, no source). What is set
at the motor and in the controller always acts; boost comes in over a window of rpm; turbo acts at
full throttle alone.
"""

from dataclasses import dataclass

from powertrain.arrays import Array, scalar
from powertrain.constants import RPM_PER_RAD_S
from powertrain.stated import Stated

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
    def of(cls, motor: Stated, controller: Stated) -> "Timing | None":
        """Return the timing that documents state, None where they state none."""
        if not motor.states("constants_at_timing_deg") and not stated_deg(motor, controller):
            return None
        begins = controller.number("boost_from_rpm", 0.0)
        ends = controller.number("boost_to_rpm") if controller.states("boost_to_rpm") else begins
        return cls(
            always_deg=motor.number("timing_deg", 0.0)
            + controller.number("timing_deg", 0.0)
            - motor.number("constants_at_timing_deg", 0.0),
            boost_deg=controller.number("boost_timing_deg", 0.0),
            boost_from_rad_s=begins / RPM_PER_RAD_S,
            boost_to_rad_s=ends / RPM_PER_RAD_S,
            turbo_deg=controller.number("turbo_timing_deg", 0.0),
        )


def stated_deg(motor: Stated, controller: Stated) -> dict[str, Array]:
    """Return the degrees that are stated, by document path; all of them add."""
    places = {
        "motor": (motor, ("timing_deg",)),
        "controller": (controller, ("timing_deg", "boost_timing_deg", "turbo_timing_deg")),
    }
    return {
        f"{place}.{key}": said.number(key)
        for place, (said, keys) in places.items()
        for key in keys
        if said.states(key)
    }


def acting_deg(motor: Stated, controller: Stated) -> tuple[Array, Array]:
    """Return all stated degrees, and those of them that act beyond the motor's constants."""
    total = sum(stated_deg(motor, controller).values(), scalar(0.0))
    return total, total - motor.number("constants_at_timing_deg", 0.0)


def kv_share(degrees: Array) -> Array:
    """Return KV over that of the constants, with so many degrees more."""
    return 1.0 + KV_PER_DEGREE * degrees
