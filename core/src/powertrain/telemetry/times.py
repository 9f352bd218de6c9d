"""A logger's clock: numbers, hours and minutes, dates, seconds since 1970; resets and gaps."""

import re
from contextlib import suppress
from datetime import UTC, datetime

import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[np.float64]

HOURS = re.compile(r"(?:(\d{1,3}):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)\s*([AaPp][Mm])?")
DAYS = (
    "%Y-%m-%d",
    "%d.%m.%Y",
    "%d/%m/%Y",
    "%Y/%m/%d",
    "%m/%d/%Y",
    "%Y%m%d",
    "%d-%m-%Y",
    "%d.%m.%y",
)

DAY_S = 86_400.0
GAP_TIMES = 20.0
"""A step so many times the usual one is a gap."""


def seconds_of(cell: str) -> float | None:
    """Return the seconds of a time of day, of a date with a time, or of a duration; else None."""
    plain = cell.strip().strip('"')
    stamp = _stamp(plain)
    if stamp is not None:
        return stamp
    found = HOURS.fullmatch(plain)
    if found is None:
        return None
    hours, minutes, seconds, half = found.groups()
    total = 60 * float(minutes) + float(seconds.replace(",", "."))
    if hours is not None:
        total += 3600 * float(hours)
        if half:
            total += 43_200.0 * (half.lower() == "pm") - 43_200.0 * (float(hours) == 12)
    return total


def _stamp(plain: str) -> float | None:
    if len(plain) < 8 or not plain[0].isdigit():
        return None
    found: datetime | None = None
    with suppress(ValueError):
        found = datetime.fromisoformat(plain.replace(",", "."))
    if found is not None and ("T" in plain or " " in plain or "-" in plain):
        return (found if found.tzinfo else found.replace(tzinfo=UTC)).timestamp()
    day, _, clock = plain.partition(" ")
    date = day_of(day)
    if date is None or not clock:
        return None
    time = seconds_of(clock)
    return None if time is None else date + time


def day_of(cell: str) -> float | None:
    """Return the seconds since 1970 at which a written day begins, None where it is none."""
    for form in DAYS:
        try:
            return datetime.strptime(cell.strip(), form).replace(tzinfo=UTC).timestamp()
        except ValueError:
            continue
    return None


def straightened(times: Numbers) -> tuple[Numbers, list[str]]:
    """Return times from nought that never go back, and what was done to make them so.

    Where a clock begins anew (a logger that was switched off), it goes on a usual step later;
    where it goes over midnight, by the day.
    """
    notes: list[str] = []
    known = np.isfinite(times)
    if not known.any():
        return np.arange(len(times), dtype=float), ["No clock: rows are taken a second apart."]
    if not known.all():
        places = np.arange(len(times))
        times = np.interp(places, places[known], times[known])
        notes.append(f"{int((~known).sum()):,} rows without a time: straight between the others.")
    steps = np.diff(times)
    ahead = steps[steps > 0]
    usual = float(np.median(ahead)) if len(ahead) else 1.0
    back = np.flatnonzero(steps < -0.5 * usual)
    midnights = [
        at for at in back if -DAY_S * 1.01 < steps[at] < -0.5 * DAY_S and times.max() <= DAY_S
    ]
    steps = steps.copy()
    steps[midnights] += DAY_S
    resets = [at for at in back if at not in set(midnights)]
    steps[resets] = usual
    if len(midnights):
        notes.append(f"Over midnight {len(midnights)} times.")
    if len(resets):
        lines = ", ".join(str(int(at) + 2) for at in resets[:5])
        notes.append(f"The clock begins anew {len(resets)} times (row {lines}): taken as going on.")
    jitter = int((steps < 0).sum())
    steps = np.maximum(steps, 0.0)
    if jitter:
        notes.append(f"{jitter:,} times the clock goes back a little: taken as standing.")
    gaps = steps[steps > GAP_TIMES * usual]
    if len(gaps):
        notes.append(f"{len(gaps):,} gaps, the longest of {float(gaps.max()):,.0f} s.")
    return np.append(0.0, np.cumsum(steps)), notes
