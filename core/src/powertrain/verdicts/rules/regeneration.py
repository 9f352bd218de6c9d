"""Braking into the pack: amps that it may take, and a pack that is full already."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    Severity,
    Verdict,
    exceeds,
    nowhere,
)

UNGEARED = True
"""Gearing makes no difference to it."""


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the braking amps that are set, where any are."""
    battery, regen_a = case.build.battery, case.build.controller.regen_current_limit_a
    if not regen_a:
        return
    path = "controller.regen_current_limit_a"
    most_a = battery.charge_current_a
    if most_a is not None:
        severity: Severity = "stop" if exceeds(regen_a, most_a) else "ok"
        yield Verdict(
            id="regeneration_amps",
            part="pack",
            title=f"Braking pushes {regen_a:g} A back; the pack may take {most_a:g} A",
            severity=severity,
            value=regen_a,
            limit=most_a,
            unit="A",
            moment=None,
            why="Charging too fast plates and ages cells, most of all cold ones.",
            fix=Fix(say=f"Set the braking amps limit to {most_a:g} A", change={path: most_a})
            if severity == "stop"
            else None,
        )
    full = case.drive.pack.straight_off_the_charger()
    volts = float(full.voltage_v(scalar(-regen_a))) / battery.series
    end_v = CHEMISTRIES[battery.chemistry].charger_v
    rating_v = case.build.controller.capacitor_voltage_v or case.build.controller.max_voltage_v
    over = rating_v is not None and exceeds(volts * battery.series, rating_v)
    yield Verdict(
        id="regeneration_full",
        part="pack",
        title=f"Braking on a full pack lifts cells to {volts:.2f} V; charging ends at {end_v:.2f}",
        severity="stop" if over else "watch",
        value=volts,
        limit=end_v,
        unit="V",
        moment=None,
        why=(f"That is {volts * battery.series:.1f} V at the controller, rated {rating_v:g} V. "
             if over else "")
        + "A full pack has no room: begin a descent with a pack below about nine tenths, or set "
        "the braking amps lower.",
        fix=None,
    )  # fmt: skip


def stops(many: Many) -> Mask:
    """Return where braking amps, or the volts that they lift a full pack to, are too much."""
    battery, controller = many.build.battery, many.build.controller
    regen_a = controller.regen_current_limit_a
    stop = nowhere(many)
    if regen_a is None:
        return stop
    brakes = np.asanyarray(regen_a) > 0
    if battery.charge_current_a is not None:
        stop = stop | (brakes & exceeds(np.asanyarray(regen_a), battery.charge_current_a))
    rating_v = controller.capacitor_voltage_v
    rating_v = controller.max_voltage_v if rating_v is None else rating_v
    if rating_v is not None:
        volts = many.drive.pack.straight_off_the_charger().voltage_v(-np.asanyarray(regen_a))
        stop = stop | (brakes & exceeds(volts, rating_v))
    return stop
