"""Every rung solved: rungs of the same reduction are one to the road and are solved once."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled, floats, pick, scalar
from powertrain.compile.build import (
    assuming,
    compile_build,
    compile_drive,
    compile_limits,
    left_open,
    with_moments,
)
from powertrain.documents.build import Build
from powertrain.documents.vehicle import ToothedStage
from powertrain.drive import Drive
from powertrain.gearing.ladder.sizes import StageSizes, checked
from powertrain.heat.limits import NODES, NodeId
from powertrain.heat.temperatures import after
from powertrain.load.words import LoadWords
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.settings import MOMENT_IDS, MomentId
from powertrain.results import MINUTE_S, Results, most_amps, searched_results
from powertrain.stated import Stated
from powertrain.transmission.clearance import most_on_axle_mm, on_axle_mm
from powertrain.transmission.stage import StageData
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import Batch
from powertrain.verdicts.registry import stopping_rules
from powertrain.verdicts.rule import Rule
from powertrain.verdicts.rules import temperatures
from powertrain.verdicts.rules.teeth import impossible
from powertrain.verdicts.rules.tooth_load import carries_nm

BLOCK = 16384
"""Reductions solved together; keeps the numbers in the cache."""

OF_TEETH = ("teeth", "tooth_load", "ground_clearance")
"""Rules that ask for the teeth themselves and are asked rung by rung."""

WORSE = 1 + 1e-6
"""How much more of a limit counts as worse than the present rung."""

FIGURES = (
    "top_speed_kmh",
    "launch_n",
    "climb_kmh",
    "motor_peak_a",
    "pack_peak_a",
    "winding_minute_c",
    "case_minute_c",
    "winding_climb_c",
    "case_climb_c",
)

Places = NDArray[np.int64]

TOP_SPEED = MOMENT_IDS.index("top_speed")


@dataclass(frozen=True)
class Hottest:
    """Of many builds, the node and moment that come nearest to a limit, or pass it by most.

    `node` and `moment` are places among `NODES` and `MOMENT_IDS`, `lasts_s` how long the moment
    is kept up.
    """

    node: Places
    moment: Places
    reached_c: Array
    limit_c: Array
    lasts_s: Array


def hottest(batch: Batch, count: int) -> Hottest:
    """Return what gets hottest for its limit, in the moments that were asked for."""
    found = list(temperatures.judge(batch))
    node = np.argmax([filled(one.used, (count,)) for one in found], axis=0)
    columns = [
        np.choose(node, [filled(floats(column), (count,)) for column in columns])
        for columns in zip(
            *((one.at, one.value, one.limit, one.lasts_s) for one in found), strict=True
        )
    ]
    at, reached_c, limit_c, lasts_s = columns
    return Hottest(node, at.astype(np.int64), reached_c, limit_c, lasts_s)


@dataclass(frozen=True)
class Rungs:
    """All rungs, in the order of their tooth counts, stage by stage, driver before driven.

    `of` says which of the distinct reductions each rung has; `ratio`, `figures`, `loads` and `hot`
    go with those. `loads` is how much of its limit each rung uses, for each of `rules`; `base` the
    same of the present rung. A rung is stopped by a limit that it passes and the present one does
    not, or that it passes by more: what gearing can't mend is no reason against a rung.
    `stopped_by_teeth` is the place of a rule, -1 where none stops, rung by rung.
    """

    sizes: list[StageSizes]
    of: Places
    ratio: Array
    figures: dict[str, Array]
    rules: tuple[str, ...]
    loads: Array
    base: Array
    hot: Hottest
    stopped_by_teeth: Places
    words: LoadWords

    def __len__(self) -> int:
        return len(self.of)

    @property
    def shape(self) -> tuple[int, ...]:
        """Sizes on each axis: drivers and driven of the first stage, then of the next."""
        return tuple(n for one in self.sizes for n in (len(one.drivers), len(one.driven)))

    def teeth(self, rung: int) -> list[tuple[int, int]]:
        """Return driver and driven of each toothed stage."""
        places = np.unravel_index(rung, self.shape)
        return [
            (one.drivers[int(places[2 * i])], one.driven[int(places[2 * i + 1])])
            for i, one in enumerate(self.sizes)
        ]

    def rung(self, teeth: list[tuple[int, int]]) -> int:
        """Return the rung with such teeth; raise `ValueError` if there is none."""
        places = []
        for one, (driver, driven) in zip(self.sizes, teeth, strict=True):
            places += [one.drivers.index(driver), one.driven.index(driven)]
        return int(np.ravel_multi_index(places, self.shape))

    def figure(self, name: str) -> Array:
        """Return a figure rung by rung."""
        return self.figures[name][self.of]

    @cached_property
    def stopped(self) -> Places:
        """The rule that stops each reduction most, -1 where none does."""
        against = np.maximum(self.base, 1.0)[:, None] * WORSE
        over = np.where(self.loads > against, self.loads / against, 0.0)
        worst = np.argmax(over, axis=0)
        return np.where(np.max(over, axis=0) > 0, worst, -1)

    @cached_property
    def beyond(self) -> Array:
        """How far each reduction is beyond its limits, the present one's own ones included."""
        most: Array = np.max(self.loads, axis=0, initial=1.0)
        return most - 1.0

    def stop(self) -> Places:
        """Return the rule that stops each rung, -1 where none does."""
        by_road = self.stopped[self.of]
        return np.where(self.stopped_by_teeth >= 0, self.stopped_by_teeth, by_road)


