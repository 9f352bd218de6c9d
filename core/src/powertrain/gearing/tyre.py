"""What a tyre rolls: from its marking or a tape, under load, at speed; and speeds from rpm."""

import math
import re

from pydantic import BaseModel

from powertrain.compile.build import compile_drive
from powertrain.documents.build import Build
from powertrain.errors import Refusal
from powertrain.units import kmh_from_mps, mps_from_kmh

SINKS = 0.03
"""Share of its diameter that a loaded air tyre loses; 0.01 hard, 0.05 soft. Common practice."""

GROWS_PER_KMH = 0.0002
"""Share by which a soft tyre grows for each km/h; common practice, no source, for slow tyres."""

NUMBER = r"([0-9]+(?:\.[0-9]+)?)"


class TyreAnswer(BaseModel):
    """A tyre: its free diameter, and the circumference that it rolls, with a band."""

    marking: str
    read_as: str
    diameter_mm: float
    rolls_mm: float
    rolls_low_mm: float
    rolls_high_mm: float
    at_speed_mm: float


def tyre_of(marking: str, speed_kmh: float = 0.0, pressure_share: float = 1.0) -> TyreAnswer:
    """Return what a tyre of a given marking rolls.

    Parameters
    ----------
    marking : str
        As on its side: ``47-406`` (width and bead seat, ISO 5775), ``26 x 2.0`` and ``200 x 50``,
        ``145/70-6``, ``4.10-4``; or a diameter ``254 mm``.
    pressure_share : float
        Pressure over the usual; half of it sinks about twice as far (estimate).

    Raises
    ------
    Refusal
        If the marking can't be read.
    """
    diameter, read_as = _diameter_mm(marking)
    sinks = min(SINKS / max(pressure_share, 0.2), 0.12)
    if not 0 < pressure_share <= 3:
        raise Refusal("pressure_share", "must be above 0, at most 3 times the usual")
    rolls = math.pi * diameter * (1 - sinks)
    return TyreAnswer(
        marking=marking,
        read_as=read_as,
        diameter_mm=diameter,
        rolls_mm=rolls,
        rolls_low_mm=math.pi * diameter * (1 - min(2 * sinks, 0.15)),
        rolls_high_mm=math.pi * diameter * (1 - sinks / 3),
        at_speed_mm=rolls * (1 + GROWS_PER_KMH * max(speed_kmh, 0.0)),
    )


LONGEST = 40
"""Letters of a marking; those that are moulded into tyres have a dozen."""


def _diameter_mm(marking: str) -> tuple[float, str]:
    if len(marking) > LONGEST:
        raise Refusal("marking", f"has {len(marking):,} letters; a tyre's has at most {LONGEST}")
    text = marking.strip().lower().replace("\u00d7", "x").replace(",", ".")
    if match := re.fullmatch(rf"{NUMBER}\s*/\s*{NUMBER}\s*(?:r|-)?\s*{NUMBER}", text):
        wide, share, rim = (float(group) for group in match.groups())
        if wide > 20:
            return 25.4 * rim + 2 * wide * share / 100, "width, height in % of it, rim in inches"
        return 25.4 * (rim + 2 * share), "width / height and rim in inches"
    if match := re.fullmatch(rf"{NUMBER}\s*-\s*{NUMBER}", text):
        wide, bead = (float(group) for group in match.groups())
        if bead > 100:
            return bead + 2 * wide, "width and bead seat in mm (ISO 5775)"
        return 25.4 * (bead + 2 * wide), "width and rim in inches"
    if match := re.fullmatch(rf"{NUMBER}\s*x\s*{NUMBER}(?:\s*mm)?", text):
        first = float(match[1])
        if first > 60:
            return first, "diameter and width in mm"
        return 25.4 * first, "diameter and width in inches"
    if match := re.fullmatch(rf"{NUMBER}\s*(mm|in|inch|\")?", text):
        value = float(match[1])
        inches = match[2] in ("in", "inch", '"') or (match[2] is None and value < 40)
        return (25.4 * value if inches else value), "diameter"
    raise Refusal("marking", "can't be read; write it as 47-406, 26 x 2.0, 145/70-6 or 254 mm")


class SpeedsAnswer(BaseModel):
    """A speed of the wheel and what belongs to it; `gear` of a gearbox is the tallest."""

    wheel_rpm: float
    speed_kmh: float
    motor_rpm: float
    volts_free: float | None


def speeds(
    build: Build,
    *,
    wheel_rpm: float | None = None,
    motor_rpm: float | None = None,
    speed_kmh: float | None = None,
) -> SpeedsAnswer:
    """Return wheel rpm, road speed and motor rpm that belong together.

    A tachometer on a free wheel gives `wheel_rpm`; a satellite speed gives `speed_kmh`, and the
    motor's rpm of a run that was not logged.

    Raises
    ------
    Refusal
        Unless exactly one of them is given.
    """
    given = [value for value in (wheel_rpm, motor_rpm, speed_kmh) if value is not None]
    if len(given) != 1 or given[0] < 0:
        raise Refusal("speed", "give one of wheel rpm, motor rpm and speed, not below zero")
    drive = compile_drive(build)
    drive = drive.in_gear(drive.train.gears[-1])
    ratio, turn_m = float(drive.train.ratio), build.driven_wheel.rolling_circumference_mm / 1000
    if wheel_rpm is None:
        if motor_rpm is not None:
            wheel_rpm = motor_rpm / ratio
        else:
            wheel_rpm = float(mps_from_kmh(speed_kmh or 0.0)) / turn_m * 60
    motor = wheel_rpm * ratio
    kv = getattr(build.motor, "kv_rpm_per_v", None)
    return SpeedsAnswer(
        wheel_rpm=wheel_rpm,
        speed_kmh=float(kmh_from_mps(wheel_rpm / 60 * turn_m)),
        motor_rpm=motor,
        volts_free=None if not kv else motor / kv,
    )
