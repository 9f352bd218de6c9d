"""Pack amps against what the pack may give."""

from collections.abc import Iterator

from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.currents import RatedAmps, judged_currents, said_current, unknown_current
from powertrain.verdicts.rule import Judgement, Rule
from powertrain.verdicts.verdict import NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """All motors draw from the one pack."""
    yield from judged_currents(batch, _rated(batch))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how much of its ratings it gives."""
    return said_current(context, found, _rated(context))


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that it has no rating."""
    yield from unknown_current(_rated(context))


def _rated(batch: Batch) -> RatedAmps:
    return RatedAmps(
        part="pack",
        path="battery",
        amps=lambda state: state.battery_current_a,
        peak_a=batch.moments.peaks.battery_a,
        rating=batch.ratings.pack.amps,
        limit_path="controller.battery_current_limit_a",
        limit_scale=1 / batch.drive.controller.count,
    )


RULE = Rule(judge, say, unknown, rejects="the pack would give more than it may")
