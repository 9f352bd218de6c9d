"""A build as it starts a run: its pack at that charge, its parts as warm as they are said to be."""

from dataclasses import replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.battery.open_circuit import OpenCircuit
from powertrain.by_then import cold_factor, warmed
from powertrain.compile.build import CompiledBuild
from powertrain.documents.build import Build
from powertrain.documents.run import RideStart
from powertrain.drive import fed
from powertrain.heat.limits import NODES
from powertrain.heat.parameters import Begins


def as_it_starts(build: Build, compiled: CompiledBuild, start: RideStart) -> CompiledBuild:
    """Return a build, or many that vary it, before a run.

    Only what is said changes anything: stated rest volts over charge, and stated temperatures.
    """
    drive, battery = compiled.drive, build.battery
    pack = drive.pack
    if battery.open_circuit is not None:
        points = sorted((point.soc_pct / 100, point.cell_v) for point in battery.open_circuit)
        curve = OpenCircuit.of_points(points, scalar(battery.series))
        pack = replace(pack, open_circuit_v=curve.volts(scalar(start.soc_pct / 100)))
    if start.pack_c is not None:
        times = cold_factor(battery).at(scalar(start.pack_c))
        cells = pack.cells_share
        pack = replace(pack, resistance_ohm=pack.resistance_ohm * (cells * times + 1.0 - cells))
    compiled = replace(compiled, drive=replace(drive, pack=pack))
    begins = Begins(**{key: _begins(compiled, start, key) for key in NODES})
    compiled = replace(compiled, thermal=replace(compiled.thermal, begins=begins))
    if start.winding_c is not None or start.case_c is not None:
        heat = compiled.thermal.motor
        winding = heat.resistance_at_c if start.winding_c is None else scalar(start.winding_c)
        case = heat.magnet_at_c if start.case_c is None else scalar(start.case_c)
        compiled = warmed(compiled, winding, case)
    motor = fed(compiled.drive.motor, compiled.drive.pack, compiled.drive.controller)
    return replace(compiled, drive=replace(compiled.drive, motor=motor))


def _begins(compiled: CompiledBuild, start: RideStart, node: str) -> Array:
    stated = getattr(start, f"{node}_c")
    return compiled.thermal.begins.of(node) if stated is None else np.asarray(float(stated))
