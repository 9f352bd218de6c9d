"""Tables of gearings: joined, and told apart, so that each stands for all that are like it.

A table holds a column for each thing that is known of a gearing; rows are gearings.
"""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Table = dict[str, NDArray[Any]]

MOST_STAGES = 3

PLENTY, NEAR_RATIO = 9000, 0.004
"""Gearings of one number of stages that are all kept; of more, those whose reductions are nearer
than this to one another are told apart by loss and strength alone."""


def thinned(made: Table) -> Table:
    """Return gearings, of many nearly alike only those that lose less or stand more than others.

    A shelf with every size makes hundreds of thousands of pairs; a speed that differs by less than
    half a percent is no reason to look at each. What is left out counts among the twins of the one
    that stands for it.
    """
    if len(made["ratio"]) <= PLENTY:
        return made
    near = np.floor(np.log(made["ratio"]) / NEAR_RATIO).astype(np.int64)
    bad = ~(made["possible"] & made["clears"])
    order = np.lexsort(
        (made["mass_kg"], -made["carries_nm"], -made["efficiency"], bad, near, made["stages"])
    )
    key = np.column_stack([made["stages"][order], near[order], bad[order]])
    begins = np.ones(len(order), bool)
    begins[1:] = np.any(key[1:] != key[:-1], axis=1)
    group = np.cumsum(begins) - 1
    # Strength by rank: within a group, falling in efficiency, only what stands more is kept.
    strength = np.argsort(np.argsort(made["carries_nm"][order], kind="stable"), kind="stable")
    level = group + (strength + 1) / (len(order) + 2)
    most = np.maximum.accumulate(level)
    keeps = begins.copy()
    keeps[1:] |= level[1:] > most[:-1]
    kept = kept_of(made, order[keeps])
    owner = np.cumsum(keeps) - 1
    kept["twins"] = np.bincount(owner, weights=made["twins"][order]).astype(np.int64)
    return kept


def nothing() -> Table:
    """Return the one gearing of a motor that drives without any."""
    one = np.ones(1)
    return {
        "picks": np.full((1, MOST_STAGES), -1, np.int32),
        "ratio": one.copy(),
        "efficiency": one.copy(),
        "carries_nm": np.full(1, np.inf),
        "mass_kg": np.zeros(1),
        "price": np.zeros(1),
        "possible": np.ones(1, bool),
        "clears": np.ones(1, bool),
        "twins": np.ones(1, np.int64),
        "stages": np.zeros(1, np.int64),
        "exact": np.ones((1, 2), np.int64),
    }


def distinct(made: Table) -> Table:
    """Return one row for each reduction and efficiency, with the count of rows it stands for."""
    rounded = np.round(made["efficiency"], 9)
    exact, over = made["exact"], made["possible"] & made["clears"]
    order = np.lexsort(
        (made["mass_kg"], -made["carries_nm"], ~over, rounded, exact[:, 1], exact[:, 0])
    )
    same = np.column_stack([exact[order], rounded[order]])
    begins = np.ones(len(order), bool)
    begins[1:] = np.any(same[1:] != same[:-1], axis=1)
    group = np.cumsum(begins) - 1
    kept = kept_of(made, order[begins])
    kept["twins"] = np.bincount(group, weights=made["twins"][order]).astype(np.int64)
    return kept


def kept_of(made: Table, which: NDArray[Any]) -> Table:
    """Return some rows of a table."""
    return {key: column[which] for key, column in made.items()}


def joined(tables: list[Table]) -> Table:
    """Return tables one below the other."""
    if not tables:
        return kept_of(nothing(), np.zeros(0, int))
    return {key: np.concatenate([table[key] for table in tables]) for key in tables[0]}
