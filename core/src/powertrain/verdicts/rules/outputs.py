"""One controller output for each motor."""

from collections.abc import Iterator

from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the outputs where they are stated."""
    outputs = batch.ratings.controller.outputs * batch.drive.controller.count
    motors = batch.drive.motor.count
    if not unstated(outputs):
        yield Judgement("outputs", motors, outputs, grades(stop=motors > outputs))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how many there are."""
    title = f"Outputs of the controller: {float(found.limit):g}, motors: {float(found.value):g}"
    why = "Each motor has its own."
    if found.word == "stop":
        why = "Brushless motors can't share an output; use one with more outputs, or one for each."
    return verdict(found, "controller", title, why, unit="")


RULE = Rule(judge, say, rejects="there are more motors than outputs", geared=False)
