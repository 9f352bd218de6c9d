"""A generic blade section: lift and drag over the angle of attack.

Lift rises straight up to stall and goes over into that of a flat plate; friction falls with
Reynolds number as on a plate, lift rises with Mach number by Prandtl and Glauert, drag from the
critical one on. (S. F. Hoerner, Fluid-Dynamic Drag and Fluid-Dynamic Lift; H. Glauert, The Effect
of Compressibility on the Lift of an Aerofoil, 1928; both from memory. The constants are those of a
thin cambered section of a small propeller, common practice, no source.)
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array

STALL_MACH, WAVE_MACH, MOST_MACH = 0.8, 0.65, 0.95


@dataclass(frozen=True)
class Section:
    """What a section is like; angles in radians, the slope for each of them."""

    slope: float = 5.6
    zero_lift: float = np.radians(-4.0)
    stall: float = np.radians(13.0)
    softness: float = np.radians(1.6)
    friction: float = 0.019
    """Least drag at a Reynolds number of 100,000."""
    rise: float = 0.025
    """Drag for the square of lift beyond that of least drag."""
    least_at: float = 0.35
    """Lift of least drag."""
    by_reynolds: float = 0.35
    compressible: bool = True

    def lift_drag(self, angle: Array, reynolds: Array, mach: Array) -> tuple[Array, Array]:
        """Return C_l and C_d; `angle` is that of the chord against the flow."""
        return self.in_flow(reynolds, mach).lift_drag(angle)

    def in_flow(self, reynolds: Array, mach: Array) -> "InFlow":
        """Return it at Reynolds and Mach numbers, to be asked about many angles."""
        mach = np.minimum(mach, MOST_MACH) if self.compressible else np.zeros_like(mach)
        least = self.friction * (np.maximum(reynolds, 5e3) / 1e5) ** -self.by_reynolds
        wave = 15 * np.maximum(mach - WAVE_MACH, 0.0) ** 3
        slope = self.slope / np.sqrt(1 - np.minimum(mach, STALL_MACH) ** 2)
        return InFlow(self, slope, least + wave)


@dataclass(frozen=True)
class InFlow:
    """A section in flows of some kind: the slope of its lift, and its least drag."""

    section: Section
    slope: Array
    least: Array

    def lift_drag(self, angle: Array) -> tuple[Array, Array]:
        """Return C_l and C_d; `angle` is that of the chord against the flow."""
        section = self.section
        own = angle - section.zero_lift
        straight, sine = self.slope * own, np.sin(own)
        attached = 1 / (1 + np.exp((np.abs(own) - section.stall) / section.softness))
        lift = attached * straight + (1 - attached) * (2 * sine * np.cos(own))
        bent = section.rise * (straight - section.least_at) ** 2
        drag = self.least + attached * bent + (1 - attached) * (2 * sine**2)
        return lift, drag


GENERIC = Section()
