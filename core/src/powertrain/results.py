"""The figures that builds are compared by: what a drive does, and how hot it gets."""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np

from powertrain.arrays import Array, greatest, pick, scalar
from powertrain.compile.build import CompiledBuild
from powertrain.heat.limits import NODES, NodeId, TemperatureLimits
from powertrain.heat.parameters import ThermalParameters
from powertrain.heat.temperatures import Flows, Temperatures, after, flows_of, stacked, temperatures
from powertrain.operating.distance import hours_left, range_km
from powertrain.operating.in_air import InAir, in_air
from powertrain.operating.launch import launch
from powertrain.operating.moment import MomentStates
from powertrain.operating.moments import (
    moments_of,
    searched_moments,
    steady_moments,
    wheels_up_moments,
)
from powertrain.operating.moments_in_air import climb_ms
from powertrain.units import kmh_from_mps

MINUTE_S = 60.0
"""For how long a moment is kept up before its temperatures are read."""

FigureId = Literal[
    "top_speed_kmh",
    "climb_kmh",
    "launch_s",
    "thrust_to_weight",
    "pitch_speed_kmh",
    "climb_ms",
    "endurance_min",
    "range_km",
    "pack_peak_a",
    "motor_peak_a",
    "winding_c",
    "case_c",
]


@dataclass(frozen=True)
class Results:
    """One drive or many at all moments, which are the first axis of `heat` and `flows`."""

    moments: MomentStates
    flows: Flows
    climb_s: Array
    """How long the climb is kept up: to the top of a hill of known length, else a minute."""
    thermal: ThermalParameters
    limits: TemperatureLimits
    timed: bool

    @cached_property
    def lasts_s(self) -> Array:
        """How long each moment lasts: a launch to its end, a hill to its top, others a minute.

        A speed that is never reached is tried for a minute.
        """
        lasts = np.full(np.shape(self.flows.copper_w), MINUTE_S)
        run = self.moments.launch_run
        if run is not None:
            lasts[0] = np.where(np.isfinite(run.time_s), run.time_s, MINUTE_S)
        lasts[1] = self.climb_s
        return lasts

    @cached_property
    def heat(self) -> Temperatures:
        """The temperatures at the end of each moment."""
        return temperatures(self.thermal, self.flows, self.limits, self.lasts_s, timed=self.timed)

    def after_climb(self) -> dict[NodeId, Array]:
        """Return each node's temperature at the end of the climb, infinite where it is burnt."""
        reached = after(self.thermal, pick(self.flows, 1), self.climb_s)
        return {node: self.limits.or_burnt(node, reached[node]) for node in NODES}


def results_of(compiled: CompiledBuild, *, fine: bool = True, timed: bool = True) -> Results:
    """Return moments and temperatures of a drive, or of drives that vary one build.

    `fine` is that of `moments_of`, `timed` that of `temperatures`.
    """
    moments = moments_of(compiled.settings, compiled.drive, fine=fine)
    return _with_heat(compiled, moments, timed)


def searched_results(compiled: CompiledBuild, *, timed: bool) -> Results:
    """Return what limits ask of many drives that need not be alike; see `searched_moments`."""
    moments = searched_moments(compiled.settings, compiled.drive, timed=timed)
    return _with_heat(compiled, moments, timed=False)


def steady_results(compiled: CompiledBuild) -> Results:
    """Return what can be told of many drives without a search; see `steady_moments`."""
    return _with_heat(compiled, steady_moments(compiled.settings, compiled.drive), timed=False)


def wheels_up_results(compiled: CompiledBuild) -> Results:
    """Return the wheels in the air alone, for limits to which nothing else matters."""
    return _with_heat(compiled, wheels_up_moments(compiled.settings, compiled.drive), timed=False)


def first_of(compiled: CompiledBuild, many: Results) -> Results:
    """Return the results of the first of many drives, with all its times and a fine launch."""
    moments = pick(many.moments, 0)
    run = moments.launch_run
    if run is not None:
        run = launch(compiled.drive, moments.targets.launch_to_mps)
    # The hills are those of the first drive alone, and have no drives to pick from.
    moments = replace(moments, launch_run=run, tops=many.moments.tops)
    return _with_heat(compiled, moments, timed=True)


def _with_heat(compiled: CompiledBuild, moments: MomentStates, timed: bool) -> Results:
    flows = stacked([flows_of(compiled.drive, moment.state) for moment in moments.all()])
    climb_s = hill_s(compiled.settings.climb_length_m, moments)
    return Results(moments, flows, climb_s, compiled.thermal, compiled.limits, timed)


def hill_s(length_m: float | None, moments: MomentStates) -> Array:
    """Return how long the climb lasts: to the top of the hill, a minute where its length is open.

    A drive that can't move on the hill stands on it for a minute.
    """
    speed_mps = moments.climb.state.speed_mps
    if length_m is None:
        return np.full(np.shape(speed_mps), MINUTE_S)
    with np.errstate(divide="ignore"):
        return np.where(speed_mps > 0, length_m / speed_mps, MINUTE_S)


def most_amps(moments: MomentStates) -> tuple[Array, Array]:
    """Return the most pack and motor amps: at full throttle up to top speed, climbing or riding."""
    states = [moment.state for moment in (moments.climb, moments.cruise, moments.top_speed)]
    pack_a = greatest(moments.peaks.battery_a, *(state.battery_current_a for state in states))
    motor_a = greatest(moments.peaks.motor_a, *(state.motor_current_a for state in states))
    return pack_a, motor_a


def figures_of(compiled: CompiledBuild, results: Results) -> dict[FigureId, Array]:
    """Return the figures of a drive, or of many.

    Peak amps are the greatest at full throttle from rest to top speed, on the climb and at cruise;
    temperatures those of winding and case at the end of the climb.
    """
    moments, run = results.moments, results.moments.launch_run
    pack_a, motor_a = most_amps(moments)
    air = in_air(compiled.drive)
    own: dict[FigureId, Array]
    if air is None:
        own = {
            "climb_kmh": kmh_from_mps(moments.climb_top.speed_mps),
            "launch_s": scalar(np.inf) if run is None else run.time_s,
        }
    else:
        own = _in_air(compiled, moments, air)
    return {
        "top_speed_kmh": kmh_from_mps(moments.top_speed.state.speed_mps),
        **own,
        "range_km": range_km(compiled.drive, compiled.settings.usable, moments.cruise.state),
        "pack_peak_a": pack_a,
        "motor_peak_a": motor_a,
        "winding_c": results.heat.winding.after_c[1],
        "case_c": results.heat.case.after_c[1],
    }


def _in_air(compiled: CompiledBuild, moments: MomentStates, air: InAir) -> dict[FigureId, Array]:
    """Return the figures of a craft: standing, its best climb, and how long it stays up."""
    standing = moments.launch.state
    turns = standing.output_rad_s / (2 * np.pi)
    hours = hours_left(compiled.drive, compiled.settings.usable, moments.cruise.state)
    return {
        "thrust_to_weight": standing.force_n / air.load.craft.weight_n,
        "pitch_speed_kmh": kmh_from_mps(turns * air.load.blades.pitch_m),
        "climb_ms": climb_ms(compiled.settings, air, moments),
        "endurance_min": 60 * hours,
    }
