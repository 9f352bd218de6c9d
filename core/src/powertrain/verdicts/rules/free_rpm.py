"""Unloaded rpm straight off the charger against the motor's limit."""

from collections.abc import Iterator

from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, graded, verdict
from powertrain.verdicts.verdict import Fix, NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Wheels in the air at full charge is the fastest the rotor can ever turn under power."""
    limit = batch.ratings.motor.max_rpm
    # One that races always would; it is judged by its loaded rpm, which says what racing does.
    if batch.drive.motor.races_unloaded or unstated(limit):
        return
    rpm = batch.moments.wheels_up.state.motor_rpm
    yield Judgement("free_rpm", rpm, limit, graded(rpm, limit))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how fast it turns free."""
    rpm, limit = float(found.value), float(found.limit)
    cells = int(context.build.battery.series * limit / rpm) if found.word == "stop" else 0
    fix = None
    if cells >= 1:
        fix = Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
    title = f"Free, it turns {rpm:,.0f} rpm of {limit:,.0f} allowed"
    during = context.drive.load.words.during["wheels_up"]
    free = "with the wheels in the air" if context.drive.rolls else during
    why = f"Straight off the charger {free} nothing holds the motor back."
    return verdict(found, "motor", title, why, unit="rpm", moment="wheels_up", fix=fix)


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that its highest rpm is not known."""
    if context.build.motor.max_rpm is None and not context.drive.motor.races_unloaded:
        say = "Free rpm: the motor's highest rpm is not known."
        yield NotJudged(id="free_rpm", part="motor", path="motor.max_rpm", say=say)


RULE = Rule(
    judge,
    say,
    unknown,
    rejects="running free, the motor would turn too fast",
    geared=False,
)
