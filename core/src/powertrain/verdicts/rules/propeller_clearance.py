"""Tips of a propeller against the ground, the water, or the frame beneath them."""

from collections.abc import Iterator

import numpy as np

from powertrain.operating.in_air import in_air
from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict

LEFT = 0.05
"""Share of its diameter that is left beneath the tips where nobody need think of it: grass, a
landing leg that gives, spray (common practice, no source). Certified aeroplanes keep 180 mm over
ground and 460 mm over water (14 CFR 23.925)."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the radius against the height of the hub, where that is said."""
    air, height = in_air(batch.drive), batch.ratings.vehicle.hub_height_mm
    if air is None or unstated(height):
        return
    across = 1000 * air.load.blades.diameter_m
    reach = across / 2
    severity = grades(stop=exceeds(reach, height), watch=reach + LEFT * across > height)
    yield Judgement("propeller_clearance", np.asarray(reach), np.asarray(height), severity)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how much is left beneath the tips."""
    left = float(found.limit) - float(found.value)
    if found.word == "stop":
        title = f"The tips would strike: they reach {-left:.0f} mm further than the hub is high"
        why = "Less diameter, one more blade in its place, or a higher hub."
    else:
        title = f"{left:.0f} mm are left beneath the tips"
        why = "Grass and spray pass beneath them."
        if found.word == "watch":
            why = "Grass, a wave, or a landing leg that gives takes that away."
    return verdict(found, "wheel", title, why, unit="mm", moment="launch")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that nobody said how high the hub is."""
    if in_air(context.drive) is not None and unstated(context.ratings.vehicle.hub_height_mm):
        if context.build.vehicle.on_wheels:
            return
        what = "Whether the tips clear what is beneath them: how high the hub is, is not said."
        yield NotJudged(
            id="propeller_clearance", part="wheel", path="vehicle.hub_height_mm", say=what
        )


RULE = Rule(judge, say, unknown, rejects="the propeller would strike what is beneath it")
