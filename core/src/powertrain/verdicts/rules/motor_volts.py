"""The pack straight off the charger against the motor's volts, and the maker's cell count."""

from collections.abc import Iterator

import numpy as np

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
    """The volt rating is a limit; the cell count is advice for the average buyer, kept apart."""
    motor, battery = case.build.motor, case.build.battery
    cell_v = CHEMISTRIES[battery.chemistry].charger_v
    volts = battery.series * cell_v
    limit_v = motor.max_voltage_v
    if limit_v is not None:
        over = exceeds(volts, limit_v)
        cells = int(limit_v / cell_v + 1e-9)
        severity: Severity = "stop" if over else "ok"
        fix = Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
        yield Verdict(
            id="motor_volts",
            part="motor",
            title=f"Fresh off the charger: {volts:.1f} V; the motor stands {limit_v:g} V",
            severity=severity,
            value=volts,
            limit=limit_v,
            unit="V",
            moment="wheels_up",
            why=f"{battery.series} cells end their charge at {cell_v:.2f} V each.",
            fix=fix if over and cells >= 1 else None,
        )
    if motor.rated_cells is not None:
        low, high = motor.rated_cells
        outside = not low <= battery.series <= high
        yield Verdict(
            id="advised_cells",
            part="motor",
            title=f"{battery.series} cells; the maker advises {low} to {high}",
            severity="watch" if outside else "ok",
            value=float(battery.series),
            limit=float(high),
            unit="cells",
            moment=None,
            why="Advice for the average buyer; the highest rpm and heat are the limits.",
            fix=None,
        )


def stops(many: Many) -> Mask:
    """Return where a full pack is above the motor's volts."""
    motor, battery = many.build.motor, many.build.battery
    if motor.max_voltage_v is None:
        return nowhere(many)
    volts = np.asanyarray(battery.series * CHEMISTRIES[battery.chemistry].charger_v)
    return nowhere(many) | exceeds(volts, motor.max_voltage_v)
