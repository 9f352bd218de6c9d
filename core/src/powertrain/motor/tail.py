"""A motor with something on its second shaft end, or on a belt from its shaft."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array
from powertrain.auxiliaries import Auxiliaries
from powertrain.motor.protocol import Motor
from powertrain.motor.timing import Timing


@dataclass(frozen=True)
class WithTail:
    """A motor whose shaft gives less by what `auxiliaries` take; see `Motor` for the methods.

    Amps, volts and heat are the motor's own; only torque is what is left at the output end.
    """

    bare: Motor
    auxiliaries: Auxiliaries

    def _taken_nm(self, speed_rad_s: Array) -> Array:
        return self.auxiliaries.shaft_nm(speed_rad_s) / self.bare.count

    def _with(self, bare: Motor) -> "WithTail":
        return self if bare is self.bare else replace(self, bare=bare)

    @property
    def count(self) -> Array:
        """Return how many share the load."""
        return self.bare.count

    @property
    def inertia_kg_m2(self) -> Array:
        """Return the rotor's."""
        return self.bare.inertia_kg_m2

    @property
    def has_inverter(self) -> bool:
        """Return the motor's own."""
        return self.bare.has_inverter

    @property
    def races_unloaded(self) -> bool:
        """Return the motor's own: a belt comes off."""
        return self.bare.races_unloaded

    @property
    def own_current_limit_a(self) -> Array:
        """Return the motor's own."""
        return self.bare.own_current_limit_a

    @property
    def base_speed_rad_s(self) -> Array:
        """Return the motor's own."""
        return self.bare.base_speed_rad_s

    @property
    def constant_nm_per_root_w(self) -> Array:
        """Return the motor's own."""
        return self.bare.constant_nm_per_root_w

    def timed(self, timing: Timing) -> "WithTail":
        """Return it with timing advance."""
        return self._with(self.bare.timed(timing))

    def wide_open(self) -> "WithTail":
        """Return it as full throttle has it."""
        return self._with(self.bare.wide_open())

    def fed_by(self, open_circuit_v: Array, source_ohm: Array) -> "WithTail":
        """Return it on a pack."""
        return self._with(self.bare.fed_by(open_circuit_v, source_ohm))

    def warmed(self, ohm_share: Array, flux_share: Array) -> "WithTail":
        """Return it warm."""
        return self._with(self.bare.warmed(ohm_share, flux_share))

    def fastest_rad_s(self, source_v: Array) -> Array:
        """Return the bare motor's, above which it does not push either."""
        return self.bare.fastest_rad_s(source_v)

    def free_rad_s(self, source_v: Array, series_ohm: Array) -> Array:
        """Return NaN: the tail still loads it, and no formula has where."""
        return self.bare.free_rad_s(source_v, series_ohm) * np.nan

    def corners_rad_s(self) -> tuple[Array, ...]:
        """Return the motor's own."""
        return self.bare.corners_rad_s()

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the motor's own."""
        return self.bare.voltage_v(speed_rad_s, current_a)

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return what is left at the output end."""
        return self.bare.shaft_torque_nm(speed_rad_s, current_a) - self._taken_nm(speed_rad_s)

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return the amps that leave `torque_nm` at the output end."""
        return self.bare.current_at_torque_a(speed_rad_s, torque_nm + self._taken_nm(speed_rad_s))

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return the motor's own."""
        return self.bare.current_at_voltage_a(speed_rad_s, source_v, series_ohm)

    def current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the motor's own."""
        return self.bare.current_at_power_a(speed_rad_s, power_w, series_ohm, series_v)

    def braking_current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the motor's own."""
        return self.bare.braking_current_at_power_a(speed_rad_s, power_w, series_ohm, series_v)

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return the motor's own."""
        return self.bare.speed_at_voltage_rad_s(current_a, voltage_v)

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return the motor's own."""
        return self.bare.copper_heat_w(current_a)

    def brush_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the motor's own."""
        return self.bare.brush_heat_w(speed_rad_s, current_a)

    def no_load_loss_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the motor's own; what the tail takes is not its heat."""
        return self.bare.no_load_loss_w(speed_rad_s, current_a)
