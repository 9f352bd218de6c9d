"""Pull on chains and belts, and bending stress of gear teeth, at the hardest push."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from powertrain.documents.vehicle import Stage, ToothedStage
from powertrain.gearing.train import ratio_of
from powertrain.verdicts.verdict import (
    Case,
    Many,
    Mask,
    NotJudged,
    Severity,
    Verdict,
    exceeds,
    nowhere,
    severity_of,
)

BREAKS_N = {6.35: 3500.0, 8.0: 4600.0, 9.525: 8900.0, 12.7: 17800.0, 15.875: 22200.0}
"""Least breaking load of single roller chains by pitch in mm (ISO 606; from memory). Chains of
bicycles with this pitch and half the width break at about half."""

SAFETY, LEAST_SAFETY = 8.0, 3.0
"""Breaking over working load of a drive chain, and the least that is ridden: from the one on it
wears and stretches, at the other it is a question of when; common practice, no source."""


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge each stage at the torque of a full-throttle start."""
    start = case.start
    torque_nm = float(start.shaft_torque_nm) * case.build.motor.count
    for index, stage in enumerate(case.build.gearing):
        if isinstance(stage, ToothedStage):
            yield _loaded(index, stage, torque_nm)
        torque_nm *= ratio_of(stage) * stage.efficiency


def carries_nm(stages: Sequence[Stage]) -> float:
    """Return the torque of all shafts together at which the first stage of a train gives way.

    Infinite where nothing is known of what its teeth and links stand.
    """
    least, before = math.inf, 1.0
    for stage in stages:
        if isinstance(stage, ToothedStage):
            strength = _strength(stage)
            if not isinstance(strength, Gap):
                least = min(least, strength.stops_at / (strength.per_nm * before))
        before *= ratio_of(stage) * stage.efficiency
    return least


@dataclass(frozen=True)
class Strength:
    """How a stage is loaded by each newton-metre on its driver, and what it stands."""

    per_nm: float
    limit: float
    whose: str
    stops_at: float
    """The load that is no longer done; between it and the limit it is worn."""


@dataclass(frozen=True)
class Gap:
    """What must be known before a stage can be judged."""

    key: str
    say: str


def _strength(stage: ToothedStage) -> Strength | Gap:
    return _of_teeth(stage) if stage.kind == "spur" else _of_strand(stage)


def _of_strand(stage: ToothedStage) -> Strength | Gap:
    if stage.pitch_mm is None:
        return Gap("pitch_mm", "its pitch is not known")
    radius_m = stage.pitch_mm / 2000 / math.sin(math.pi / stage.driver_teeth)
    if stage.kind == "belt":
        radius_m = stage.pitch_mm * stage.driver_teeth / 2000 / math.pi
    limit_n, whose = stage.allowed_pull_n, "as stated"
    if limit_n is None and stage.kind == "chain":
        pitch = min(BREAKS_N, key=lambda known: abs(known - stage.pitch_mm))  # type: ignore[operator]
        if abs(pitch - stage.pitch_mm) < 0.1:
            limit_n = BREAKS_N[pitch] / SAFETY
            whose = f"an eighth of what breaks a {pitch:g} mm chain"
    if limit_n is None:
        return Gap("allowed_pull_n", "what it may pull is not known")
    stops_n = limit_n
    if stage.kind == "chain":
        stops_n = limit_n * SAFETY / LEAST_SAFETY
        whose += f"; a third of what breaks it, {stops_n:.0f} N, is not done"
    return Strength(1 / radius_m, limit_n, whose, stops_n)


def _of_teeth(stage: ToothedStage) -> Strength | Gap:
    module, face, stands = stage.module_mm, stage.face_mm, stage.allowed_stress_mpa
    if module is None or face is None or stands is None:
        stated = {"module_mm": module, "face_mm": face, "allowed_stress_mpa": stands}
        missing = next(key for key, value in stated.items() if value is None)
        return Gap(missing, "module, face and material are not all known")
    load_n = 2000 / (module * stage.driver_teeth)
    bends = load_n / (module * face * lewis_factor(stage.driver_teeth))
    return Strength(bends, stands, "", stands)


def _loaded(index: int, stage: ToothedStage, torque_nm: float) -> Verdict | NotJudged:
    spur, number = stage.kind == "spur", index + 1
    rule = f"stage_{number}_{'tooth_load' if spur else 'pull'}"
    strength = _strength(stage)
    if isinstance(strength, Gap):
        what = (
            f"Tooth load of stage {number}"
            if spur
            else f"Pull on the {stage.kind} of stage {number}"
        )
        path = f"gearing.{index}.{strength.key}"
        return NotJudged(id=rule, part="gearing", path=path, say=f"{what}: {strength.say}.")
    value, limit = strength.per_nm * torque_nm, strength.limit
    title = f"Stage {number}: the {stage.kind} pulls {value:.0f} N of {limit:.0f} N"
    why = (
        f"Torque of a full-throttle start on the driver; the limit is {strength.whose}. A larger "
        "driver and driven pull less."
    )
    if spur:
        title = f"Stage {number}: tooth roots bear {value:.0f} MPa of {limit:g}"
        why = "Bending of one tooth of the driver at a full-throttle start (Lewis)."
    return Verdict(
        id=rule,
        part="gearing",
        title=title,
        severity=_severity(value, strength),
        value=value,
        limit=limit,
        unit="MPa" if spur else "N",
        moment="launch",
        why=why,
        fix=None,
    )


def _severity(value: float, strength: Strength) -> Severity:
    """Return stop where it is not done, watch from near its working load on."""
    if exceeds(value, strength.stops_at):
        return "stop"
    return "ok" if severity_of(value, strength.limit) == "ok" else "watch"


def lewis_factor(teeth: int) -> float:
    """Return the Lewis form factor of a 20 degree full-depth tooth: 0.484 - 2.87/z.

    Source: the usual fit to the Lewis table (e.g. Shigley, table 14-2: 0.322 for 20 teeth,
    0.409 for 50; from memory).
    """
    return 0.484 - 2.87 / max(teeth, 8)


def stops(many: Many) -> Mask:
    """Return where a full-throttle start overloads teeth, chain or belt."""
    most_nm = carries_nm(many.build.gearing)
    if math.isinf(most_nm):
        return nowhere(many)
    start = many.start
    return nowhere(many) | exceeds(start.shaft_torque_nm * many.build.motor.count, most_nm)
