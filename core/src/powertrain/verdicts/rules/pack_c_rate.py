"""Amps for each amp-hour, where the pack's maker gives no amps."""

from collections.abc import Iterator

import numpy as np

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.cures import may_limit
from powertrain.verdicts.moments import lasting, moment_at, worst_among
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict

LIMIT = "controller.battery_current_limit_a"


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the lasting pack amps as a C rate against what is usual for the chemistry."""
    pack, capacity_ah = batch.ratings.pack, batch.drive.pack.capacity_ah
    worst = worst_among(lasting(batch), lambda state: state.battery_current_a)
    rate = worst.value / capacity_ah
    severity = grades(watch=exceeds(rate, pack.usual_c))
    silent = np.isinf(pack.amps.continuous_a)
    yield Judgement("pack_c_rate", rate, pack.usual_c, severity, applies=silent, at=worst.place)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how many times its amp-hours it gives."""
    capacity_ah, usual = float(context.drive.pack.capacity_ah), float(found.limit)
    moment, name = moment_at(context, found.at), CHEMISTRIES[context.build.battery.chemistry].name
    limit_a = float(f"{usual * capacity_ah / context.build.controller.count:.2g}")
    fix = None
    if found.word == "watch" and limit_a > 0 and may_limit(context, LIMIT, limit_a):
        fix = Fix(say=f"Set the pack amps limit to {limit_a:g} A", change={LIMIT: limit_a})
    title = (
        f"It gives {float(found.value):.1f} times its amp-hours; {usual:g} is usual for such cells"
    )
    why = (
        f"{float(moment.state.battery_current_a):.0f} A from {capacity_ah:.3g} Ah of {name}; its "
        "maker's figure decides, and is not known."
    )
    return verdict(found, "pack", title, why, unit="C", moment=moment.id, fix=fix)


RULE = Rule(judge, say)
