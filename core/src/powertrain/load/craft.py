"""What a propeller pushes: a wing, a hull, a cart. Air goes past at ground speed plus wind."""

from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.constants import STANDARD_GRAVITY_MPS2
from powertrain.load.air import density_of
from powertrain.load.road_load import RoadLoad
from powertrain.stated import Stated
from powertrain.units import mps_from_kmh

WATER_KG_M3 = 1000.0
NEAR_STALL, AILERONS = 1.2, 0.03
"""Speed over that of the stall at which a wing leaves the hand, and the rolling moment coefficient
that ailerons of usual size give at half their throw (D. P. Raymer, Aircraft Design, ch. 16, gives
0.1 to 0.2 a radian of aileron; from memory)."""
SHIFT_M = 0.05
"""How far the middle of a load may lie to one side; common practice, no source."""
SLOWEST_MPS = 1e-3
"""Below it a wing carries nothing, and its drag has no meaning."""


class Craft(Protocol):
    """What holds back, and how fast it must at least go."""

    @property
    def flies(self) -> bool:
        """Whether lift carries it."""
        ...

    @property
    def weight_n(self) -> Array:
        """Its weight."""
        ...

    @property
    def braced_nm(self) -> Array:
        """The twist about its length that it stands up against without anybody minding."""
        ...

    def held_n(self, air_mps: Array, ground_mps: Array, steepness: Array) -> Array:
        """Return the thrust that holds a speed; `steepness` is an angle in radians or a grade."""
        ...

    def least_mps(self, steepness: Array) -> Array:
        """Return the least speed of the air at which it does what it is for."""
        ...


@dataclass(frozen=True)
class Wing:
    """A fixed wing with a parabolic polar: C_D = C_D0 + C_L^2/(pi e A), lift W cos of the angle.

    (J. D. Anderson, Aircraft Performance and Design, 1999, ch. 2 and 5.)
    """

    mass_kg: Array
    area_m2: Array
    span_m: Array
    zero_lift_drag: Array
    oswald: Array
    lift_max: Array
    density: Array

    @classmethod
    def of(cls, build: Stated) -> "Wing":
        """Return the wing that a document describes."""
        said = build.under("vehicle")
        return cls(
            mass_kg=said.number("mass_kg"),
            area_m2=said.number("wing_area_m2"),
            span_m=said.number("span_m"),
            zero_lift_drag=said.number("zero_lift_drag"),
            oswald=said.number("oswald"),
            lift_max=said.number("lift_max"),
            density=density_of(build.under("conditions")),
        )

    @property
    def flies(self) -> bool:
        """Return True."""
        return True

    @property
    def weight_n(self) -> Array:
        """Return m g."""
        return self.mass_kg * STANDARD_GRAVITY_MPS2

    @property
    def braced_nm(self) -> Array:
        """Return what ailerons hold a little above the stall: 1/2 rho V^2 S b C_l."""
        speed = NEAR_STALL * self.least_mps(scalar(0.0))
        return np.asarray(self.pressure_n(speed) * self.span_m * AILERONS)

    @property
    def induced(self) -> Array:
        """Return what the square of C_L is multiplied by: 1/(pi e b^2/S)."""
        return self.area_m2 / (np.pi * self.oswald * self.span_m**2)

    @property
    def glide(self) -> Array:
        """Return the most metres it goes for each that it comes down: 1/(2 sqrt(C_D0 k))."""
        return np.asarray(0.5 / np.sqrt(self.zero_lift_drag * self.induced))

    def pressure_n(self, air_mps: Array) -> Array:
        """Return the air's pressure of speed on the whole wing: 1/2 rho V^2 S."""
        speed = np.maximum(air_mps, SLOWEST_MPS)
        return np.asarray(0.5 * self.density * speed**2 * self.area_m2)

    def lift_coefficient(self, air_mps: Array, angle: Array) -> Array:
        """Return the C_L that carries it."""
        return np.asarray(self.weight_n * np.cos(angle) / self.pressure_n(air_mps))

    def held_n(self, air_mps: Array, ground_mps: Array, steepness: Array) -> Array:
        """Return drag, and the part of the weight that acts along the path."""
        lift = self.lift_coefficient(air_mps, steepness)
        drag = self.pressure_n(air_mps) * (self.zero_lift_drag + self.induced * lift**2)
        return np.asarray(drag + self.weight_n * np.sin(steepness))

    def least_mps(self, steepness: Array) -> Array:
        """Return the stall speed: that at which C_L is the most there is."""
        lift_n = self.weight_n * np.cos(steepness)
        return np.sqrt(2 * lift_n / (self.density * self.area_m2 * self.lift_max))


