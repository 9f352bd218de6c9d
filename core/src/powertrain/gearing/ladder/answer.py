"""The ladder as it is shown: the present rung, its neighbours, the best few, a map of the rest."""

from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.bench.answer import Band
from powertrain.bench.bands import drive_bands, figure_bands
from powertrain.compile.build import compile_limits, with_moments
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.vehicle import ToothedStage
from powertrain.gearing.ladder.reasons import alone, stops_now, why
from powertrain.gearing.ladder.rungs import Rungs, launch_n
from powertrain.plain import number
from powertrain.results import FigureId

Choice = Literal["fastest", "coolest", "strongest", "easiest"]

NEIGHBOURS = 3
"""Sizes shown on either side of the present one."""

MAP_POINTS = 160
KEEPS = 0.98
"""Share of today's speed that counts as keeping it."""

MOST_STEPS = 12


class Rung(BaseModel):
    """One rung: teeth of each toothed stage, and what it does.

    `change` are the values that set it, by document path; `stopped` is why it is worse than the
    present one, with part, figure and limit, None where it is not. `bands` are the 10, 50 and 90 %
    points of the figures that doubt touches, of the present rung and the best ones; those of the
    others are about as wide.
    """

    teeth: list[list[int]]
    ratio: float
    figures: dict[str, float | None]
    stopped: str | None
    change: dict[str, int]
    bands: dict[str, Band] = {}


class StageLadder(BaseModel):
    """One stage's sizes, and the rungs around the present one with the other stages as they are.

    `near` goes by rows of drivers and columns of driven.
    """

    index: int
    kind: str
    drivers: list[int]
    driven: list[int]
    near_drivers: list[int]
    near_driven: list[int]
    near: list[list[Rung]]


class MapPoint(BaseModel):
    """One reduction on the map of all; no winding temperature where it can't climb."""

    ratio: float
    top_speed_kmh: float | None
    launch_n: float
    winding_climb_c: float | None
    stopped: bool
    rungs: int


class Step(BaseModel):
    """One step of the cautious plan: set it, ride it, read the case, go on or stop."""

    rung: Rung
    say: str
    stop_case_c: float
    expect_case_c: float | None


class LadderAnswer(BaseModel):
    """All rungs in short; `best` tells by what each is the best.

    `fixed` are stops that gearing can't change, told once; `already` those that the present rung
    has and others may have less of. `say` is why there is no other rung, where there is none.
    """

    count: int
    reductions: int
    open: int
    present: Rung
    best: dict[Choice, Rung]
    best_say: dict[Choice, str]
    rungs: list[Rung]
    stages: list[StageLadder]
    map: list[MapPoint]
    plan: list[Step]
    limits: dict[str, float]
    fixed: list[str]
    already: list[str]
    say: str


def ladder_answer(
    build: Build,
    rungs: Rungs,
    *,
    limit: int = 20,
    brief: Brief | None = None,
    keep_kmh: float | None = None,
) -> LadderAnswer:
    """Return the ladder of a build.

    Parameters
    ----------
    limit : int
        How many of the best rungs are listed, by falling top speed.
    brief : Brief, optional
        Its wishes for top speed and climb narrow what is the best.
    keep_kmh : float, optional
        Today's speed, which the cautious plan begins at; that of the present rung if none.
    """
    build.without_propeller()
    own = [
        (stage.driver_teeth, stage.driven_teeth)
        for stage in build.gearing
        if isinstance(stage, ToothedStage)
    ]
    here, stop = rungs.rung(own), rungs.stop()
    free = stop < 0
    wished = free & _meets(rungs, brief)
    limits = compile_limits(build)
    fixed, already = stops_now(build)
    order = _order(rungs, wished if np.any(wished) else free)
    today = float(rungs.figure("top_speed_kmh")[here]) if keep_kmh is None else keep_kmh
    best = _best(rungs, wished, today, here)
    banded = _Banded(build)
    return LadderAnswer(
        count=len(rungs),
        reductions=len(rungs.ratio),
        open=int(np.count_nonzero(free)),
        present=banded(_rung(rungs, here, stop)),
        best={key: banded(_rung(rungs, place, stop)) for key, place in best.items()},
        best_say={key: SAY[key] for key in best},
        rungs=[_rung(rungs, int(place), stop) for place in order[:limit]],
        stages=[_stage(build, rungs, row, own, stop) for row in range(len(rungs.sizes))],
        map=_map(rungs),
        plan=_plan(rungs, stop, today, float(limits.case)),
        limits={"winding_c": float(limits.winding), "case_c": float(limits.case)},
        fixed=fixed,
        already=already,
        say=alone(rungs, here, stop),
    )


