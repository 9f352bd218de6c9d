"""Tooth counts and the ratio of each stage."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.vehicle import ToothedStage
from powertrain.transmission.stage import StageData
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Mask, Rule, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict

FEWEST = {"chain": (9, 13), "belt": (12, 18), "spur": (10, 13)}
"""Teeth of the smaller wheel: below the first nothing runs well, below the second it wears and
hums; common practice, no source. (An uncorrected 20 degree gear is undercut below 17 teeth.)"""

MOST_RATIO = {"chain": (8.0, 6.0), "belt": (10.0, 7.0), "spur": (10.0, 6.0)}
"""Reduction of one stage: above the first too little wraps or meshes; common practice."""


def impossible(stage: StageData) -> Mask:
    """Return whether a stage has too few teeth or reduces too much to be made at all."""
    return too_few(stage.kind, stage.driver_teeth, stage.driven_teeth)


def too_few(kind: str, driver: Array, driven: Array) -> Mask:
    """Return whether wheels have too few teeth, or reduce too much, to be made at all."""
    few, steep = _judged("", kind, driver, driven)
    return few.stops | steep.stops


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge each toothed stage."""
    for index, stage in enumerate(batch.ratings.stages):
        if stage.toothed:
            yield from judged(index, stage)


def judged(index: int, stage: StageData) -> tuple[Judgement, Judgement]:
    """Return the findings on teeth and on ratio of one stage."""
    name = f"stage_{index + 1}"
    few, steep = _judged(name, stage.kind, stage.driver_teeth, stage.driven_teeth)
    return replace(few, part=index), replace(steep, part=index)


def _judged(name: str, kind: str, driver: Array, driven: Array) -> tuple[Judgement, Judgement]:
    teeth = np.minimum(driver, driven)
    least, smooth = FEWEST[kind]
    steep = np.maximum(driven / driver, driver / driven)
    most, usual = MOST_RATIO[kind]
    few = grades(stop=teeth < least, watch=teeth < smooth)
    severity = grades(stop=steep > most, watch=steep > usual)
    return (
        Judgement(f"{name}_teeth", teeth, scalar(smooth), few),
        Judgement(f"{name}_ratio", steep, scalar(most), severity),
    )


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how many teeth there are, or how much is reduced."""
    stage, number = context.build.gearing[found.part], found.part + 1
    assert isinstance(stage, ToothedStage)
    if found.id.endswith("_ratio"):
        title = (
            f"Stage {number}: {float(found.value):.2f} to 1 in one {stage.kind} stage, "
            f"{MOST_RATIO[stage.kind][1]:g} is usual"
        )
        why = "Enough teeth of the small wheel carry."
        if found.word != "ok":
            why = (
                "Too little of the small wheel is wrapped or in mesh; share it between two stages."
            )
        return verdict(found, "gearing", title, why, unit="")
    (least, smooth), teeth = FEWEST[stage.kind], int(found.value)
    # The same ratio with more teeth on both sides keeps the speed.
    counts = {"driver": stage.driver_teeth, "driven": stage.driven_teeth}
    more = smooth / teeth
    larger = {key: round(count * more) for key, count in counts.items()}
    fix = Fix(
        say=f"Stage {number}: {larger['driver']} and {larger['driven']} teeth",
        change={f"gearing.{found.part}.{key}_teeth": count for key, count in larger.items()},
    )
    title = f"Stage {number}: {teeth} teeth on the smaller wheel; {smooth} run smoothly"
    why = f"Few teeth make a {stage.kind} jerk, wear and lose; below {least} it is not done."
    fixes = fix if found.word == "stop" else None
    return verdict(found, "gearing", title, why, unit="teeth", fix=fixes)


RULE = Rule(judge, say, rejects="a stage would have too few teeth or reduce too much")
