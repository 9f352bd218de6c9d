"""Every distinct gearing that can be made of the toothed wheels on a shelf.

Any driver goes with any driven wheel of its kind and pitch or module. More stages are taken
as the ratio needs them: a second from a reduction on that is unusual for one, a third only
beyond what two can do at all. Gearings of the same reduction, number of stages and
efficiency are one; the strongest stands for them, the lighter one of equally strong ones.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import permutations
from threading import Lock
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.documents.shelf import ToothedRange
from powertrain.documents.vehicle import Stage, ToothedStage
from powertrain.match.tables import (
    MOST_STAGES,
    Table,
    distinct,
    joined,
    kept_of,
    nothing,
    thinned,
)
from powertrain.stated import Stated
from powertrain.transmission.clearance import on_axle_mm
from powertrain.transmission.stage import SIZES, StageData
from powertrain.transmission.train import Train
from powertrain.verdicts.rules.teeth import impossible
from powertrain.verdicts.rules.tooth_load import carries_nm

USUAL = 6.0
"""Reduction beyond which one stage is unusual; common practice."""

LEAST_OF_MANY = 1.5
"""Of two or three stages none reduces less: it would not be worth its loss."""

CHUNK = 1 << 22
"""Combinations looked at together while gearings are made; bounds the memory."""


@dataclass(frozen=True)
class Single:
    """One stage that can be bought: a driver and a driven wheel that fit one another."""

    stage: ToothedStage
    driver: str
    driven: str
    mass_kg: float
    price: float


@dataclass(frozen=True)
class GearingColumns:
    """What candidates have of their gearings, one or an array of them; see `Gearings`."""

    ratio: Array
    efficiency: Array
    mass_kg: Array
    price: Array
    stages: Array
    carries_nm: Array

    def of_build(self) -> dict[str, Array]:
        """Return what a build's document has of it, as its only stage."""
        return {"gearing.0.ratio": self.ratio, "gearing.0.efficiency": self.efficiency}

    def documents(self) -> dict[str, Any]:
        """Return nothing: the stage that stands for it is that of every build."""
        return {}


@dataclass(frozen=True)
class Gearings:
    """Distinct gearings by rising reduction; the last axis of every array.

    `picks` are rows of three places among `singles`, -1 where there is no stage; `twins` how
    many buyable gearings each one stands for. `carries_nm` is the greatest torque of all shafts
    together that its teeth stand.
    """

    singles: tuple[Single, ...]
    picks: NDArray[np.int32]
    ratio: Array
    efficiency: Array
    carries_nm: Array
    mass_kg: Array
    price: Array
    twins: NDArray[np.int64]
    possible: NDArray[np.bool_]
    clears: NDArray[np.bool_]
    """Whether the driven wheel on the axle clears the ground."""
    stages: NDArray[np.int64]
    behind: tuple[Stage, ...] = ()
    """The axle's own reduction, which `ratio` and `efficiency` count in."""
    owned: tuple[Stage, ...] | None = None
    """The stages of a gearing that is owned, the axle's own with them."""

    def __len__(self) -> int:
        return len(self.ratio)

    def columns(self, index: Any) -> "GearingColumns":
        """Return what candidates with these gearings have of them."""
        return GearingColumns(
            self.ratio[index],
            self.efficiency[index],
            self.mass_kg[index],
            self.price[index],
            self.stages[index].astype(float),
            self.carries_nm[index],
        )

    def none(self, count: int) -> "GearingColumns":
        """Return one to one, without loss, mass or price."""
        one, nothing_yet = np.ones(count), np.zeros(count)
        return GearingColumns(one, one, nothing_yet, nothing_yet, nothing_yet, np.inf * one)

    def alike(self, places: NDArray[np.int64]) -> Iterator[NDArray[Any]]:
        """Yield all: one stage stands for every gearing."""
        yield np.arange(len(places))

    def document_of(self, place: int) -> dict[str, Any]:
        """Return the stages of one."""
        return {"gearing": self.stages_of(place)}

    def bought(self, place: int) -> dict[str, Any]:
        """Return what to buy for one, and how many buyable ones it stands for."""
        return {
            "gearing": self.parts_of(place),
            "ratio": float(self.ratio[place]),
            "twins": int(self.twins[place]),
        }

    def stages_of(self, index: int) -> list[Stage]:
        """Return the stages of one gearing as a build holds them."""
        if self.owned is not None:
            return list(self.owned)
        own = [self.singles[pick].stage for pick in self.picks[index] if pick >= 0]
        return [*own, *self.behind]

    def before(self, behind: Sequence[Stage]) -> "Gearings":
        """Return the same gearings before the axle's own reduction."""
        if not behind:
            return self
        train = Train.of([Stated(stage) for stage in behind])
        return replace(
            self,
            ratio=self.ratio * train.ratio,
            efficiency=self.efficiency * train.efficiency,
            behind=tuple(behind),
        )

    def parts_of(self, index: int) -> list[dict[str, Any]]:
        """Return what to buy for one gearing, stage by stage."""
        return [
            {
                "driver": single.driver,
                "driver_teeth": single.stage.driver_teeth,
                "driven": single.driven,
                "driven_teeth": single.stage.driven_teeth,
            }
            for single in (self.singles[pick] for pick in self.picks[index] if pick >= 0)
        ]


