"""Tooth counts and the ratio of each stage."""

from collections.abc import Iterator

from powertrain.documents.vehicle import ToothedStage
from powertrain.verdicts.verdict import Case, Fix, Many, Mask, Severity, Verdict, nowhere

FEWEST = {"chain": (9, 13), "belt": (12, 18), "spur": (10, 13)}
"""Teeth of the smaller wheel: below the first nothing runs well, below the second it wears and
hums; common practice, no source. (An uncorrected 20 degree gear is undercut below 17 teeth.)"""

MOST_RATIO = {"chain": (8.0, 6.0), "belt": (10.0, 7.0), "spur": (10.0, 6.0)}
"""Reduction of one stage: above the first too little wraps or meshes; common practice."""


def impossible(stage: ToothedStage) -> bool:
    """Return whether a stage has too few teeth or reduces too much to be made at all."""
    verdicts = (_teeth(0, stage), _ratio(0, stage))
    return any(verdict.severity == "stop" for verdict in verdicts)


def judge(case: Case) -> Iterator[Verdict]:
    """Judge each toothed stage."""
    for index, stage in enumerate(case.build.gearing):
        if isinstance(stage, ToothedStage):
            yield _teeth(index, stage)
            yield _ratio(index, stage)


def _teeth(index: int, stage: ToothedStage) -> Verdict:
    teeth = min(stage.driver_teeth, stage.driven_teeth)
    least, smooth = FEWEST[stage.kind]
    severity: Severity = "stop" if teeth < least else "watch" if teeth < smooth else "ok"
    # The same ratio with more teeth on both sides keeps the speed.
    more = smooth / teeth
    larger = {"driver": stage.driver_teeth, "driven": stage.driven_teeth}
    larger = {key: round(value * more) for key, value in larger.items()}
    fix = Fix(
        say=f"Stage {index + 1}: {larger['driver']} and {larger['driven']} teeth",
        change={f"gearing.{index}.{key}_teeth": value for key, value in larger.items()},
    )
    return Verdict(
        id=f"stage_{index + 1}_teeth",
        part="gearing",
        title=f"Stage {index + 1}: {teeth} teeth on the smaller wheel; {smooth} run smoothly",
        severity=severity,
        value=float(teeth),
        limit=float(smooth),
        unit="teeth",
        moment=None,
        why=f"Few teeth make a {stage.kind} jerk, wear and lose; below {least} it is not done.",
        fix=fix if severity == "stop" else None,
    )


def _ratio(index: int, stage: ToothedStage) -> Verdict:
    ratio = stage.driven_teeth / stage.driver_teeth
    steep = max(ratio, 1 / ratio)
    most, usual = MOST_RATIO[stage.kind]
    severity: Severity = "stop" if steep > most else "watch" if steep > usual else "ok"
    return Verdict(
        id=f"stage_{index + 1}_ratio",
        part="gearing",
        title=f"Stage {index + 1}: {steep:.2f} to 1 in one {stage.kind} stage, {usual:g} is usual",
        severity=severity,
        value=steep,
        limit=most,
        unit="",
        moment=None,
        why="Too little of the small wheel is wrapped or in mesh; share it between two stages."
        if severity != "ok"
        else "Enough teeth of the small wheel carry.",
        fix=None,
    )


def stops(many: Many) -> Mask:
    """Return whether a stage can't be made."""
    stages = [stage for stage in many.build.gearing if isinstance(stage, ToothedStage)]
    return nowhere(many) | any(impossible(stage) for stage in stages)
