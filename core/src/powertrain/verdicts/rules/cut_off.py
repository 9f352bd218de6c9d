"""Cell volts under load against cut-off."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array
from powertrain.load.craft import Wing
from powertrain.operating.in_air import in_air
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.cures import may_limit
from powertrain.verdicts.moments import (
    in_words,
    moment_at,
    softened,
    worst_of,
)
from powertrain.verdicts.rule import Judgement, Mask, Rule, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict

ROOM_V = 0.15
"""Volts above cut-off below which a pack that is not full soon lets go; common practice."""

LIMIT = "controller.battery_current_limit_a"


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the sag at the greatest pack current, at the cells' present rest voltage."""
    pack, rating = batch.drive.pack, batch.ratings.pack
    cut_v, peak_a = rating.cut_off_cell_v, batch.moments.peaks.battery_a

    def cell_v(amps: Array) -> Array:
        return pack.voltage_v(amps) / rating.series

    def passes(amps: Array) -> Mask:
        return cell_v(amps) < cut_v + ROOM_V

    worst = worst_of(batch, lambda state: state.battery_current_a, passes, peak_a)
    volts = cell_v(worst.value)
    severity = softened(grades(stop=volts < cut_v, watch=volts < cut_v + ROOM_V), worst)
    rests_v = pack.open_circuit_v
    spare_v = np.maximum(rests_v - rating.cut_off_v, 1e-9)
    load = (rests_v - pack.voltage_v(worst.asked)) / spare_v
    yield Judgement("cut_off", volts, cut_v, severity, load, at=worst.place)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how far the cells sag."""
    battery, pack = context.build.battery, context.drive.pack
    volts, cut_v = float(found.value), float(found.limit)
    cell_ohm = float(pack.resistance_ohm) / battery.series
    moment = moment_at(context, found.at)
    amps = float(moment.state.battery_current_a)
    if moment.id == "launch":
        amps = float(context.moments.peaks.battery_a)
    fix = _limited(context, found, cell_ohm)
    assumed = ""
    if not battery.cut_off_cell_v:
        assumed = f" Cut-off is taken as {cut_v:g} V, usual for this chemistry."
    why = (
        f"{amps:.1f} A {in_words(context, moment)}, through cells and leads, takes "
        f"{battery.cell_voltage_v - volts:.2f} V from each.{assumed}{_in_flight(context)}"
    )
    title = f"Cells sag to {volts:.2f} V, cut-off is {cut_v:.2f} V"
    return verdict(found, "pack", title, why, unit="V", moment=moment.id, fix=fix)


def _in_flight(context: RuleContext) -> str:
    """Return what a cut-off means of what flies."""
    air = in_air(context.drive)
    if air is None or not isinstance(air.load.craft, Wing):
        return ""
    return (
        f" In the air the motor stops with it: a glide of {float(air.load.craft.glide):.0f} m for "
        "each metre down at best. Turn home early, and land on what is left."
    )


def _limited(context: RuleContext, found: Judgement, cell_ohm: float) -> Fix | None:
    """Return the pack amps limit at which no cell falls below cut-off."""
    spare_v = context.build.battery.cell_voltage_v - float(found.limit)
    most_a = spare_v / cell_ohm if cell_ohm > 0 else 0.0
    most_a = float(f"{0.999 * most_a / context.build.controller.count:.3g}")
    if found.word != "stop" or most_a <= 0.5 or not may_limit(context, LIMIT, most_a):
        return None
    return Fix(say=f"Set the pack amps limit to {most_a:g} A", change={LIMIT: most_a})


RULE = Rule(judge, say, rejects="the cells would sag below cut-off")
