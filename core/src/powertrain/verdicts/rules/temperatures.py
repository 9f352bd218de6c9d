"""Winding, case, controller and pack against how hot they may get."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, floats, greatest, pick, scalar
from powertrain.heat.limits import NODES, NodeId
from powertrain.heat.temperatures import Node, after, burnt_seconds
from powertrain.load.words import LoadWords
from powertrain.operating.distance import hours_left
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.cures import cure
from powertrain.verdicts.moments import PLACES, assumed_hill, in_words, moment_at
from powertrain.verdicts.rule import Judgement, Mask, Rule, grades, verdict
from powertrain.verdicts.verdict import PartId, Verdict

PUSHED_S = 300.0
"""For how long people keep up full throttle or a hill of unknown length; common practice."""

SIGHT_M, LEAST_PUSHED_S = 200.0, 30.0
"""A model is driven in sight and turned at the end of it, but kept up so long even when it is fast;
common practice, no source."""

LONGEST_S = 1e6
"""Nothing is followed longer than this."""

NEAR_K = 8.0
"""Kelvin below a limit from which on a verdict says watch."""

PARTS: dict[NodeId, tuple[PartId, str]] = {
    "winding": ("motor", "winding"),
    "case": ("motor", "motor case"),
    "controller": ("controller", "controller"),
    "pack": ("pack", "pack"),
}
"""The part that each node belongs to, and what people call it."""

LAUNCH, CLIMB, CRUISE, TOP_SPEED = (
    PLACES[moment] for moment in ("launch", "climb", "cruise", "top_speed")
)


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge each node at the moment in which it gets hottest.

    A trip at cruise lasts until the pack is used up, a hill of known length to its top, full
    throttle and other hills five minutes, or as far as a model is in sight. Over the limit at the
    end is a stop, near it, or over it were the moment kept up, a thing to watch; so is a hill
    that nobody mentioned. Where the heat data is estimated, a few kelvin over is not surer than a
    few below.
    """
    lasts, places = _lasts(batch), _asked(batch)
    looked_at = [*places, CLIMB] if assumed_hill(batch) is not None else places
    if batch.results.timed:
        looked_at = [*looked_at, CLIMB, TOP_SPEED]
    ends = _ends(batch, lasts, sorted(set(looked_at)))
    for key in NODES:
        yield _judged(batch, key, places, lasts, ends[key])


def _asked(batch: Batch) -> list[int]:
    """Return the places of the moments that may stop.

    Cruise that stands in for a moment that is not searched yet lasts longest as itself.
    """
    moments = batch.moments
    told = [moments.cruise.state, moments.climb.state]
    places = [] if assumed_hill(batch) is not None else [CLIMB]
    places.append(CRUISE)
    for place, moment in ((LAUNCH, moments.launch), (TOP_SPEED, moments.top_speed)):
        if all(moment.state is not other for other in told):
            places.append(place)
    return sorted(places)


def _lasts(batch: Batch) -> Array:
    """Return for how many seconds each moment is kept up; the last, in the air, for none."""
    moments, run, settings = batch.moments, batch.moments.launch_run, batch.settings
    trip_s, flat_out_s = (
        3600 * hours_left(batch.drive, settings.usable, moment.state)
        for moment in (moments.cruise, moments.top_speed)
    )
    launch_s = scalar(0.0)
    if run is not None:
        launch_s = np.where(np.isfinite(run.time_s), run.time_s, 0.0)
    if batch.drive.load.is_held:
        # No rope is so long that it takes a charge.
        trip_s = np.minimum(trip_s, PUSHED_S)
    hill_s = batch.results.climb_s
    if settings.climb_length_m is None:
        hill_s = _pushed_s(batch, moments.climb.state.speed_mps)
    flat_out_s = np.minimum(_pushed_s(batch, moments.top_speed.state.speed_mps), flat_out_s)
    rows = (launch_s, hill_s, trip_s, flat_out_s, scalar(0.0))
    lasts = np.stack(np.broadcast_arrays(*rows))
    return np.where(lasts < LONGEST_S, lasts, LONGEST_S)


def _pushed_s(batch: Batch, speed_mps: Array) -> Array:
    """Return for how long a push of no known end is kept up."""
    with np.errstate(divide="ignore"):
        in_sight_s = np.clip(SIGHT_M / np.maximum(speed_mps, 0.0), LEAST_PUSHED_S, PUSHED_S)
    return np.where(batch.ratings.vehicle.is_model, in_sight_s, PUSHED_S)


Ends = dict[int, Array]
"""Temperatures of one node at the ends of moments, by their places."""


def _ends(batch: Batch, lasts: Array, places: list[int]) -> dict[NodeId, Ends]:
    """Return each node's temperature at the end of some moments, at the most that of burning."""
    reached = after(batch.thermal, pick(batch.results.flows, places), lasts[places])
    return {
        key: dict(zip(places, np.minimum(reached[key], batch.limits.burnt_c(key)), strict=True))
        for key in NODES
    }


def _room_c(batch: Batch, key: NodeId) -> Array:
    """Return the temperature above which a node stops: its limit, and room for what is guessed."""
    part, _ = PARTS[key]
    return batch.limits.of(key) + (NEAR_K if part in batch.compiled.estimated else 0.0)


