"""A build as it is at another time than now: its pack full, or at the end of a trip, parts warm.

Rest volts are those of the stated points or of the chemistry's usual curve at that charge, cells as
cold or warm as they are by then; copper and magnets follow their temperatures. At the end of a trip
parts are as warm as the cruise has made them that used up the charge.
"""

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.battery.cold import RESISTANCE, Along
from powertrain.battery.open_circuit import USUAL, OpenCircuit
from powertrain.compile.build import CompiledBuild
from powertrain.documents.battery import Battery
from powertrain.documents.build import Build
from powertrain.drive import fed
from powertrain.heat.limits import NODES, NodeId
from powertrain.heat.nodes import COPPER_PER_K
from powertrain.heat.parameters import Begins
from powertrain.heat.temperatures import MOST_WEAKENED, after, flows_of
from powertrain.operating.distance import hours_left
from powertrain.operating.moment import MomentStates
from powertrain.units import kmh_from_mps

When = Literal["now", "full", "end"]

LONGEST_H = 24.0
"""A trip is taken to last no longer; by then parts are as warm as they get."""


@dataclass(frozen=True)
class Then:
    """How a build stands at another time: charge as a share, and each node's temperature.

    Launch and cruise are looked at where they are now: not at shares of a lower top speed.
    """

    charge: float
    warm_c: dict[NodeId, float]
    launch_to_kmh: float
    cruise_kmh: float


def then_of(build: Build, compiled: CompiledBuild, moments: MomentStates, when: When) -> Then:
    """Return how a build stands full, or at the end of the trip that its document reckons with."""
    targets = moments.targets
    asked = float(kmh_from_mps(targets.launch_to_mps)), float(kmh_from_mps(targets.cruise_mps))
    if when != "end":
        begins = compiled.thermal.begins
        return Then(1.0, {key: float(begins.of(key)) for key in NODES}, *asked)
    cruise, usable = moments.cruise.state, compiled.settings.usable
    hours = np.minimum(hours_left(compiled.drive, usable, cruise), LONGEST_H)
    flows = flows_of(compiled.drive, cruise)
    reached = after(compiled.thermal, flows, np.maximum(hours, 1e-3) * 3600.0)
    limits = compiled.limits
    # A trip that would burn a part is judged as that; nobody rides on with a burnt one.
    warm = {key: float(np.minimum(reached[key], limits.of(key))) for key in NODES}
    return Then(usable.to_pct / 100, warm, *asked)


def by_then(build: Build, compiled: CompiledBuild, then: Then | None) -> CompiledBuild:
    """Return a build, or many that vary it, as it stands by then; as it is now for None."""
    if then is None:
        return compiled
    drive = compiled.drive
    warm = {key: scalar(value) for key, value in then.warm_c.items()}
    pack, cells = drive.pack, drive.pack.cells_share
    times = cold_factor(build.battery).at(warm["pack"])
    # A meter that is off now is off then: rest volts are as doubtful as they are stated.
    stated_v = pack.charger_v / CHEMISTRIES[build.battery.chemistry].charger_v
    off = pack.open_circuit_v / (stated_v * build.battery.cell_voltage_v)
    pack = replace(
        pack,
        open_circuit_v=rest_volts(build, compiled).volts(scalar(then.charge)) * off,
        resistance_ohm=pack.resistance_ohm * (cells * times + 1.0 - cells),
    )
    compiled = warmed(compiled, warm["winding"], warm["case"])
    motor = fed(compiled.drive.motor, pack, drive.controller)
    drive = replace(compiled.drive, pack=pack, motor=motor)
    thermal = replace(compiled.thermal, begins=Begins(**warm))
    settings = replace(
        compiled.settings, launch_to_kmh=then.launch_to_kmh, cruise_kmh=then.cruise_kmh
    )
    return replace(compiled, drive=drive, thermal=thermal, settings=settings)


def warmed(compiled: CompiledBuild, winding_c: Array, case_c: Array) -> CompiledBuild:
    """Return a build whose copper and magnets are at some temperatures.

    What is reckoned from there on takes them as they are.
    """
    heat = compiled.thermal.motor
    ohm = (1 + COPPER_PER_K * (winding_c - 20)) / (1 + COPPER_PER_K * (heat.resistance_at_c - 20))
    lost = np.minimum(heat.magnet_per_k * (case_c - heat.magnet_at_c), MOST_WEAKENED)
    motor = compiled.drive.motor.warmed(ohm, 1.0 - lost)
    heat = replace(heat, resistance_at_c=winding_c, magnet_at_c=case_c)
    thermal = replace(compiled.thermal, motor=heat)
    return replace(compiled, drive=replace(compiled.drive, motor=motor), thermal=thermal)


def rest_volts(build: Build, compiled: CompiledBuild) -> OpenCircuit:
    """Return a pack's rest volts over its charge, whatever they are now."""
    battery, pack = build.battery, compiled.drive.pack
    series: Array = pack.charger_v / CHEMISTRIES[battery.chemistry].charger_v
    if battery.open_circuit is not None:
        stated = sorted((point.soc_pct / 100, point.cell_v) for point in battery.open_circuit)
        return OpenCircuit.of_points(stated, series)
    return OpenCircuit.of_points(USUAL[battery.chemistry], series)


def cold_factor(battery: Battery) -> Along:
    """Return how many times its resistance a cell has at a temperature."""
    by_c = battery.resistance_by_c
    if by_c is None:
        return Along(RESISTANCE[battery.chemistry])
    return Along(tuple(sorted((point.c, point.factor) for point in by_c)))
