"""Whether the hill is climbed, and the cruise that was asked is reached."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.load.protocol import asked_nm
from powertrain.operating.full_throttle import output_nm
from powertrain.operating.moment import Moment
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.cures import cure
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.rules.traction import slips_on_climb
from powertrain.verdicts.verdict import Verdict

SLIPS = (
    "The driven wheels slip before they push as much as the slope asks: more weight on them or "
    "more driven wheels, not gearing or amps."
)


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
        load = partial(_taken, batch, speed_mps, targets.climb_situation)
        yield Judgement("asked_climb", top, wanted, grades(stop=fails), load)
    if "cruise" not in assumed:
        fails = ~moments.cruise.met
        load = partial(_taken, batch, targets.cruise_mps, batch.drive.load.trip)
        top = kmh_from_mps(moments.top_speed.state.speed_mps)
        wanted = _target_kmh(moments.cruise)
        yield Judgement("asked_cruise", top, wanted, grades(stop=fails), load, applies=fails)


def _target_kmh(moment: Moment) -> Array:
    return scalar(moment.target_kmh or 0.0)


def _taken(batch: Batch, speed_mps: Array, situation: Array) -> Array:
    """Return what a speed in a situation takes over what the drive gives there."""
    speed = batch.drive.output_at_mps(speed_mps)
    given_nm = np.maximum(output_nm(batch.drive, speed, situation), 1e-9)
    return asked_nm(batch.drive.load, speed, situation) / given_nm


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what is climbed or reached."""
    if found.id == "asked_cruise":
        return _say_cruise(context, found)
    climb, top = context.moments.climb, float(found.value)
    moves = bool(climb.met)
    slips = context.drive.rolls and bool(slips_on_climb(context))
    fix = None
    if not moves and not slips:
        fix = cure(context, lambda batch: batch.moments.climb.met)
    words = context.drive.load.words
    title = words.hard_done if moves else words.hard_missed
    title = title.format(situation=words.situation(climb.situation), top=top)
    if not moves and top > 0:
        title += f" at {float(found.limit):g} km/h, only at {top:.1f}"
    why = SLIPS if slips and not moves else words.hard_done_why
    if not moves and not slips:
        shorter = "shorter gearing" if context.build.gearing else words.shorter
        why = words.hard_missed_why.format(shorter=shorter)
    return verdict(found, "vehicle", title, why, unit="km/h", moment="climb", fix=fix)


def _say_cruise(context: RuleContext, found: Judgement) -> Verdict:
    title = f"A cruise at {float(found.limit):g} km/h is beyond its {float(found.value):.1f} km/h"
    turned = context.drive.load.words.parts["wheel"].lower()
    taller = "Taller gearing, a" if context.build.gearing else "A"
    why = f"{taller} faster winding or more cells turn the {turned} faster."
    return verdict(found, "vehicle", title, why, unit="km/h", moment="cruise")


RULE = Rule(judge, say, rejects="it could not climb or cruise as asked")
