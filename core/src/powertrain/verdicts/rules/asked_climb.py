"""Whether the hill is climbed, and the cruise that was asked is reached."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.operating.moments import Moment
from powertrain.operating.on_road import push_n
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.cures import cure
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.rules.traction import slips_on_climb
from powertrain.verdicts.verdict import Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge what is asked of climb and cruise; a hill that nobody mentioned only warns."""
    moments, targets = batch.moments, batch.moments.targets
    assumed = targets.assumed
    speed_mps = scalar(0.0) if targets.climb_mps is None else targets.climb_mps
    top = kmh_from_mps(moments.climb_top.speed_mps)
    fails, wanted = ~moments.climb.met, _target_kmh(moments.climb)
    if "climb" in assumed:
        # One that is climbed is not worth a word.
        yield Judgement("asked_climb", top, wanted, grades(watch=fails), applies=fails)
    else:
        load = _taken(batch, speed_mps, targets.climb_situation)
        yield Judgement("asked_climb", top, wanted, grades(stop=fails), load)
    if "cruise" not in assumed:
        fails, load = ~moments.cruise.met, _taken(batch, targets.cruise_mps, scalar(0.0))
        top = kmh_from_mps(moments.top_speed.state.speed_mps)
        wanted = _target_kmh(moments.cruise)
        yield Judgement("asked_cruise", top, wanted, grades(stop=fails), load, applies=fails)


def _target_kmh(moment: Moment) -> Array:
    return scalar(moment.target_kmh or 0.0)


def _taken(batch: Batch, speed_mps: Array, grade_pct: Array) -> Array:
    """Return what a speed on a grade takes over what the wheels push there."""
    pushed_n = np.maximum(push_n(batch.drive, speed_mps, grade_pct), 1e-9)
    return batch.drive.wheels.road.force_n(speed_mps, grade_pct) / pushed_n


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what is climbed or reached."""
    if found.id == "asked_cruise":
        return _say_cruise(found)
    climb, top = context.moments.climb, float(found.value)
    moves = bool(climb.met)
    slips = bool(slips_on_climb(context))
    fix = None
    if not moves and not slips:
        fix = cure(context, lambda batch: batch.moments.climb.met)
    title = f"The {climb.situation:g} % hill is climbed at up to {top:.1f} km/h"
    if not moves:
        title = f"The {climb.situation:g} % hill can't be climbed"
        if top > 0:
            title += f" at {float(found.limit):g} km/h, only at {top:.1f}"
    why = _why(moves, slips, bool(context.build.gearing))
    return verdict(found, "vehicle", title, why, unit="km/h", moment="climb", fix=fix)


def _say_cruise(found: Judgement) -> Verdict:
    title = f"A cruise at {float(found.limit):g} km/h is beyond its {float(found.value):.1f} km/h"
    why = "Taller gearing, a faster winding or more cells turn the wheel faster."
    return verdict(found, "vehicle", title, why, unit="km/h", moment="cruise")


def _why(moves: bool, slips: bool, geared: bool) -> str:
    if moves:
        return "Full throttle on that slope."
    if slips:
        return (
            "The driven wheels slip before they push as much as the slope asks: more weight on "
            "them or more driven wheels, not gearing or amps."
        )
    shorter = "shorter gearing" if geared else "a slower winding or a smaller wheel"
    return f"The wheels push less than slope and tyres ask: {shorter}, more amps, or less to carry."


RULE = Rule(judge, say, rejects="it could not climb or cruise as asked")
