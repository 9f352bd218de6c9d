"""Winding, case, controller and pack against how hot they may get."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled, pick, scalar
from powertrain.documents.build import Build
from powertrain.doubt.draws import Variants
from powertrain.drive import Drive
from powertrain.figures import Picture
from powertrain.heat.limits import NODES, Limit, NodeId
from powertrain.heat.store import Store, estimated
from powertrain.heat.temperatures import Node, after, burnt_seconds
from powertrain.operating.distance import hours_left
from powertrain.vehicle.traction import MODEL_KG
from powertrain.verdicts.cures import cure
from powertrain.verdicts.verdict import (
    MOMENT_WORDS,
    Case,
    Many,
    Mask,
    PartId,
    Severity,
    Verdict,
    assumed_hill,
    in_words,
    nowhere,
)

PUSHED_S = 300.0
"""For how long people keep up full throttle or a hill of unknown length; common practice."""

SIGHT_M, LEAST_PUSHED_S = 200.0, 30.0
"""A model is driven in sight and turned at the end of it, but kept up so long even when it is fast;
common practice, no source."""

LONGEST_S = 1e6
"""Nothing is followed longer than this."""

NEAR_K = 8.0
"""Kelvin below a limit from which on a verdict says watch."""

PARTS: tuple[tuple[NodeId, PartId, str], ...] = (
    ("winding", "motor", "winding"),
    ("case", "motor", "motor case"),
    ("controller", "controller", "controller"),
    ("pack", "pack", "pack"),
)

MOMENTS = ("launch", "climb", "cruise", "top_speed")
CLIMB = MOMENTS.index("climb")


def moment_words(moment: str) -> str:
    """Return when a part gets hottest, as people say it."""
    return "launching" if moment == "launch" else MOMENT_WORDS[moment]


def judge(case: Case) -> Iterator[Verdict]:
    """Judge each node at the moment in which it gets hottest.

    A trip at cruise lasts until the pack is used up, a hill of known length to its top, full
    throttle and other hills five minutes, or as far as a model is in sight. Over the limit at the
    end is a stop, near it, or over it were the moment kept up, a thing to watch; so is a hill
    that nobody mentioned. Where the heat data is estimated, a few kelvin over is not surer than a
    few below.
    """
    lasts = _lasts(case.build, case.drive, case.picture)
    ends = _ends(case.store, case.picture, lasts)
    guessed = estimated(case.build)
    for key, part, noun in PARTS:
        unsure_k = NEAR_K if part in guessed else 0.0
        yield _judged(case, key, part, noun, unsure_k, lasts, ends[key])


def _lasts(build: Build, drive: Drive, picture: Picture) -> Array:
    """Return for how many seconds each moment is kept up; the last, in the air, for none."""
    moments, run = picture.moments, picture.moments.launch_run
    trip_s, flat_out_s = (
        3600 * hours_left(drive, build, moment.state)
        for moment in (moments.cruise, moments.top_speed)
    )
    launch_s = scalar(0.0)
    if run is not None:
        launch_s = np.where(np.isfinite(run.time_s), run.time_s, 0.0)
    hill_s = picture.climb_s
    if build.moments.climb_length_m is None:
        hill_s = _pushed_s(build, moments.climb.state.speed_mps)
    flat_out_s = np.minimum(_pushed_s(build, moments.top_speed.state.speed_mps), flat_out_s)
    rows = (launch_s, hill_s, trip_s, flat_out_s, scalar(0.0))
    lasts = np.stack(np.broadcast_arrays(*rows))
    return np.where(lasts < LONGEST_S, lasts, LONGEST_S)


def _pushed_s(build: Build, speed_mps: Array) -> Array:
    """Return for how long a push of no known end is kept up."""
    with np.errstate(divide="ignore"):
        in_sight_s = np.clip(SIGHT_M / np.maximum(speed_mps, 0.0), LEAST_PUSHED_S, PUSHED_S)
    model = np.asanyarray(build.vehicle.mass_kg) < MODEL_KG
    return np.where(model, in_sight_s, PUSHED_S)


def _ends(store: Store, picture: Picture, lasts: Array) -> dict[NodeId, Array]:
    """Return each node's temperature at the end of each moment, at the most that of burning."""
    reached = after(store, picture.flows, lasts)
    return {key: np.minimum(reached[key], picture.limits.burnt_c(key))[:4] for key in NODES}


