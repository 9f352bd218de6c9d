"""What all motors have in common that come with their inverter, whatever turns inside."""

from dataclasses import dataclass
from typing import Self

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.motor.size import Make
from powertrain.motor.timing import Timing
from powertrain.stated import Stated

FADE = 0.02
"""Share of the top speed over which the inverter takes its torque back."""


@dataclass(frozen=True)
class OwnInverter:
    """A motor whose own electronics choose its amps, and stop it at `top_rad_s`."""

    count: Array
    inertia_kg_m2: Array
    top_rad_s: Array
    drag_nm: Array

    @staticmethod
    def make(said: Stated) -> Make:
        """Return how it is made, for what is usual of its size."""
        return "packaged"

    @staticmethod
    def driven_by(said: Stated) -> str:
        """Return that its own inverter does."""
        return "packaged"

    @staticmethod
    def winding(said: Stated) -> None:
        """Return None: it is sold with one winding for its inverter."""

    @staticmethod
    def rewound(said: Stated, share: float) -> dict[str, float | None]:
        """Return nothing: it is sold with one winding for its inverter."""
        return {}

    @staticmethod
    def can_be_timed(said: Stated) -> bool:
        """Return False: its inverter sets the timing."""
        return False

    @property
    def has_inverter(self) -> bool:
        """Return True: it came with one."""
        return True

    @property
    def races_unloaded(self) -> bool:
        """Return False: its inverter stops it."""
        return False

    @property
    def base_speed_rad_s(self) -> Array:
        """Return the speed where the volts begin to bind at its most amps."""
        raise NotImplementedError

    def timed(self, timing: Timing) -> Self:
        """Return itself: its inverter sets the timing."""
        return self

    def wide_open(self) -> Self:
        """Return itself: full throttle changes no constant."""
        return self

    def fastest_rad_s(self, source_v: Array) -> Array:
        """Return the speed at which the inverter stops."""
        return self.top_rad_s

    def free_rad_s(self, source_v: Array, series_ohm: Array) -> Array:
        """Return NaN: where the fading inverter meets the drag has to be searched for."""
        return scalar(np.nan)

    def corners_rad_s(self) -> tuple[Array, ...]:
        """Return base speed, the speed where the inverter begins to fade, and its end."""
        return (self.base_speed_rad_s, self.top_rad_s * (1 - FADE), self.top_rad_s)

    def faded(self, speed_rad_s: Array) -> Array:
        """Return what is left of its amps at a speed: one, and nought at the top speed."""
        return np.clip((self.top_rad_s - speed_rad_s) / (FADE * self.top_rad_s), 0.0, 1.0)