def gearings_of(
    ranges: Sequence[ToothedRange],
    most_ratio: float,
    *,
    hub: bool = False,
    most_axle_mm: float = math.inf,
) -> Gearings:
    """Return the distinct gearings of toothed wheels, up to a reduction that any motor can use.

    Parameters
    ----------
    most_ratio : float
        Three stages are made up to it only; one and two always.
    hub : bool
        Whether to add the gearing of a hub motor, which is none.
    most_axle_mm : float
        What a driven wheel on the axle may measure across to clear the ground.
    """
    said = tuple(item.model_dump_json() for item in ranges)
    # Requests of several threads may ask at once; whoever comes second waits for the first.
    with _MAKING:
        if said not in _MADE:
            if len(_MADE) >= KEPT:
                _MADE.clear()
            _MADE[said] = {}
        made = _MADE[said]
        key = (most_ratio, hub, most_axle_mm)
        if key not in made:
            if len(made) >= KEPT:
                made.clear()
            made[key] = _all_of(tuple(_singles(ranges)), most_ratio, hub, most_axle_mm)
        return made[key]


KEPT = 4
_MAKING = Lock()
_MADE: dict[tuple[str, ...], dict[tuple[float, bool, float], "Gearings"]] = {}
"""What was made of the same ranges before; a search on the same shelf begins at once."""


def _all_of(
    singles: tuple[Single, ...], most_ratio: float, hub: bool, most_axle_mm: float
) -> Gearings:
    made: list[Table] = []
    if singles:
        columns = _columns(singles, most_axle_mm)
        two = thinned(distinct(_two(columns)))
        reach = float(np.max(two["ratio"], initial=USUAL))
        made = [
            distinct(_combined(columns, np.arange(len(singles), dtype=np.int32)[:, None])),
            two,
        ]
        if most_ratio > reach:
            made.append(thinned(_three(columns, two, reach, most_ratio)))
    if hub:
        made.append(nothing())
    whole = joined(made)
    order = np.lexsort((whole["efficiency"], whole["stages"], whole["ratio"]))
    return _gearings(singles, {key: column[order] for key, column in whole.items()})


def given(stages: list[Stage], ratio: float, efficiency: float) -> Gearings:
    """Return the one gearing that somebody owns; what its teeth stand the checks say."""
    data = [StageData.of(Stated(stage)) for stage in stages]
    carries = carries_nm(data)
    possible = not any(impossible(stage) for stage in data if stage.toothed)
    table = nothing()
    table["ratio"][:], table["efficiency"][:], table["carries_nm"][:] = ratio, efficiency, carries
    table["possible"][:] = possible
    return replace(_gearings((), table), owned=tuple(stages))


