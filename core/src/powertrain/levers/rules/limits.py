"""The current limits set in the controller."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single, usual_step


def levers(build: Build) -> Iterator[Lever]:
    """Yield the pack amps limit and the motor amps limit, where they are set."""
    controller = build.controller
    pack_a, motor_a = controller.battery_current_limit_a, controller.motor_current_limit_a
    if pack_a is not None:
        path, step = "controller.battery_current_limit_a", usual_step(pack_a)
        yield single(path, "controller", "Pack amps limit", "A", pack_a, step, step, tag="pack")
    if motor_a is not None:
        path, step = "controller.motor_current_limit_a", usual_step(motor_a)
        yield single(path, "controller", "Motor amps limit", "A", motor_a, step, step, tag="motor")
