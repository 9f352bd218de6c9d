"""Braking into the pack: amps that it may take, and a pack that is full already."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, somewhere
from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict

LIMIT = "controller.regen_current_limit_a"


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the braking amps that are set, where any are."""
    pack, controller = batch.ratings.pack, batch.ratings.controller
    regen_a = controller.regen_a
    brakes = regen_a > 0
    if not somewhere(brakes):
        return
    if not unstated(pack.charge_a):
        severity = grades(stop=exceeds(regen_a, pack.charge_a))
        yield Judgement("regeneration_amps", regen_a, pack.charge_a, severity, applies=brakes)
    full_v = batch.drive.pack.straight_off_the_charger().voltage_v(-regen_a)
    over = exceeds(full_v, _rating_v(batch))
    cell_v = full_v / pack.series
    severity = grades(stop=over, watch=brakes)
    yield Judgement("regeneration_full", cell_v, pack.charger_cell_v, severity, applies=brakes)


def _rating_v(batch: Batch) -> Array:
    """Return what the controller stands: its capacitors, or what its maker says of it."""
    controller = batch.ratings.controller
    return np.where(np.isfinite(controller.capacitor_v), controller.capacitor_v, controller.max_v)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what is pushed back, or to what it lifts a full pack."""
    value, limit = float(found.value), float(found.limit)
    if found.id == "regeneration_amps":
        fix = None
        if found.word == "stop":
            fix = Fix(say=f"Set the braking amps limit to {limit:g} A", change={LIMIT: limit})
        title = f"Braking pushes {value:g} A back; the pack may take {limit:g} A"
        why = "Charging too fast plates and ages cells, most of all cold ones."
        return verdict(found, "pack", title, why, unit="A", fix=fix)
    title = f"Braking on a full pack lifts cells to {value:.2f} V; charging ends at {limit:.2f}"
    why = ""
    if found.word == "stop":
        volts = value * context.build.battery.series
        why = f"That is {volts:.1f} V at the controller, rated {float(_rating_v(context)):g} V. "
    why += (
        "A full pack has no room: begin a descent with a pack below about nine tenths, or set "
        "the braking amps lower."
    )
    return verdict(found, "pack", title, why, unit="V")


RULE = Rule(judge, say, rejects="braking would push too much into the pack", geared=False)
