"""How long it may be held stalled at full throttle."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import scalar
from powertrain.heat.limits import NODES
from powertrain.heat.temperatures import after, stalled
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.cures import may_limit
from powertrain.verdicts.rule import Judgement, Mask, Rule, grades, verdict
from powertrain.verdicts.rules.temperatures import spoken
from powertrain.verdicts.verdict import Fix, PartId, Verdict

SHORT_S, LONG_S = 3.0, 20.0
"""A stall shorter than anybody's reaction; one that is noticed and ended. Both are to be watched:
wheels that are held for long are nobody's plan."""

PART: dict[str, PartId] = {
    "winding": "motor",
    "case": "motor",
    "controller": "controller",
    "pack": "pack",
}

LONGEST_S = 1e6
"""What stands for a stall that lasts for ever."""

LIMIT = "controller.motor_current_limit_a"


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the time until the first part passes its limit, the wheels held and nothing blowing."""
    seconds = batch.stall.seconds
    severity = grades(watch=seconds < LONG_S)
    yield Judgement("stall", np.minimum(seconds, LONGEST_S), scalar(SHORT_S), severity)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how long it lasts, and which part is the first."""
    seconds, node = float(context.stall.seconds), context.stall.first
    lasts = spoken(seconds) if seconds < 1e5 else "as long as you like"
    fix = _lower(context) if seconds < SHORT_S else None
    amps = float(context.stall.state.motor_current_a)
    title = f"Held stalled at full throttle, it lasts {lasts}"
    why = (
        f"{amps:.0f} A turn into heat alone; the {node} passes its limit first. Let go "
        "of the throttle when it is stuck."
    )
    return verdict(found, PART[node], title, why, unit="s", fix=fix)


def _lower(context: RuleContext) -> Fix | None:
    """Return the motor amps at which the stall lasts long enough to be noticed."""
    # Heat goes with the square of the amps, and a short stall stores all of it.
    seconds, amps = float(context.stall.seconds), float(context.stall.state.motor_current_a)
    if context.stall.first not in ("winding", "controller") or seconds <= 0:
        return None
    lasts_a = 0.95 * amps * (seconds / SHORT_S) ** 0.5 * context.ratings.controller.per_dc
    limit_a = float(f"{lasts_a:.2g}")
    if not may_limit(context, LIMIT, limit_a):
        return None
    return Fix(say=f"Set the motor amps limit to {limit_a:g} A", change={LIMIT: limit_a})


def stands(batch: Batch, seconds: float) -> Mask:
    """Return where no part passes its limit within `seconds` of a stall."""
    _, local, flows = stalled(batch.drive, batch.thermal)
    reached = after(local, flows, scalar(seconds))
    cool = ~batch.nowhere()
    for node in NODES:
        cool = cool & (reached[node] < batch.limits.of(node))
    return cool


RULE = Rule(judge, say)
