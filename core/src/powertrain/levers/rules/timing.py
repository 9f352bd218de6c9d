"""Timing advance: works like extra KV, paid for in torque, efficiency and heat."""

from collections.abc import Iterator
from typing import Any

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, tidy
from powertrain.motor.kinds import can_be_timed
from powertrain.motor.timing import acting_deg
from powertrain.stated import Stated

STEP_DEG = 5.0
MOST_DEG = 60.0
"""The lever goes no further than where timing destroys; the verdict says so before."""

PATH = "motor.timing_deg"


def levers(build: Build) -> Iterator[Lever]:
    """Yield the motor's own timing where it can be moved."""
    motor = Stated(build.motor)
    if not can_be_timed(motor):
        return
    now_deg = build.motor.timing_deg or 0.0
    total = float(acting_deg(motor, Stated(build.controller))[0])
    yield Lever(
        id=PATH,
        part="motor",
        label="Timing",
        value=now_deg,
        unit="deg",
        path=PATH,
        rank=3,
        at_part=False,
        say_up=f"Timing {STEP_DEG:g} degrees more (estimate)",
        say_down=f"Timing {STEP_DEG:g} degrees less (estimate)",
        up=_to(now_deg + STEP_DEG) if total + STEP_DEG <= MOST_DEG else None,
        down=_to(now_deg - STEP_DEG) if now_deg - STEP_DEG >= 0 else None,
    )


def _to(degrees: float) -> dict[str, Any]:
    """Return the change to a timing; none at all is not said, as it was before the first press."""
    return {PATH: tidy(degrees) or None}
