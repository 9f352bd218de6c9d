"""Winding, case, controller and pack against how hot they may get."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from powertrain.figures import Picture
from powertrain.heat.limits import Limit
from powertrain.heat.store import estimated
from powertrain.heat.temperatures import Node, after
from powertrain.operating.distance import hours_left
from powertrain.units import kmh_from_mps
from powertrain.verdicts.cures import cure
from powertrain.verdicts.verdict import Case, PartId, Severity, Verdict

PUSHED_S = 300.0
"""For how long people keep up full throttle or a hill of unknown length; common practice."""

NEAR_K = 8.0
"""Kelvin below a limit from which on a verdict says watch."""

PARTS: tuple[tuple[str, PartId, str], ...] = (
    ("winding", "motor", "winding"),
    ("case", "motor", "motor case"),
    ("controller", "controller", "controller"),
    ("pack", "pack", "pack"),
)

MOMENTS = ("launch", "climb", "cruise", "top_speed")
WORDS = {"launch": "launching", "climb": "on the climb", "cruise": "at cruise",
         "top_speed": "at top speed"}  # fmt: skip


def judge(case: Case) -> Iterator[Verdict]:
    """Judge each node at the moment in which it gets hottest.

    A trip at cruise lasts until the pack is used up, a hill of known length to its top, full
    throttle and other hills five minutes. Over the limit at the end is a stop, near it, or over
    it were the moment kept up, a thing to watch. Where the heat data is estimated, a few
    kelvin over is not surer than a few below.
    """
    lasts = _lasts(case)
    for key, part, noun in PARTS:
        yield _judged(case, key, part, noun, lasts)


def _lasts(case: Case) -> dict[str, float]:
    moments, run = case.moments, case.moments.launch_run
    hill = float(case.picture.climb_s)
    trip_s = 3600 * float(hours_left(case.drive, case.build, moments.cruise.state))
    launch_s = float(run.time_s) if run is not None and np.isfinite(run.time_s) else 0.0
    top = moments.top_speed.state
    known = case.build.moments.climb_length_m is not None
    return {
        "launch": launch_s,
        "climb": hill if known else PUSHED_S,
        "cruise": trip_s,
        "top_speed": min(PUSHED_S, 3600 * float(hours_left(case.drive, case.build, top))),
    }


def _judged(case: Case, key: str, part: PartId, noun: str, lasts: dict[str, float]) -> Verdict:
    node: Node = getattr(case.picture.heat, key)
    limit: Limit = getattr(case.limits, key)
    seconds = np.array([*(min(lasts[name], 1e6) for name in MOMENTS), 0.0])
    ends = np.minimum(after(case.store, case.picture.flows, key, seconds)[:4], 1e4)
    room = limit.value_c + (NEAR_K if part in estimated(case.build) else 0.0)
    index = int(np.argmax(ends))
    steady_c = float(node.steady_c[index])
    severity: Severity = "ok"
    if ends[index] > room:
        severity = "stop"
    elif ends[index] > limit.value_c - NEAR_K:
        severity = "watch"
    elif key != "pack":
        # What would be too hot later, were full throttle or the hill kept up, is worth a look.
        kept = max((1, 3), key=lambda i: float(node.steady_c[i]))
        if float(node.steady_c[kept]) > room:
            index, severity = kept, "watch"
            steady_c = float(node.steady_c[kept])
    worst, until_s = MOMENTS[index], float(node.to_limit_s[index])
    away = key in ("winding", "case") and bool(case.picture.heat.runs_away[index])
    value = float(ends[index])
    title, why = _words(noun, limit, worst, value, until_s, steady_c, lasts[worst], away)
    fix = (
        cure(case, lambda picture: _stays(case, picture, key, index))
        if severity == "stop"
        else None
    )
    return Verdict(
        id=f"{key}_temperature",
        part=part,
        title=title,
        severity=severity,
        value=value,
        limit=limit.value_c,
        unit="C",
        moment=worst,
        why=why,
        fix=fix,
    )


def _stays(case: Case, picture: Picture, key: str, index: int) -> NDArray[np.bool_]:
    """Return which variants keep a node within its limit for good, and still make the climb."""
    limit: Limit = getattr(case.limits, key)
    node: Node = getattr(picture.heat, key)
    was_met = bool(case.moments.climb.met)
    climbs = picture.moments.climb.met if was_met else True
    cool = node.steady_c[index] <= limit.value_c
    held = kmh_from_mps(picture.moments.climb.state.speed_mps) > 0
    return np.asarray(cool & climbs & held)


def _words(
    noun: str, limit: Limit, worst: str, value: float, until_s: float, steady_c: float,
    lasts_s: float, away: bool,
) -> tuple[str, str]:  # fmt: skip
    where = WORDS[worst]
    by = f"{limit.source[:1].upper()}{limit.source[1:]}: {limit.value_c:.0f} C."
    if until_s > max(lasts_s, 0.0) and steady_c <= limit.value_c + NEAR_K:
        return f"The {noun} reaches {value:.0f} C {where}", by
    if not np.isfinite(until_s):
        return f"The {noun} reaches {value:.0f} C {where}", by
    kept = f"{where}, kept up" if until_s > lasts_s else where
    title = f"The {noun} passes {limit.value_c:.0f} C after {spoken(until_s)} {kept}"
    end = "There is no steady temperature: hotter copper heats itself more, it runs away."
    if not away:
        end = f"It would settle at {steady_c:.0f} C."
    return title, f"{end} {by}"


def spoken(seconds: float) -> str:
    """Return a time as people say it."""
    if seconds < 1:
        return "less than a second"
    if seconds < 120:
        return f"{seconds:.0f} s"
    return f"{seconds / 60:.0f} min" if seconds < 7200 else f"{seconds / 3600:.1f} h"
