"""What can be learned from a logger's table: held speeds, top speeds, starts, rolling out."""

from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.telemetry.recorded import Recorded

Numbers = NDArray[np.float64]

STEADY_S, STEADY_SHARE = 8.0, 0.03
"""A speed is held where it stays within such a share of itself for so long."""

CUT_S = 4.0
"""Seconds at each end of a held speed that are cut off."""

FLAT_OUT = 0.95
"""Throttle, as a share, from which it is flat out."""

RESTS_KMH, ROLLS_KMH = 1.0, 3.0
COAST_S, COAST_A = 5.0, 0.5
SLOWS_OVER_S, GENTLEST_MPS2, HARDEST_MPS2 = 5.0, 0.03, 0.7
"""What drag alone takes off a speed lies between these on the level (common practice, no source:
rolling resistance of 0.005 to 0.03 and the wind); below it is held, above it somebody brakes."""

EACH = 4
"""Of each kind that are proposed, the best first."""


class Proposed(BaseModel):
    """An observation that a stretch of a log would make, and where it lies in time."""

    from_s: float
    to_s: float
    say: str
    observation: dict[str, Any]


def proposals(log: Recorded) -> list[Proposed]:
    """Return what a log would teach, as observations of a log document."""
    if "speed_kmh" not in log.columns:
        return []
    log = _clean(log)
    return [*_steady(log), *_fastest(log), *_starts(log), *_coasts(log)]


def _clean(log: Recorded) -> Recorded:
    columns = {key: values.copy() for key, values in log.columns.items()}
    for key, places in log.marked.items():
        columns[key][places] = np.nan
    return Recorded(columns, log.said, log.marked, log.notes)


def _stretches(holds: NDArray[np.bool_]) -> list[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[0], holds.view(np.int8), [0]])))
    return list(zip(edges[::2].tolist(), (edges[1::2] - 1).tolist(), strict=True))


def _mean(values: Numbers) -> float | None:
    known = values[np.isfinite(values)]
    return float(np.mean(known)) if len(known) else None


def _steady(log: Recorded) -> list[Proposed]:
    times, speed = log.times, log.columns["speed_kmh"]
    found = []
    for first, last in held_stretches(times, speed):
        some = slice(first, last + 1)
        middle = _mean(speed[some])
        if middle is None or middle < ROLLS_KMH:
            continue
        throttle = log.columns.get("throttle_pct")
        flat = throttle is not None and (_mean(throttle[some]) or 0.0) >= 100 * FLAT_OUT
        kind = "top_speed" if flat else "steady"
        seen: dict[str, Any] = {"kind": kind, "instrument": "logger", "speed_kmh": round(middle, 2)}
        keys = ["battery_voltage_v", "battery_current_a", "motor_current_a"]
        for key in [*keys, "motor_rpm"] if flat else keys:
            value = _mean(log.columns[key][some]) if key in log.columns else None
            if value is not None and (value > 0 or key != "motor_rpm"):
                seen[key] = round(value, 3)
        if not flat and len(seen) == 3:
            continue
        lasts = float(times[last] - times[first])
        words = "Flat out" if flat else "Held"
        found.append(
            (
                lasts,
                Proposed(
                    from_s=float(times[first]),
                    to_s=float(times[last]),
                    observation=seen,
                    say=f"{words} at {middle:.1f} km/h for {lasts:.0f} s",
                ),
            )
        )
    found.sort(key=lambda one: -one[0])
    return [one for _, one in found[:EACH]]


def _fastest(log: Recorded) -> list[Proposed]:
    """Return the fastest speed that was held, where no throttle tells whether it was flat out."""
    if "throttle_pct" in log.columns:
        return []
    times, speed = log.times, log.columns["speed_kmh"]
    held = [
        (_mean(speed[one : other + 1]) or 0.0, one, other)
        for one, other in held_stretches(times, speed)
    ]
    if not held:
        return []
    middle, first, last = max(held)
    if middle < ROLLS_KMH:
        return []
    said = satellite_or_logger(log)
    return [
        Proposed(
            from_s=float(times[first]),
            to_s=float(times[last]),
            say=f"The fastest that was held, {middle:.1f} km/h: a top speed, if it was flat out",
            observation={"kind": "top_speed", "instrument": said, "speed_kmh": round(middle, 2)},
        )
    ]


def satellite_or_logger(log: Recorded) -> str:
    """Return which instrument read the speed: a record with places in it was a receiver's."""
    return "satellite" if log.said.get("place") == "speed_kmh" else "logger"


