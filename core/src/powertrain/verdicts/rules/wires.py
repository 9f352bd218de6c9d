"""Amps through wires and the pack's connector."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, greatest
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    NotJudged,
    PartId,
    Severity,
    Verdict,
    lasting,
    nowhere,
)

LONG_A_PER_MM2, SHORT_A_PER_MM2 = 8.0, 14.0
"""Short bare-lying copper in a vehicle: amps for each mm2 that it stands for long, and at which
its insulation softens; common practice, no source."""


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge pack wires, motor wires and the connector, where their size is stated."""
    wiring, n = case.build.wiring, case.build.motor.count
    pack = max(lasting(case), key=lambda m: float(m.state.battery_current_a))
    motor = max(lasting(case), key=lambda m: float(m.state.motor_current_a))
    pack_a = float(pack.state.battery_current_a)
    rms = 0.816 if case.build.motor.commutation == "brushless" else 1.0
    motor_a = rms * float(motor.state.motor_current_a)
    if wiring.pack_wire_mm2 is not None:
        yield _wire("pack_wire", "pack", "pack wires", pack_a, wiring.pack_wire_mm2, pack.id)
    if wiring.motor_wire_mm2 is not None:
        yield _wire("motor_wire", "motor", "motor wires", motor_a, wiring.motor_wire_mm2, motor.id)
    if wiring.pack_wire_mm2 is None and wiring.motor_wire_mm2 is None:
        say = "Wires: their size is not known."
        yield NotJudged(id="pack_wire", part="pack", path="wiring.pack_wire_mm2", say=say)
    rated_a = wiring.connector_current_a
    if rated_a is not None:
        severity: Severity = (
            "stop" if pack_a > rated_a else "watch" if pack_a > 0.8 * rated_a else "ok"
        )
        yield Verdict(
            id="connector",
            part="pack",
            title=f"The pack's connector carries {pack_a:.0f} A of {rated_a:g} A",
            severity=severity,
            value=pack_a,
            limit=rated_a,
            unit="A",
            moment=pack.id,
            why=f"Lasting amps of {n} motor{'s' if n > 1 else ''}; a warm connector loosens and "
            "gets hotter.",
            fix=None,
        )


def _wire(rule: str, part: PartId, noun: str, amps: float, area_mm2: float, moment: str) -> Verdict:
    density = amps / area_mm2
    severity: Severity = "ok"
    if density > LONG_A_PER_MM2:
        severity = "stop" if density > SHORT_A_PER_MM2 else "watch"
    needs = next(
        (size for size in (0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95)
         if size * LONG_A_PER_MM2 >= amps), 120.0,
    )  # fmt: skip
    return Verdict(
        id=rule,
        part=part,
        title=f"The {noun} carry {amps:.0f} A in {area_mm2:g} mm2",
        severity=severity,
        value=density,
        limit=LONG_A_PER_MM2,
        unit="A/mm2",
        moment=moment,
        why=f"About {LONG_A_PER_MM2:g} A for each mm2 is what short free wires stand for long.",
        fix=Fix(say=f"Use {needs:g} mm2", change={f"wiring.{rule}_mm2": float(needs)})
        if severity != "ok"
        else None,
    )


def load(many: Many) -> Array:
    """Return amps over what wires and connector stand at the most."""
    wiring = many.build.wiring
    pack_a, motor_a = (
        greatest(*(getattr(m.state, key) for m in lasting(many)))
        for key in ("battery_current_a", "motor_current_a")
    )
    rms = 0.816 if many.build.motor.commutation == "brushless" else 1.0
    found: Array = np.zeros(np.shape(nowhere(many)))
    for amps, area_mm2 in ((pack_a, wiring.pack_wire_mm2), (rms * motor_a, wiring.motor_wire_mm2)):
        if area_mm2 is not None:
            found = np.maximum(found, amps / area_mm2 / SHORT_A_PER_MM2)
    if wiring.connector_current_a is not None:
        found = np.maximum(found, pack_a / wiring.connector_current_a)
    return found


def stops(many: Many) -> Mask:
    """Return where wires or connector carry more than they stand."""
    wiring = many.build.wiring
    pack_a, motor_a = (
        greatest(*(getattr(m.state, key) for m in lasting(many)))
        for key in ("battery_current_a", "motor_current_a")
    )
    rms = 0.816 if many.build.motor.commutation == "brushless" else 1.0
    stop = nowhere(many)
    for amps, area_mm2 in ((pack_a, wiring.pack_wire_mm2), (rms * motor_a, wiring.motor_wire_mm2)):
        if area_mm2 is not None:
            stop = stop | (amps / area_mm2 > SHORT_A_PER_MM2)
    if wiring.connector_current_a is not None:
        stop = stop | (pack_a > wiring.connector_current_a)
    return stop
