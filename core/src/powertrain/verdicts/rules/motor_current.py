"""Motor amps of one motor against the motor's own ratings."""

from collections.abc import Iterator

from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.currents import RatedAmps, judged_currents, said_current, unknown_current
from powertrain.verdicts.rule import Judgement, Rule
from powertrain.verdicts.verdict import NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Motor amps make the torque and heat the copper, at any duty."""
    yield from judged_currents(batch, _rated(batch))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how much of its ratings it carries."""
    return said_current(context, found, _rated(context))


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that it has no rating."""
    yield from unknown_current(_rated(context))


def _rated(batch: Batch) -> RatedAmps:
    return RatedAmps(
        part="motor",
        path="motor",
        amps=lambda state: state.motor_current_a,
        peak_a=batch.moments.peaks.motor_a,
        rating=batch.ratings.motor.amps,
        limit_path="controller.motor_current_limit_a",
        limit_scale=batch.ratings.controller.per_dc,
    )


RULE = Rule(judge, say, unknown, rejects="the motor would carry more than it is rated for")