@dataclass(frozen=True)
class Hull:
    """A hull: its drag in water over speed, straight between points, and that of the air above."""

    mass_kg: Array
    speeds_mps: tuple[float, ...]
    forces_n: tuple[float, ...]
    water_m2: Array
    air_m2: Array
    density: Array

    @classmethod
    def of(cls, build: Stated) -> "Hull":
        """Return the hull that a document describes."""
        said = build.under("vehicle")
        points = [(0.0, 0.0)] + [
            (float(mps_from_kmh(one.speed_kmh)), one.force_n)
            for one in said.word("drag") or ()
            if one.speed_kmh > 0
        ]
        return cls(
            mass_kg=said.number("mass_kg"),
            speeds_mps=tuple(at for at, _ in points),
            forces_n=tuple(force for _, force in points),
            water_m2=said.number("drag_area_m2", 0.0),
            air_m2=said.number("air_drag_area_m2"),
            density=density_of(build.under("conditions")),
        )

    @property
    def flies(self) -> bool:
        """Return False."""
        return False

    @property
    def weight_n(self) -> Array:
        """Return m g."""
        return self.mass_kg * STANDARD_GRAVITY_MPS2

    @property
    def braced_nm(self) -> Array:
        """Return what a shift of its weight to one side evens out."""
        return self.weight_n * SHIFT_M

    def held_n(self, air_mps: Array, ground_mps: Array, steepness: Array) -> Array:
        """Return the drag of water and air; beyond the last point it goes on as it rose there."""
        water = 0.5 * WATER_KG_M3 * self.water_m2 * ground_mps * np.abs(ground_mps)
        air = 0.5 * self.density * self.air_m2 * air_mps * np.abs(air_mps)
        return np.asarray(water + air + self._measured_n(ground_mps))

    def _measured_n(self, ground_mps: Array) -> Array:
        if len(self.speeds_mps) < 2:
            return scalar(0.0)
        inside = np.interp(ground_mps, self.speeds_mps, self.forces_n)
        slope = (self.forces_n[-1] - self.forces_n[-2]) / (
            self.speeds_mps[-1] - self.speeds_mps[-2]
        )
        beyond = np.maximum(ground_mps - self.speeds_mps[-1], 0.0) * max(slope, 0.0)
        return np.asarray(inside + beyond)

    def least_mps(self, steepness: Array) -> Array:
        """Return nought: it floats."""
        return scalar(0.0)


@dataclass(frozen=True)
class Cart:
    """A cart on wheels that nothing drives; its road load is that of any vehicle on wheels."""

    road: RoadLoad

    @classmethod
    def of(cls, build: Stated) -> "Cart":
        """Return the cart that a document describes."""
        return cls(RoadLoad.of(build.under("vehicle"), build.under("conditions")))

    @property
    def flies(self) -> bool:
        """Return False."""
        return False

    @property
    def weight_n(self) -> Array:
        """Return m g."""
        return self.road.weight_n

    @property
    def braced_nm(self) -> Array:
        """Return what a shift of its weight to one side evens out."""
        return self.weight_n * SHIFT_M

    def held_n(self, air_mps: Array, ground_mps: Array, steepness: Array) -> Array:
        """Return tyres, slope (`steepness` is a grade in percent) and air."""
        return self.road.force_n(ground_mps, steepness)

    def least_mps(self, steepness: Array) -> Array:
        """Return nought."""
        return scalar(0.0)


CRAFT: dict[str, Any] = {"aircraft": Wing, "hull": Hull, "ground": Cart}