def _gearings(singles: tuple[Single, ...], table: Table) -> Gearings:
    columns = {key: column for key, column in table.items() if key != "exact"}
    return Gearings(singles=singles, **columns)  # type: ignore[arg-type]


def _singles(ranges: Sequence[ToothedRange]) -> Iterator[Single]:
    for driver in ranges:
        for driven in ranges:
            if (driver.side, driven.side) == ("driver", "driven") and _fit(driver, driven):
                yield from _pairs(driver, driven)


def _fit(driver: ToothedRange, driven: ToothedRange) -> bool:
    if driver.kind != driven.kind:
        return False
    key = "module_mm" if driver.kind == "spur" else "pitch_mm"
    return bool(getattr(driver, key) == getattr(driven, key))


def _pairs(driver: ToothedRange, driven: ToothedRange) -> Iterator[Single]:
    weaker: dict[str, float | None] = {
        key: _least(getattr(driver, key), getattr(driven, key))
        for key in ("allowed_pull_n", "face_mm", "allowed_stress_mpa")
    }
    fitting = {"pitch_mm": driver.pitch_mm, "module_mm": driver.module_mm, **weaker}
    stated: dict[str, Any] = {key: value for key, value in fitting.items() if value is not None}
    for small in driver.sizes:
        for large in driven.sizes:
            stage = ToothedStage(
                kind=driver.kind,
                driver_teeth=small.teeth,
                driven_teeth=large.teeth,
                efficiency=min(driver.efficiency, driven.efficiency),
                **stated,
            )
            masses, prices = (small.mass_kg, large.mass_kg), (small.price, large.price)
            yield Single(
                stage,
                driver.id,
                driven.id,
                sum(mass or 0.0 for mass in masses),
                np.nan if None in prices else sum(price or 0.0 for price in prices),
            )


def _least(one: float | None, other: float | None) -> float | None:
    known = [value for value in (one, other) if value is not None]
    return min(known, default=None)


def _columns(singles: tuple[Single, ...], most_axle_mm: float) -> Table:
    stages = [single.stage for single in singles]
    table: Table = {
        "driver": np.array([stage.driver_teeth for stage in stages], np.int64),
        "driven": np.array([stage.driven_teeth for stage in stages], np.int64),
        "efficiency": np.array([stage.efficiency for stage in stages]),
        "mass_kg": np.array([single.mass_kg for single in singles]),
        "price": np.array([single.price for single in singles]),
        "ratio": np.empty(len(stages)),
        "carries_nm": np.empty(len(stages)),
        "possible": np.empty(len(stages), bool),
        "clears": np.empty(len(stages), bool),
    }
    kinds = np.array([stage.kind for stage in stages])
    for kind in np.unique(kinds):
        places = np.flatnonzero(kinds == kind)
        some = _data_of(str(kind), [stages[place] for place in places])
        table["ratio"][places] = some.ratio
        table["carries_nm"][places] = carries_nm([some])
        table["possible"][places] = ~impossible(some)
        table["clears"][places] = on_axle_mm(some) <= most_axle_mm * (1 + 1e-9)
    return table


def _data_of(kind: str, stages: Sequence[ToothedStage]) -> StageData:
    """Return many stages of one kind in numbers."""
    columns = {
        key: np.array([getattr(stage, key) for stage in stages], float)
        for key in (*SIZES, "efficiency")
    }
    ratio = columns["driven_teeth"] / columns["driver_teeth"]
    return StageData(kind=kind, ratio=ratio, **columns)


def _two(columns: Table) -> Table:
    worth = _worth(columns)
    one, other = np.triu_indices(len(worth))
    made = _in_best_order(columns, np.column_stack([worth[one], worth[other]]))
    return kept_of(made, made["ratio"] > USUAL)