SAY: dict[Choice, str] = {
    "fastest": "The fastest that is no worse than now for any part",
    "coolest": "The coolest on the hill that keeps today's speed",
    "strongest": "The hardest start that keeps today's speed",
    "easiest": "The one that spares the overloaded part most",
}


def _meets(rungs: Rungs, brief: Brief | None) -> NDArray[np.bool_]:
    keeps = np.ones(len(rungs), bool)
    if brief is None:
        return keeps
    top, hill = brief.wishes.top_speed_kmh, brief.wishes.climb
    speed = rungs.figure("top_speed_kmh")
    if top is not None and top.min is not None:
        keeps &= speed >= top.min * (1 - 1e-9)
    if top is not None and top.max is not None:
        keeps &= speed <= top.max * (1 + 1e-9)
    if hill is not None and hill.speed_kmh is not None:
        keeps &= rungs.figure("climb_kmh") >= hill.speed_kmh * (1 - 1e-9)
    return keeps


def _order(rungs: Rungs, among: NDArray[np.bool_]) -> NDArray[np.int64]:
    """Return rungs by falling top speed; equal ones by falling push, then by their teeth."""
    places = np.flatnonzero(among)
    speed = np.nan_to_num(rungs.figure("top_speed_kmh")[places], nan=-1.0)
    return places[np.lexsort((places, -rungs.figure("launch_n")[places], -speed))]


def _best(rungs: Rungs, wished: NDArray[np.bool_], today: float, here: int) -> dict[Choice, int]:
    best: dict[Choice, int] = {}
    speed = np.nan_to_num(rungs.figure("top_speed_kmh"), nan=-1.0)
    keeping = np.flatnonzero(wished & (speed >= KEEPS * today))
    if np.any(wished):
        best["fastest"] = int(_order(rungs, wished)[0])
    if len(keeping):
        best["coolest"] = int(keeping[np.argmin(rungs.figure("winding_climb_c")[keeping])])
        best["strongest"] = int(keeping[np.argmax(rungs.figure("launch_n")[keeping])])
    beyond = rungs.beyond[rungs.of]
    if beyond[here] > 0 and np.any(wished):
        # Of those that spare it about as much, the fastest.
        among = np.flatnonzero(wished & (speed > 0))
        if len(among):
            least = float(np.min(beyond[among]))
            spared = among[beyond[among] <= least + 0.01]
            best["easiest"] = int(spared[np.argmax(speed[spared])])
    return best


BANDED: dict[str, FigureId] = {
    "top_speed_kmh": "top_speed_kmh",
    "climb_kmh": "climb_kmh",
    "motor_peak_a": "motor_peak_a",
    "pack_peak_a": "pack_peak_a",
    "winding_climb_c": "winding_c",
    "case_climb_c": "case_c",
}
"""Figures of a rung that the bench has bands of, and its names for them."""


class _Banded:
    """Puts bands on rungs; those of one reduction are the same."""

    def __init__(self, build: Build) -> None:
        self.document = with_moments(build).model_dump(mode="json", exclude_unset=True)
        self.known: dict[float, dict[str, Band]] = {}

    def __call__(self, rung: Rung) -> Rung:
        bands = self.known.get(rung.ratio)
        if bands is None:
            set_so = check_build(changed(self.document, rung.change))
            of_bench = figure_bands(set_so)
            bands = {key: of_bench[of] for key, of in BANDED.items()}
            bands |= drive_bands(set_so, lambda drive: {"launch_n": launch_n(drive)})
            self.known[rung.ratio] = bands
        return rung.model_copy(update={"bands": bands})


def _rung(rungs: Rungs, place: int, stop: NDArray[np.int64]) -> Rung:
    teeth = rungs.teeth(place)
    change = {
        f"gearing.{one.index}.{side}_teeth": count
        for one, pair in zip(rungs.sizes, teeth, strict=True)
        for side, count in zip(("driver", "driven"), pair, strict=True)
    }
    return Rung(
        teeth=teeth,
        ratio=float(rungs.ratio[rungs.of[place]]),
        figures={name: number(value[rungs.of[place]]) for name, value in rungs.figures.items()},
        stopped=why(rungs, place, stop),
        change=change,
    )


