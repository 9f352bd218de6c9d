"""Cell volts under load against cut-off."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, greatest, scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    Severity,
    Verdict,
    in_words,
    lasting,
    may_limit,
    softened,
    worst_of,
)

ROOM_V = 0.15
"""Volts above cut-off below which a pack that is not full soon lets go; common practice."""


def judge(case: Case) -> Iterator[Verdict]:
    """Sag at the greatest pack current, at the cells' present rest voltage."""
    battery = case.build.battery
    stated = battery.cut_off_cell_v
    cut_v = stated or CHEMISTRIES[battery.chemistry].cut_off_v

    def cell_v(amps: float) -> float:
        return float(case.drive.pack.voltage_v(scalar(amps))) / battery.series

    def passes(amps: float) -> bool:
        return cell_v(amps) < cut_v + ROOM_V

    peak_a = float(case.moments.peaks.battery_a)
    worst = worst_of(case, lambda state: state.battery_current_a, passes, peak_a)
    amps = worst.value
    volts = cell_v(amps)
    severity: Severity = "stop" if volts < cut_v else "watch" if volts < cut_v + ROOM_V else "ok"
    severity = softened(severity, worst)
    cell_ohm = float(case.drive.pack.resistance_ohm) / battery.series
    most_a = (battery.cell_voltage_v - cut_v) / cell_ohm if cell_ohm > 0 else 0.0
    most_a = float(f"{0.999 * most_a / case.build.controller.count:.3g}")
    fix = None
    path = "controller.battery_current_limit_a"
    if severity == "stop" and most_a > 0.5 and may_limit(case, path, most_a):
        change = {path: most_a}
        fix = Fix(say=f"Set the pack amps limit to {most_a:g} A", change=change)
    assumed = "" if stated else f" Cut-off is taken as {cut_v:g} V, usual for this chemistry."
    yield Verdict(
        id="cut_off",
        part="pack",
        title=f"Cells sag to {volts:.2f} V, cut-off is {cut_v:.2f} V",
        severity=severity,
        value=volts,
        limit=cut_v,
        unit="V",
        moment=worst.moment.id,
        why=f"{amps:.1f} A {in_words(case, worst.moment)}, through cells and leads, takes "
        f"{battery.cell_voltage_v - volts:.2f} V from each.{assumed}",
        fix=fix,
    )


def load(many: Many) -> Array:
    """Return the volts that the greatest pack current takes over those that may go."""
    battery = many.build.battery
    stated = battery.cut_off_cell_v
    cut_v = CHEMISTRIES[battery.chemistry].cut_off_v if stated is None else stated
    amps = [moment.state.battery_current_a for moment in lasting(many)]
    most = greatest(many.moments.peaks.battery_a, *amps)
    rests = many.drive.pack.open_circuit_v
    spare = np.maximum(rests - battery.series * cut_v, 1e-9)
    return (rests - many.drive.pack.voltage_v(most)) / spare


def stops(many: Many) -> Mask:
    """Return where the greatest pack current takes the cells below cut-off."""
    battery = many.build.battery
    stated = battery.cut_off_cell_v
    cut_v = CHEMISTRIES[battery.chemistry].cut_off_v if stated is None else stated
    amps = [moment.state.battery_current_a for moment in lasting(many)]
    most = greatest(many.moments.peaks.battery_a, *amps)
    return np.asanyarray(many.drive.pack.voltage_v(most) / battery.series < cut_v)
