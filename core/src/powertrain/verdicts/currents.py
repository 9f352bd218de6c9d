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
    in_words,
    lasting,
    may_limit,
    nowhere,
    severity_of,
    softened,
    worst_of,
)


@dataclass(frozen=True)
class Rated:
    """A part's amps: where they are read, what they may be, and which limit holds them."""

    part: PartId
    noun: str
    path: str
    amps: Callable[[State], Array]
    most_a: Array
    """At full throttle, at any speed from rest to top speed."""
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
    worst = worst_of(case, rated.amps, lambda amps: severity_of(amps, rating_a) != "ok")
    amps = worst.value
    severity = softened(severity_of(amps, rating_a), worst)
    where = in_words(case, worst.moment)
    why = f"{amps:.1f} A {where}, {rating_a:g} A for as long as you like."
    if severity == "stop" and worst.moment.id == "climb" and _climb_is_short(case, rated):
        severity = "watch"
        why += " The hill is over before its peak time is."
    verdict = _verdict(case, rated, "continuous", severity, amps, rating_a, worst.moment.id, why)
    if severity != "stop":
        return verdict
    # Shorter gearing keeps the hill that a lower limit may lose.
    better = cure(case, lambda many, picture: _carries(case, picture, rated, rating_a))
    return verdict if better is None else verdict.model_copy(update={"fix": better})


def _carries(case: Case, picture: Picture, rated: Rated, rating_a: float) -> NDArray[np.bool_]:
    """Return which variants carry no more than the rating in any moment that lasts."""
    asked = {moment.id for moment in lasting(case)}
    amps = [rated.amps(moment.state) for moment in picture.moments.all() if moment.id in asked]
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
    held = {moment.id: rated.amps(moment.state) for moment in lasting(many)}
    most = greatest(*held.values())
    stop = nowhere(many)
    if rated.continuous_a is not None:
        spared = nowhere(many)
        if "climb" in held:
            spared = (held["climb"] >= most) & _climb_is_short(many, rated)
        stop = stop | (exceeds(most, rated.continuous_a) & ~spared)
    if rated.peak_a is not None:
        stop = stop | exceeds(np.maximum(most, rated.most_a), rated.peak_a)
    return stop


def current_load(many: Many, rated: Rated) -> Array:
    """Return amps over ratings, the worse of lasting and peak; a short hill may use the peak."""
    held = {moment.id: rated.amps(moment.state) for moment in lasting(many)}
    most = greatest(*held.values())
    load: Array = np.zeros(np.shape(nowhere(many)))
    if rated.continuous_a is not None:
        spared = nowhere(many)
        if "climb" in held:
            spared = (held["climb"] >= most) & _climb_is_short(many, rated)
        load = np.where(spared, 0.0, most / rated.continuous_a)
    if rated.peak_a is not None:
        load = np.maximum(load, np.maximum(most, rated.most_a) / rated.peak_a)
    return load


def _peak(case: Case, rated: Rated, rating_a: float) -> Verdict:
    most_a = float(rated.most_a)
    worst = worst_of(case, rated.amps, lambda amps: exceeds(amps, rating_a), most_a)
    amps = worst.value
    lasts = f" for {rated.peak_s:g} s" if rated.peak_s else ""
    why = f"{amps:.1f} A {in_words(case, worst.moment)}, {rating_a:g} A allowed{lasts}."
    # A peak rating may be used up whole; being near to it is what it is for.
    severity: Severity = "stop" if exceeds(amps, rating_a) else "ok"
    severity = softened(severity, worst)
    return _verdict(case, rated, "peak", severity, amps, rating_a, worst.moment.id, why)


def _verdict(
    case: Case,
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
    cures = severity == "stop" and may_limit(case, rated.limit_path, limit_a)
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
        fix=fix if cures else None,
    )
