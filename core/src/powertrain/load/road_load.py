"""What a vehicle on wheels has to be pushed with: tyres, slope and air."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.constants import STANDARD_GRAVITY_MPS2
from powertrain.load.air import density_of
from powertrain.stated import Stated


@dataclass(frozen=True)
class RoadLoad:
    """A ground vehicle in its air.

    Source: road-load form of SAE J1263 with the slope added; coefficients constant with speed.
    """

    mass_kg: Array
    rolling_resistance: Array
    drag_area_m2: Array
    rotating_mass_factor: Array
    air_density_kg_m3: Array
    headwind_mps: Array

    @classmethod
    def of(cls, vehicle: Stated, conditions: Stated) -> "RoadLoad":
        """Return the road load that a document describes."""
        return cls(
            mass_kg=vehicle.number("mass_kg"),
            rolling_resistance=vehicle.number("rolling_resistance"),
            drag_area_m2=vehicle.number("drag_area_m2"),
            rotating_mass_factor=vehicle.number("rotating_mass_factor"),
            air_density_kg_m3=density_of(conditions),
            headwind_mps=conditions.number("headwind_mps"),
        )

    @property
    def weight_n(self) -> Array:
        """Weight of the vehicle on the level."""
        return self.mass_kg * STANDARD_GRAVITY_MPS2

    def rolling_n(self, grade_pct: Array) -> Array:
        """Return m g Crr cos a, against the direction of travel."""
        return self.weight_n * self.rolling_resistance / _hypotenuse(grade_pct)

    def climbing_n(self, grade_pct: Array) -> Array:
        """Return m g sin a with a = atan(grade/100), negative downhill."""
        return self.weight_n * (grade_pct / 100) / _hypotenuse(grade_pct)

    def air_n(self, speed_mps: Array) -> Array:
        """Return 1/2 rho CdA (v + wind)|v + wind|."""
        through_air_mps = speed_mps + self.headwind_mps
        return self._air_factor * through_air_mps * np.abs(through_air_mps)

    def force_n(self, speed_mps: Array, grade_pct: Array) -> Array:
        """Return the whole force that holds a steady `speed_mps` on `grade_pct`."""
        return self.rolling_and_grade_n(grade_pct) + self.air_n(speed_mps)

    def rolling_and_grade_n(self, grade_pct: Array) -> Array:
        """Return what tyres and slope ask, whatever the speed."""
        both = self.rolling_resistance + grade_pct / 100
        return self.weight_n * both / _hypotenuse(grade_pct)

    def coasting_speed_mps(self, grade_pct: Array) -> Array:
        """Return where the air alone holds the vehicle back, out of gear.

        Below zero where it would not roll, infinite where it rolls and there is no air drag.
        """
        return self.speed_at_force_mps(scalar(0.0), grade_pct)

    def speed_at_force_mps(self, force_n: Array, grade_pct: Array) -> Array:
        """Return the speed that a constant push holds; below zero where it does not move."""
        pull_n = force_n - self.rolling_and_grade_n(grade_pct)
        with np.errstate(divide="ignore", invalid="ignore"):
            through_air_mps = np.sign(pull_n) * np.sqrt(np.abs(pull_n) / self._air_factor)
        still = np.where(pull_n > 0, np.inf, -np.inf)
        return np.where(self._air_factor > 0, through_air_mps - self.headwind_mps, still)

    @cached_property
    def _air_factor(self) -> Array:
        return 0.5 * self.air_density_kg_m3 * self.drag_area_m2


def _hypotenuse(grade_pct: Array) -> Array:
    """Return the way along a slope for each metre on the map: 1/cos a, and sin a = tan a cos a."""
    tangent = grade_pct / 100
    return np.sqrt(1 + tangent * tangent)
