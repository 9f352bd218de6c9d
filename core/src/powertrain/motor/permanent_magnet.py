"""The permanent-magnet motor, brushed or brushless, by its DC-equivalent circuit.

Back-EMF ``k w`` behind a resistance, torque ``k I`` less a loss torque, with
``k = 60/(2 pi KV)``. The loss torque is ``k I0``; a second no-load run splits it into a constant
part and one that grows with speed. Amps are DC-equivalent: the six-step line current of a
brushless motor.
Source: the separately excited DC machine with constant flux, e.g. Chapman, Electric Machinery
Fundamentals 4e, ch. 9 (from memory).
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, is_nought, scalar, scalar_or
from powertrain.constants import RPM_PER_RAD_S
from powertrain.documents.motor import PermanentMagnetMotor
from powertrain.motor.fed import FedByController
from powertrain.motor.size import Make
from powertrain.motor.winding import Winding
from powertrain.units import torque_constant_nm_per_a

KV_PER_DEGREE = 0.005
"""Share of KV that a degree of timing adds; common practice, no source."""


@dataclass(frozen=True)
class PermanentMagnet(FedByController):
    """Constants of one motor; see `powertrain.motor.protocol.Motor` for the methods."""

    count: Array
    constant_nm_per_a: Array
    resistance_ohm: Array
    no_load_current_a: Array
    brush_drop_v: Array
    inertia_kg_m2: Array
    loss_slope_a_s: Array
    """Amps of no-load current that each rad/s adds; `no_load_current_a` is then that at rest."""

    @classmethod
    def of(cls, motor: PermanentMagnetMotor) -> "PermanentMagnet":
        """Return the motor that a document describes."""
        constant = scalar(torque_constant_nm_per_a(motor.kv_rpm_per_v))
        at_rest_a, slope_a_s = _free_runs(motor, constant)
        return cls(
            count=scalar(motor.count),
            constant_nm_per_a=constant,
            resistance_ohm=scalar(motor.resistance_ohm),
            no_load_current_a=at_rest_a,
            brush_drop_v=scalar_or(motor.brush_drop_v, 0.0),
            inertia_kg_m2=scalar_or(motor.rotor_inertia_kg_m2, 0.0),
            loss_slope_a_s=slope_a_s,
        )

    @staticmethod
    def in_words(motor: PermanentMagnetMotor) -> str:
        """Return the motor as a builder would say it."""
        return f"{motor.kv_rpm_per_v:g} KV {motor.commutation}"

    @staticmethod
    def make(motor: PermanentMagnetMotor) -> Make:
        """Return how it is made, for what is usual of its size."""
        return "brushed" if motor.commutation == "brushed" else "brushless"

    @staticmethod
    def loss_names(motor: PermanentMagnetMotor) -> dict[str, str]:
        """Return what its losses are called."""
        return {"copper": "copper", "brush": "brushes", "turning": "iron and bearings"}

    @staticmethod
    def winding(motor: PermanentMagnetMotor) -> Winding:
        """Return the winding by its KV."""
        return Winding(motor.kv_rpm_per_v, "KV", "motor.kv_rpm_per_v")

    @staticmethod
    def resembling(volts: float, free_rad_s: float, per_root_w: float) -> dict[str, float]:
        """Return the constants of a motor with that free speed and that much copper."""
        constant = volts / free_rad_s
        ohm = (constant / per_root_w) ** 2
        return {
            "kv_rpm_per_v": RPM_PER_RAD_S / constant,
            "resistance_ohm": ohm,
            "no_load_current_a": 0.01 * volts / ohm,
        }

    @staticmethod
    def rewound(motor: PermanentMagnetMotor, share: float) -> dict[str, float | None]:
        """Return the constants of the same can with KV times `share`.

        With fewer turns of thicker wire KV rises, resistance falls as 1/KV^2 and the no-load
        current rises as KV: the copper in the slots stays what it was.
        """
        return {
            "kv_rpm_per_v": motor.kv_rpm_per_v * share,
            "resistance_ohm": motor.resistance_ohm / share**2,
            **_free_currents(motor, share),
            **{
                key: _times(getattr(motor, key), 1 / share)
                for key in ("no_load_voltage_v", "second_no_load_voltage_v")
            },
        }

    @staticmethod
    def advanced(motor: PermanentMagnetMotor, degrees: float) -> dict[str, float | None] | None:
        """Return the constants with the timing moved by `degrees`; an estimate.

        KV up about 0.5 % for each degree, no-load current by the square of the KV ratio (common
        practice, no source). None for a brushed motor, whose brushes are set by its maker.
        """
        if motor.commutation == "brushed":
            return None
        share = 1 + KV_PER_DEGREE * degrees
        return {"kv_rpm_per_v": motor.kv_rpm_per_v * share, **_free_currents(motor, share**2)}

    @property
    def constant_nm_per_root_w(self) -> Array:
        """Return k/sqrt(R)."""
        return self.constant_nm_per_a / np.sqrt(self.resistance_ohm)

    def fastest_rad_s(self, source_v: Array) -> Array:
        """Return the speed at which the back-EMF leaves no volts to drive a current."""
        return self.speed_at_voltage_rad_s(scalar(0.0), source_v)

    def free_rad_s(self, source_v: Array, series_ohm: Array) -> Array:
        """Return (V - V_brush - I0 R)/(k + R dI0/dw), R with the path's."""
        ohm = self.resistance_ohm + series_ohm
        driving_v = source_v - self.brush_drop_v - self.no_load_current_a * ohm
        return driving_v / (self.constant_nm_per_a + self.loss_slope_a_s * ohm)

    def loss_current_a(self, speed_rad_s: Array) -> Array:
        """Return the amps that iron, bearings and brushes take at a speed."""
        if is_nought(self.loss_slope_a_s):
            return self.no_load_current_a
        return self.no_load_current_a + self.loss_slope_a_s * speed_rad_s

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k w + I R + V_brush, the brush drop opposing whichever way the current flows."""
        volts = self.constant_nm_per_a * speed_rad_s + current_a * self.resistance_ohm
        if is_nought(self.brush_drop_v):
            return volts
        return volts + np.sign(current_a) * self.brush_drop_v

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k (I - I0)."""
        return self.constant_nm_per_a * (current_a - self.loss_current_a(speed_rad_s))

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return T/k + I0."""
        return torque_nm / self.constant_nm_per_a + self.loss_current_a(speed_rad_s)

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return (V - k w - V_brush)/(R + R_series), negative above the free speed."""
        driving_v = source_v - self.constant_nm_per_a * speed_rad_s - self.brush_drop_v
        return driving_v / (self.resistance_ohm + series_ohm)

    def current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the positive root of I^2 (R + R_series) + I (k w + V_brush + V_series) = P."""
        ohm = self.resistance_ohm + series_ohm
        emf_v = self.constant_nm_per_a * speed_rad_s + (self.brush_drop_v + series_v)
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

    def brush_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return |I| V_brush."""
        return np.abs(current_a) * self.brush_drop_v

    def turning_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k I0 w."""
        return self.constant_nm_per_a * self.loss_current_a(speed_rad_s) * speed_rad_s


def _free_currents(motor: PermanentMagnetMotor, share: float) -> dict[str, float | None]:
    keys = ("no_load_current_a", "second_no_load_current_a")
    return {key: _times(getattr(motor, key), share) for key in keys}


def _times(value: float | None, share: float) -> float | None:
    return None if value is None else value * share


def _free_runs(motor: PermanentMagnetMotor, constant: Array) -> tuple[Array, Array]:
    """Return the no-load current at rest and what each rad/s adds, from one or two free runs."""
    amps, more_a = motor.no_load_current_a, motor.second_no_load_current_a
    volts, more_v = motor.no_load_voltage_v, motor.second_no_load_voltage_v
    if volts is None or more_v is None or more_a is None:
        return scalar(amps), scalar(0.0)
    speed = (volts - amps * motor.resistance_ohm) / constant
    more_speed = (more_v - more_a * motor.resistance_ohm) / constant
    slope = (more_a - amps) / (more_speed - speed)
    return scalar(amps) - slope * speed, slope