def _judged(
    case: Case,
    key: NodeId,
    part: PartId,
    noun: str,
    unsure_k: float,
    lasts: Array,
    ends: Array,
) -> Verdict:
    node: Node = getattr(case.picture.heat, key)
    limit: Limit = getattr(case.limits, key)
    limit_c = float(limit.value_c)
    room = limit_c + unsure_k
    assumed = assumed_hill(case) is not None
    asked = np.where(np.arange(len(ends)) == CLIMB, -np.inf, ends) if assumed else ends
    index = int(np.argmax(asked))
    severity: Severity = "ok"
    if ends[index] > room:
        severity = "stop"
    elif ends[index] > limit_c - NEAR_K:
        severity = "watch"
    elif assumed and ends[CLIMB] > limit_c - NEAR_K:
        index, severity = CLIMB, "watch"
    elif key != "pack":
        # What would be too hot later, were full throttle or the hill kept up, is worth a look.
        endless = (3,) if case.build.moments.climb_length_m is not None else (CLIMB, 3)
        kept = max(endless, key=lambda i: float(node.steady_c[i]))
        if float(node.steady_c[kept]) > room:
            index, severity = kept, "watch"
    worst, value = MOMENTS[index], float(ends[index])
    where = moment_words(worst)
    if worst in ("climb", "cruise"):
        where = in_words(case, getattr(case.moments, worst))
    title, why = _words(case, key, noun, index, where, value, float(lasts[index]))
    share = float(case.picture.heat.repeat_share[index])
    if part == "motor" and severity != "ok" and 0.01 < share < 0.95:
        why += f" With rests in between it may run {100 * share:.0f} % of the time."
    fix = None
    if severity == "stop":
        fix = cure(case, lambda many, picture: _stays(case, many, picture, key))
    return Verdict(
        id=f"{key}_temperature",
        part=part,
        title=title,
        severity=severity,
        value=value,
        limit=limit_c,
        unit="C",
        moment=worst,
        why=why,
        fix=fix,
    )


def _stays(case: Case, many: Variants, picture: Picture, key: NodeId) -> NDArray[np.bool_]:
    """Return which variants keep a node within its limit in every moment that was asked for."""
    lasts = _lasts(case.build, many.drives, picture)
    ends = _ends(many.stores, picture, lasts)[key]
    if assumed_hill(case) is not None:
        ends = np.delete(ends, CLIMB, axis=0)
    limit: Limit = getattr(case.limits, key)
    stays: NDArray[np.bool_] = np.all(ends <= limit.value_c, axis=0)
    return stays


def _words(
    case: Case, key: NodeId, noun: str, index: int, where: str, value: float, lasts_s: float
) -> tuple[str, str]:
    """Return part, figure, limit and time of what is judged, and what becomes of it."""
    node: Node = getattr(case.picture.heat, key)
    limit: Limit = getattr(case.limits, key)
    limit_c, until_s = float(limit.value_c), float(node.to_limit_s[index])
    by = f"{limit.source[:1].upper()}{limit.source[1:]}: {limit_c:.0f} \u00b0C."
    if value >= float(case.limits.burnt_c(key)):
        one = pick(case.picture.flows, index)
        burns_s = float(burnt_seconds(case.store, one, case.limits, np.array([lasts_s]))[key][0])
        return f"The {noun} burns after {spoken(burns_s)} {where}", by
    if until_s > lasts_s and not float(node.steady_c[index]) > limit_c + NEAR_K:
        return f"The {noun} reaches {value:.0f} \u00b0C in {spoken(lasts_s)} {where}", by
    if not np.isfinite(until_s):
        return f"The {noun} reaches {value:.0f} \u00b0C in {spoken(lasts_s)} {where}", by
    kept = f"{where}, kept up" if until_s > lasts_s else where
    title = f"The {noun} passes {limit_c:.0f} \u00b0C after {spoken(until_s)} {kept}"
    end = f"After {spoken(lasts_s)} it stands at {value:.0f} \u00b0C."
    if key in ("winding", "case") and bool(case.picture.heat.runs_away[index]):
        end += " There is no steady temperature: hotter copper heats itself more, it runs away."
    elif np.isfinite(node.steady_c[index]):
        end += f" It would settle at {float(node.steady_c[index]):.0f} \u00b0C."
    else:
        end += " Kept up, it would burn."
    return title, f"{end} {by}"


