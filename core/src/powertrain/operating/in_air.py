"""What a drive does that turns propellers: standing, flat out, climbing, at a chosen speed.

Two things are open at full throttle: how fast the air comes, and how fast the propellers turn. At
each speed of the air the turns are those at which the motors' torque meets the propellers'; the
speed is then the one at which thrust meets what holds the craft back.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, floats, scalar, shape_of
from powertrain.drive import Drive
from powertrain.load.propelled import Propelled
from powertrain.operating.full_throttle import fastest_rad_s as fastest_of
from powertrain.operating.full_throttle import output_nm
from powertrain.operating.state import State, state_at_full_throttle, state_at_torque
from powertrain.roots import falling_root

FINE, COARSE = 72, 26
"""Speeds of the air at which thrust is looked at, from rest to where a propeller brakes: of one
drive, and of each of many."""

FASTEST_TIP_MPS = 340.0
LOOSE, CLOSE, CLOSEST = 1e-4, 1e-11, 1e-13
"""How near turns are found: to look around, and to tell."""

SLACK = 1e-9
ANGLES = 8
"""Steps in which the angle of a climb settles: each is a hundredth of the one before."""


@dataclass(frozen=True)
class InAir:
    """A drive with propellers, asked about speeds of the air; arrays over drives along the last."""

    drive: Drive
    load: Propelled

    @cached_property
    def fastest_rad_s(self) -> Array:
        """Turns of the propellers that no full throttle passes."""
        free = floats(fastest_of(self.drive))
        most = 2 * FASTEST_TIP_MPS / self.load.blades.diameter_m
        return np.where(np.isfinite(free) & (free > 0), np.minimum(free, most), most)

    @cached_property
    def _points(self) -> int:
        return COARSE if shape_of(self.drive) else FINE

    def turns_rad_s(self, air_mps: Array, close: float = CLOSEST) -> Array:
        """Return the speed of the output shaft at full throttle in air of a speed."""
        driven = np.maximum(air_mps, 0.0) / self.load.travel_m
        most = np.maximum(self.fastest_rad_s, 1.5 * driven)
        air = air_mps + np.zeros(np.shape(most))

        def spare(turns: Array) -> Array:
            return output_nm(self.drive, turns) - self.load.moving_nm(turns, air)

        return falling_root(spare, np.zeros(np.shape(most)), most, close)

    def thrust_n(self, air_mps: Array, close: float = CLOSEST) -> Array:
        """Return the thrust of full throttle."""
        return self.load.thrust_n(self.turns_rad_s(air_mps, close), air_mps)

    def spare_n(self, air_mps: Array, steepness: Array, close: float = CLOSEST) -> Array:
        """Return the thrust of full throttle beyond what a speed asks."""
        return self.thrust_n(air_mps, close) - self.held_n(air_mps, steepness)

    def held_n(self, air_mps: Array, steepness: Array) -> Array:
        """Return the thrust that holds a speed of the air."""
        load = self.load
        return load.craft.held_n(air_mps, air_mps - load.headwind_mps, steepness)

    def at_full_throttle(self, air_mps: Array) -> State:
        """Return the state at full throttle in air of a speed."""
        return state_at_full_throttle(self.drive, self.turns_rad_s(air_mps), floats(air_mps))

    def standing(self) -> State:
        """Return full throttle held fast in still air."""
        return self.at_full_throttle(np.zeros(shape_of(self.drive)))

    def slowest_mps(self, steepness: Array) -> Array:
        """Return the least speed of the air: that of stalling, or the wind that is met at rest."""
        craft = self.load.craft
        least = craft.least_mps(steepness) if craft.flies else self.load.headwind_mps
        return np.maximum(least, 0.0) + np.zeros(shape_of(self.drive))

    def _speeds(self, steepness: Array) -> Array:
        """Return speeds of the air along a first axis, beyond that at which thrust is gone."""
        blades = self.load.blades
        most = self.fastest_rad_s / (2 * np.pi) * (blades.pitch_m + 0.5 * blades.diameter_m)
        advance = float(blades.charts.advance[:, -1].max())
        most = np.maximum(most, self.fastest_rad_s / (2 * np.pi) * advance * blades.diameter_m)
        low = self.slowest_mps(steepness)
        # A descent is faster than any propeller pushes: to where drag alone holds the weight.
        high = np.maximum(1.1 * most, 1.5 * low)
        for _ in range(6):
            falls = -self.held_n(high, steepness) > 0
            high = np.where(falls, 1.7 * high, high)
        share = np.linspace(0.0, 1.0, self._points).reshape(-1, *[1] * np.ndim(high))
        return low + share * (high - low)

    def top(self, steepness: Array) -> tuple[Array, NDArray[np.bool_]]:
        """Return the fastest speed of the air that full throttle holds, and whether there is one.

        Where there is none, thrust is nowhere as much as what holds the craft back.
        """
        speeds = self._speeds(steepness)
        pushes = self.spare_n(speeds, steepness, LOOSE) > 0
        last = len(speeds) - 1 - np.argmax(pushes[::-1], axis=0)
        there = pushes.any(axis=0)
        first = np.minimum(last, len(speeds) - 2)
        low = np.take_along_axis(speeds, first[None], axis=0)[0]
        high = np.take_along_axis(speeds, first[None] + 1, axis=0)[0]
        found = falling_root(lambda air: self.spare_n(air, steepness), low, high, CLOSE)
        return np.where(there, found, 0.0), np.asarray(there)

    def best_climb(self, top_mps: Array) -> tuple[Array, Array]:
        """Return the speed of the air and the angle (radians) of the greatest rate of climb."""
        low = self.slowest_mps(scalar(0.0))
        high = np.maximum(top_mps, low * (1 + 1e-6))
        share = np.linspace(0.0, 1.0, self._points).reshape(-1, *[1] * np.ndim(high))
        speeds = low + share * (high - low)
        rates = speeds * np.sin(self.climbs_rad(speeds, self.thrust_n(speeds, LOOSE)))
        best = np.clip(np.argmax(rates, axis=0), 1, len(speeds) - 2)[None]
        before, here, after = (
            np.take_along_axis(rates, best + step, axis=0)[0] for step in (-1, 0, 1)
        )
        middle = np.take_along_axis(speeds, best, axis=0)[0]
        step = (high - low) / (len(speeds) - 1)
        bent = before - 2 * here + after
        with np.errstate(divide="ignore", invalid="ignore"):
            aside = np.where(bent < 0, 0.5 * (before - after) / bent, 0.0)
        speed = middle + np.clip(aside, -1, 1) * step
        return speed, self.climbs_rad(speed, self.thrust_n(speed))

    def climbs_rad(self, air_mps: Array, thrust: Array) -> Array:
        """Return the angle at which a thrust in N climbs at a speed: sin = (T - D)/W."""
        weight = self.load.craft.weight_n
        angle = np.zeros(np.shape(thrust))
        for _ in range(ANGLES):
            along = self.held_n(air_mps, angle) - weight * np.sin(angle)
            angle = np.arcsin(np.clip((thrust - along) / weight, -1.0, 1.0))
        return angle

    def holding(self, air_mps: Array, steepness: Array) -> tuple[State, NDArray[np.bool_]]:
        """Return the part-throttle state that holds a speed of the air, and whether it does."""
        wanted = self.held_n(air_mps, steepness)
        most = np.maximum(self.fastest_rad_s, 1.5 * np.maximum(air_mps, 0.0) / self.load.travel_m)
        air = air_mps + np.zeros(np.shape(most))
        turns = falling_root(
            lambda rad_s: wanted - self.load.thrust_n(rad_s, air),
            np.zeros(np.shape(most)),
            most,
            CLOSEST,
        )
        torque = self.load.moving_nm(turns, air)
        state = state_at_torque(self.drive, turns, air, torque)
        given = self.load.thrust_n(turns, air)
        reaches = np.abs(given - wanted) <= 1e-6 * np.abs(wanted) + 1e-9
        holds = reaches & (turns <= self.turns_rad_s(air) * (1 + SLACK))
        return state, holds & (air >= self.load.craft.least_mps(steepness) * (1 - SLACK))


def in_air(drive: Drive) -> InAir | None:
    """Return a drive with propellers to be asked; None for one that turns anything else."""
    load = drive.load
    return InAir(drive, load) if isinstance(load, Propelled) else None
