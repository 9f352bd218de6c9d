"""A pack at its cut-off against the least volts at which the controller works."""

from collections.abc import Iterator

import numpy as np

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    NotJudged,
    Severity,
    Verdict,
    exceeds,
    nowhere,
)

UNGEARED = True
"""Gearing makes no difference to it."""


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge the pack at nominal volts: below its least a controller does not start at all."""
    battery, least_v = case.build.battery, case.build.controller.min_voltage_v
    if least_v is None:
        say = "Lowest volts: those at which the controller works are not known."
        path = "controller.min_voltage_v"
        yield NotJudged(id="controller_min_volts", part="controller", path=path, say=say)
        return
    rests_v, cell = battery.series * battery.cell_voltage_v, CHEMISTRIES[battery.chemistry]
    empty_v = battery.series * (battery.cut_off_cell_v or cell.cut_off_v)
    severity: Severity = "ok"
    if exceeds(least_v, rests_v):
        severity = "stop"
    elif exceeds(least_v, empty_v):
        severity = "watch"
    cells = int(np.ceil(least_v / cell.nominal_v - 1e-9))
    yield Verdict(
        id="controller_min_volts",
        part="controller",
        title=f"The pack rests at {rests_v:.1f} V; the controller works from {least_v:g} V",
        severity=severity,
        value=rests_v,
        limit=least_v,
        unit="V",
        moment=None,
        why="It does not start on so few volts: more cells, or another controller."
        if severity == "stop"
        else f"At the pack's cut-off, {empty_v:.1f} V, it has given up already."
        if severity == "watch"
        else "The pack is empty before the controller gives up.",
        fix=Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
        if severity == "stop"
        else None,
    )


def stops(many: Many) -> Mask:
    """Return where the pack rests below the least volts."""
    battery, least_v = many.build.battery, many.build.controller.min_voltage_v
    if least_v is None:
        return nowhere(many)
    rests_v = np.asanyarray(battery.series * battery.cell_voltage_v)
    return nowhere(many) | (least_v > rests_v * (1 + 1e-9))
