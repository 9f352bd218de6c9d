"""The pack straight off the charger against what the controller stands."""

from collections.abc import Iterator

from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Fix, NotJudged, Verdict

RATED = {
    "controller_volts": ("max_voltage_v", "the controller is rated"),
    "capacitor_volts": ("capacitor_voltage_v", "its capacitors are rated"),
}
"""The maker's input rating and the capacitors apart: either can be the true limit."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge both ratings. Each may be used up whole, so near to it is no worry; over it is."""
    controller, volts = batch.ratings.controller, batch.drive.pack.charger_v
    limits = {"controller_volts": controller.max_v, "capacitor_volts": controller.capacitor_v}
    for rule, limit_v in limits.items():
        if not unstated(limit_v):
            yield Judgement(rule, volts, limit_v, grades(stop=exceeds(volts, limit_v)))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what volts come off the charger."""
    series, cell_v = context.build.battery.series, float(context.ratings.pack.charger_cell_v)
    volts, limit_v = float(found.value), float(found.limit)
    cells = int(limit_v / cell_v + 1e-9)
    why, fix = f"{series} cells end their charge at {cell_v:.2f} V each.", None
    if found.word == "stop":
        why += " Fewer cells or another controller."
        if cells >= 1:
            fix = Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
    _, rated = RATED[found.id]
    title = f"Fresh off the charger: {volts:.1f} V; {rated} {limit_v:g} V"
    return verdict(found, "controller", title, why, unit="V", moment="wheels_up", fix=fix)


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield which rating is not known."""
    for rule, (key, rated) in RATED.items():
        if getattr(context.build.controller, key) is None:
            say = f"Full pack: what volts {rated} for is not known."
            yield NotJudged(id=rule, part="controller", path=f"controller.{key}", say=say)


RULE = Rule(
    judge, say, unknown, rejects="the full pack is above the controller's volts", geared=False
)
