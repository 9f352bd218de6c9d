"""A train of reductions, each with its ratio and its loss."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.stated import Stated


@dataclass(frozen=True)
class Train:
    """Stages from motor to wheel; none at all for a hub motor.

    `gears` are the ratios of a gearbox among the stages, shortest first, as factors on the
    product of `ratios`; a train without one has a single gear of factor one.
    """

    ratios: tuple[Array, ...]
    efficiencies: tuple[Array, ...]
    gears: tuple[Array, ...] = (scalar(1.0),)

    @classmethod
    def of(cls, stages: Sequence[Stated]) -> "Train":
        """Return the train that a document describes, in its shortest gear."""
        gears = [scalar(1.0)]
        for stage in stages:
            ratios = gears_of(stage)
            gears = [gear * (ratio / max(ratios)) for gear in gears for ratio in ratios]
        return cls(
            ratios=tuple(ratio_of(stage) for stage in stages),
            efficiencies=tuple(stage.number("efficiency") for stage in stages),
            gears=tuple(sorted(gears, reverse=True)),
        )

    def in_gear(self, gear: Array) -> "Train":
        """Return the train with one gear engaged, given by its factor."""
        # The gearbox may be any stage; which one carries the factor matters to no answer.
        return replace(self, ratios=(self.ratios[0] * gear, *self.ratios[1:]), gears=ONE_GEAR)

    @cached_property
    def ratio(self) -> Array:
        """Motor turns for one turn of the wheel."""
        return _product(self.ratios)

    @cached_property
    def efficiency(self) -> Array:
        """Part of the shaft's power that reaches the wheel."""
        return _product(self.efficiencies)

    @cached_property
    def _ways(self) -> tuple[Array, Array]:
        """Torque at the wheel for one at the shaft, driving the wheel and driven by it."""
        return self.ratio * self.efficiency, self.ratio / self.efficiency

    def wheel_torque_nm(self, shaft_torque_nm: Array) -> Array:
        """Return the torque at the wheel; the loss is divided out when the wheel drives."""
        driving, driven = self._ways
        # What is lost makes a push less and a drag more: the lesser of the two, either way.
        return np.minimum(shaft_torque_nm * driving, shaft_torque_nm * driven)

    def shaft_torque_nm(self, wheel_torque_nm: Array) -> Array:
        """Return the torque at the shaft for one at the wheel; inverse of `wheel_torque_nm`."""
        driving, driven = self._ways
        return np.maximum(wheel_torque_nm / driving, wheel_torque_nm / driven)

    def stage_losses_w(self, shaft_w: Array) -> tuple[Array, ...]:
        """Return the heat of each stage, in order, when `shaft_w` flows in at the motor's side."""
        losses, flow_w = [], shaft_w
        for efficiency in self.efficiencies:
            passed_w = np.where(flow_w >= 0, flow_w * efficiency, flow_w / efficiency)
            losses.append(flow_w - passed_w)
            flow_w = passed_w
        return tuple(losses)


ONE_GEAR: tuple[Array, ...] = (scalar(1.0),)


TOOTHED = ("chain", "belt", "spur")
"""Kinds of stage whose teeth are counted."""


def gears_of(stage: Stated) -> list[float]:
    """Return the ratios that a stage changes between; a single one where it does not change."""
    return list(stage.word("ratios")) if stage.word("kind") == "gearbox" else [1.0]


def ratio_of(stage: Stated) -> Array:
    """Return turns in for one turn out, of a gearbox in its shortest gear."""
    if stage.word("kind") in TOOTHED:
        return stage.number("driven_teeth") / stage.number("driver_teeth")
    if stage.word("kind") == "gearbox":
        return scalar(max(gears_of(stage)))
    return stage.number("ratio")


def _product(factors: tuple[Array, ...]) -> Array:
    product: Array = scalar(1.0)
    for factor in factors:
        product = product * factor
    return product
