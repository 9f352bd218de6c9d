"""Quasi-random draws of doubtful inputs, the same at every call, and variants drawn with them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
from statistics import NormalDist
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, scalar
from powertrain.compile.build import NO_COLUMNS, CompiledBuild, compile_build, compile_limits
from powertrain.documents.build import Build
from powertrain.documents.paths import number_at
from powertrain.doubt.quasi_random import POINTS, points
from powertrain.doubt.tolerances import (
    POWER,
    THRUST,
    Doubtful,
    doubtful_heat,
    doubtful_inputs,
    doubtful_propeller,
)
from powertrain.heat.parameters import estimated
from powertrain.load.air import density_of
from powertrain.load.wheel_on_road import WheelOnRoad
from powertrain.stated import Stated

DENSITY = "conditions.air_density_kg_m3"

DRAWS = POINTS

NORMAL = NormalDist()

FOUR_IN_FIVE = NORMAL.inv_cdf(0.9)
"""Standard deviations within which a normal variable lies four times in five."""


@cache
def _normal(inputs: int) -> NDArray[np.float64]:
    """Return `DRAWS` rows of independent standard normal numbers, a column for each input."""
    between = points(inputs) if inputs else np.zeros((DRAWS, 0))
    drawn: NDArray[np.float64] = np.reshape(
        [NORMAL.inv_cdf(share) for share in between.flat], between.shape
    )
    drawn.setflags(write=False)
    return drawn


@dataclass(frozen=True)
class Doubt:
    """The doubtful inputs of a build, and the draws of each in standard deviations."""

    inputs: tuple[Doubtful, ...]
    deviates: NDArray[np.float64]
    """Shape (draws, inputs)."""

    @classmethod
    def of(cls, build: Build) -> "Doubt":
        """Return what may be off in a document."""
        heat = doubtful_heat(build, estimated(Stated(build)).get("motor"))
        inputs = (*doubtful_inputs(build), *doubtful_propeller(build), *heat)
        return cls(inputs, _normal(len(inputs)))


@dataclass(frozen=True)
class Drawn:
    """Doubtful inputs as they were drawn: by document path, and what stands in no document.

    `scales` are of estimated heat data of the motor, `grips` of an assumed grip.
    """

    columns: dict[str, Array]
    scales: dict[str, Array]
    grips: Array

    def applied(self, compiled: CompiledBuild) -> CompiledBuild:
        """Return a build, compiled with the columns, with what stands in no document, too."""
        load = compiled.drive.load
        if isinstance(load, WheelOnRoad):
            load = replace(load, grip=load.grip.times(self.grips))
        drive = replace(compiled.drive, load=load)
        thermal = compiled.thermal
        motor = {key: getattr(thermal.motor, key) * scale for key, scale in self.scales.items()}
        thermal = replace(thermal, motor=replace(thermal.motor, **motor))
        return replace(compiled, drive=drive, thermal=thermal)


def drawn_of(
    build: Build,
    doubt: Doubt,
    deviates: NDArray[np.float64],
    columns: Mapping[str, Array] = NO_COLUMNS,
) -> Drawn:
    """Return the inputs at some standard deviations, of shape (draws, inputs).

    `columns` are those that are not as the document has them, before they are drawn.
    """
    drawn: dict[str, Array] = dict(columns)
    scales: dict[str, Array] = {}
    grips: Array = scalar(1.0)
    reach = np.log1p([item.tolerance for item in doubt.inputs]) / FOUR_IN_FIVE
    factors = np.exp(deviates * reach).T
    for item, factor in zip(doubt.inputs, factors, strict=True):
        if item.path.startswith("motor.thermal."):
            scales[item.path.rsplit(".", 1)[-1]] = factor
            continue
        if item.path in (THRUST, POWER):
            drawn[item.path] = factor
            continue
        value = drawn.get(item.path, number_at(build, item.path))
        if item.path == DENSITY:
            # Drawn about what height and temperature make of it, where it is not stated.
            value = float(density_of(Stated(build.conditions)))
        if value is None:
            grips = factor
        elif item.of_loss:
            drawn[item.path] = np.maximum(1 - (1 - value) * factor, 0.01)
        else:
            drawn[item.path] = value * factor
    return Drawn(drawn, scales, grips)


@dataclass(frozen=True)
class Variants:
    """Builds in numbers, one for each row; the first row is the build as it stands."""

    compiled: CompiledBuild
    changes: NDArray[np.int64]
    """Which change each row has made: 0 for none, else 1 plus its index."""
    draws: NDArray[np.int64]
    """Which draw each row is, -1 for the figures as the document has them."""


def variants(
    build: Build,
    doubt: Doubt,
    changes: Sequence[Mapping[str, Any]] = (),
    *,
    draws: int = DRAWS,
    paired: int = 0,
) -> Variants:
    """Return the build as it stands, drawn, changed, and changed in the same draws.

    Parameters
    ----------
    changes : sequence of mapping
        New numbers by document path; each is tried by itself.
    draws, paired : int
        How many draws of the build, and how many of each change. The draws of a change are
        the first ones of the build, so that a difference between the two is one of like with
        like.
    """
    count = len(changes)
    changed = np.concatenate(
        [
            np.zeros(1 + draws, int),
            np.arange(1, count + 1),
            np.repeat(np.arange(1, count + 1), paired),
        ]
    )
    drawn = np.concatenate(
        [
            [-1],
            np.arange(draws),
            np.full(count, -1),
            np.tile(np.arange(paired), count),
        ]
    ).astype(int)
    at = np.vstack([np.zeros(len(doubt.inputs)), doubt.deviates])[drawn + 1]
    columns = {path: column[changed] for path, column in _columns(build, changes).items()}
    drawn_by = drawn_of(build, doubt, at, columns)
    compiled = drawn_by.applied(compile_build(build, drawn_by.columns))
    # How hot a part may get is not drawn, nor moved by a change that is tried.
    limits = compile_limits(build)
    compiled = replace(compiled, limits=limits)
    return Variants(compiled, changed, drawn)


def _columns(build: Build, changes: Sequence[Mapping[str, Any]]) -> dict[str, Array]:
    """Return, for each path that any change names, its value unchanged and in each change."""
    columns: dict[str, Array] = {}
    for index, change in enumerate(changes):
        for path, value in change.items():
            if path not in columns:
                now = number_at(build, path)
                columns[path] = np.full(len(changes) + 1, 0.0 if now is None else now)
            # What is taken out of a document counts as nought.
            columns[path][index + 1] = 0.0 if value is None else value
    return columns
