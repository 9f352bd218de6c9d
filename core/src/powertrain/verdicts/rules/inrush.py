"""A grabbed trigger with the rotor at rest and no amps limit: an instant, never a stop."""

from collections.abc import Iterator

import numpy as np

from powertrain.operating.inrush import inrush_of
from powertrain.operating.ramp import fastest_above_v
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict

FINGER_PCT_S = 1000.0
"""A trigger is pulled from rest to full in a tenth of a second at the quickest; common practice."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the volts that the first instant leaves the pack against its cut-off."""
    found = inrush_of(batch.drive)
    pack, cut_v = batch.drive.pack, batch.ratings.pack.cut_off_v
    with np.errstate(divide="ignore", invalid="ignore"):
        spare_a = (pack.open_circuit_v - cut_v) / pack.resistance_ohm
    limit_a = np.where(pack.resistance_ohm > 0, spare_a, found.battery_a)
    severity = grades(watch=found.battery_v < cut_v)
    limit_a = np.maximum(limit_a, 0.0)
    yield Judgement("inrush", found.battery_a, limit_a, severity, applies=found.unlimited)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what is drawn, and what ramp of the throttle avoids it."""
    cut_v, amps = float(context.ratings.pack.cut_off_v), found.value
    volts = float(context.drive.pack.voltage_v(amps))
    why = "The pack stays above its cut-off even then."
    if found.word == "watch":
        rate = fastest_above_v(context.drive, cut_v)
        why = _why(rate, cut_v, "is rolling" if context.drive.rolls else "turns")
        if rate is not None and rate > FINGER_PCT_S:
            # What a finger is too slow for never happens.
            found = Judgement(found.id, found.value, found.limit, grades())
    title = (
        f"A grabbed trigger draws {float(amps):.0f} A for an instant and leaves the pack "
        f"{volts:.1f} V"
    )
    return verdict(found, "pack", title, why, unit="A", moment="launch")


def _why(rate: float | None, cut_v: float, moves: str) -> str:
    begin = f"Below {cut_v:.1f} V the controller may let go. "
    if rate is None:
        return f"{begin}No ramp of the throttle avoids it: set an amps limit."
    if rate > FINGER_PCT_S:
        return f"{begin}But it {moves} before: no finger opens the throttle in {100 / rate:.1g} s."
    return (
        f"{begin}A throttle ramp of {float(f'{rate:.2g}'):g} % a second or slower "
        f"({100 / rate:.2g} s to full) keeps the pack above it; so does an amps limit."
    )


RULE = Rule(judge, say)