def _judged(batch: Batch, key: NodeId, places: list[int], lasts: Array, ends: Ends) -> Judgement:
    limit_c, room_c = batch.limits.of(key), _room_c(batch, key)
    first, *others = places
    told = _Told(np.asanyarray(first), ends[first], lasts[first])
    for place in others:
        told = told.or_at(ends[place] > told.end_c, place, ends, lasts)
    worst_c = told.end_c
    near = worst_c > limit_c - NEAR_K
    air_c = batch.thermal.ambient_c
    load = (worst_c - air_c) / (room_c - air_c)
    if assumed_hill(batch) is not None:
        uphill = ~near & (ends[CLIMB] > limit_c - NEAR_K)
        told, near = told.or_at(uphill, CLIMB, ends, lasts), near | uphill
    if key != "pack" and batch.results.timed:
        # What would be too hot later, were full throttle or the hill kept up, is worth a look.
        steady_c = getattr(batch.results.heat, key).steady_c
        flat_out = steady_c[TOP_SPEED] > room_c
        if batch.settings.climb_length_m is None:
            uphill = ~near & (steady_c[CLIMB] > room_c) & (steady_c[CLIMB] >= steady_c[TOP_SPEED])
            told, near = told.or_at(uphill, CLIMB, ends, lasts), near | uphill
        told, near = told.or_at(~near & flat_out, TOP_SPEED, ends, lasts), near | flat_out
    severity = grades(stop=worst_c > room_c, watch=near)
    return Judgement(
        f"{key}_temperature", told.end_c, limit_c, severity, load, at=told.at, lasts_s=told.lasts_s
    )


@dataclass(frozen=True)
class _Told:
    """The moment of which a finding tells, its end and how long it lasts."""

    at: NDArray[np.int64]
    end_c: Array
    lasts_s: Array

    def or_at(self, there: Mask, place: int, ends: Ends, lasts: Array) -> "_Told":
        """Return another moment where `there` says so."""
        return _Told(
            np.where(there, place, self.at),
            np.where(there, ends[place], self.end_c),
            np.where(there, lasts[place], self.lasts_s),
        )


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say which part gets how hot, after what time, and what becomes of it."""
    key = NODES[[f"{node}_temperature" for node in NODES].index(found.id)]
    part, noun = PARTS[key]
    moment = moment_at(context, found.at)
    where = moment_words(context.drive.load.words, moment.id)
    if moment.id in ("climb", "cruise"):
        where = in_words(context, moment)
    title, why = _words(context, key, noun, found, where)
    share = float(context.results.heat.repeat_share[int(found.at)])
    if part == "motor" and found.word != "ok" and 0.01 < share < 0.95:
        why += f" With rests in between it may run {100 * share:.0f} % of the time."
    fix = None
    if found.word == "stop":
        fix = cure(context, lambda batch: _stays(context, batch, key))
    return verdict(found, part, title, why, unit="C", moment=moment.id, fix=fix)


def _stays(context: RuleContext, batch: Batch, key: NodeId) -> NDArray[np.bool_]:
    """Return which variants keep a node within its limit in every moment that was asked for."""
    ends = _ends(batch, _lasts(batch), _asked(context))[key]
    return np.asanyarray(greatest(*ends.values()) <= context.limits.of(key))


def _words(
    context: RuleContext, key: NodeId, noun: str, found: Judgement, where: str
) -> tuple[str, str]:
    """Return part, figure, limit and time of what is judged, and what becomes of it."""
    node: Node = getattr(context.results.heat, key)
    place, value, limit_c = int(found.at), float(found.value), float(found.limit)
    lasts_s = float(floats(found.lasts_s))
    until_s, steady_c = float(node.to_limit_s[place]), float(node.steady_c[place])
    source = context.limit_sources[key]
    by = f"{source[:1].upper()}{source[1:]}: {limit_c:.0f} \u00b0C."
    if value >= float(context.limits.burnt_c(key)):
        flows = pick(context.results.flows, place)
        burnt = burnt_seconds(context.thermal, flows, context.limits, np.array([lasts_s]))
        return f"The {noun} burns after {spoken(float(burnt[key][0]))} {where}", by
    never = not np.isfinite(until_s)
    if never or (until_s > lasts_s and not steady_c > limit_c + NEAR_K):
        return f"The {noun} reaches {value:.0f} \u00b0C in {spoken(lasts_s)} {where}", by
    kept = f"{where}, kept up" if until_s > lasts_s else where
    title = f"The {noun} passes {limit_c:.0f} \u00b0C after {spoken(until_s)} {kept}"
    end = f"After {spoken(lasts_s)} it stands at {value:.0f} \u00b0C."
    if key in ("winding", "case") and bool(context.results.heat.runs_away[place]):
        end += " There is no steady temperature: hotter copper heats itself more, it runs away."
    elif np.isfinite(steady_c):
        end += f" It would settle at {steady_c:.0f} \u00b0C."
    else:
        end += " Kept up, it would burn."
    return title, f"{end} {by}"


def moment_words(words: LoadWords, moment: str) -> str:
    """Return when a part gets hottest, as people say it."""
    return words.during[moment] if moment == "launch" else words.met[moment]


def spoken(seconds: float) -> str:
    """Return a time as people say it."""
    if seconds < 1:
        return "less than a second"
    if seconds < 120:
        return f"{seconds:.0f} s"
    return f"{seconds / 60:.0f} min" if seconds < 7200 else f"{seconds / 3600:.1f} h"


RULE = Rule(judge, say, rejects="a part would get too hot")
