"""Air and metal on a hot motor: a fan, a heat sink."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single

FAN_STEP_MPS, SINK_STEP_CM2 = 3.0, 100.0


def levers(build: Build) -> Iterator[Lever]:
    """Yield fan and heat sink of the motor."""
    cooling = build.motor.cooling
    for key, label, unit, value, step in (
        ("fan_mps", "Fan on the motor", "m/s", cooling.fan_mps, FAN_STEP_MPS),
        ("sink_cm2", "Heat sink on the motor", "cm2", cooling.sink_cm2, SINK_STEP_CM2),
    ):
        path = f"motor.cooling.{key}"
        lever = single(path, "motor", label, unit, value, step, 0.0, rank=5)
        yield lever.model_copy(update={"at_part": False})
