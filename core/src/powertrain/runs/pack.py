"""The pack of a build as it is by then: volts over charge, resistance and charge when cold."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.battery.cold import CAPACITY, Along
from powertrain.battery.open_circuit import USUAL, OpenCircuit
from powertrain.battery.pack import Pack
from powertrain.by_then import cold_factor
from powertrain.compile.build import CompiledBuild
from powertrain.stated import Stated

PEUKERT_HOURS = 20.0
"""Hours over which a lead-acid pack's amp-hours are stated (IEC 61056)."""


@dataclass(frozen=True)
class PackInTime:
    """What changes of a pack while it is used."""

    volts: OpenCircuit
    resistance: Along
    capacity: Along
    capacity_ah: Array
    """Of the pack as it is now, warm."""
    peukert: Array
    charge_a: Array
    """What may flow in, whatever the charge."""
    charger_v: Array
    cut_off_v: Array
    recovers_v: Array
    """Volts at which a controller gives again after a cut-off; infinite where it never does."""

    @classmethod
    def of(cls, said: Stated, compiled: CompiledBuild, soc: float) -> "PackInTime":
        """Return the pack of a build whose stated volts are those at a share of charge."""
        battery, controller = said.under("battery"), said.under("controller")
        chemistry = battery.word("chemistry")
        pack = compiled.drive.pack
        share = battery.number("capacity_share", 1.0)
        return cls(
            volts=_volts(battery, soc),
            resistance=cold_factor(battery.part),
            capacity=Along(CAPACITY[chemistry]),
            capacity_ah=pack.capacity_ah * share,
            peukert=battery.number("peukert", 1.0),
            charge_a=battery.number("charge_current_a", np.inf),
            charger_v=pack.charger_v,
            cut_off_v=compiled.ratings.pack.cut_off_v,
            recovers_v=controller.number("cut_off_recovers_v", np.inf),
        )

    def at(self, pack: Pack, charge: Array, pack_c: Array) -> Pack:
        """Return the pack at a charge and a temperature."""
        times = self.resistance.at(pack_c)
        leads = 1.0 - pack.cells_share
        return replace(
            pack,
            open_circuit_v=self.volts.volts(charge),
            resistance_ohm=pack.resistance_ohm * (pack.cells_share * times + leads),
            charge_a=self.charge_a,
        )

    def charge_after(self, charge: Array, amps: Array, pack_c: Array, seconds: Array) -> Array:
        """Return the charge after some amps of the terminals have flowed."""
        capacity = self.capacity_ah * self.capacity.at(pack_c)
        slow_a = self.capacity_ah / PEUKERT_HOURS
        # Beyond the amps of its twenty hours a pack gives less; slower it gives what it states.
        times = np.maximum(np.abs(amps) / slow_a, 1.0) ** (self.peukert - 1.0)
        drawn = np.where(amps > 0, amps * times, amps)
        after = charge - drawn * seconds / (capacity * 3600.0)
        return np.minimum(np.maximum(after, 0.0), 1.0)


def _volts(battery: Stated, soc: float) -> OpenCircuit:
    """Return the pack's rest volts over charge.

    As stated; else the chemistry's usual curve, moved so that it goes through the stated volts at
    the charge at the start.
    """
    series = battery.number("series")
    points = battery.word("open_circuit")
    if points is not None:
        ordered = sorted((point.soc_pct / 100, point.cell_v) for point in points)
        return OpenCircuit.of_points(ordered, series)
    usual = OpenCircuit.of_points(USUAL[battery.word("chemistry")], scalar(1.0))
    moved = battery.number("cell_voltage_v") - usual.volts(scalar(soc))
    return OpenCircuit(usual.at, tuple((volts + moved) * series for volts in usual.at_v))
