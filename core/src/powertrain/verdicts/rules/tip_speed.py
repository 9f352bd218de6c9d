"""Tips of a propeller against the speed of sound."""

from collections.abc import Iterator

from powertrain.arrays import greatest, scalar
from powertrain.operating.in_air import in_air
from powertrain.propeller.blade import SOUND_MPS
from powertrain.propeller.propeller import FASTEST_TIP
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict

LOUD = 0.6
"""Share of the speed of sound from which a propeller is heard over a field (common practice)."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the fastest the tips go through the air under power."""
    air = in_air(batch.drive)
    if air is None:
        return
    moments = batch.moments
    tips = greatest(
        *(
            air.load.blades.turning(
                moment.state.output_rad_s / 6.283185307179586, moment.state.situation
            ).tip_mps
            for moment in (moments.launch, moments.climb, moments.top_speed)
        )
    )
    limit = FASTEST_TIP * SOUND_MPS
    yield Judgement("tip_speed", tips, scalar(limit), grades(watch=tips > limit))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how near sound they come."""
    tips = float(found.value)
    share = tips / SOUND_MPS
    title = f"The tips go {tips:.0f} m/s, {share:.2f} of the speed of sound"
    if share > FASTEST_TIP:
        why = "They lose more than they give there: larger and slower pushes more for the watts."
    elif share > LOUD:
        why = "Far from sound, but heard from afar: larger and slower is quieter."
    else:
        why = "Far from sound."
    return verdict(found, "wheel", title, why, unit="m/s", moment="top_speed")


RULE = Rule(judge, say)
