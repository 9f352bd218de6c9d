"""Timing advance: works like extra KV, paid for in torque, efficiency and heat."""

from collections.abc import Iterator
from typing import Any

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever
from powertrain.motor.of_document import advanced

STEP_DEG = 5.0
MOST_DEG = 60.0


def levers(build: Build) -> Iterator[Lever]:
    """Yield the motor's own timing where it can be moved."""
    if advanced(build.motor, STEP_DEG) is None:
        return
    now_deg = build.motor.timing_deg or 0.0
    yield Lever(
        id="motor.timing_deg",
        part="motor",
        label="Timing",
        value=now_deg,
        unit="deg",
        path="motor.timing_deg",
        rank=3,
        at_part=False,
        say_up=f"Timing {STEP_DEG:g} degrees more (estimate)",
        say_down=f"Timing {STEP_DEG:g} degrees less (estimate)",
        up=_moved(build, now_deg, STEP_DEG) if now_deg + STEP_DEG <= MOST_DEG else None,
        down=_moved(build, now_deg, -STEP_DEG) if now_deg - STEP_DEG >= 0 else None,
    )  # fmt: skip


def _moved(build: Build, now_deg: float, degrees: float) -> dict[str, Any]:
    constants = advanced(build.motor, degrees) or {}
    changes = {f"motor.{key}": value for key, value in constants.items() if value is not None}
    return {**changes, "motor.timing_deg": now_deg + degrees}
