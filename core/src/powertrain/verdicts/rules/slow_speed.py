"""How finely the slow end can be steered."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import scalar
from powertrain.stated import unstated
from powertrain.units import kmh_from_mps, rpm_from_rad_s
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict

SLOW, HALF = 0.2, scalar(0.5)
"""Part of the trigger at which the slow end is steered."""

COARSE_KMH = 0.3
"""A step larger than this is felt as a jerk by a slow vehicle; common practice, no source."""

SMOOTH_KV = {3: 2100.0, 5: 3000.0}
"""Brushed motors above these KV, by slots, do not crawl smoothly; common practice, no source."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the first throttle steps, and a brushed motor's KV by its slots."""
    controller, motor = batch.ratings.controller, batch.ratings.motor
    if not unstated(controller.throttle_steps):
        slope = controller.curve.slope_at(SLOW)
        free_kmh = kmh_from_mps(batch.moments.wheels_up.state.speed_mps)
        step_kmh = slope * free_kmh / (controller.throttle_steps * controller.steps_forward)
        severity = grades(watch=step_kmh > COARSE_KMH)
        yield Judgement("throttle_steps", step_kmh, scalar(COARSE_KMH), severity)
    if motor.brushless or unstated(motor.slots):
        return
    # What a volt more gives, so that the brushes' own volts drop out.
    slow, fast = (
        batch.drive.motor.speed_at_voltage_rad_s(scalar(0.0), scalar(v)) for v in (9.0, 10.0)
    )
    with np.errstate(invalid="ignore"):
        kv = rpm_from_rad_s(fast - slow)
    limit = scalar(np.nan)
    for slots, most_kv in SMOOTH_KV.items():
        limit = np.where(motor.slots == slots, most_kv, limit)
    applies = np.isfinite(kv) & np.isfinite(limit)
    yield Judgement("crawling_kv", kv, limit, grades(watch=kv > limit), applies=applies)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how coarse a step is, or how far it crawls smoothly."""
    if found.id == "throttle_steps":
        return _say_steps(context, found)
    kv, limit = float(found.value), float(found.limit)
    slots = context.build.motor.slots
    title = f"{kv:.0f} KV with {slots} slots; crawling is smooth to about {limit:g}"
    why = "Fewer slots and more KV make it cog at walking pace; it matters to crawlers only."
    return verdict(found, "motor", title, why, unit="rpm/V")


def _say_steps(context: RuleContext, found: Judgement) -> Verdict:
    controller = context.build.controller
    free_kmh = float(kmh_from_mps(context.moments.wheels_up.state.speed_mps))
    fix = None
    curve = context.ratings.controller.curve
    if found.word == "watch" and not curve.by_points and curve.volts_share(HALF) > 0.2:
        own = controller.curve is not None and controller.curve.half_throttle_pct is not None
        change = {f"controller.{'curve.' if own else ''}half_throttle_pct": 20.0}
        fix = Fix(say="Set half trigger to 20 %", change=change)
    title = f"At the slow end a throttle step is {float(found.value):.2g} km/h"
    forward = "all of them forward" if controller.steps_shared is False else "half of them forward"
    why = (
        f"{controller.throttle_steps:g} steps, {forward}, over {free_kmh:.0f} km/h "
        "free. A curve in the controller makes the first steps finer; one in the transmitter only "
        "spreads them out."
    )
    return verdict(found, "controller", title, why, unit="km/h", fix=fix)


RULE = Rule(judge, say)
