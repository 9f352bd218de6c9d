"""Grip of the driven wheels, with the weight that moves when the vehicle pushes or climbs.

Source: quasi-static balance of a two-axle vehicle, e.g. Wong, Theory of Ground Vehicles, ch. 3
(from memory). The air's force is taken to act at the height of the centre of mass.
"""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from powertrain.arrays import Array, is_nought, scalar, somewhere
from powertrain.constants import STANDARD_GRAVITY_MPS2
from powertrain.stated import Stated


@dataclass(frozen=True)
class Grip:
    """Where the weight stands and how it grips.

    `height_over_wheelbase` is of the centre of mass, positive where pushing forward loads the
    driven axle (the rear one), negative for the front, and zero where all wheels drive or the
    balance is not known.
    """

    friction: Array
    driven_share: Array
    height_over_wheelbase: Array
    centre_to_driven_over_height: Array
    """Infinite where the front can't lift or the balance is not known."""

    @classmethod
    def of(cls, vehicle: Stated) -> "Grip":
        """Return the grip that a document describes, or an assumed one."""
        friction = assumed_friction(vehicle)
        if not vehicle.states("traction"):
            return cls(friction, scalar(1.0), scalar(0.0), scalar(np.inf))
        said = vehicle.under("traction")
        rear = said.word("driven_axle") == "rear"
        share = _share(said)
        return cls(
            friction=said.number("friction") if said.states("friction") else friction,
            driven_share=share,
            height_over_wheelbase=_height_over_wheelbase(said, share, 1.0 if rear else -1.0),
            centre_to_driven_over_height=_lifting(said, share) if rear else scalar(np.inf),
        )

    def times(self, factor: Array) -> "Grip":
        """Return it with so much of the friction."""
        return replace(self, friction=self.friction * factor)

    def without_slip(self) -> "Grip":
        """Return it with friction that holds any push; of the same shape."""
        return replace(self, friction=np.full(np.shape(self.friction), np.inf))

    @cached_property
    def known(self) -> bool:
        """Whether anything is known of the grip."""
        return somewhere(np.isfinite(self.friction))

    def greatest_force_n(self, weight_n: Array, grade_pct: Array, rolling_n: Array) -> Array:
        """Return the greatest push before the driven wheels slip.

        ``F = mu N``, ``N = W cos a share + h/l (F - F_rolling)`` with the height over
        the wheelbase h/l, and never more than all of the weight on the driven axle.
        """
        on_road_n = weight_n * np.cos(np.arctan(grade_pct / 100))
        if is_nought(self.height_over_wheelbase):
            return self.friction * (on_road_n * self.driven_share)
        at_rest_n = on_road_n * self.driven_share - self.height_over_wheelbase * rolling_n
        with np.errstate(divide="ignore", invalid="ignore"):
            keeps = 1 - self.friction * self.height_over_wheelbase
            sliding_n = np.where(keeps > 0, self.friction * at_rest_n / keeps, np.inf)
            least = np.minimum(np.maximum(sliding_n, 0.0), self.friction * on_road_n)
            return np.where(np.isfinite(self.friction), least, np.inf)

    def lifting_mps2(self, grade_pct: Array) -> Array:
        """Return the acceleration at which the front wheels leave the ground.

        ``a = g (cos a c/h - sin a)``, c the level distance from centre of mass to driven axle.
        """
        slope = np.arctan(grade_pct / 100)
        balance = np.cos(slope) * self.centre_to_driven_over_height - np.sin(slope)
        return STANDARD_GRAVITY_MPS2 * balance


MODEL_KG = 20.0
"""Below it a vehicle is a model, whose small soft tyres drag more on the very same tarmac."""

BEST_ROLLING = {"model": 0.02, "other": 0.005}
"""Rolling resistance of good tyres on clean tarmac, at which the grip is 1."""

LOOSENS, LEAST = 0.35, 0.35
"""What is lost of it for each tenfold of rolling resistance, and what mud leaves."""


def assumed_friction(vehicle: Stated) -> Array:
    """Return the friction of a vehicle that does not say it, from what its ground drags.

    1 on clean tarmac, less the more the ground gives way: 0.8 to 1.0 on tarmac, 0.7 to 0.8 on
    gravel, about a half on a meadow. Common practice, no source.
    """
    small = vehicle.number("mass_kg") < MODEL_KG
    best = np.where(small, BEST_ROLLING["model"], BEST_ROLLING["other"])
    drags = np.maximum(vehicle.number("rolling_resistance"), 1e-4) / best
    # In arrays of one number each, so that it can be traced.
    loose: Array = 1.0 - LOOSENS / np.log(10.0) * np.log(drags)
    return np.clip(loose, LEAST, 1.0)


def is_assumed(vehicle: Stated) -> bool:
    """Return whether the grip is not stated."""
    return not (vehicle.states("traction") and vehicle.under("traction").states("friction"))


def _share(said: Stated) -> Array:
    if said.states("driven_share"):
        return said.number("driven_share")
    if not said.states("wheelbase_m", "centre_to_driven_axle_m"):
        return scalar(1.0)
    behind = said.number("centre_to_driven_axle_m")
    return np.clip(1 - behind / said.number("wheelbase_m"), 0.001, 1.0)


def _height_over_wheelbase(said: Stated, share: Array, sign: float) -> Array:
    # With all the weight on driven wheels none can leave them.
    if not said.states("centre_height_m", "wheelbase_m") or np.all(share >= 1):
        return scalar(0.0)
    return sign * said.number("centre_height_m") / said.number("wheelbase_m")


def _lifting(said: Stated, share: Array) -> Array:
    if not said.states("centre_height_m"):
        return scalar(np.inf)
    if said.states("centre_to_driven_axle_m"):
        ahead = said.number("centre_to_driven_axle_m")
    elif not said.states("wheelbase_m") or np.all(share >= 1):
        return scalar(np.inf)
    else:
        ahead = (1 - share) * said.number("wheelbase_m")
    with np.errstate(divide="ignore"):
        return ahead / said.number("centre_height_m")
