"""How amps are judged against a part's continuous and peak ratings."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, greatest
from powertrain.figures import Picture
from powertrain.operating.state import State
from powertrain.verdicts.cures import cure
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    NotJudged,
    PartId,
    Severity,
    Verdict,
    exceeds,
    nowhere,
    severity_of,
)

LASTING = ("climb", "cruise", "top_speed")
"""Moments that last; a launch is over in seconds and is judged against the peak rating."""

MOMENT_WORDS = {
    "launch": "in the launch",
    "climb": "on the climb",
    "cruise": "at cruise",
    "top_speed": "at top speed",
}


@dataclass(frozen=True)
class Rated:
    """A part's amps: where they are read, what they may be, and which limit holds them."""

    part: PartId
    noun: str
    path: str
    amps: Callable[[State], Array]
    launch_peak_a: Array
    continuous_a: float | None
    peak_a: float | None
    peak_s: float | None
    limit_path: str
    limit_scale: float
    note: str = ""


def judged_current(case: Case, rated: Rated) -> Iterator[Verdict | NotJudged]:
    """Yield the verdicts on lasting and on peak amps of one part."""
    if rated.continuous_a is None and rated.peak_a is None:
        yield NotJudged(
            id=f"{rated.part}_current",
            part=rated.part,
            path=f"{rated.path}.continuous_current_a",
            say=f"Amps of the {rated.noun}: it has no rating here.",
        )
        return
    if rated.continuous_a is not None:
        yield _lasting(case, rated, rated.continuous_a)
    if rated.peak_a is not None:
        yield _peak(case, rated, rated.peak_a)


def _lasting(case: Case, rated: Rated, rating_a: float) -> Verdict:
    lasting = [moment for moment in case.moments.all() if moment.id in LASTING]
    worst = max(lasting, key=lambda moment: float(rated.amps(moment.state)))
    amps = float(rated.amps(worst.state))
    severity: Severity = severity_of(amps, rating_a)
    why = f"{amps:.1f} A {MOMENT_WORDS[worst.id]}, {rating_a:g} A for as long as you like."
    if severity == "stop" and worst.id == "climb" and _climb_is_short(case, rated):
        severity = "watch"
        why += " The hill is over before its peak time is."
    verdict = _verdict(rated, "continuous", severity, amps, rating_a, worst.id, why)
    if severity != "stop":
        return verdict
    # Shorter gearing keeps the hill that a lower limit may lose.
    better = cure(case, lambda many, picture: _carries(picture, rated, rating_a))
    return verdict if better is None else verdict.model_copy(update={"fix": better})


def _carries(picture: Picture, rated: Rated, rating_a: float) -> NDArray[np.bool_]:
    """Return which variants carry no more than the rating in any moment that lasts."""
    amps = [rated.amps(moment.state) for moment in picture.moments.all() if moment.id in LASTING]
    most: NDArray[np.bool_] = greatest(*amps) <= rating_a
    return most


def _climb_is_short(many: Many, rated: Rated) -> Mask:
    """Return whether the hill ends within the time for which the part stands its peak."""
    length_m, state = many.build.moments.climb_length_m, many.moments.climb.state
    if length_m is None or rated.peak_s is None or rated.peak_a is None:
        return nowhere(many)
    lasts = length_m <= rated.peak_s * state.speed_mps
    return np.asanyarray(lasts & (rated.amps(state) <= rated.peak_a) & (state.speed_mps > 0))


def current_stops(many: Many, rated: Rated) -> Mask:
    """Return where lasting or peak amps of one part are above its ratings."""
    lasting = [rated.amps(moment.state) for moment in many.moments.all() if moment.id in LASTING]
    most = greatest(*lasting)
    stop = nowhere(many)
    if rated.continuous_a is not None:
        on_climb = lasting[0] >= most
        spared = on_climb & _climb_is_short(many, rated)
        stop = stop | (exceeds(most, rated.continuous_a) & ~spared)
    if rated.peak_a is not None:
        stop = stop | exceeds(np.maximum(most, rated.launch_peak_a), rated.peak_a)
    return stop


def _peak(case: Case, rated: Rated, rating_a: float) -> Verdict:
    values = {m.id: float(rated.amps(m.state)) for m in case.moments.all() if m.id in LASTING}
    values["launch"] = float(rated.launch_peak_a)
    moment = max(values, key=values.__getitem__)
    amps = values[moment]
    lasts = f" for {rated.peak_s:g} s" if rated.peak_s else ""
    why = f"{amps:.1f} A {MOMENT_WORDS[moment]}, {rating_a:g} A allowed{lasts}."
    # A peak rating may be used up whole; being near to it is what it is for.
    severity: Severity = "stop" if exceeds(amps, rating_a) else "ok"
    return _verdict(rated, "peak", severity, amps, rating_a, moment, why)


def _verdict(
    rated: Rated,
    which: str,
    severity: Severity,
    amps: float,
    rating_a: float,
    moment: str,
    why: str,
) -> Verdict:
    limit_a = float(f"{rating_a * rated.limit_scale:.3g}")
    if limit_a > rating_a * rated.limit_scale:
        limit_a = rating_a * rated.limit_scale
    side = "pack" if "battery" in rated.limit_path else "motor"
    fix = Fix(say=f"Set the {side} amps limit to {limit_a:g} A", change={rated.limit_path: limit_a})
    share = amps / rating_a
    return Verdict(
        id=f"{rated.part}_{which}",
        part=rated.part,
        title=f"The {rated.noun} carries {share * 100:.0f} % of its {which} rating",
        severity=severity,
        value=amps,
        limit=rating_a,
        unit="A",
        moment=moment,
        why=(why + " " + rated.note).strip(),
        fix=fix if severity == "stop" else None,
    )
