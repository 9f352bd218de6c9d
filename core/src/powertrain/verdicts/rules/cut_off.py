"""Cell volts under load against cut-off."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import greatest, scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.verdicts.verdict import Case, Fix, Many, Mask, Severity, Verdict

ROOM_V = 0.15
"""Volts above cut-off below which a pack that is not full soon lets go; common practice."""


def judge(case: Case) -> Iterator[Verdict]:
    """Sag at the greatest pack current, at the cells' present rest voltage."""
    battery, run = case.build.battery, case.moments.launch_run
    stated = battery.cut_off_cell_v
    cut_v = stated or CHEMISTRIES[battery.chemistry].cut_off_v
    amps = {m.id: float(m.state.battery_current_a) for m in case.moments.all()[:4]}
    if run is not None:
        amps["launch"] = max(amps["launch"], float(run.peak_battery_current_a))
    moment = max(amps, key=amps.__getitem__)
    volts = float(case.drive.pack.voltage_v(scalar(amps[moment]))) / battery.series
    severity: Severity = "stop" if volts < cut_v else "watch" if volts < cut_v + ROOM_V else "ok"
    cell_ohm = float(case.drive.pack.resistance_ohm) / battery.series
    most_a = (battery.cell_voltage_v - cut_v) / cell_ohm if cell_ohm > 0 else 0.0
    most_a = float(f"{0.999 * most_a:.3g}")
    fix = None
    if severity == "stop" and most_a > 0.5:
        change = {"controller.battery_current_limit_a": most_a}
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
        moment=moment,
        why=f"{amps[moment]:.1f} A through cells and leads takes "
        f"{battery.cell_voltage_v - volts:.2f} V from each.{assumed}",
        fix=fix,
    )


def stops(many: Many) -> Mask:
    """Return where the greatest pack current takes the cells below cut-off."""
    battery, run = many.build.battery, many.moments.launch_run
    stated = battery.cut_off_cell_v
    cut_v = CHEMISTRIES[battery.chemistry].cut_off_v if stated is None else stated
    amps = [moment.state.battery_current_a for moment in many.moments.all()[:4]]
    if run is not None:
        amps.append(run.peak_battery_current_a)
    most = greatest(*amps)
    return np.asanyarray(many.drive.pack.voltage_v(most) / battery.series < cut_v)
