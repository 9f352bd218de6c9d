"""Two records of one ride brought together by the course that they share.

Their clocks have nothing in common. What both saw (a speed here, turns there) rises and falls
together: the shift at which they agree best is taken. Agreement is the coefficient of correlation
over the time in which both know something, for all shifts at once (D. Padfield, Masked object
registration in the Fourier domain, IEEE Trans. Image Processing 21, 2012).
"""

import numpy as np
from scipy.fft import irfft, next_fast_len, rfft

from powertrain.errors import Refusal
from powertrain.telemetry.recorded import Numbers, Recorded

STEP_S = 0.2
LONGEST_S = 6 * 3600.0
LEAST_S = 20.0
"""Seconds that both must cover."""

LEAST_SHARE = 0.4
"""Part of the shorter one that the other must cover: a short piece goes with anything somewhere."""

AGREES = 0.8
GAP_S = 3.0
"""Over a hole of the second record that is longer, nothing is filled in."""

SHARED = ("speed_kmh", "motor_rpm", "wheel_rpm", "throttle_pct", "duty")
"""Columns that follow the course of a ride, the best first."""


def aligned(first: Recorded, second: Recorded) -> Recorded:
    """Return the first record with what the second knows beside it, at the first's times.

    Raises
    ------
    Refusal
        If they share no course, or it does not tell how they lie to each other.
    """
    one, other = _course(first, "first"), _course(second, "second")
    grids = [_on_grid(record, key) for record, key in ((first, one), (second, other))]
    shift, agrees = _best_shift(*grids)
    if not agrees >= AGREES:
        raise Refusal(
            "second",
            f"does not go with the first: {_words(one)} of the one and {_words(other)} of the "
            "other never rise and fall together; are they of one ride?",
        )
    begins = shift * STEP_S
    at = first.times - begins
    columns = dict(first.columns)
    for key, values in second.columns.items():
        if key != "time_s" and key not in columns:
            columns[key] = _at_times(at, second.times, values)
    when = (
        "begin together"
        if abs(begins) < STEP_S
        else f"begins {abs(begins):.1f} s {'later' if begins > 0 else 'earlier'}"
    )
    said = f"The second {when}" if abs(begins) >= STEP_S else f"They {when}"
    note = f"{said}, by {_words(one)} and {_words(other)}, which go together at {agrees:.2f}."
    marked = {
        **{
            key: sorted({int(np.argmin(np.abs(at - second.times[place]))) for place in places})
            for key, places in second.marked.items()
            if key in columns and key not in first.columns
        },
        **first.marked,
    }
    both = {**second.said, **first.said}
    return Recorded(columns, both, marked, [*first.notes, *second.notes, note])


def _course(record: Recorded, which: str) -> str:
    for key in SHARED:
        if key in record.columns and np.isfinite(record.columns[key]).sum() > 10:
            return key
    raise Refusal(
        which, "has no speed, turns or throttle in it by which it could be laid beside another"
    )


def _words(key: str) -> str:
    return {"speed_kmh": "speed", "throttle_pct": "throttle", "duty": "duty"}.get(key, "turns")


def _on_grid(record: Recorded, key: str) -> Numbers:
    """Return a column each `STEP_S` from the record's first row on; NaN in its holes."""
    times = record.times
    lasts = float(times[-1] - times[0])
    if lasts > LONGEST_S:
        raise Refusal("time_s", f"covers more than {LONGEST_S / 3600:.0f} h; cut the file")
    grid = times[0] + np.arange(int(lasts / STEP_S) + 1) * STEP_S
    values = record.columns[key].copy()
    values[record.marked.get(key, [])] = np.nan
    return _at_times(grid, times, values)


def _at_times(at: Numbers, times: Numbers, values: Numbers) -> Numbers:
    known = np.isfinite(values)
    if known.sum() < 2:
        return np.full(len(at), np.nan)
    own, seen = times[known], values[known]
    found = np.interp(at, own, seen, left=np.nan, right=np.nan)
    after = np.clip(np.searchsorted(own, at), 1, len(own) - 1)
    near = np.minimum(np.abs(at - own[after - 1]), np.abs(own[after] - at))
    hole = (own[after] - own[after - 1] > GAP_S) & (near > 0)
    return np.asarray(np.where(hole, np.nan, found))


def _best_shift(one: Numbers, other: Numbers) -> tuple[int, float]:
    """Return by how many steps the other begins later, and how well they agree then."""
    size = next_fast_len(len(one) + len(other), real=True)

    def spectrum(values: Numbers) -> Numbers:
        return np.asarray(rfft(values, size))

    def laid(a: Numbers, b: Numbers) -> Numbers:
        return np.asarray(irfft(a * np.conj(b), size))

    known, seen = np.isfinite(one), np.isfinite(other)
    a = np.where(known, one - np.nanmean(one), 0.0) / (np.nanstd(one) or 1.0)
    b = np.where(seen, other - np.nanmean(other), 0.0) / (np.nanstd(other) or 1.0)
    a1, a2, a0 = spectrum(a), spectrum(a * a), spectrum(known.astype(float))
    b1, b2, b0 = spectrum(b), spectrum(b * b), spectrum(seen.astype(float))
    count = np.round(laid(a0, b0))
    least = LEAST_SHARE * min(known.sum(), seen.sum())
    enough = count >= max(LEAST_S / STEP_S, least)
    share = np.maximum(count, 1.0)
    both = laid(a1, b1) - laid(a1, b0) * laid(a0, b1) / share
    of_one = laid(a2, b0) - laid(a1, b0) ** 2 / share
    of_other = laid(a0, b2) - laid(a0, b1) ** 2 / share
    spread = np.sqrt(np.maximum(of_one, 0) * np.maximum(of_other, 0))
    # A stretch in which nothing changes goes with everything.
    tells = enough & (spread > 0.02 * share)
    agrees = np.where(tells, both / np.maximum(spread, 1e-12), -np.inf)
    at = int(np.argmax(agrees))
    return (at if at <= size // 2 and at < len(one) else at - size), float(agrees[at])
