"""A train of reductions, each with its ratio and its loss."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.vehicle import FixedStage, Stage


@dataclass(frozen=True)
class Train:
    """Stages from motor to wheel; none at all for a hub motor."""

    ratios: tuple[Array, ...]
    efficiencies: tuple[Array, ...]

    @classmethod
    def of(cls, gearing: list[Stage]) -> "Train":
        """Return the train that a document describes."""
        return cls(
            ratios=tuple(scalar(ratio_of(stage)) for stage in gearing),
            efficiencies=tuple(scalar(stage.efficiency) for stage in gearing),
        )

    @cached_property
    def ratio(self) -> Array:
        """Motor turns for one turn of the wheel."""
        return _product(self.ratios)

    @cached_property
    def efficiency(self) -> Array:
        """Part of the shaft's power that reaches the wheel."""
        return _product(self.efficiencies)

    def wheel_torque_nm(self, shaft_torque_nm: Array) -> Array:
        """Return the torque at the wheel; the loss is divided out when the wheel drives."""
        passed = np.where(shaft_torque_nm >= 0, self.efficiency, 1 / self.efficiency)
        return shaft_torque_nm * self.ratio * passed

    def shaft_torque_nm(self, wheel_torque_nm: Array) -> Array:
        """Return the torque at the shaft for one at the wheel; inverse of `wheel_torque_nm`."""
        passed = np.where(wheel_torque_nm >= 0, self.efficiency, 1 / self.efficiency)
        return wheel_torque_nm / (self.ratio * passed)

    def stage_losses_w(self, shaft_w: Array) -> tuple[Array, ...]:
        """Return the heat of each stage, in order, when `shaft_w` flows in at the motor's side."""
        losses, flow_w = [], shaft_w
        for efficiency in self.efficiencies:
            passed_w = np.where(flow_w >= 0, flow_w * efficiency, flow_w / efficiency)
            losses.append(flow_w - passed_w)
            flow_w = passed_w
        return tuple(losses)


def ratio_of(stage: Stage) -> float:
    """Return turns in for one turn out."""
    if isinstance(stage, FixedStage):
        return stage.ratio
    return stage.driven_teeth / stage.driver_teeth


def _product(factors: tuple[Array, ...]) -> Array:
    product: Array = scalar(1.0)
    for factor in factors:
        product = product * factor
    return product
