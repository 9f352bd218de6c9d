"""How amps are judged against a part's continuous and peak ratings."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, greatest
from powertrain.compile.ratings import CurrentRating
from powertrain.operating.state import State
from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.cures import cure, may_limit
from powertrain.verdicts.moments import (
    PLACES,
    assumed_hill,
    in_words,
    lasting,
    moment_at,
    softened,
    worst_of,
)
from powertrain.verdicts.rule import STOP, WATCH, Judgement, Mask, exceeds, graded, grades, verdict
from powertrain.verdicts.verdict import Fix, NotJudged, PartId, Verdict


@dataclass(frozen=True)
class RatedAmps:
    """A part's amps: where they are read, what they may be, and which limit holds them.

    `peak_a` is the most at full throttle, at any speed from rest to top speed.
    """

    part: PartId
    path: str
    amps: Callable[[State], Array]
    peak_a: Array
    rating: CurrentRating
    limit_path: str
    limit_scale: Array | float
    note: str = ""


def judged_currents(batch: Batch, rated: RatedAmps) -> Iterator[Judgement]:
    """Yield the findings on lasting and on peak amps of one part."""
    if not unstated(rated.rating.continuous_a):
        yield _lasting(batch, rated, rated.rating.continuous_a)
    if not unstated(rated.rating.peak_a):
        yield _peak(batch, rated, rated.rating.peak_a)


def _lasting(batch: Batch, rated: RatedAmps, rating_a: Array) -> Judgement:
    worst = worst_of(batch, rated.amps, lambda amps: graded(amps, rating_a) > 0)
    severity = softened(graded(worst.value, rating_a), worst)
    load = worst.asked / rating_a
    if assumed_hill(batch) is None:
        # A short hill may use the peak.
        spared = (worst.place == PLACES["climb"]) & _climb_is_short(batch, rated)
        severity = np.where(spared & (severity == STOP), WATCH, severity)
        load = np.where(spared, 0.0, load)
    return Judgement(
        f"{rated.part}_continuous", worst.value, rating_a, severity, load, at=worst.place
    )


def _peak(batch: Batch, rated: RatedAmps, rating_a: Array) -> Judgement:
    worst = worst_of(batch, rated.amps, lambda amps: exceeds(amps, rating_a), rated.peak_a)
    # A peak rating may be used up whole; being near to it is what it is for.
    severity = softened(grades(stop=exceeds(worst.value, rating_a)), worst)
    load = worst.asked / rating_a
    return Judgement(f"{rated.part}_peak", worst.value, rating_a, severity, load, at=worst.place)


def _climb_is_short(batch: Batch, rated: RatedAmps) -> Mask:
    """Return whether the hill ends within the time for which the part stands its peak."""
    length_m, state = batch.settings.climb_length_m, batch.moments.climb.state
    if length_m is None or unstated(rated.rating.peak_a):
        return batch.nowhere()
    lasts = length_m <= rated.rating.peak_s * state.speed_mps
    return lasts & (rated.amps(state) <= rated.rating.peak_a) & (state.speed_mps > 0)


def said_current(context: RuleContext, found: Judgement, rated: RatedAmps) -> Verdict:
    """Return a finding on one build's amps in words."""
    which = found.id.removeprefix(f"{rated.part}_")
    amps, rating_a = float(found.value), float(found.limit)
    moment = moment_at(context, found.at)
    where = in_words(context, moment)
    if which == "continuous":
        why = f"{amps:.1f} A {where}, {rating_a:g} A for as long as you like."
        if exceeds(amps, rating_a) and found.word == "watch" and assumed_hill(context) is None:
            why += " The hill is over before its peak time is."
    else:
        lasts = f" for {float(rated.rating.peak_s):g} s" if rated.rating.peak_s else ""
        why = f"{amps:.1f} A {where}, {rating_a:g} A allowed{lasts}."
    fix = _limited(context, rated, rating_a) if found.word == "stop" else None
    if found.word == "stop" and which == "continuous":
        # Shorter gearing keeps the hill that a lower limit may lose.
        better = cure(context, lambda batch: _carries(context, batch, rated, rating_a))
        fix = fix if better is None else better
    share = 100 * amps / rating_a
    title = f"The {rated.part} carries {share:.0f} % of its {which} rating"
    note = f"{why} {rated.note}".strip()
    return verdict(found, rated.part, title, note, unit="A", moment=moment.id, fix=fix)


def _limited(context: RuleContext, rated: RatedAmps, rating_a: float) -> Fix | None:
    """Return the amps limit at the rating, None where the vehicle needs more at top speed."""
    most_a = rating_a * float(rated.limit_scale)
    limit_a = min(float(f"{most_a:.3g}"), most_a)
    if not may_limit(context, rated.limit_path, limit_a):
        return None
    side = "pack" if "battery" in rated.limit_path else "motor"
    return Fix(
        say=f"Set the {side} amps limit to {limit_a:g} A", change={rated.limit_path: limit_a}
    )


def _carries(
    context: RuleContext, batch: Batch, rated: RatedAmps, rating_a: float
) -> NDArray[np.bool_]:
    """Return which variants carry no more than the rating in any moment that lasts."""
    asked = {moment.id for moment in lasting(context)}
    amps = [rated.amps(moment.state) for moment in batch.moments.all() if moment.id in asked]
    most: NDArray[np.bool_] = greatest(*amps) <= rating_a
    return most


def unknown_current(rated: RatedAmps) -> Iterator[NotJudged]:
    """Yield that a part has no rating, where it has none."""
    if unstated(rated.rating.continuous_a) and unstated(rated.rating.peak_a):
        yield NotJudged(
            id=f"{rated.part}_current",
            part=rated.part,
            path=f"{rated.path}.continuous_current_a",
            say=f"Amps of the {rated.part}: it has no rating here.",
        )
