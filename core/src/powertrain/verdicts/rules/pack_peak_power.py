"""A pack asked for more amps than those of its greatest power gives less with every amp more."""

from collections.abc import Iterator
from dataclasses import replace

from powertrain.arrays import scalar
from powertrain.operating.full_throttle import full_throttle
from powertrain.verdicts.verdict import Case, Fix, Verdict


def judge(case: Case) -> Iterator[Verdict]:
    """Judge full throttle from rest against the amps at which the pack gives most.

    Where pack and leads hold back more than motors and path, full throttle there is not the
    hardest push: a limit at the pack's best amps pushes harder.
    """
    drive, path = case.drive, "controller.battery_current_limit_a"
    peak_a = float(drive.pack.current_at_greatest_power_a(drive.controller.standby_a))
    amps = float(case.start.battery_current_a)
    if not amps > peak_a * (1 + 1e-9):
        return
    limit_a = float(f"{0.995 * peak_a:.3g}") / case.build.controller.count
    held = replace(drive.controller, battery_current_limit_a=scalar(peak_a))
    better = full_throttle(replace(drive, controller=held), scalar(0.0))
    push_n, now_n = float(better.force_n), float(case.start.force_n)
    yield Verdict(
        id="pack_peak_power",
        part="pack",
        title=f"Full throttle at rest takes {amps:.0f} A; the pack gives most power at "
        f"{peak_a:.0f} A",
        severity="watch",
        value=amps,
        limit=peak_a,
        unit="A",
        moment="launch",
        why="Beyond it the pack's own resistance keeps more than it gives on. Held to that, the "
        f"start pushes {push_n:.0f} N instead of {now_n:.0f} N.",
        fix=Fix(say=f"Set the pack amps limit to {limit_a:g} A", change={path: limit_a}),
    )
