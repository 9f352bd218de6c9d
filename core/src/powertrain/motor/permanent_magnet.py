"""The permanent-magnet motor, brushed or brushless, by its DC-equivalent circuit.

Back-EMF ``k w`` behind a resistance, torque ``k I`` less a constant loss torque, with
``k = 60/(2 pi KV)``. Amps are DC-equivalent: the six-step line current of a brushless motor.
Source: the separately excited DC machine with constant flux, e.g. Chapman, Electric Machinery
Fundamentals 4e, ch. 9 (from memory).
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.motor import PermanentMagnetMotor
from powertrain.units import torque_constant_nm_per_a


@dataclass(frozen=True)
class PermanentMagnet:
    """Constants of one motor; see `powertrain.motor.protocol.Motor` for the methods."""

    count: Array
    constant_nm_per_a: Array
    resistance_ohm: Array
    no_load_current_a: Array
    brush_drop_v: Array
    inertia_kg_m2: Array

    @classmethod
    def of(cls, motor: PermanentMagnetMotor) -> "PermanentMagnet":
        """Return the motor that a document describes."""
        return cls(
            count=scalar(motor.count),
            constant_nm_per_a=scalar(torque_constant_nm_per_a(motor.kv_rpm_per_v)),
            resistance_ohm=scalar(motor.resistance_ohm),
            no_load_current_a=scalar(motor.no_load_current_a),
            brush_drop_v=scalar(motor.brush_drop_v or 0.0),
            inertia_kg_m2=scalar(motor.rotor_inertia_kg_m2 or 0.0),
        )

    def loss_torque_nm(self) -> Array:
        """Return k I0: what iron, bearings and brushes take from the shaft."""
        return self.constant_nm_per_a * self.no_load_current_a

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k w + I R + V_brush, the brush drop opposing whichever way the current flows."""
        drop_v = current_a * self.resistance_ohm + np.sign(current_a) * self.brush_drop_v
        return self.constant_nm_per_a * speed_rad_s + drop_v

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k (I - I0)."""
        return self.constant_nm_per_a * (current_a - self.no_load_current_a)

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return T/k + I0."""
        return torque_nm / self.constant_nm_per_a + self.no_load_current_a

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return (V - k w - V_brush)/(R + R_series), negative above the free speed."""
        driving_v = source_v - self.constant_nm_per_a * speed_rad_s - self.brush_drop_v
        return driving_v / (self.resistance_ohm + series_ohm)

    def current_at_power_a(self, speed_rad_s: Array, power_w: Array, series_ohm: Array) -> Array:
        """Return the positive root of I^2 (R + R_series) + I (k w + V_brush) = P."""
        ohm = self.resistance_ohm + series_ohm
        emf_v = self.constant_nm_per_a * speed_rad_s + self.brush_drop_v
        root = np.sqrt(emf_v * emf_v + 4 * ohm * np.maximum(power_w, 0.0))
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.where(power_w > 0, 2 * power_w / (emf_v + root), 0.0)

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return (V - I R - V_brush)/k, negative where the voltage can't drive that current."""
        drop_v = current_a * self.resistance_ohm + self.brush_drop_v
        return (voltage_v - drop_v) / self.constant_nm_per_a

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return I^2 R."""
        return current_a * current_a * self.resistance_ohm

    def brush_heat_w(self, current_a: Array) -> Array:
        """Return |I| V_brush."""
        return np.abs(current_a) * self.brush_drop_v

    def turning_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k I0 w."""
        return self.loss_torque_nm() * speed_rad_s
