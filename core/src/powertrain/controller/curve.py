"""How a controller's volts follow the trigger.

With half trigger at a share h of the volts the curve is ``volts = x^p``, ``p = ln h/ln 0.5``; by
points it is straight between them. At full trigger every curve passes all of the volts.
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array
from powertrain.points import whole_points
from powertrain.stated import Stated

STRAIGHT_PCT = 50.0
DRAWN = 50
"""Pieces of a curve that is drawn."""


@dataclass(frozen=True)
class ThrottleCurve:
    """Volts as a share of all of them, over the trigger as a share of its way."""

    power: float
    triggers: tuple[float, ...] = ()
    volts: tuple[float, ...] = ()

    @classmethod
    def of(cls, controller: Stated) -> "ThrottleCurve":
        """Return what a controller states: points, else half of its curve, else the other half."""
        half = controller.word("half_throttle_pct")
        curve = controller.word("curve")
        if curve is not None:
            if curve.points is not None:
                points = whole_points([(one.trigger_pct, one.volts_pct) for one in curve.points])
                triggers, volts = zip(*points, strict=True)
                return cls(1.0, tuple(t / 100 for t in triggers), tuple(v / 100 for v in volts))
            half = curve.half_throttle_pct or half
        return cls(power_of(half or STRAIGHT_PCT))

    @property
    def by_points(self) -> bool:
        """Whether it is drawn by points."""
        return bool(self.triggers)

    def volts_share(self, trigger: Array) -> Array:
        """Return the share of the volts at a share of the trigger, both from 0 to 1."""
        x = np.clip(trigger, 0.0, 1.0)
        if self.by_points:
            return np.interp(x, self.triggers, self.volts)
        shared: Array = x**self.power
        return shared

    def drawn(self) -> list[tuple[float, float]]:
        """Return shares of trigger and volts between which it can be drawn straight."""
        at = np.array(self.triggers) if self.by_points else np.linspace(0.0, 1.0, DRAWN + 1)
        return list(zip(at.tolist(), self.volts_share(at).tolist(), strict=True))

    def trigger_at(self, volts_share: float) -> float:
        """Return the share of the trigger that passes a share of the volts."""
        share = min(max(volts_share, 0.0), 1.0)
        if self.by_points:
            return float(np.interp(share, self.volts, self.triggers))
        return float(share ** (1 / self.power))

    def slope_at(self, trigger: float) -> float:
        """Return by how much the volts rise there for each of the trigger."""
        if self.by_points:
            step = 1e-6
            ends = self.volts_share(np.array([trigger, trigger + step]))
            return float(np.diff(ends)[0] / step)
        return float(self.power * trigger ** (self.power - 1))


def power_of(half_pct: float) -> float:
    """Return the power of the curve whose half trigger passes so many percent of the volts."""
    return float(np.log(half_pct / 100) / np.log(0.5))
