"""A pack at its cut-off against the least volts at which the controller works."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import somewhere
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Fix, NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the pack as it rests: below its least volts a controller does not start at all."""
    pack, least_v = batch.ratings.pack, batch.ratings.controller.min_v
    if not somewhere(least_v > 0):
        return
    rests_v = pack.series * pack.cell_v
    severity = grades(stop=exceeds(least_v, rests_v), watch=exceeds(least_v, pack.cut_off_v))
    yield Judgement("controller_min_volts", rests_v, least_v, severity)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say at what volts it rests."""
    pack, least_v = context.ratings.pack, float(found.limit)
    cells = int(np.ceil(least_v / float(pack.nominal_cell_v) - 1e-9))
    fix = None
    why = "The pack is empty before the controller gives up."
    if found.word == "watch":
        why = f"At the pack's cut-off, {float(pack.cut_off_v):.1f} V, it has given up already."
    if found.word == "stop":
        why = "It does not start on so few volts: more cells, or another controller."
        fix = Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
    title = f"The pack rests at {float(found.value):.1f} V; the controller works from {least_v:g} V"
    return verdict(found, "controller", title, why, unit="V", fix=fix)


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that its lowest volts are not known."""
    if context.build.controller.min_voltage_v is None:
        say = "Lowest volts: those at which the controller works are not known."
        path = "controller.min_voltage_v"
        yield NotJudged(id="controller_min_volts", part="controller", path=path, say=say)


RULE = Rule(
    judge,
    say,
    unknown,
    rejects="the pack is below the volts at which the controller works",
    geared=False,
)
