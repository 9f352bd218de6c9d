"""Every rung solved: rungs of the same reduction are one to the road and are solved once."""

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled, pick, scalar
from powertrain.documents.build import Build
from powertrain.documents.spread import with_values
from powertrain.documents.vehicle import ToothedStage
from powertrain.drive import Drive
from powertrain.figures import MINUTE_S, Picture, most_amps, searched_picture
from powertrain.gearing.clearance import most_on_axle_mm, on_axle_mm
from powertrain.gearing.train import ratio_of
from powertrain.heat.limits import NODES, Limits, NodeId
from powertrain.heat.store import Store
from powertrain.heat.temperatures import after
from powertrain.ladder.sizes import StageSizes, checked
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.moments import MomentId, left_open, with_moments
from powertrain.units import kmh_from_mps
from powertrain.verdicts.registry import Stopper, stoppers
from powertrain.verdicts.rules.teeth import impossible
from powertrain.verdicts.rules.temperatures import Hottest, hottest
from powertrain.verdicts.rules.tooth_load import carries_nm
from powertrain.verdicts.verdict import Many

BLOCK = 16384
"""Reductions solved together; keeps the numbers in the cache."""

OF_TEETH = ("teeth", "tooth_load", "ground_clearance")
"""Rules that ask for the teeth themselves and are asked rung by rung."""

WORSE = 1 + 1e-6
"""How much more of a limit counts as worse than the present rung."""

FIGURES = ("top_speed_kmh", "launch_n", "climb_kmh", "motor_peak_a", "pack_peak_a",
           "winding_minute_c", "case_minute_c", "winding_climb_c", "case_climb_c")  # fmt: skip

Places = NDArray[np.int64]


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
    rules = (*(stopper.id for stopper in stoppers() if stopper.id not in OF_TEETH), *OF_TEETH)
    figures: dict[str, list[Array]] = {name: [] for name in FIGURES}
    loads, hots, ratios = [], [], []
    geared = [stopper for stopper in stoppers() if stopper.id not in OF_TEETH]
    for begin in range(0, teeth.shape[1], BLOCK):
        block = teeth[:, begin : begin + BLOCK]
        many = _solved(build, sizes, block, assumed)
        ratios.append(many.drive.train.ratio)
        for name, value in _figures(many).items():
            figures[name].append(filled(value, (block.shape[1],)))
        loads.append(_loads(many, geared, block.shape[1]))
        hots.append(hottest(many))
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
    build: Build, sizes: list[StageSizes], teeth: NDArray[np.float64],
    assumed: tuple[MomentId, ...],
) -> Many:  # fmt: skip
    values: dict[str, NDArray[np.float64]] = {}
    for row, one in enumerate(sizes):
        values[f"gearing.{one.index}.driver_teeth"] = teeth[2 * row]
        values[f"gearing.{one.index}.driven_teeth"] = teeth[2 * row + 1]
    geared = with_values(build, values)
    drive = Drive.of(geared)
    store = Store.of(geared, drive)
    picture = searched_picture(geared, drive, store, timed=True, assumed=assumed)
    return Many(geared, drive, store, picture, Limits.of(build))


def _figures(many: Many) -> dict[str, Array]:
    picture, moments = many.picture, many.picture.moments
    pack_a, motor_a = most_amps(moments)
    climbed, minute = picture.after_climb(), _after_a_minute(picture)
    return {
        "top_speed_kmh": kmh_from_mps(moments.top_speed.state.speed_mps),
        "launch_n": launch_n(many.drive),
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


def _after_a_minute(picture: Picture) -> dict[NodeId, Array]:
    """Return temperatures after a minute at top speed, where the throttle is held open."""
    reached = after(picture.store, pick(picture.flows, 3), scalar(MINUTE_S))
    return {node: picture.limits.or_burnt(node, reached[node]) for node in NODES}


def _loads(many: Many, geared: list[Stopper], count: int) -> Array:
    """Return how much of each rule's limit is used, rules by reductions."""
    found = np.empty((len(geared), count))
    for place, stopper in enumerate(geared):
        found[place] = np.nan_to_num(filled(stopper.load(many), (count,)), nan=0.0, posinf=1e6)
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
    start = full_throttle(Drive.of(build), scalar(0.0))
    torque_nm = float(start.shaft_torque_nm) * build.motor.count
    weak, low = np.zeros(shape, bool), np.zeros(shape, bool)
    made = np.ones(shape, bool)
    before: Array = np.ones((1,) * len(shape))
    now_before = 1.0
    rows = {one.index: row for row, one in enumerate(sizes)}
    most_mm = most_on_axle_mm(build.wheel.rolling_circumference_mm)
    for index, stage in enumerate(build.gearing):
        if not isinstance(stage, ToothedStage):
            before = before * ratio_of(stage) * stage.efficiency
            now_before *= ratio_of(stage) * stage.efficiency
            continue
        row = rows.get(index)
        one = StageSizes(index, (stage.driver_teeth,), (stage.driven_teeth,))
        at = [1] * len(shape)
        if row is not None:
            one = sizes[row]
            at[2 * row], at[2 * row + 1] = len(one.drivers), len(one.driven)
        stands, possible, across = _stage_tables(stage, one)
        load = torque_nm * before / stands.reshape(at)
        now = torque_nm * now_before / carries_nm([stage])
        weak |= load > max(now, 1.0) * WORSE
        made &= possible.reshape(at)
        if index == len(build.gearing) - 1:
            low |= (across > max(on_axle_mm(stage), most_mm) * WORSE).reshape(at)
        ratios = np.divide.outer(1.0 / np.array(one.drivers), 1.0 / np.array(one.driven))
        before = before * ratios.reshape(at) * stage.efficiency
        now_before *= ratio_of(stage) * stage.efficiency
    found[weak] = rules.index("tooth_load")
    found[low] = rules.index("ground_clearance")
    found[~made] = rules.index("teeth")
    return found.ravel()


def _stage_tables(stage: ToothedStage, one: StageSizes) -> tuple[Array, NDArray[np.bool_], Array]:
    """Return what torque on the driver a stage stands, whether it can be made, how wide it is.

    Of teeth that can't be made only those count that are not there already.
    """
    stands = np.full((len(one.drivers), len(one.driven)), math.inf)
    possible = np.ones(stands.shape, bool)
    across = np.zeros(stands.shape)
    own = impossible(stage)
    for i, driver in enumerate(one.drivers):
        for j, driven in enumerate(one.driven):
            other = stage.model_copy(update={"driver_teeth": driver, "driven_teeth": driven})
            kept = own and driver >= stage.driver_teeth and driven <= stage.driven_teeth
            possible[i, j] = kept or not impossible(other)
            stands[i, j] = carries_nm([other]) if j == 0 else stands[i, 0]
            across[i, j] = on_axle_mm(other) if i == 0 else across[0, j]
    return stands, possible, across