def spoken(seconds: float) -> str:
    """Return a time as people say it."""
    if seconds < 1:
        return "less than a second"
    if seconds < 120:
        return f"{seconds:.0f} s"
    return f"{seconds / 60:.0f} min" if seconds < 7200 else f"{seconds / 3600:.1f} h"


@dataclass(frozen=True)
class Hottest:
    """Of many builds, the node and moment that come nearest to a limit, or pass it by most.

    `load` is the rise above the air over the rise allowed; `node` and `moment` are places among
    `PARTS` and `MOMENTS`, `lasts_s` how long the moment is kept up.
    """

    load: Array
    node: NDArray[np.int64]
    moment: NDArray[np.int64]
    reached_c: Array
    limit_c: Array
    lasts_s: Array


def hottest(many: Many) -> Hottest:
    """Return what gets hottest for its limit, in the moments that were asked for."""
    rows, lasts, reached = _asked(many)
    air_c = many.store.ambient_c
    shape = np.shape(nowhere(many))
    loads, limits, ends = [], [], []
    guessed = estimated(many.build)
    for key, part, _ in PARTS:
        limit: Limit = getattr(many.limits, key)
        room = limit.value_c + (NEAR_K if part in guessed else 0.0)
        end = np.minimum(reached[key], many.limits.burnt_c(key))
        loads.append(filled((end - air_c) / (room - air_c), (len(rows), *shape)))
        limits.append(filled(np.asanyarray(limit.value_c), shape))
        ends.append(filled(end, (len(rows), *shape)))
    flat = np.stack(loads).reshape(len(PARTS) * len(rows), *shape)
    at = np.argmax(flat, axis=0)
    node, row = np.divmod(at, len(rows))
    column = np.arange(shape[0]) if shape else ()
    return Hottest(
        load=np.take_along_axis(flat, at[None], axis=0)[0],
        node=node,
        moment=np.array(rows)[row],
        reached_c=np.stack(ends)[node, row, column] if shape else np.stack(ends)[node, row],
        limit_c=np.stack(limits)[node, column] if shape else np.stack(limits)[node],
        lasts_s=filled(lasts, (len(rows), *shape))[row, column] if shape else lasts[row],
    )


def load(many: Many) -> Array:
    """Return the rise of what gets hottest over the rise that it may have."""
    return hottest(many).load


def _asked(many: Many) -> tuple[list[int], Array, dict[NodeId, Array]]:
    """Return the rows of moments that may stop, how long they last, and what is reached."""
    lasts, moments = _lasts(many.build, many.drive, many.picture), many.moments
    # Cruise that stands in for a moment that is not searched yet lasts longest as itself.
    told = [moments.cruise.state, moments.climb.state]
    rows = [2] if assumed_hill(many) is not None else [2, CLIMB]
    rows += [
        index
        for index, state in ((0, moments.launch.state), (3, moments.top_speed.state))
        if all(state is not other for other in told)
    ]
    return rows, lasts[rows], after(many.store, pick(many.picture.flows, rows), lasts[rows])


def stops(many: Many) -> Mask:
    """Return where a node is over its limit at the end of any moment that was asked for."""
    _, _, reached = _asked(many)
    guessed = estimated(many.build)
    hot = nowhere(many)
    for key, part, _ in PARTS:
        limit: Limit = getattr(many.limits, key)
        room = limit.value_c + (NEAR_K if part in guessed else 0.0)
        ends = np.minimum(reached[key], many.limits.burnt_c(key))
        hot = hot | np.any(ends > room, axis=0)
    return hot