def rungs_of(build: Build, sizes: list[StageSizes]) -> Rungs:
    """Return every rung of a build, solved as that build is solved alone.

    What the build leaves open of its moments is chosen from it as it stands and is the same for
    all rungs, as on the bench.

    Raises
    ------
    Refusal
        If there are none, or too many.
    """
    checked(sizes)
    assumed = left_open(build)
    build = with_moments(build)
    teeth, of = _distinct(sizes)
    geared = {name: rule for name, rule in stopping_rules().items() if name not in OF_TEETH}
    rules = (*geared, *OF_TEETH)
    figures: dict[str, list[Array]] = {name: [] for name in FIGURES}
    loads, hots, ratios = [], [], []
    for begin in range(0, teeth.shape[1], BLOCK):
        block = teeth[:, begin : begin + BLOCK]
        batch, count = _solved(build, sizes, block, assumed), block.shape[1]
        ratios.append(batch.drive.train.ratio)
        for name, value in _figures(batch).items():
            figures[name].append(filled(value, (count,)))
        loads.append(_loads(batch, geared, count))
        hots.append(hottest(batch, count))
    all_loads = np.concatenate(loads, axis=1)
    own = _present(build, sizes)
    place = _same_reduction(teeth, own)
    if place is None:
        base = _loads(_solved(build, sizes, own, assumed), geared, 1)[:, 0]
    else:
        base = all_loads[:, place]
    none = np.zeros(len(OF_TEETH))
    return Rungs(
        sizes=sizes,
        of=of,
        ratio=np.concatenate(ratios),
        figures={name: np.concatenate(parts) for name, parts in figures.items()},
        rules=rules,
        loads=np.concatenate([all_loads, np.zeros((len(OF_TEETH), teeth.shape[1]))]),
        base=np.concatenate([base, none]),
        hot=_joined(hots),
        stopped_by_teeth=_by_teeth(build, sizes, rules),
        words=batch.drive.load.words,
    )


def _distinct(sizes: list[StageSizes]) -> tuple[NDArray[np.float64], Places]:
    """Return teeth that make each distinct reduction, and which one each rung makes.

    Reductions are held against one another as whole numbers, so that equal ones are equal. The
    rows of teeth are driver and driven of each stage.
    """
    over, under = np.ones(1, np.int64), np.ones(1, np.int64)
    teeth = np.zeros((0, 1))
    of = np.zeros(1, np.int64)
    for one in sizes:
        drivers, driven = np.array(one.drivers), np.array(one.driven)
        pair_over = np.tile(driven, len(drivers))
        pair_under = np.repeat(drivers, len(driven))
        first, pair_of = _reduced(pair_over, pair_under)
        all_over = np.multiply.outer(over, pair_over[first]).ravel()
        all_under = np.multiply.outer(under, pair_under[first]).ravel()
        kept, combined = _reduced(all_over, all_under)
        before, pair = np.divmod(kept, len(first))
        rows = np.stack([pair_under[first][pair], pair_over[first][pair]]).astype(float)
        teeth = np.concatenate([teeth[:, before], rows])
        of = combined.reshape(len(over), len(first))[of][:, pair_of].ravel()
        over, under = all_over[kept], all_under[kept]
    return teeth, of


