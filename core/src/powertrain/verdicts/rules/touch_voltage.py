"""Volts that can be touched."""

from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict

SAFE_DRY_V = 60.0
"""D.c. below which dry parts need no basic protection against touch (IEC 60364-4-41, 414;
from memory). It is 30 V where it can be wet."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the pack straight off the charger."""
    volts = batch.drive.pack.charger_v
    yield Judgement("touch_voltage", volts, scalar(SAFE_DRY_V), grades(watch=volts > SAFE_DRY_V))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say whether it may be touched."""
    over = found.word == "watch"
    title = f"{float(found.value):.1f} V at full charge, {'above' if over else 'within'} 60 V"
    why = "Dry hands come to no harm; a short circuit burns all the same, and wet, 30 V counts."
    if over:
        why = (
            "Above 60 V d.c. (30 V in the wet) bare parts must not be touched: cover them, use a "
            "pull-out cut-off, and leave work on it to somebody trained."
        )
    return verdict(found, "pack", title, why, unit="V")


RULE = Rule(judge, say)
