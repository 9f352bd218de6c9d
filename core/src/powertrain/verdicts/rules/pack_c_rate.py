"""Amps for each amp-hour, where the pack's maker gives no amps."""

from collections.abc import Iterator

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.verdicts.verdict import Case, Fix, Severity, Verdict, exceeds, lasting, may_limit

USUAL_C = {"lipo": 20.0, "li_ion": 3.0, "lifepo4": 3.0, "lead_acid": 1.0, "nimh": 5.0}
"""What ordinary cells give for long; common practice, no source."""


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the lasting pack amps as a C rate against what is usual for the chemistry."""
    battery = case.build.battery
    if battery.continuous_current_a is not None:
        return
    amps = {m.id: float(m.state.battery_current_a) for m in lasting(case)}
    worst = max(amps, key=amps.__getitem__)
    capacity_ah, usual = float(case.drive.pack.capacity_ah), USUAL_C[battery.chemistry]
    rate = amps[worst] / capacity_ah
    severity: Severity = "watch" if exceeds(rate, usual) else "ok"
    limit_a = float(f"{usual * capacity_ah / case.build.controller.count:.2g}")
    path = "controller.battery_current_limit_a"
    yield Verdict(
        id="pack_c_rate",
        part="pack",
        title=f"It gives {rate:.1f} times its amp-hours; {usual:g} is usual for such cells",
        severity=severity,
        value=rate,
        limit=usual,
        unit="C",
        moment=worst,
        why=f"{amps[worst]:.0f} A from {capacity_ah:.3g} Ah of "
        f"{CHEMISTRIES[battery.chemistry].name}; its maker's figure decides, and is not known.",
        fix=Fix(say=f"Set the pack amps limit to {limit_a:g} A", change={path: limit_a})
        if severity == "watch" and limit_a > 0 and may_limit(case, path, limit_a)
        else None,
    )
