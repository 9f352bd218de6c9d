"""The pack straight off the charger against the motor's volts, and the maker's cell count."""

from collections.abc import Iterator

from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """The volt rating is a limit; the cell count is advice for the average buyer, kept apart."""
    motor, pack = batch.ratings.motor, batch.ratings.pack
    if not unstated(motor.max_v):
        volts = batch.drive.pack.charger_v
        yield Judgement("motor_volts", volts, motor.max_v, grades(stop=exceeds(volts, motor.max_v)))
    if not unstated(motor.most_cells):
        outside = (pack.series < motor.fewest_cells) | (pack.series > motor.most_cells)
        yield Judgement("advised_cells", pack.series, motor.most_cells, grades(watch=outside))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what volts come, or how many cells are advised."""
    series, cell_v = context.build.battery.series, float(context.ratings.pack.charger_cell_v)
    if found.id == "advised_cells":
        low, high = context.build.motor.rated_cells or (0, 0)
        title = f"{series} cells; the maker advises {low} to {high}"
        why = "Advice for the average buyer; the highest rpm and heat are the limits."
        return verdict(found, "motor", title, why, unit="cells")
    limit_v, fix = float(found.limit), None
    cells = int(limit_v / cell_v + 1e-9)
    if found.word == "stop" and cells >= 1:
        fix = Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
    title = f"Fresh off the charger: {float(found.value):.1f} V; the motor stands {limit_v:g} V"
    why = f"{series} cells end their charge at {cell_v:.2f} V each."
    return verdict(found, "motor", title, why, unit="V", moment="wheels_up", fix=fix)


RULE = Rule(judge, say, rejects="the full pack is above the motor's volts", geared=False)
