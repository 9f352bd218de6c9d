"""The pack straight off the charger against what the controller stands."""

from collections.abc import Iterator

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
    """Judge the maker's input rating and the capacitors apart: either can be the true limit."""
    controller = case.build.controller
    yield _judged(
        case,
        "controller_volts",
        "max_voltage_v",
        controller.max_voltage_v,
        "the controller is rated",
    )
    yield _judged(
        case, "capacitor_volts", "capacitor_voltage_v", controller.capacitor_voltage_v,
        "its capacitors are rated",
    )  # fmt: skip


def _judged(
    case: Case, rule: str, key: str, limit_v: float | None, rated: str
) -> Verdict | NotJudged:
    battery = case.build.battery
    cell_v = CHEMISTRIES[battery.chemistry].charger_v
    volts = battery.series * cell_v
    if limit_v is None:
        say = f"Full pack: what volts {rated} for is not known."
        return NotJudged(id=rule, part="controller", path=f"controller.{key}", say=say)
    # The rating is a limit that may be used up whole, so near to it is no worry; over it is.
    severity: Severity = "stop" if exceeds(volts, limit_v) else "ok"
    cells = int(limit_v / cell_v + 1e-9)
    fix = None
    if severity == "stop" and cells >= 1:
        fix = Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
    cure = " Fewer cells or another controller." if severity == "stop" else ""
    return Verdict(
        id=rule,
        part="controller",
        title=f"Fresh off the charger: {volts:.1f} V; {rated} {limit_v:g} V",
        severity=severity,
        value=volts,
        limit=limit_v,
        unit="V",
        moment="wheels_up",
        why=f"{battery.series} cells end their charge at {cell_v:.2f} V each.{cure}",
        fix=fix,
    )


def stops(many: Many) -> Mask:
    """Return where a full pack is above either rating."""
    controller, battery = many.build.controller, many.build.battery
    volts = battery.series * CHEMISTRIES[battery.chemistry].charger_v
    stop = nowhere(many)
    for limit_v in (controller.max_voltage_v, controller.capacitor_voltage_v):
        if limit_v is not None:
            stop = stop | exceeds(volts, limit_v)
    return stop
