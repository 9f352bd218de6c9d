"""The pack as an electromotive force behind a resistance."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.stated import Stated


@dataclass(frozen=True)
class Pack:
    """A pack of S cells in series and P in parallel, with its leads."""

    open_circuit_v: Array
    resistance_ohm: Array
    charger_v: Array
    nominal_v: Array
    capacity_ah: Array
    cells_share: Array
    """Part of the resistance that lies in the cells; the rest is in leads and connectors."""
    charge_a: Array
    """The most that may flow in; nought where cells are full, infinite where nothing is known."""

    @classmethod
    def of(cls, battery: Stated) -> "Pack":
        """Return the pack that a document describes: R_p = (S/P) R_cell + R_wiring."""
        series, parallel = battery.number("series"), battery.number("parallel")
        cells_ohm = series / parallel * battery.number("cell_resistance_mohm") / 1000
        all_ohm = cells_ohm + battery.number("wiring_resistance_mohm") / 1000
        cell = CHEMISTRIES[battery.word("chemistry")]
        return cls(
            open_circuit_v=series * battery.number("cell_voltage_v"),
            resistance_ohm=all_ohm,
            charger_v=series * cell.charger_v,
            nominal_v=series * cell.nominal_v,
            capacity_ah=parallel * battery.number("cell_capacity_ah"),
            charge_a=_charge_a(battery),
            cells_share=np.where(all_ohm > 0, cells_ohm / np.maximum(all_ohm, 1e-300), 1.0),
        )

    def straight_off_the_charger(self) -> "Pack":
        """Return the same pack at the volts at which charging ends."""
        return replace(self, open_circuit_v=self.charger_v, charge_a=scalar(0.0))

    def voltage_v(self, current_a: Array) -> Array:
        """Return the terminal voltage V_oc - I R_p."""
        return self.open_circuit_v - current_a * self.resistance_ohm

    def power_w(self, current_a: Array, standby_a: Array) -> Array:
        """Return what is left for the motors at `current_a`: V_b (I_b - I_standby)."""
        return self.voltage_v(current_a) * (current_a - standby_a)

    def current_at_power_a(self, power_w: Array, standby_a: Array) -> Array:
        """Return the pack current that gives `power_w` to the motors beside the standby current.

        The smaller root of ``(V_oc - I R_p)(I - I_standby) = P``, in the form that stays exact
        as R_p goes to zero. Beyond the greatest power the pack can give, the current of that
        greatest power; callers that may be there check with `greatest_power_w`.
        """
        reachable_w = np.minimum(power_w, self.greatest_power_w(standby_a))
        return self.current_at_reachable_power_a(reachable_w, standby_a)

    def current_at_reachable_power_a(self, power_w: Array, standby_a: Array) -> Array:
        """Return the pack current at a power that is known to be within the greatest."""
        volts = self.open_circuit_v - standby_a * self.resistance_ohm
        root = np.sqrt(np.maximum(volts * volts - 4 * self.resistance_ohm * power_w, 0.0))
        return standby_a + 2 * power_w / (volts + root)

    def current_at_greatest_power_a(self, standby_a: Array) -> Array:
        """Return the pack current at which it gives most to the motors: V/(2 R_p), standby beside.

        Beyond it more amps give less; infinite for a pack without resistance.
        """
        volts = self.open_circuit_v - standby_a * self.resistance_ohm
        with np.errstate(divide="ignore", invalid="ignore"):
            most = standby_a + volts / (2 * self.resistance_ohm)
        return np.where(self.resistance_ohm > 0, most, np.inf)

    def greatest_power_w(self, standby_a: Array) -> Array:
        """Return the greatest power the pack can give to the motors: V^2/(4 R_p)."""
        volts = self.open_circuit_v - standby_a * self.resistance_ohm
        with np.errstate(divide="ignore"):
            return np.where(volts > 0, volts * volts / (4 * self.resistance_ohm), 0.0)


def _charge_a(battery: Stated) -> Array:
    full = battery.number("cell_voltage_v") >= CHEMISTRIES[battery.word("chemistry")].full_v
    return np.where(full, 0.0, battery.number("charge_current_a", np.inf))
