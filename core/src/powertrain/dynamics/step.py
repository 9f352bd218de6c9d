"""One step of a drive in time.

The speed in the middle of the step is found first, with the slope of the torque over the speed
taken into account (a linearly implicit midpoint; Hairer and Wanner, Solving Ordinary Differential
Equations II, sec. IV.7), so that a small motor on a long step does not swing. What the state there
leaves for speeding up is then put into the energy of motion, so that no watt is lost or made by the
step itself. Heat flows as it does in the middle of the step, and each node follows it exactly.
"""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, choose, with_axis
from powertrain.battery.open_circuit import OpenCircuit
from powertrain.compile.build import CompiledBuild
from powertrain.drive import Drive
from powertrain.dynamics.system_state import Demand, SystemState
from powertrain.heat.temperatures import after, flows_of
from powertrain.load.protocol import asked_nm
from powertrain.operating.full_throttle import FullThrottle, fastest_rad_s, output_nm
from powertrain.operating.part_throttle import at_throttle
from powertrain.operating.shorted import with_shorted
from powertrain.operating.state import State, state_at

SECONDS_PER_HOUR = 3600.0

NUDGE = 1e-4
"""Part of a speed by which it is moved to see how the torque changes, and rad/s at the least."""


SPEEDS_TRIED = 24
"""At so many speeds, from rest to the fastest, the torque's slope is looked at."""


def quickest_rate_per_s(drive: Drive) -> float:
    """Return how quickly a speed that is off comes back, the steepest of all drives and speeds.

    A step much longer than one over this swings about the speed at which the drive settles.
    """
    fastest = np.max(np.where(np.isfinite(fastest_rad_s(drive)), fastest_rad_s(drive), 0.0))
    wide = with_axis(drive)
    speeds = np.linspace(0.0, max(float(fastest), 1.0), SPEEDS_TRIED)
    slopes = np.diff(output_nm(wide, speeds)) / np.diff(speeds)
    return max(float(np.max(-slopes / wide.inertia_kg_m2)), 0.0)


@dataclass(frozen=True)
class Step:
    """Where a step ends, and the state in its middle, which stands for all of it.

    `held_w` is what holds it where it would roll back: a brake, or a foot on the ground.
    """

    ends: SystemState
    middle: State
    held_w: Array


def step(
    compiled: CompiledBuild,
    open_circuit: OpenCircuit,
    begins: SystemState,
    demand: Demand,
    seconds: Array,
) -> Step:
    """Return what a drive does for a short while.

    Parameters
    ----------
    compiled : CompiledBuild
        One build or many; everything broadcasts.
    open_circuit : OpenCircuit
        The pack's volts over its charge.
    seconds : array_like
        How long; a tenth of a second does for vehicles.
    """
    pack = compiled.drive.pack
    volts = open_circuit.volts(begins.charge)
    drive = replace(compiled.drive, pack=replace(pack, open_circuit_v=volts))
    begin_rad_s, situation = begins.output_rad_s, demand.situation

    def spare_nm(output_rad_s: Array) -> Array:
        output_nm = _at(drive, output_rad_s, demand).output_nm
        return output_nm - asked_nm(drive.load, output_rad_s, situation)

    nudge = NUDGE * np.maximum(begin_rad_s, 1.0)
    spare = spare_nm(begin_rad_s)
    slope = np.minimum((spare_nm(begin_rad_s + nudge) - spare) / nudge, 0.0)
    inertia = drive.inertia_kg_m2
    half_rad_s = 0.5 * seconds * spare / (inertia - 0.5 * seconds * slope)
    middle_rad_s = np.maximum(begin_rad_s + half_rad_s, 0.0)
    middle = _state(drive, middle_rad_s, demand)

    energy_j = 0.5 * inertia * begin_rad_s * begin_rad_s + middle.speeding_up_w * seconds
    end_rad_s = np.sqrt(2 * np.maximum(energy_j, 0.0) / inertia)
    given_c = pack.capacity_ah * SECONDS_PER_HOUR
    charge = begins.charge - middle.battery_current_a * seconds / given_c
    warm = after(compiled.thermal, flows_of(drive, middle), seconds, begins.temperatures_c())
    ends = SystemState(
        output_rad_s=end_rad_s,
        charge=np.minimum(np.maximum(charge, 0.0), 1.0),
        winding_c=warm["winding"],
        case_c=warm["case"],
        controller_c=warm["controller"],
        pack_c=warm["pack"],
    )
    # Motion can't be paid for with energy that is not there: then it stands before the end.
    return Step(ends, middle, np.maximum(-energy_j, 0.0) / seconds)


def _at(drive: Drive, output_rad_s: Array, demand: Demand) -> FullThrottle:
    at = at_throttle(drive, output_rad_s, demand.situation, demand.throttle)
    if demand.shorted is None:
        return at
    return with_shorted(drive, output_rad_s, at, demand.throttle, demand.shorted)


def _state(drive: Drive, output_rad_s: Array, demand: Demand) -> State:
    at = _at(drive, output_rad_s, demand)
    amps, pack_a = at.motor_current_a, at.battery_current_a
    whole = (output_rad_s, demand.situation, amps, pack_a, at.limited_by, at.gear)
    part, wide = state_at(drive, *whole), drive.wide_open()
    return part if wide is drive else choose(demand.throttle >= 1, state_at(wide, *whole), part)