def held_stretches(times: Numbers, speed: Numbers) -> list[tuple[int, int]]:
    """Return stretches in which the speed stays near that of their beginning.

    Their ends are cut off: there it was still being pushed up to that speed, or left it already.
    """
    found, first = [], 0
    low = high = float("nan")
    for place, value in enumerate(speed):
        if not np.isfinite(value):
            continue
        low, high = np.fmin(low, value), np.fmax(high, value)
        if high - low > 2 * STEADY_SHARE * max(high, 5.0):
            found.append((first, place - 1))
            first, low, high = place, value, value
    found.append((first, len(times) - 1))
    cut = [
        (
            int(np.searchsorted(times, times[begins] + (CUT_S if begins else 0.0))),
            int(np.searchsorted(times, times[ends] - (CUT_S if ends < len(times) - 1 else 0.0))),
        )
        for begins, ends in found
        if ends > begins
    ]
    return [
        (one, other)
        for one, other in cut
        if one < other < len(times) and times[other] - times[one] >= STEADY_S
    ]


def _starts(log: Recorded) -> list[Proposed]:
    """Return standing starts at full throttle: only a throttle tells that nothing was held back."""
    throttle = log.columns.get("throttle_pct")
    if throttle is None:
        return []
    times, speed = log.times, log.columns["speed_kmh"]
    found = []
    for opened, last in _stretches(throttle >= 100 * FLAT_OUT):
        # The row before tells how it stood when the throttle was opened.
        first = max(opened - 1, 0)
        if not np.isfinite(speed[first]) or speed[first] > RESTS_KMH:
            continue
        some = speed[first : last + 1]
        if not np.isfinite(some).any():
            continue
        most = float(np.nanmax(some))
        to = float(np.floor(0.9 * most))
        if to < 5:
            continue
        at = int(np.flatnonzero(some >= to)[0])
        # Straight between the rows on both sides.
        before, after = some[at - 1], some[at]
        part = (to - before) / (after - before) if after > before else 1.0
        taken = times[first + at - 1] + part * (times[first + at] - times[first + at - 1])
        seconds = float(taken - times[first])
        seen = {"kind": "launch", "instrument": "logger", "to_kmh": to, "time_s": round(seconds, 2)}
        found.append(
            (
                most,
                Proposed(
                    from_s=float(times[first]),
                    to_s=float(taken),
                    observation=seen,
                    say=f"From rest to {to:.0f} km/h in {seconds:.1f} s",
                ),
            )
        )
    found.sort(key=lambda one: -one[0])
    return [one for _, one in found[:EACH]]


def _coasts(log: Recorded) -> list[Proposed]:
    """Return stretches without amps in which it slows down; without a meter, gently and long."""
    amps = log.columns.get("motor_current_a", log.columns.get("battery_current_a"))
    times, speed = log.times, log.columns["speed_kmh"]
    rolls = speed > ROLLS_KMH
    rolls &= _slows_gently(times, speed) if amps is None else np.abs(amps) < COAST_A
    doubt = ", if the motors were off and no brake was touched" if amps is None else ""
    found = []
    for first, last in _stretches(rolls):
        some = speed[first : last + 1]
        if times[last] - times[first] < COAST_S or some[0] - some[-1] < 0.15 * some[0]:
            continue
        step = max((last - first) // 60, 1)
        samples = [
            {
                "t_s": round(float(times[at] - times[first]), 3),
                "speed_kmh": round(float(speed[at]), 2),
            }
            for at in range(first, last + 1, step)
            if np.isfinite(speed[at])
        ]
        instrument = satellite_or_logger(log)
        seen = {"kind": "coast_down", "instrument": instrument, "samples": samples}
        lasts = float(times[last] - times[first])
        found.append(
            (
                lasts,
                Proposed(
                    from_s=float(times[first]),
                    to_s=float(times[last]),
                    observation=seen,
                    say=f"Rolling out from {some[0]:.0f} to {some[-1]:.0f} km/h in {lasts:.0f} s"
                    + doubt,
                ),
            )
        )
    found.sort(key=lambda one: -one[0])
    return [one for _, one in found[:EACH]]


def _slows_gently(times: Numbers, speed: Numbers) -> NDArray[np.bool_]:
    """Return where speed falls as drag lets it, over `SLOWS_OVER_S` and no harder than a brake."""
    known = np.isfinite(speed)
    if known.sum() < 3:
        return np.zeros(len(speed), bool)
    first = np.maximum(times - SLOWS_OVER_S / 2, times[0])
    last = np.minimum(times + SLOWS_OVER_S / 2, times[-1])
    own, seen = times[known], speed[known] / 3.6
    rate = (np.interp(last, own, seen) - np.interp(first, own, seen)) / np.maximum(last - first, 1)
    return np.asarray(known & (rate > -HARDEST_MPS2) & (rate < -GENTLEST_MPS2))
