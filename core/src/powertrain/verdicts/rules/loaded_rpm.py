"""Rpm under load against the motor's limit, and what happens when the load goes."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import scalar
from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.moments import lasting, moment_at, worst_among
from powertrain.verdicts.rule import Judgement, Rule, graded, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict

RUNS_LOOSE = 1.6
"""From this ratio of free to loaded rpm on a motor is said to run away when it loses its load."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the loaded rpm, and a motor that races when belt, chain or grip lets go."""
    limit, moments = batch.ratings.motor.max_rpm, batch.moments
    if not unstated(limit):
        loaded = [moments.launch, *lasting(batch)]
        worst = worst_among(loaded, lambda state: state.motor_rpm)
        rpm = worst.value
        yield Judgement("loaded_rpm", rpm, limit, graded(rpm, limit), rpm / limit, at=worst.place)
    free = moments.wheels_up.state.motor_rpm
    at_top = np.maximum(moments.top_speed.state.motor_rpm, 1.0)
    races = (free > limit) & batch.drive.motor.races_unloaded
    loose = races | (free > RUNS_LOOSE * at_top)
    ratio = free / at_top
    yield Judgement("runs_loose", ratio, scalar(RUNS_LOOSE), grades(watch=loose), applies=loose)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how fast it turns under load, or without."""
    if found.id == "runs_loose":
        return _say_loose(context, found)
    rpm, limit = float(found.value), float(found.limit)
    cells = int(context.build.battery.series * limit / rpm) if found.word == "stop" else 0
    fix = None
    if cells >= 1:
        fix = Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
    title = f"Loaded, it turns {rpm:,.0f} rpm of {limit:,.0f} allowed"
    why, moment = "The fastest that it turns while it pushes.", moment_at(context, found.at)
    return verdict(found, "motor", title, why, unit="rpm", moment=moment.id, fix=fix)


def _say_loose(context: RuleContext, found: Judgement) -> Verdict:
    free, limit = float(context.moments.wheels_up.state.motor_rpm), context.build.motor.max_rpm
    title = f"Without its load it races to {free:,.0f} rpm, {float(found.value):.1f} times as fast"
    why = (
        "A lost chain, a wheel in the air or a lifted belt lets it run away and burst"
        + ("" if limit is None else f" (its limit is {limit:,.0f} rpm)")
        + ": never run it free at full volts, couple it firmly, and cut the throttle when the "
        "load goes."
    )
    return verdict(found, "motor", title, why, unit="", moment="wheels_up")


RULE = Rule(judge, say, rejects="the motor would turn too fast under load")
