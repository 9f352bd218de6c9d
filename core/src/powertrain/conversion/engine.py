"""The engine that comes out, by the two points that its papers give.

Torque over rpm is the parabola with its top at the greatest torque that passes through the torque
of the greatest power, ``T = P/w`` (common practice: two points are all that most owners have). Of
an engine that tells one point only, the other is that of a usual one, and is marked as a guess.
"""

import math
from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import Array
from powertrain.constants import RPM_PER_RAD_S
from powertrain.documents.conversion import Replaces

TORQUE_OVER_POWERS = 1.15
"""Greatest torque over that at the greatest power; common practice, no source (1.1 to 1.3)."""

TORQUE_AT = 0.6
"""Rpm of the greatest torque over that of the greatest power; common practice, no source."""

IDLES_AT, ENDS_AT = 0.3, 1.1
"""From where to where an engine is used, as shares of the rpm of its greatest power."""

ROUNDED = 1.02
"""How far the torque of the greatest power may seem to pass the greatest, by rounded papers."""


@dataclass(frozen=True)
class Engine:
    """Torque over rpm from idle to where it ends."""

    torque_nm: float
    torque_at_rpm: float
    power_nm: float
    power_at_rpm: float

    def torque_at(self, rpm: Array) -> Array:
        """Return the torque at full throttle, in N.m."""
        apart = self.power_at_rpm - self.torque_at_rpm
        if apart <= 0:
            return np.full(np.shape(rpm), self.torque_nm)
        fall = (self.torque_nm - self.power_nm) / apart**2
        return np.maximum(self.torque_nm - fall * (rpm - self.torque_at_rpm) ** 2, 0.0)

    @property
    def idles_rpm(self) -> float:
        """From where it pulls."""
        return IDLES_AT * self.power_at_rpm

    @property
    def ends_rpm(self) -> float:
        """Where it ends."""
        return ENDS_AT * self.power_at_rpm


class School(BaseModel):
    """One answer to how much motor is needed: torque at the shaft, rpm, and their power."""

    id: str
    title: str
    torque_nm: float
    rpm: float
    power_w: float
    say: str


class Told(BaseModel):
    """What was reckoned of an engine: its points, what was guessed and what can't be."""

    torque_nm: float
    torque_at_rpm: float
    power_w: float
    power_at_rpm: float
    guessed: list[str]
    contradictions: list[str]


def engine_of(replaces: Replaces | None) -> tuple[Engine, Told] | None:
    """Return the engine of a document, None where neither torque nor power is told."""
    if replaces is None:
        return None
    torque, power_kw = replaces.torque_nm, replaces.power_kw
    torque_rpm, power_rpm = replaces.torque_at_rpm, replaces.power_at_rpm
    guessed = []
    if power_rpm is None and (torque is not None or power_kw is not None):
        power_rpm = _rpm_of_power(torque, torque_rpm, power_kw)
        guessed.append(f"greatest power at {power_rpm:,.0f} rpm")
    if power_rpm is None:
        return None
    if power_kw is None and torque is not None:
        power_nm = torque / TORQUE_OVER_POWERS
        guessed.append(f"{power_nm:.0f} N.m left at the rpm of its greatest power")
    elif power_kw is not None:
        power_nm = 1000 * power_kw * RPM_PER_RAD_S / power_rpm
    else:
        return None
    if torque is None:
        torque = TORQUE_OVER_POWERS * power_nm
        guessed.append(f"greatest torque {torque:.0f} N.m")
    if torque_rpm is None:
        torque_rpm = TORQUE_AT * power_rpm
        guessed.append(f"greatest torque at {torque_rpm:,.0f} rpm")
    wrong = _contradictions(torque, torque_rpm, power_nm, power_rpm)
    engine = Engine(torque, torque_rpm, min(power_nm, torque), power_rpm)
    told = Told(
        torque_nm=torque,
        torque_at_rpm=torque_rpm,
        power_w=power_nm * power_rpm / RPM_PER_RAD_S,
        power_at_rpm=power_rpm,
        guessed=guessed,
        contradictions=wrong,
    )
    return engine, told


def _rpm_of_power(torque: float | None, torque_rpm: float | None, power_kw: float | None) -> float:
    if torque is not None and power_kw is not None:
        return 1000 * power_kw * RPM_PER_RAD_S / (torque / TORQUE_OVER_POWERS)
    return torque_rpm / TORQUE_AT if torque_rpm is not None else USUAL_RPM


USUAL_RPM = 5000.0
"""Where small petrol engines have their greatest power; common practice, no source."""


def _contradictions(
    torque: float, torque_rpm: float, power_nm: float, power_rpm: float
) -> list[str]:
    found = []
    if power_nm > ROUNDED * torque:
        found.append(
            f"The power at {power_rpm:,.0f} rpm is {power_nm:.0f} N.m there, more than the "
            f"greatest torque of {torque:.0f} N.m: one of the two is of another engine, or "
            "measured without its fan and belts. The lesser is taken."
        )
    if torque_rpm > power_rpm:
        found.append(
            f"The greatest torque can't come at {torque_rpm:,.0f} rpm, above the greatest power's "
            f"{power_rpm:,.0f}: exchange the two. One torque is taken for all rpm."
        )
    return found


def school_of_engine(engine: Engine, driven_at_rpm: float | None) -> School:
    """Return the school that asks for the engine's torque at the rpm it was really driven at."""
    rpm = engine.torque_at_rpm if driven_at_rpm is None else driven_at_rpm
    watts = engine.torque_nm * rpm / RPM_PER_RAD_S
    driven = "where it pulled most, since nobody says what it was driven at"
    if driven_at_rpm is not None:
        driven = "the rpm it was really driven at"
    return School(
        id="engine",
        title="About its torque, at the rpm it was driven at",
        torque_nm=engine.torque_nm,
        rpm=rpm,
        power_w=watts,
        say=f"{engine.torque_nm:.0f} N.m at {rpm:,.0f} rpm, {driven}, are "
        f"{watts / 1000:.0f} kW for a while; papers tell a power that nobody used.",
    )


def school_of_road(shaft_w: float, shaft_nm: float, rpm: float, where: str) -> School | None:
    """Return the school that asks for what the road takes; None where it takes nothing."""
    if not math.isfinite(shaft_w) or shaft_w <= 0:
        return None
    return School(
        id="road",
        title="What the road takes, reckoned",
        torque_nm=shaft_nm,
        rpm=rpm,
        power_w=shaft_w,
        say=f"{where} takes {shaft_w / 1000:.1f} kW at the shaft, {shaft_nm:.0f} N.m at "
        f"{rpm:,.0f} rpm in the gear that takes least.",
    )
