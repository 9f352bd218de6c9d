"""Momentum theory of the actuator disc: the ceiling that no propeller passes.

Thrust is mass flow through the disc times the speed added far behind it, half of which is added
at the disc: T = 2 rho A (V + w) w (W. J. M. Rankine 1865, R. E. Froude 1889; see H. Glauert,
Airplane Propellers, 1935).
"""

import numpy as np

from powertrain.arrays import Array

DISC = np.pi / 4
"""Area of a disc over the square of its diameter."""


def least_power_coefficient(ct: Array, advance_ratio: Array) -> Array:
    """Return the C_P below which no propeller gives a thrust coefficient; nought where none pulls.

    The ideal power is T (V + w), with w from T = 2 rho A (V + w) w, so that
    C_P >= C_T (J + sqrt(J^2 + 8 C_T/pi))/2.
    """
    pulls = np.maximum(ct, 0.0)
    through = 0.5 * (advance_ratio + np.sqrt(advance_ratio**2 + 2 * pulls / DISC))
    return np.asarray(pulls * through)


def induced_mps(thrust_n: Array, air_mps: Array, density: Array, area_m2: Array) -> Array:
    """Return the speed that a disc adds at itself to the air that passes it."""
    pulls = np.maximum(thrust_n, 0.0)
    return np.asarray(0.5 * (np.sqrt(air_mps**2 + 2 * pulls / (density * area_m2)) - air_mps))


def figure_of_merit(ct: Array, cp: Array) -> Array:
    """Return the share of its shaft power that an ideal disc would need to stand as it does.

    FM = T^1.5/sqrt(2 rho A)/P = C_T^1.5 sqrt(2/pi)/C_P.
    """
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(np.maximum(ct, 0.0) ** 1.5 / np.sqrt(2 * DISC) / cp)
