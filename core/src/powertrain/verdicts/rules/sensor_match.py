"""Whether the controller can learn the rotor's place from this motor."""

from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict

WORDS = {"none": "the back-EMF alone", "hall": "Hall sensors", "encoder": "an encoder"}


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge a brushless motor's sensor against what its controller runs from."""
    has, runs_from = batch.ratings.motor.sensor, batch.ratings.controller.runs_from
    if not _matters(batch) or has is None or runs_from is None:
        return
    # Every motor has a back-EMF.
    finds = bool({"none", has} & set(runs_from))
    severity = grades(stop=batch.nowhere() | (not finds))
    yield Judgement("sensor_match", scalar(float(finds)), scalar(1.0), severity)


def _matters(batch: Batch) -> bool:
    return batch.ratings.motor.brushless and not batch.drive.motor.has_inverter


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what it runs from, and what the motor has."""
    has = context.ratings.motor.sensor or "none"
    listed = " or ".join(WORDS[one] for one in context.ratings.controller.runs_from or ())
    title = (
        f"The controller runs from {listed}; the motor has "
        f"{'no sensor' if has == 'none' else WORDS[has]}"
    )
    why = "It finds the rotor."
    if found.word == "stop":
        why = "It can't find the rotor: take a controller that runs from what the motor has."
    return verdict(found, "controller", title, why, unit="")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield what is not known of the two."""
    has, runs_from = context.build.motor.sensor, context.build.controller.sensor
    if _matters(context) and (has is None or runs_from is None):
        path = "motor.sensor" if has is None else "controller.sensor"
        say = "Sensors: what the motor has and what the controller runs from is not all known."
        yield NotJudged(id="sensor_match", part="controller", path=path, say=say)


RULE = Rule(
    judge,
    say,
    unknown,
    rejects="the controller can't find the rotor from what the motor has",
    geared=False,
)
