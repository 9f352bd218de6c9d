"""The routes to the constants of a series-wound motor: its curve, or one or two lines of its plate.

``k(I) = k_sat I/(I + I_half)``, ``T = k I - T_loss``, ``V = k w + I R``.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from powertrain.constants import RPM_PER_RAD_S
from powertrain.identify.facts import MotorFacts
from powertrain.identify.finding import Finding, Origin

SATURATED, HALF = "saturated_constant_nm_per_a", "half_saturation_current_a"
OHM, LOSS = "resistance_ohm", "loss_torque_nm"

COPPER_PART = 0.7
"""Part of the losses at the plate's load that heats the copper; the rest turns; common practice."""

RATED_OVER_HALF = 2.0
"""The plate's amps over those of half saturation; common practice, no source (1 to 4)."""

USUAL_EFFICIENCY = 0.80
"""Where a plate gives electrical watts alone; common practice, no source (0.75 to 0.85)."""


@dataclass(frozen=True)
class PlateLine:
    """One line of a plate."""

    volts: float
    amps: float
    rad_s: float
    torque_nm: float
    torque_is_guessed: bool


def first_line(facts: MotorFacts) -> PlateLine | None:
    """Return the plate's line, None where volts, amps or speed are not given.

    Watts that can't be at the shaft, since they are nearly all that goes in, are taken for those
    at the wires.
    """
    volts, amps, rpm = facts.rated_voltage_v, facts.rated_current_a, facts.rated_speed_rpm
    if volts is None or amps is None or rpm is None:
        return None
    rad_s = rpm / RPM_PER_RAD_S
    if facts.rated_torque_nm is not None and facts.rated_torque_nm * rad_s < volts * amps:
        return PlateLine(volts, amps, rad_s, facts.rated_torque_nm, False)
    watts = facts.rated_power_w
    shaft = watts is not None and facts.power_is != "electrical" and watts < 0.97 * volts * amps
    if watts is not None and shaft:
        return PlateLine(volts, amps, rad_s, watts / rad_s, False)
    if watts is None and facts.rated_torque_nm is None:
        return None
    return PlateLine(volts, amps, rad_s, USUAL_EFFICIENCY * volts * amps / rad_s, True)


def _second_line(facts: MotorFacts) -> PlateLine | None:
    said = (
        facts.second_rated_voltage_v,
        facts.second_rated_current_a,
        facts.second_rated_speed_rpm,
        facts.second_rated_torque_nm,
    )
    volts, amps, rpm, torque = said
    if volts is None or amps is None or rpm is None or torque is None:
        return None
    return PlateLine(volts, amps, rpm / RPM_PER_RAD_S, torque, False)


def _free_line(facts: MotorFacts) -> PlateLine | None:
    """Return a free run as a line: what it gives at the shaft is nothing."""
    volts, amps, rpm = facts.free_voltage_v, facts.free_current_a, facts.free_speed_rpm
    if volts is None or amps is None or rpm is None:
        return None
    return PlateLine(volts, amps, rpm / RPM_PER_RAD_S, 0.0, False)


def plate(facts: MotorFacts, found: object) -> Iterator[Finding]:
    """Yield the constants that give back torque and rpm of the plate.

    One line leaves two of four open: they are taken as usual, in wide bands. A second line or a
    free run settles them, if both can be of one motor.
    """
    one, other = first_line(facts), _second_line(facts)
    route = "two lines of the plate"
    if other is None:
        other, route = _free_line(facts), "the plate and a free run"
    if one is None:
        return
    if other is not None and not one.torque_is_guessed:
        values = _by_two(one, other)
        if values is not None:
            yield from _told(values, (0.2, 0.4, 0.4, 0.6), route, "data_sheet")
            return
    lost_w = one.volts * one.amps - one.torque_nm * one.rad_s
    ohm = COPPER_PART * lost_w / one.amps**2
    loss_nm = (1 - COPPER_PART) * lost_w / one.rad_s
    constant = (one.volts - one.amps * ohm) / one.rad_s
    half_a = one.amps / RATED_OVER_HALF
    saturated = constant * (one.amps + half_a) / one.amps
    wide = 1.5 if one.torque_is_guessed else 1.0
    bands = (0.4, 1.0, 0.8 * wide, 1.5 * wide)
    yield from _told((saturated, half_a, ohm, loss_nm), bands, "the plate", "estimated")


