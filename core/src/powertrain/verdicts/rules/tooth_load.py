"""Pull on chains and belts, and bending stress of gear teeth, at the hardest push."""

import math
from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.documents.vehicle import ToothedStage
from powertrain.gearing.train import ratio_of
from powertrain.operating.full_throttle import full_throttle
from powertrain.verdicts.verdict import Case, NotJudged, Verdict, severity_of

BREAKS_N = {6.35: 3500.0, 8.0: 4600.0, 9.525: 8900.0, 12.7: 17800.0, 15.875: 22200.0}
"""Least breaking load of single roller chains by pitch in mm (ISO 606; from memory). Chains of
bicycles with this pitch and half the width break at about half."""

SAFETY = 8.0
"""Breaking over working load of a drive chain; common practice."""


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge each stage at the torque of a full-throttle start."""
    start = full_throttle(case.drive, scalar(0.0))
    torque_nm = float(start.shaft_torque_nm) * case.build.motor.count
    for index, stage in enumerate(case.build.gearing):
        if isinstance(stage, ToothedStage):
            if stage.kind == "spur":
                yield from _teeth(index, stage, torque_nm)
            else:
                yield from _pull(index, stage, torque_nm)
        torque_nm *= ratio_of(stage) * stage.efficiency


def _pull(index: int, stage: ToothedStage, torque_nm: float) -> Iterator[Verdict | NotJudged]:
    rule = f"stage_{index + 1}_pull"
    if stage.pitch_mm is None:
        say = f"Pull on the {stage.kind} of stage {index + 1}: its pitch is not known."
        yield NotJudged(id=rule, part="gearing", path=f"gearing.{index}.pitch_mm", say=say)
        return
    radius_m = stage.pitch_mm / 2000 / math.sin(math.pi / stage.driver_teeth)
    if stage.kind == "belt":
        radius_m = stage.pitch_mm * stage.driver_teeth / 2000 / math.pi
    pull_n = torque_nm / radius_m
    limit_n, whose = stage.allowed_pull_n, "as stated"
    if limit_n is None and stage.kind == "chain":
        pitch = min(BREAKS_N, key=lambda known: abs(known - stage.pitch_mm))  # type: ignore[operator]
        if abs(pitch - stage.pitch_mm) < 0.1:
            limit_n, whose = (
                BREAKS_N[pitch] / SAFETY,
                f"an eighth of what breaks a {pitch:g} mm chain",
            )
    if limit_n is None:
        say = f"Pull on the {stage.kind} of stage {index + 1}: what it may pull is not known."
        yield NotJudged(id=rule, part="gearing", path=f"gearing.{index}.allowed_pull_n", say=say)
        return
    yield Verdict(
        id=rule,
        part="gearing",
        title=f"Stage {index + 1}: the {stage.kind} pulls {pull_n:.0f} N of {limit_n:.0f} N",
        severity=severity_of(pull_n, limit_n),
        value=pull_n,
        limit=limit_n,
        unit="N",
        moment="launch",
        why=f"Torque of a full-throttle start on the driver; the limit is {whose}. A larger driver "
        "and driven pull less.",
        fix=None,
    )


def _teeth(index: int, stage: ToothedStage, torque_nm: float) -> Iterator[Verdict | NotJudged]:
    rule = f"stage_{index + 1}_tooth_load"
    module, face, stands = stage.module_mm, stage.face_mm, stage.allowed_stress_mpa
    for key, value in (("module_mm", module), ("face_mm", face), ("allowed_stress_mpa", stands)):
        if value is None:
            say = f"Tooth load of stage {index + 1}: module, face and material are not all known."
            yield NotJudged(id=rule, part="gearing", path=f"gearing.{index}.{key}", say=say)
            return
    if module is None or face is None or stands is None:
        return
    load_n = 2000 * torque_nm / (module * stage.driver_teeth)
    stress = load_n / (module * face * lewis_factor(stage.driver_teeth))
    yield Verdict(
        id=rule,
        part="gearing",
        title=f"Stage {index + 1}: tooth roots bear {stress:.0f} MPa of {stands:g}",
        severity=severity_of(stress, stands),
        value=stress,
        limit=stands,
        unit="MPa",
        moment="launch",
        why="Bending of one tooth of the driver at a full-throttle start (Lewis).",
        fix=None,
    )


def lewis_factor(teeth: int) -> float:
    """Return the Lewis form factor of a 20 degree full-depth tooth: 0.484 - 2.87/z.

    Source: the usual fit to the Lewis table (e.g. Shigley, table 14-2: 0.322 for 20 teeth,
    0.409 for 50; from memory).
    """
    return 0.484 - 2.87 / max(teeth, 8)
