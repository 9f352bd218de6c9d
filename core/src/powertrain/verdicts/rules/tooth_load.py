"""Pull on chains and belts, and bending stress of gear teeth, at the hardest push."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.vehicle import ToothedStage
from powertrain.transmission.stage import StageData
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import NEAR, Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict

BREAKS_N = {6.35: 3500.0, 8.0: 4600.0, 9.525: 8900.0, 12.7: 17800.0, 15.875: 22200.0}
"""Least breaking load of single roller chains by pitch in mm (ISO 606; from memory). Chains of
bicycles with this pitch and half the width break at about half."""

SAFETY, LEAST_SAFETY = 8.0, 3.0
"""Breaking over working load of a drive chain, and the least that is ridden: from the one on it
wears and stretches, at the other it is a question of when; common practice, no source."""


@dataclass(frozen=True)
class Strength:
    """How a stage is loaded by each newton-metre on its driver, and what it stands.

    NaN and infinite where that is not known. `stops_at` is the load that is no longer done; between
    it and the limit it is worn.
    """

    per_nm: Array
    limit: Array
    stops_at: Array


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge each stage at the torque of a full-throttle start."""
    torque_nm = batch.start.shaft_torque_nm * batch.drive.motor.count
    yield from loaded(batch.ratings.stages, torque_nm)


def loaded(stages: Sequence[StageData], torque_nm: Array) -> Iterator[Judgement]:
    """Yield how each toothed stage of a train is loaded by the torque of all shafts together."""
    for index, stage in enumerate(stages):
        if stage.toothed:
            strength = strength_of(stage)
            value, known = strength.per_nm * torque_nm, np.isfinite(strength.per_nm)
            what = "tooth_load" if _is_spur(stage) else "pull"
            severity = grades(
                stop=exceeds(value, strength.stops_at), watch=value > NEAR * strength.limit
            )
            load = np.where(known, value / strength.stops_at, 0.0)
            yield Judgement(
                f"stage_{index + 1}_{what}",
                value,
                strength.limit,
                severity,
                load,
                applies=known,
                part=index,
            )
        torque_nm = torque_nm * stage.ratio * stage.efficiency


def carries_nm(stages: Sequence[StageData]) -> Array:
    """Return the torque of all shafts together at which the first stage of a train gives way.

    Infinite where nothing is known of what its teeth and links stand.
    """
    least, before = scalar(np.inf), scalar(1.0)
    for stage in stages:
        if stage.toothed:
            strength = strength_of(stage)
            stands_nm = strength.stops_at / (strength.per_nm * before)
            least = np.fmin(least, stands_nm)
        before = before * stage.ratio * stage.efficiency
    return least


def _is_spur(stage: StageData) -> bool:
    return stage.kind == "spur"


def strength_of(stage: StageData) -> Strength:
    """Return what a toothed stage stands."""
    return _of_teeth(stage) if _is_spur(stage) else _of_strand(stage)


def _of_strand(stage: StageData) -> Strength:
    pitch, teeth = stage.pitch_mm, stage.driver_teeth
    limit_n, chain = stage.allowed_pull_n, stage.kind == "chain"
    radius_m = pitch * teeth / 2000 / np.pi
    if chain:
        radius_m = pitch / 2000 / np.sin(np.pi / teeth)
        limit_n = np.where(np.isnan(limit_n), breaks_n(pitch) / SAFETY, limit_n)
    stops_n = limit_n * SAFETY / LEAST_SAFETY if chain else limit_n
    return _known(1 / radius_m, limit_n, stops_n)


def breaks_n(pitch_mm: Array) -> Array:
    """Return what breaks a chain of a pitch; NaN for one that is not in the table."""
    found = scalar(np.nan)
    for pitch, least_n in BREAKS_N.items():
        found = np.where(np.abs(pitch_mm - pitch) < 0.1, least_n, found)
    return found


def _of_teeth(stage: StageData) -> Strength:
    module = stage.module_mm
    load_n = 2000 / (module * stage.driver_teeth)
    bends = load_n / (module * stage.face_mm * lewis_factor(stage.driver_teeth))
    return _known(bends, stage.allowed_stress_mpa, stage.allowed_stress_mpa)


def _known(per_nm: Array, limit: Array, stops_at: Array) -> Strength:
    known = np.isfinite(per_nm) & np.isfinite(limit)
    return Strength(
        np.where(known, per_nm, np.nan),
        np.where(known, limit, np.inf),
        np.where(known, stops_at, np.inf),
    )


def lewis_factor(teeth: Array) -> Array:
    """Return the Lewis form factor of a 20 degree full-depth tooth: 0.484 - 2.87/z.

    Source: the usual fit to the Lewis table (e.g. Shigley, table 14-2: 0.322 for 20 teeth,
    0.409 for 50; from memory).
    """
    return 0.484 - 2.87 / np.maximum(teeth, 8)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what pulls, or bends the teeth."""
    stage, number = context.build.gearing[found.part], found.part + 1
    assert isinstance(stage, ToothedStage)
    value, limit = float(found.value), float(found.limit)
    if stage.kind == "spur":
        title = f"Stage {number}: tooth roots bear {value:.0f} MPa of {limit:g}"
        why = "Bending of one tooth of the driver at a full-throttle start (Lewis)."
        return verdict(found, "gearing", title, why, unit="MPa", moment="launch")
    whose = "as stated"
    if stage.allowed_pull_n is None:
        pitch = min(BREAKS_N, key=lambda known: abs(known - (stage.pitch_mm or 0.0)))
        whose = f"an eighth of what breaks a {pitch:g} mm chain"
    if stage.kind == "chain":
        stops_n = limit * SAFETY / LEAST_SAFETY
        whose += f"; a third of what breaks it, {stops_n:.0f} N, is not done"
    title = f"Stage {number}: the {stage.kind} pulls {value:.0f} N of {limit:.0f} N"
    why = (
        f"Torque of a full-throttle start on the driver; the limit is {whose}. A larger "
        "driver and driven pull less."
    )
    return verdict(found, "gearing", title, why, unit="N", moment="launch")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield what must be known before a stage can be judged."""
    for index, stage in enumerate(context.build.gearing):
        if isinstance(stage, ToothedStage):
            gap = _gap(stage)
            if gap is not None:
                spur, number = stage.kind == "spur", index + 1
                what = f"Pull on the {stage.kind} of stage {number}"
                if spur:
                    what = f"Tooth load of stage {number}"
                yield NotJudged(
                    id=f"stage_{number}_{'tooth_load' if spur else 'pull'}",
                    part="gearing",
                    path=f"gearing.{index}.{gap[0]}",
                    say=f"{what}: {gap[1]}.",
                )


def _gap(stage: ToothedStage) -> tuple[str, str] | None:
    """Return which value is missing, and that in words; None where none is."""
    if stage.kind == "spur":
        keys = ("module_mm", "face_mm", "allowed_stress_mpa")
        missing = next((key for key in keys if getattr(stage, key) is None), None)
        return None if missing is None else (missing, "module, face and material are not all known")
    if stage.pitch_mm is None:
        return "pitch_mm", "its pitch is not known"
    in_table = stage.kind == "chain" and np.isfinite(breaks_n(scalar(stage.pitch_mm)))
    if stage.allowed_pull_n is None and not in_table:
        return "allowed_pull_n", "what it may pull is not known"
    return None


RULE = Rule(judge, say, unknown, rejects="teeth, chain or belt would not stand the torque")
