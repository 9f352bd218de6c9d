"""What the throttle sends against what the controller understands."""

from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict

WORDS = {"analogue": "a voltage", "pulse": "servo pulses", "serial": "messages"}


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the two where both are stated."""
    gives = batch.ratings.vehicle.throttle_gives
    takes = batch.ratings.controller.throttle_takes
    if gives is None or takes is None:
        return
    same = gives == takes
    severity = grades(watch=batch.nowhere() | (not same))
    yield Judgement("throttle_signal", scalar(float(same)), scalar(1.0), severity)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what is sent and what is understood."""
    gives = context.ratings.vehicle.throttle_gives or ""
    takes = context.ratings.controller.throttle_takes or ""
    title = f"The throttle sends {WORDS[gives]}; the controller understands {WORDS[takes]}"
    why = "They understand one another."
    if found.word == "watch":
        why = "It needs a translator between them, or another throttle."
    return verdict(found, "controller", title, why, unit="")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield which of the two is not known, where one is."""
    gives = context.build.vehicle.throttle_signal
    takes = context.build.controller.throttle_signal
    if (gives is None) != (takes is None):
        path = "vehicle.throttle_signal" if gives is None else "controller.throttle_signal"
        say = "Throttle: what it sends and what the controller understands is not all known."
        yield NotJudged(id="throttle_signal", part="controller", path=path, say=say)


RULE = Rule(judge, say, unknown)