def _reduced(over: Places, under: Places) -> tuple[Places, Places]:
    """Return the places of the first of each distinct fraction, and which each one equals."""
    common = np.gcd(over, under)
    keys = (over // common) * (int(under.max()) + 1) + under // common
    _, first, of = np.unique(keys, return_index=True, return_inverse=True)
    return first, of


def _solved(
    build: Build,
    sizes: list[StageSizes],
    teeth: NDArray[np.float64],
    assumed: tuple[MomentId, ...],
) -> Batch:
    columns: dict[str, Array] = {}
    for row, one in enumerate(sizes):
        columns[f"gearing.{one.index}.driver_teeth"] = teeth[2 * row]
        columns[f"gearing.{one.index}.driven_teeth"] = teeth[2 * row + 1]
    compiled = assuming(compile_build(build, columns), assumed)
    compiled = replace(compiled, limits=compile_limits(build))
    return Batch(compiled, searched_results(compiled, timed=True))


def _figures(batch: Batch) -> dict[str, Array]:
    results, moments = batch.results, batch.moments
    pack_a, motor_a = most_amps(moments)
    climbed, minute = results.after_climb(), _after_a_minute(results)
    return {
        "top_speed_kmh": kmh_from_mps(moments.top_speed.state.speed_mps),
        "launch_n": launch_n(batch.drive),
        "climb_kmh": kmh_from_mps(moments.climb_top.speed_mps),
        "motor_peak_a": motor_a,
        "pack_peak_a": pack_a,
        "winding_minute_c": minute["winding"],
        "case_minute_c": minute["case"],
        "winding_climb_c": climbed["winding"],
        "case_climb_c": climbed["case"],
    }


def launch_n(drive: Drive) -> Array:
    """Return the push of a full-throttle start."""
    return full_throttle(drive, scalar(0.0)).force_n


def _after_a_minute(results: Results) -> dict[NodeId, Array]:
    """Return temperatures after a minute at top speed, where the throttle is held open."""
    reached = after(results.thermal, pick(results.flows, TOP_SPEED), scalar(MINUTE_S))
    return {node: results.limits.or_burnt(node, reached[node]) for node in NODES}


def _loads(batch: Batch, geared: Mapping[str, Rule], count: int) -> Array:
    """Return how much of each rule's limit is used, rules by reductions."""
    found = np.empty((len(geared), count))
    for place, rule in enumerate(geared.values()):
        found[place] = np.nan_to_num(filled(rule.load(batch), (count,)), nan=0.0, posinf=1e6)
    return found


def _joined(parts: list[Hottest]) -> Hottest:
    columns = {
        name: np.concatenate([getattr(part, name) for part in parts])
        for name in Hottest.__dataclass_fields__
    }
    return Hottest(**columns)


def _present(build: Build, sizes: list[StageSizes]) -> NDArray[np.float64]:
    """Return the present teeth as one column."""
    rows: list[list[float]] = []
    for one in sizes:
        stage = build.gearing[one.index]
        assert isinstance(stage, ToothedStage)
        rows += [[float(stage.driver_teeth)], [float(stage.driven_teeth)]]
    return np.array(rows)


def _same_reduction(teeth: NDArray[np.float64], own: NDArray[np.float64]) -> int | None:
    """Return the column whose teeth reduce as `own` do, exactly; None where none does."""
    under, over = np.prod(teeth[0::2], axis=0), np.prod(teeth[1::2], axis=0)
    same = np.flatnonzero(over * np.prod(own[0::2]) == under * np.prod(own[1::2]))
    return int(same[0]) if len(same) else None


def _by_teeth(build: Build, sizes: list[StageSizes], rules: tuple[str, ...]) -> Places:
    """Return, rung by rung, which rule about the teeth themselves stops it, -1 if none.

    Teeth that are there already, and no more loaded than now, are no reason against a rung.
    """
    shape = tuple(n for one in sizes for n in (len(one.drivers), len(one.driven)))
    found = np.full(shape, -1, np.int64)
    drive = compile_drive(build)
    torque_nm = full_throttle(drive, scalar(0.0)).shaft_torque_nm * drive.motor.count
    own = [StageData.of(stage) for stage in Stated(build).each("gearing")]
    stages = [_of_rungs(index, stage, sizes) for index, stage in enumerate(own)]
    weak, made = np.zeros(shape, bool), np.ones(shape, bool)
    load_nm, now_nm = torque_nm, torque_nm
    for stage, present in zip(stages, own, strict=True):
        if stage.toothed:
            load, now = load_nm / carries_nm([stage]), now_nm / carries_nm([present])
            weak |= load > np.maximum(now, 1.0) * WORSE
            fewer = (stage.driver_teeth < present.driver_teeth) | (
                stage.driven_teeth > present.driven_teeth
            )
            made &= ~impossible(stage) | (impossible(present) & ~fewer)
        load_nm = load_nm * stage.ratio * stage.efficiency
        now_nm = now_nm * present.ratio * present.efficiency
    found[weak] = rules.index("tooth_load")
    if stages[-1].toothed and build.wheel is not None:
        most_mm = most_on_axle_mm(scalar(build.wheel.rolling_circumference_mm))
        room_mm = np.maximum(on_axle_mm(own[-1]), most_mm) * WORSE
        low = np.broadcast_to(on_axle_mm(stages[-1]) > room_mm, shape)
        found[low] = rules.index("ground_clearance")
    found[~made] = rules.index("teeth")
    return found.ravel()


def _of_rungs(index: int, stage: StageData, sizes: list[StageSizes]) -> StageData:
    """Return a stage with all of its teeth, driver and driven each along an axis of the rungs."""
    row = next((row for row, one in enumerate(sizes) if one.index == index), None)
    if row is None:
        return stage
    axes = 2 * len(sizes)
    drivers, driven = (
        np.array(teeth, float).reshape([-1 if axis == place else 1 for axis in range(axes)])
        for place, teeth in ((2 * row, sizes[row].drivers), (2 * row + 1, sizes[row].driven))
    )
    return replace(stage, driver_teeth=drivers, driven_teeth=driven, ratio=driven / drivers)
