"""Mechanical, controller, boost and turbo timing together, and what pays for it."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.vehicle import ToothedStage
from powertrain.motor.timing import KV_PER_DEGREE, stated_deg
from powertrain.stated import Stated, unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import NEAR, Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict

MOST_DEG = 60.0
"""Near this total motors and controllers are destroyed; common practice, no source."""

FEW_POLES_DEG = {2: 80.0, 4: 70.0}
"""Two-pole motors take far more than those of many poles; common practice, no source."""

FEWEST_TEETH = 11


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the sum where any timing is stated, and degrees set where nothing hears of them."""
    motor = batch.ratings.motor
    total = motor.timing_deg
    if unstated(total):
        return
    limit = limit_deg(motor.poles)
    yield Judgement(
        "timing_sum", total, limit, grades(stop=total >= limit, watch=total > NEAR * limit)
    )
    if motor.sensor == "none":
        set_deg = motor.own_timing_deg
        yield Judgement(
            "timing_sensor", set_deg, scalar(0.0), grades(watch=True), applies=set_deg != 0
        )


def limit_deg(poles: Array) -> Array:
    """Return the total that destroys, by the number of poles; the least where it is not known."""
    limit = scalar(MOST_DEG)
    for count, more in FEW_POLES_DEG.items():
        limit = np.where(poles == count, more, limit)
    return limit


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what timing adds up to, and the tooth or the degrees that mend it."""
    total, limit = float(found.value), float(found.limit)
    if found.id == "timing_sensor":
        title = f"{total:g} degrees are set at a motor without sensors"
        why = (
            "Turning its back plate moves sensors; without any the controller times by the "
            "back-EMF and knows nothing of it. Set the advance in the controller."
        )
        fix = Fix(say="Leave it out at the motor", change={"motor.timing_deg": None})
        return verdict(found, "motor", title, why, unit="deg", fix=fix)
    paid = tooth_that_pays(context)
    if found.word == "stop":
        said = Stated(context.build)
        stated = stated_deg(said.under("motor"), said.under("controller"))
        largest = max(stated, key=lambda path: float(stated[path]))
        less = max(float(stated[largest]) - (total - 0.75 * limit), 0.0)
        paid = Fix(say=f"Set the largest of them to {less:g} degrees", change={largest: less})
    title = f"Timing adds up to {total:g} degrees, {limit:g} destroys"
    why = (
        "Mechanical, boost and turbo advance add. Advance works like extra KV: pay for it with "
        "a shorter gear."
    )
    return verdict(found, "motor", title, why, unit="deg", fix=paid)


def tooth_that_pays(context: RuleContext) -> Fix | None:
    """Return the tooth that takes back what timing adds to the amps, None where nothing does."""
    share = 1 + KV_PER_DEGREE * float(context.ratings.motor.acting_deg)
    if share <= 1.005:
        return None
    for index, stage in enumerate(context.build.gearing):
        if isinstance(stage, ToothedStage):
            ratio = stage.driven_teeth / stage.driver_teeth
            pairs = [
                (f"gearing.{index}.driver_teeth", teeth, stage.driven_teeth / teeth, "driver")
                for teeth in range(FEWEST_TEETH, stage.driver_teeth)
            ] + [
                (f"gearing.{index}.driven_teeth", teeth, teeth / stage.driver_teeth, "driven")
                for teeth in range(stage.driven_teeth + 1, stage.driven_teeth + 40)
            ]
            if not pairs:
                return None
            wanted = ratio * share
            path, teeth, _, side = min(pairs, key=lambda pair: abs(np.log(pair[2] / wanted)))
            say = f"Take it back: stage {index + 1} {side} of {teeth} teeth"
            return Fix(say=say, change={path: teeth})
    return None


RULE = Rule(judge, say, rejects="timing adds up to too much", geared=False)
