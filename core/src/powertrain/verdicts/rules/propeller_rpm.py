"""Turns of the propeller against those that its maker allows."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import greatest
from powertrain.operating.in_air import in_air
from powertrain.stated import unstated
from powertrain.units import rpm_from_rad_s
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, graded, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the most turns under power: flat out, where the air unloads it."""
    limit = batch.ratings.propeller_rpm
    if in_air(batch.drive) is None or unstated(limit):
        return
    moments = batch.moments
    turns = greatest(
        *(
            moment.state.output_rad_s
            for moment in (moments.launch, moments.climb, moments.top_speed)
        )
    )
    rpm = rpm_from_rad_s(turns)
    yield Judgement("propeller_rpm", rpm, np.asarray(limit), graded(rpm, limit))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how fast it turns."""
    title = f"The propeller turns {float(found.value):,.0f} rpm of {float(found.limit):,.0f}"
    why = (
        "Beyond what its maker allows a blade can leave the hub: stand behind it, never in its "
        "plane. Fewer cells, a slower winding, or more pitch and diameter turn it slower."
    )
    return verdict(found, "wheel", title, why, unit="rpm", moment="top_speed")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that nobody said what it stands."""
    said = context.build.propeller
    if said is not None and said.max_rpm is None:
        what = "Turns of the propeller: what its maker allows is not known."
        yield NotJudged(id="propeller_rpm", part="wheel", path="propeller.max_rpm", say=what)


RULE = Rule(judge, say, unknown, rejects="the propeller would turn faster than its maker allows")
