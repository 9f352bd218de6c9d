"""What motors have in common that a separate controller feeds."""

from typing import TypeVar

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.motor.timing import Timing

Fed = TypeVar("Fed", bound="FedByController")


class FedByController:
    """Answers of the protocol for a motor without electronics of its own."""

    @property
    def has_inverter(self) -> bool:
        """Return False: a controller feeds it."""
        return False

    @property
    def races_unloaded(self) -> bool:
        """Return False: its back-EMF ends its rise."""
        return False

    @property
    def own_current_limit_a(self) -> Array:
        """Return infinity: the controller sets the amps."""
        return scalar(np.inf)

    @property
    def base_speed_rad_s(self) -> Array:
        """Return infinity: nothing weakens its field from outside."""
        return scalar(np.inf)

    def fed_by(self: Fed, open_circuit_v: Array, source_ohm: Array) -> Fed:
        """Return itself: its constants don't depend on the pack."""
        return self

    def timed(self: Fed, timing: Timing) -> Fed:
        """Return itself: nothing times it."""
        return self

    def wide_open(self: Fed) -> Fed:
        """Return itself: full throttle changes no constant."""
        return self

    def corners_rad_s(self) -> tuple[Array, ...]:
        """Return none: its curve has no kinks of its own."""
        return ()


def braking_root(power_w: Array, emf_v: Array, ohm: Array) -> Array:
    """Return the root nearest nought of I^2 R + I V = P for a power below zero.

    Where so much can't be given back at the speed, the amps that give back most.
    """
    inside = np.maximum(emf_v * emf_v + 4 * ohm * power_w, 0.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        amps = 2 * power_w / (emf_v + np.sqrt(inside))
    return np.where(emf_v > 0, np.minimum(amps, 0.0), 0.0)
