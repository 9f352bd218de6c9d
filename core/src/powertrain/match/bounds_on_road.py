"""What rules out a gearing before it is solved: teeth, ground, the way a motor is mounted."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from powertrain.arrays import Array, filled, scalar
from powertrain.compile.build import CompiledBuild
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.load.traction import Grip
from powertrain.match.bounds import stretches, too_weak
from powertrain.match.groups import PartSets
from powertrain.match.last import Intervals, Mask, Places
from powertrain.match.options import Options
from powertrain.match.wish import OfDrive
from powertrain.operating.free import held
from powertrain.operating.full_throttle import full_throttle
from powertrain.stated import Stated
from powertrain.verdicts.rule import exceeds


@dataclass(frozen=True)
class GearingBounds:
    """What rules out gearings, by the parts alone; see `powertrain.match.last.Bounds`."""

    brief: Brief
    options: Options
    wishes: Sequence[OfDrive]

    def refused(self) -> Iterator[tuple[str, Mask]]:
        """Yield gearings that can't be made, hit the ground, or are too weak for any motor."""
        gearings = self.options.gearings
        yield "stage_teeth", ~gearings.possible
        yield "ground_clearance", ~gearings.clears
        yield "tooth_load", too_weak(self.brief, self.options, self.wishes)

    def motors_refused(self) -> tuple[str, Mask]:
        """Return none: a hub motor takes the gearing that is none."""
        return "hub_motor", np.zeros(len(self.options.motors), bool)

    def intervals(self, trios: PartSets, level: CompiledBuild, places: Places) -> Intervals:
        """Return which stretches of the gearings each trio, geared one to one, can use at all."""
        return stretches(self.brief, self.options, trios, level, places, self.wishes)

    def of_candidates(
        self, trios: PartSets, row: Places, place: Places
    ) -> Iterator[tuple[str, Mask]]:
        """Yield whose kind fits, and whose teeth stand a full-throttle start."""
        gearings = self.options.gearings
        if self.brief.owned.gearing is None:
            hub = self._hub[trios.motor[row]]
            yield "hub_motor", np.asarray(hub == (gearings.stages[place] == 0))
        start_nm = self._start_nm(trios, row, place)
        yield "tooth_load", ~exceeds(start_nm, gearings.carries_nm[place])

    @cached_property
    def _hub(self) -> Mask:
        return np.array([option.mounts == "hub" for option in self.options.motors])

    @cached_property
    def _grip(self) -> Grip:
        return Grip.of(Stated(self.brief.vehicle))

    def _start_nm(self, trios: PartSets, row: Places, place: Places) -> Array:
        """Return the torque of all shafts together at a full-throttle start.

        Standing still it is that of motor, controller and pack alone, or what the tyres hold.
        """
        nothing = self.options.gearings.none(len(trios))
        alone = held(Drive.of(trios.stated(self.brief, np.arange(len(trios)), nothing)))
        start = full_throttle(alone, scalar(0.0)).shaft_torque_nm * alone.motor.count
        torque_nm: Array = filled(start, (len(trios),))[row]
        if not self._grip.known:
            return torque_nm
        columns, road = self.options.gearings.columns(place), alone.wheels.road
        own_kg = filled(road.mass_kg, (len(trios),))[row]
        laden = replace(road, mass_kg=own_kg + columns.mass_kg)
        still = scalar(0.0)
        holds_n = self._grip.greatest_force_n(laden.weight_n, still, laden.rolling_n(still))
        held_nm = holds_n * alone.wheels.radius_m / (columns.ratio * columns.efficiency)
        return np.minimum(torque_nm, held_nm)
