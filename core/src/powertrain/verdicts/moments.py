"""In which moment a figure is worst, of one build or of many."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.operating.in_air import in_air
from powertrain.operating.moment import Moment
from powertrain.operating.settings import MOMENT_IDS
from powertrain.operating.state import State
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import STOP, WATCH, Grades, Mask

LASTING = ("climb", "cruise", "top_speed")
"""Moments that last; a launch is over in seconds and is judged against the peak rating."""

PLACES = {moment: place for place, moment in enumerate(MOMENT_IDS)}

Figure = Callable[[State], Array]

TIE = 1e-9


def lasting(batch: Batch) -> list[Moment]:
    """Return the moments that last and may stop a build.

    A hill that nobody mentioned is not among them: it may be shown and warn, never stop.
    """
    moments = batch.moments
    found = [moments.cruise, moments.top_speed]
    if in_air(batch.drive) is not None:
        # A propeller stands at full throttle for as long as somebody holds the craft.
        found = [*found, moments.launch]
    return found if assumed_hill(batch) is not None else [moments.climb, *found]


def assumed_hill(batch: Batch) -> Moment | None:
    """Return the climb where nobody mentioned a hill, None where one was."""
    moments = batch.moments
    return moments.climb if "climb" in moments.targets.assumed else None


@dataclass(frozen=True)
class Worst:
    """Where a figure is greatest, as places among `MOMENT_IDS`.

    `assumed` is true where that is on a hill that nobody mentioned; `asked` is the greatest of the
    moments that may stop a build, whatever a hill says.
    """

    place: NDArray[np.int64]
    value: Array
    assumed: Mask | bool
    asked: Array


def worst_among(moments: Sequence[Moment], figure: Figure) -> Worst:
    """Return where a figure is greatest of some moments; of equal ones the first."""
    first, *others = moments
    most, place = figure(first.state), np.asanyarray(PLACES[first.id])
    for moment in others:
        value = figure(moment.state)
        place = np.where(value > most, PLACES[moment.id], place)
        most = np.maximum(most, value)
    return Worst(place, most, False, most)


def worst_of(
    batch: Batch, figure: Figure, passes: Callable[[Array], Mask], peak: Array | None = None
) -> Worst:
    """Return where a figure is worst of the moments that may stop, else of an assumed hill.

    Parameters
    ----------
    passes : callable
        Whether a value is worth a word; only then an assumed hill is named in the place of the
        moments that were asked for.
    peak : array_like, optional
        The figure's greatest at full throttle on the way to top speed, where that counts.
    """
    found = worst_among(lasting(batch), figure)
    most, place = found.value, found.place
    if peak is not None:
        # Of equal ones, full throttle, whatever the last digit says.
        place = np.where(peak >= most * (1 - TIE), PLACES["launch"], place)
        most = np.maximum(most, peak)
    hill = assumed_hill(batch)
    if hill is None:
        return Worst(place, most, False, most)
    uphill = figure(hill.state)
    only = passes(uphill) & ~passes(most)
    place = np.where(only, PLACES["climb"], place)
    return Worst(place, np.where(only, uphill, most), only, most)


def softened(severity: Grades, worst: Worst) -> Grades:
    """Return grades that are no more than a warning where only an assumed hill says so."""
    return np.where((severity == STOP) & worst.assumed, WATCH, severity)


def moment_at(context: RuleContext, place: NDArray[np.int64] | int) -> Moment:
    """Return a moment of one build by its place."""
    found: Moment = getattr(context.moments, MOMENT_IDS[int(place)])
    return found


def in_words(context: RuleContext, moment: Moment) -> str:
    """Return when something is met, as people say it."""
    words = context.drive.load.words
    if moment.id == "climb" and assumed_hill(context) is not None:
        return words.assumed.format(situation=words.situation(moment.situation))
    if moment.id == "cruise" and moment.assumed and moment.target_kmh:
        return words.assumed_trip.format(speed=moment.target_kmh)
    return words.met[moment.id]
