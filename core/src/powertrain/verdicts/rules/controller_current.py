"""Amps through one controller path against its ratings, on the side they are rated for."""

from collections.abc import Iterator

from powertrain.arrays import Array, scalar
from powertrain.operating.state import State
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.currents import RatedAmps, judged_currents, said_current, unknown_current
from powertrain.verdicts.rule import Judgement, Rule
from powertrain.verdicts.verdict import NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """At part duty motor amps exceed pack amps, so the side of a rating matters."""
    yield from judged_currents(batch, _rated(batch))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how much of its ratings it carries."""
    rated = _rated(context)
    return said_current(context, found, rated)


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that it has no rating."""
    yield from unknown_current(_rated(context))


def _rated(batch: Batch) -> RatedAmps:
    controller, motors = batch.ratings.controller, batch.drive.motor.count
    peaks = batch.moments.peaks

    def amps(state: State) -> Array:
        if controller.pack_side:
            return state.battery_current_a / motors
        return state.motor_current_a * controller.per_dc

    most_a = peaks.battery_a / motors if controller.pack_side else peaks.motor_a * controller.per_dc
    of_one = motors / batch.drive.controller.count
    side, scale = ("battery", of_one) if controller.pack_side else ("motor", scalar(1.0))
    unsaid = "Its maker does not say which side; judged as motor amps, the harder way."
    return RatedAmps(
        part="controller",
        path="controller",
        amps=amps,
        peak_a=most_a,
        rating=controller.amps,
        limit_path=f"controller.{side}_current_limit_a",
        limit_scale=scale,
        note="" if controller.side_known else unsaid,
    )


RULE = Rule(judge, say, unknown, rejects="the controller would carry more than it is rated for")
