"""Electrical rpm straight off the charger against what the controller can follow."""

from collections.abc import Iterator

from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, graded, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """A brushless motor turns its field once for each pair of poles in a turn of the shaft."""
    motor, limit = batch.ratings.motor, batch.ratings.controller.max_erpm
    if not motor.brushless or unstated(limit) or unstated(motor.poles):
        return
    electrical = batch.moments.wheels_up.state.motor_rpm * motor.poles / 2
    yield Judgement("electrical_rpm", electrical, limit, graded(electrical, limit))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how many it has to follow."""
    pairs, rpm = context.ratings.motor.poles / 2, context.moments.wheels_up.state.motor_rpm
    title = (
        f"It has to follow {float(found.value):,.0f} electrical rpm of {float(found.limit):,.0f}"
    )
    why = f"{float(rpm):,.0f} rpm free at full charge, times {float(pairs):g} pairs of poles."
    return verdict(found, "controller", title, why, unit="erpm", moment="wheels_up")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that the poles are not known, where they matter."""
    motor, limit = context.build.motor, context.build.controller.max_erpm
    if motor.commutation == "brushless" and limit is not None and motor.poles is None:
        say = "Electrical rpm: the motor's number of poles is not known."
        yield NotJudged(id="electrical_rpm", part="controller", path="motor.poles", say=say)


RULE = Rule(
    judge,
    say,
    unknown,
    rejects="the controller could not follow the motor's electrical rpm",
    geared=False,
)
