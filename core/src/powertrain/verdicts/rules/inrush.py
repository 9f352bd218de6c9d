"""A grabbed trigger with the rotor at rest and no amps limit: an instant, never a stop."""

from collections.abc import Iterator

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.operating.inrush import fastest_ramp_pct_s, inrush_of
from powertrain.verdicts.verdict import Case, Verdict


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the volts that the first instant leaves the pack against its cut-off."""
    found = inrush_of(case.drive)
    if found is None:
        return
    battery = case.build.battery
    cell_v = battery.cut_off_cell_v
    cut_v = battery.series * (
        CHEMISTRIES[battery.chemistry].cut_off_v if cell_v is None else cell_v
    )
    low = found.battery_v < cut_v
    rate = fastest_ramp_pct_s(case.drive, cut_v) if low else None
    # What a finger is too slow for never happens.
    quick = rate is not None and rate > FINGER_PCT_S
    ohm = float(case.drive.pack.resistance_ohm)
    limit_a = (float(case.drive.pack.open_circuit_v) - cut_v) / ohm if ohm > 0 else found.battery_a
    yield Verdict(
        id="inrush",
        part="pack",
        title=f"A grabbed trigger draws {found.battery_a:.0f} A for an instant and leaves the pack "
        f"{found.battery_v:.1f} V",
        severity="watch" if low and not quick else "ok",
        value=found.battery_a,
        limit=max(limit_a, 0.0),
        unit="A",
        moment="launch",
        why=_why(rate, cut_v) if low else "The pack stays above its cut-off even then.",
        fix=None,
    )


FINGER_PCT_S = 1000.0
"""A trigger is pulled from rest to full in a tenth of a second at the quickest; common practice."""


def _why(rate: float | None, cut_v: float) -> str:
    begin = f"Below {cut_v:.1f} V the controller may let go. "
    if rate is None:
        return f"{begin}No ramp of the throttle avoids it: set an amps limit."
    if rate > FINGER_PCT_S:
        return (
            f"{begin}But it is rolling before: no finger opens the throttle in {100 / rate:.1g} s."
        )
    return (
        f"{begin}A throttle ramp of {float(f'{rate:.2g}'):g} % a second or slower "
        f"({100 / rate:.2g} s to full) keeps the pack above it; so does an amps limit."
    )
