"""Amps through wires and the pack's connector."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array
from powertrain.operating.state import State
from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.moments import lasting, moment_at, worst_among
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Fix, NotJudged, PartId, Verdict

LONG_A_PER_MM2, SHORT_A_PER_MM2 = 8.0, 14.0
"""Short bare-lying copper in a vehicle: amps for each mm2 that it stands for long, and at which
its insulation softens; common practice, no source."""

SIZES_MM2 = (0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120)

NOUNS: dict[str, tuple[PartId, str]] = {
    "pack_wire": ("pack", "pack wires"),
    "motor_wire": ("motor", "motor wires"),
}


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge pack wires, motor wires and the connector, where their size is stated."""
    wiring = batch.ratings.wiring
    # A phase carries current for two thirds of a turn.
    rms = 0.816 if batch.ratings.motor.brushless else 1.0

    def motor_a(state: State) -> Array:
        return rms * state.motor_current_a

    moments = lasting(batch)
    pack_a = worst_among(moments, lambda state: state.battery_current_a)
    for name, worst, area_mm2 in (
        ("pack_wire", pack_a, wiring.pack_wire_mm2),
        ("motor_wire", worst_among(moments, motor_a), wiring.motor_wire_mm2),
    ):
        if not unstated(area_mm2):
            density = worst.value / area_mm2
            severity = grades(stop=density > SHORT_A_PER_MM2, watch=density > LONG_A_PER_MM2)
            yield Judgement(
                name,
                density,
                np.asanyarray(LONG_A_PER_MM2),
                severity,
                density / SHORT_A_PER_MM2,
                at=worst.place,
            )
    if not unstated(wiring.connector_a):
        amps, limit_a = pack_a.value, wiring.connector_a
        severity = grades(stop=amps > limit_a, watch=amps > 0.8 * limit_a)
        yield Judgement("connector", amps, limit_a, severity, amps / limit_a, at=pack_a.place)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what they carry."""
    moment, value, limit = moment_at(context, found.at), float(found.value), float(found.limit)
    if found.id == "connector":
        n = context.build.motor.count
        title = f"The pack's connector carries {value:.0f} A of {limit:g} A"
        why = (
            f"Lasting amps of {n} motor{'s' if n > 1 else ''}; a warm connector loosens and "
            "gets hotter."
        )
        return verdict(found, "pack", title, why, unit="A", moment=moment.id)
    part, noun = NOUNS[found.id]
    area_mm2 = getattr(context.build.wiring, f"{found.id}_mm2")
    amps = value * area_mm2
    fix = None
    if found.word != "ok":
        needs = next((size for size in SIZES_MM2 if size * LONG_A_PER_MM2 >= amps), SIZES_MM2[-1])
        change = {f"wiring.{found.id}_mm2": float(needs)}
        fix = Fix(say=f"Use {needs:g} mm2", change=change)
    title = f"The {noun} carry {amps:.0f} A in {area_mm2:g} mm2"
    why = f"About {LONG_A_PER_MM2:g} A for each mm2 is what short free wires stand for long."
    return verdict(found, part, title, why, unit="A/mm2", moment=moment.id, fix=fix)


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that no size is known."""
    wiring = context.build.wiring
    if wiring.pack_wire_mm2 is None and wiring.motor_wire_mm2 is None:
        say = "Wires: their size is not known."
        yield NotJudged(id="pack_wire", part="pack", path="wiring.pack_wire_mm2", say=say)


RULE = Rule(judge, say, unknown, rejects="wires or connector would carry too much")
