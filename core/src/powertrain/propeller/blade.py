"""Blade-element momentum theory on a generic blade of constant geometric pitch.

At each station the angle of the flow is found at which what the blade does to the air is what the
air has had done to it, axially and around, with the tip loss of Prandtl. In the form of S. A. Ning
(A simple solution method for the blade element momentum equations with guaranteed convergence,
Wind Energy 17, 2014) multiplied through by the sine of that angle, so that it holds standing and
advancing alike:

    sin^2 f - s c_n/(4 F) - J/(pi x) (sin f cos f + s c_t/(4 F)) = 0

with x the share of the tip's radius, s = B c/(2 pi r) the solidity, and c_n, c_t the section's
lift and drag along and around the axis.
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array
from powertrain.propeller.section import GENERIC, Section
from powertrain.roots import falling_root

STATIONS, HUB = 18, 0.14
"""Stations along a blade, and the share of its radius within which it does nothing."""

_NODES, _PARTS = np.polynomial.legendre.leggauss(STATIONS)
SHARES: Array = HUB + (1 - HUB) * (_NODES + 1) / 2
WEIGHTS: Array = (1 - HUB) * _PARTS / 2

VISCOSITY_PA_S = 1.81e-5
SOUND_MPS = 340.3
"""Of air at 15 C (ISO 2533, from memory)."""

FLATTEST, STEEPEST = 1e-5, np.pi / 2 - 1e-9
CLOSE = 1e-10


def chord_over_radius(shares: Array, blades: Array) -> Array:
    """Return the chord of a generic blade over the tip's radius; of more blades each is narrower.

    Widest near half the radius, round at the tip; common practice, no source.
    """
    plan = 0.21 * np.sqrt(np.maximum(1 - ((shares - 0.42) / 0.585) ** 2, 0.0)) + 0.012
    return np.asarray(plan * (2 / blades) ** 0.15)


@dataclass(frozen=True)
class Coefficients:
    """C_T = T/(rho n^2 D^4) and C_P = P/(rho n^3 D^5)."""

    ct: Array
    cp: Array


def coefficients(
    pitch_ratio: Array,
    blades: Array,
    advance_ratio: Array,
    tip_mps: Array,
    diameter_m: Array,
    density: Array,
    section: Section = GENERIC,
) -> Coefficients:
    """Return thrust and power of generic propellers; all arguments broadcast.

    Parameters
    ----------
    pitch_ratio : array_like
        Nominal pitch over diameter.
    advance_ratio : array_like
        J = V/(n D), from nought on.
    tip_mps : array_like
        Speed of the tips around, pi n D; with `diameter_m` and `density` (kg/m3) it sets Reynolds
        and Mach numbers.
    """
    shape = np.broadcast_shapes(
        *(np.shape(one) for one in (pitch_ratio, blades, advance_ratio, tip_mps, diameter_m))
    )
    wide = [
        np.broadcast_to(one, shape)[..., None]
        for one in (pitch_ratio, blades, advance_ratio, tip_mps, diameter_m, density)
    ]
    pitch, count, advance, tip, diameter, rho = wide
    chord = chord_over_radius(SHARES, count)
    solidity = count * chord / (2 * np.pi * SHARES)
    twist = np.arctan(pitch / (np.pi * SHARES))
    travels = advance / (np.pi * SHARES)
    speed = tip * np.sqrt(SHARES**2 + (advance / np.pi) ** 2)
    reynolds = rho * speed * chord * diameter / 2 / VISCOSITY_PA_S
    mach = speed / SOUND_MPS

    flow = section.in_flow(reynolds, mach)
    tips = 0.5 * count * (1 - SHARES) / SHARES

    def acting(angle: Array) -> tuple[Array, Array, Array]:
        lift, drag = flow.lift_drag(twist - angle)
        sine, cosine = np.sin(angle), np.cos(angle)
        lost = tips / np.maximum(sine, 1e-9)
        kept = 2 / np.pi * np.arccos(np.exp(-np.minimum(lost, 500.0)))
        share = solidity / (4 * np.maximum(kept, 1e-9))
        return share * (lift * cosine - drag * sine), share * (lift * sine + drag * cosine), kept

    def missed(angle: Array) -> Array:
        axial, around, _ = acting(angle)
        sine, cosine = np.sin(angle), np.cos(angle)
        return np.asarray(axial + travels * (sine * cosine + around) - sine**2)

    low = np.full(reynolds.shape, FLATTEST)
    angle = falling_root(missed, low, np.full(reynolds.shape, STEEPEST), CLOSE)
    axial, around, kept = acting(angle)
    # Of the speed past the section, as a share of the tip's around; it is turned back by what it
    # has been given around: a' = k'/(1 + k').
    turned = around / (np.sin(angle) * np.cos(angle))
    past = SHARES / (1 + turned) / np.cos(angle)
    # dT = 1/2 rho U^2 B c c_n dr, and s c_n = 4 F k, so that dT = 4 pi rho F k U^2 r dr.
    thrust = np.sum(WEIGHTS * SHARES * kept * axial * past**2, axis=-1)
    torque = np.sum(WEIGHTS * SHARES**2 * kept * around * past**2, axis=-1)
    return Coefficients(ct=np.pi**3 * thrust, cp=np.pi**4 * torque)
