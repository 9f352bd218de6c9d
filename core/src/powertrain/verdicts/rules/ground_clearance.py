"""A toothed wheel on the axle against the ground that its wheel leaves it."""

from collections.abc import Iterator

from powertrain.arrays import somewhere
from powertrain.transmission.clearance import most_on_axle_mm, on_axle_mm
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Verdict

NEAR = 0.9


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the driven wheel of the last stage, where it has teeth of a known size."""
    stages = batch.ratings.stages
    if not stages or not stages[-1].toothed:
        return
    across = on_axle_mm(stages[-1])
    if not somewhere(across > 0):
        return
    most = most_on_axle_mm(batch.ratings.vehicle.rolling_circumference_mm)
    severity = grades(stop=exceeds(across, most), watch=across > NEAR * most)
    yield Judgement("ground_clearance", across, most, severity, across / most)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how wide it is, and what clears the ground."""
    teeth = int(context.ratings.stages[-1].driven_teeth)
    title = (
        f"The wheel of {teeth} teeth on the axle is {float(found.value):.0f} mm across; "
        f"{float(found.limit):.0f} mm clear the ground"
    )
    why = "Stones and grass pass under it."
    if found.word == "stop":
        why = (
            "It would strike the ground, or its chain would: fewer teeth, a finer pitch, or "
            "another stage before it."
        )
    return verdict(found, "gearing", title, why, unit="mm")


RULE = Rule(
    judge, say, rejects="a toothed wheel on the axle would strike the ground", of_wheels=True
)