def _three(columns: Table, two: Table, beyond: float, most_ratio: float) -> Table:
    worth = _worth(columns)
    if len(worth) > MANY:
        # Of so many stages a third is added to the pairs that are worth it.
        pairs = two["picks"][:, :2]
        step, left = max(CHUNK // max(len(worth), 1), 1), None
    else:
        one, other = np.triu_indices(len(worth))
        pairs = np.column_stack([worth[one], worth[other]])
        step, left = max(CHUNK // max(len(worth), 1), 1), len(worth) - other
    made: list[Table] = []
    for begin in range(0, len(pairs), step):
        some = pairs[begin : begin + step]
        if left is None:
            count = np.full(len(some), len(worth))
            first = np.zeros(len(some), np.int64)
        else:
            count = left[begin : begin + step]
            first = len(worth) - count
        third = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count - first, count)
        triple = np.column_stack([np.repeat(some, count, axis=0), worth[third]])
        ratio = columns["ratio"][triple].prod(axis=1)
        wanted = (ratio > beyond) & (ratio <= most_ratio)
        made.append(distinct(_in_best_order(columns, triple[wanted].astype(np.int32))))
    return distinct(joined(made))


MANY = 120
"""Stages worth combining beyond which three are not tried all with all."""


def _in_best_order(columns: Table, places: NDArray[np.int32]) -> Table:
    """Return gearings with their stages in an order that clears the ground, and carries most."""
    best: Table | None = None
    for order in permutations(range(places.shape[1])):
        made = _combined(columns, places[:, order])
        if best is None:
            best = made
            continue
        stronger = made["carries_nm"] > best["carries_nm"]
        better = (made["clears"] & ~best["clears"]) | (
            (made["clears"] == best["clears"]) & stronger
        )
        best["picks"] = np.where(better[:, None], made["picks"], best["picks"])
        best["carries_nm"] = np.where(better, made["carries_nm"], best["carries_nm"])
        best["clears"] = np.where(better, made["clears"], best["clears"])
    assert best is not None
    return best


def _worth(columns: Table) -> NDArray[np.int32]:
    """Return the places of stages that are worth being one of many."""
    worth = columns["possible"] & (columns["ratio"] >= LEAST_OF_MANY)
    return np.flatnonzero(worth).astype(np.int32)


def _combined(columns: Table, places: NDArray[np.int32]) -> Table:
    """Return the gearings of rows of places, motor's side first."""
    depth = places.shape[1]
    ratio, efficiency = np.ones(len(places)), np.ones(len(places))
    over = under = np.ones(len(places), np.int64)
    carries, mass, price = (
        np.full(len(places), np.inf),
        np.zeros(len(places)),
        np.zeros(len(places)),
    )
    possible = np.ones(len(places), bool)
    for step in range(depth):
        at = places[:, step]
        # The torque that reaches a stage is the shaft's, times what came before.
        carries = np.minimum(carries, columns["carries_nm"][at] / (ratio * efficiency))
        ratio, efficiency = ratio * columns["ratio"][at], efficiency * columns["efficiency"][at]
        over, under = over * columns["driven"][at], under * columns["driver"][at]
        mass, price = mass + columns["mass_kg"][at], price + columns["price"][at]
        possible = possible & columns["possible"][at]
    common = np.gcd(over, under)
    picks = np.full((len(places), MOST_STAGES), -1, np.int32)
    picks[:, :depth] = places
    return {
        "picks": picks,
        "ratio": ratio,
        "efficiency": efficiency,
        "carries_nm": carries,
        "mass_kg": mass,
        "price": price,
        "possible": possible,
        "clears": columns["clears"][places[:, -1]],
        "twins": np.ones(len(places), np.int64),
        "stages": np.full(len(places), depth),
        "exact": np.stack([over // common, under // common], axis=1),
    }
