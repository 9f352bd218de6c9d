"""The controller as a chopper: a resistance and a drop in each motor's path, two current limits."""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, is_nought, scalar, scalar_or
from powertrain.documents.electrics import Controller


@dataclass(frozen=True)
class Chopper:
    """A controller; limits that are absent are infinite and never bind."""

    resistance_ohm: Array
    motor_current_limit_a: Array
    battery_current_limit_a: Array
    standby_a: Array
    switching_v: Array
    """Watts lost in switching for each motor amp."""

    @classmethod
    def of(cls, controller: Controller) -> "Chopper":
        """Return the controller that a document describes."""
        return cls(
            resistance_ohm=scalar(controller.resistance_ohm),
            motor_current_limit_a=_limit(controller.motor_current_limit_a),
            battery_current_limit_a=_limit(controller.battery_current_limit_a),
            standby_a=scalar_or(controller.standby_current_a, 0.0),
            switching_v=scalar_or(controller.switching_loss_v, 0.0),
        )

    def path_drop_v(self, current_a: Array) -> Array:
        """Return the volts that the path keeps: I R_c and the switching loss."""
        drop_v = current_a * self.resistance_ohm
        if is_nought(self.switching_v):
            return drop_v
        return drop_v + np.sign(current_a) * self.switching_v


def _limit(value: float | None) -> Array:
    return scalar(np.inf if value is None else value)