def _stage(
    build: Build, rungs: Rungs, row: int, own: list[tuple[int, int]], stop: Any
) -> StageLadder:
    one = rungs.sizes[row]
    drivers = _around(one.drivers, own[row][0])
    driven = _around(one.driven, own[row][1])

    def at(driver: int, wheel: int) -> Rung:
        teeth = [*own[:row], (driver, wheel), *own[row + 1 :]]
        return _rung(rungs, rungs.rung(teeth), stop)

    return StageLadder(
        index=one.index,
        kind=build.gearing[one.index].kind,
        drivers=list(one.drivers),
        driven=list(one.driven),
        near_drivers=drivers,
        near_driven=driven,
        near=[[at(driver, wheel) for wheel in driven] for driver in drivers],
    )


def _around(sizes: tuple[int, ...], own: int) -> list[int]:
    place = sizes.index(own)
    low = max(0, min(place - NEIGHBOURS, len(sizes) - 2 * NEIGHBOURS - 1))
    return list(sizes[low : low + 2 * NEIGHBOURS + 1])


def _map(rungs: Rungs) -> list[MapPoint]:
    """Return reductions spread evenly over the whole range, each with how many rungs make it."""
    order = np.argsort(rungs.ratio)
    count = np.bincount(rungs.of, minlength=len(rungs.ratio))
    logs = np.log(rungs.ratio[order])
    wanted = np.linspace(logs[0], logs[-1], min(MAP_POINTS, len(order)))
    edges = np.unique(np.clip(np.searchsorted(logs, wanted), 0, len(order) - 1))
    totals = np.add.reduceat(count[order], edges)
    points = []
    for place, total in zip(order[edges], totals, strict=True):
        speed, hot = (
            float(rungs.figures[key][place]) for key in ("top_speed_kmh", "winding_climb_c")
        )
        climbs = float(rungs.figures["climb_kmh"][place]) > 0
        points.append(
            MapPoint(
                ratio=float(rungs.ratio[place]),
                top_speed_kmh=number(speed),
                launch_n=float(rungs.figures["launch_n"][place]),
                winding_climb_c=number(hot) if climbs else None,
                stopped=bool(rungs.stopped[place] >= 0),
                rungs=int(total),
            )
        )
    return points


def _plan(rungs: Rungs, stop: NDArray[np.int64], today: float, case_c: float) -> list[Step]:
    """Return the cautious way: the rung that keeps today's speed, then one size at a time.

    Each step changes one wheel by one size, the least change of reduction there is, towards more
    speed; it ends where a rule would stop the next one.
    """
    speed = np.nan_to_num(rungs.figure("top_speed_kmh"), nan=-1.0)
    below = np.flatnonzero((stop < 0) & (speed <= today * (1 + 1e-9)) & (speed > 0))
    if not len(below):
        return []
    at = int(below[np.argmax(speed[below])])
    steps = [_step(rungs, at, stop, case_c, "Begin here: it keeps today's speed")]
    while len(steps) < MOST_STEPS:
        after = _taller(rungs, at, stop)
        if after is None:
            break
        at, words = after
        steps.append(_step(rungs, at, stop, case_c, words))
    return steps


def _step(rungs: Rungs, place: int, stop: Any, case_c: float, say: str) -> Step:
    rung = _rung(rungs, place, stop)
    return Step(rung=rung, say=say, stop_case_c=case_c, expect_case_c=rung.figures["case_minute_c"])


def _taller(rungs: Rungs, at: int, stop: NDArray[np.int64]) -> tuple[int, str] | None:
    """Return the free rung one size away that reduces less, by the least, and what changes."""
    places = list(np.unravel_index(at, rungs.shape))
    found: list[tuple[float, int, str]] = []
    for axis, length in enumerate(rungs.shape):
        driver = axis % 2 == 0
        moved = int(places[axis]) + (1 if driver else -1)
        if not 0 <= moved < length:
            continue
        index = [int(place) for place in places]
        index[axis] = moved
        place = int(np.ravel_multi_index(index, rungs.shape))
        if stop[place] >= 0:
            continue
        one = rungs.sizes[axis // 2]
        teeth = (one.drivers if driver else one.driven)[moved]
        side = "driver" if driver else "driven"
        words = f"Stage {one.index + 1}: {side} of {teeth} teeth"
        found.append((float(rungs.ratio[rungs.of[place]]), place, words))
    if not found:
        return None
    _, place, words = max(found)
    return place, words