def _by_two(one: PlateLine, other: PlateLine) -> tuple[float, float, float, float] | None:
    """Return the constants of two lines: four equations, linear in R, then in 1/k and 1/I."""
    inner = [(line.volts * line.amps / line.rad_s - line.torque_nm) for line in (one, other)]
    per_ohm = [line.amps**2 / line.rad_s for line in (one, other)]
    if per_ohm[0] == per_ohm[1] or one.amps == other.amps:
        return None
    ohm = (inner[0] - inner[1]) / (per_ohm[0] - per_ohm[1])
    loss_nm = inner[0] - ohm * per_ohm[0]
    constants = [(line.volts - line.amps * ohm) / line.rad_s for line in (one, other)]
    if min(ohm, loss_nm, *constants) <= 0:
        return None
    slope = (1 / constants[0] - 1 / constants[1]) / (1 / one.amps - 1 / other.amps)
    rest = 1 / constants[0] - slope / one.amps
    if slope <= 0 or rest <= 0:
        return None
    return 1 / rest, slope / rest, ohm, loss_nm


def _told(
    values: tuple[float, ...], bands: tuple[float, ...], route: str, origin: Origin
) -> Iterator[Finding]:
    uses = ["rated_voltage_v", "rated_current_a", "rated_speed_rpm"]
    for key, value, band in zip((SATURATED, HALF, OHM, LOSS), values, bands, strict=True):
        yield Finding(key=key, value=value, tolerance=band, origin=origin, route=route, uses=uses)


def curve(facts: MotorFacts, found: object) -> Iterator[Finding]:
    """Yield the constants of a series-wound motor that fit points of its data sheet.

    Least squares over torque and speed of every point, each relative to its largest.
    """
    points, volts = facts.curve, facts.curve_voltage_v
    if volts is None or len(points) < 4:
        return
    torque = np.array([point.torque_nm for point in points])
    amps = np.array([point.current_a for point in points])
    speed = np.array([point.rpm for point in points]) / RPM_PER_RAD_S
    moving = speed > 0
    if np.any(amps <= 0) or torque.max() <= 0 or not np.any(moving):
        return

    def misfit(logs: "np.ndarray[tuple[int], np.dtype[np.float64]]") -> "np.ndarray":
        saturated, half, ohm, loss = np.exp(logs)
        constant = saturated * amps / (amps + half)
        of_torque = (constant * amps - loss - torque) / torque.max()
        of_speed = ((volts - amps * ohm) / constant - speed)[moving] / speed.max()
        return np.concatenate([of_torque, of_speed])

    first = np.log(
        [
            torque.max() / amps.max() * 2,
            amps.max() / 2,
            0.1 * volts / amps.max(),
            0.02 * torque.max(),
        ]
    )
    # Read here, since it takes half a second and only this route needs it.
    from scipy.optimize import least_squares

    fit = least_squares(misfit, first, method="lm", max_nfev=2000)
    rest = float(np.sqrt(np.mean(fit.fun**2)))
    if not math.isfinite(rest):
        return
    for key, value, base in zip(
        (SATURATED, HALF, OHM, LOSS), np.exp(fit.x), (0.05, 0.10, 0.15, 0.3), strict=True
    ):
        yield Finding(
            key=key,
            value=float(value),
            tolerance=min(base + 3 * rest, 3.0),
            origin="data_sheet",
            route="the curve",
            uses=["curve", "curve_voltage_v"],
        )
