"""Volts that can be touched."""

from collections.abc import Iterator

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.verdicts.verdict import Case, Verdict

SAFE_DRY_V = 60.0
"""D.c. below which dry parts need no basic protection against touch (IEC 60364-4-41, 414;
from memory). It is 30 V where it can be wet."""


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the pack straight off the charger."""
    battery = case.build.battery
    volts = battery.series * CHEMISTRIES[battery.chemistry].charger_v
    over = volts > SAFE_DRY_V
    yield Verdict(
        id="touch_voltage",
        part="pack",
        title=f"{volts:.1f} V at full charge, {'above' if over else 'within'} 60 V",
        severity="watch" if over else "ok",
        value=volts,
        limit=SAFE_DRY_V,
        unit="V",
        moment=None,
        why="Above 60 V d.c. (30 V in the wet) bare parts must not be touched: cover them, use a "
        "pull-out cut-off, and leave work on it to somebody trained."
        if over
        else "Dry hands come to no harm; a short circuit burns all the same, and wet, 30 V counts.",
        fix=None,
    )
