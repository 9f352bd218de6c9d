"""The series-wound DC motor: its field carries the armature's current, and its iron saturates.

``k(I) = k_sat I/(I + I_half)``, back-EMF ``k(I) w``, torque ``k(I) I`` less a constant loss torque.
Below saturation torque goes with the square of the current; free, only the losses keep the speed
finite. The saturation curve is Froelich's (from memory).
"""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.motor.fed import FedByController
from powertrain.motor.size import Make
from powertrain.motor.winding import Winding
from powertrain.stated import Stated

NEWTON_STEPS = 8
"""From where it begins, five reach the last digit of whatever motor, speed and power."""


@dataclass(frozen=True)
class SeriesWound(FedByController):
    """Constants of one motor; see `powertrain.motor.protocol.Motor` for the methods."""

    count: Array
    saturated_nm_per_a: Array
    half_saturation_a: Array
    resistance_ohm: Array
    brush_drop_v: Array
    drag_nm: Array
    inertia_kg_m2: Array

    @classmethod
    def of(cls, said: Stated) -> "SeriesWound":
        """Return the motor that a document describes."""
        return cls(
            count=said.number("count"),
            saturated_nm_per_a=said.number("saturated_constant_nm_per_a"),
            half_saturation_a=said.number("half_saturation_current_a"),
            resistance_ohm=said.number("resistance_ohm"),
            brush_drop_v=said.number("brush_drop_v", 0.0),
            drag_nm=said.number("loss_torque_nm"),
            inertia_kg_m2=said.number("rotor_inertia_kg_m2", 0.0),
        )

    @staticmethod
    def in_words(said: Stated) -> str:
        """Return the motor as a builder would say it."""
        return "series-wound"

    @staticmethod
    def make(said: Stated) -> Make:
        """Return how it is made, for what is usual of its size."""
        return "series_wound"

    @staticmethod
    def driven_by(said: Stated) -> str:
        """Return that it has brushes."""
        return "brushed"

    @staticmethod
    def loss_names() -> dict[str, str]:
        """Return what its losses are called."""
        return {"copper": "copper", "brush": "brushes", "turning": "turning"}

    def warmed(self, ohm_share: Array, flux_share: Array) -> "SeriesWound":
        """Return it with R times a share; it has no magnets."""
        return replace(self, resistance_ohm=self.resistance_ohm * ohm_share)

    @property
    def races_unloaded(self) -> bool:
        """Return True: with no load there is no field, and it turns ever faster."""
        return True

    @staticmethod
    def winding(said: Stated) -> Winding:
        """Return the winding by its saturated constant."""
        key = "saturated_constant_nm_per_a"
        constant = float(said.number(key))
        return Winding(constant, "N.m/A", f"motor.{key}", rises_with_speed=False)

    @staticmethod
    def resembling(volts: float, free_rad_s: float, per_root_w: float) -> dict[str, float]:
        """Return the constants of a motor that pulls alike at a third of its stall current."""
        constant = volts / free_rad_s
        ohm = (constant / per_root_w) ** 2
        stall_a = volts / ohm
        return {
            "saturated_constant_nm_per_a": 1.6 * constant,
            "half_saturation_current_a": 0.2 * stall_a,
            "resistance_ohm": ohm,
            "loss_torque_nm": 0.01 * constant * stall_a,
        }

    @staticmethod
    def rewound(said: Stated, share: float) -> dict[str, float | None]:
        """Return the constants of the same frame with armature and field turns over `share`."""
        return {
            "saturated_constant_nm_per_a": float(said.number("saturated_constant_nm_per_a"))
            / share,
            "half_saturation_current_a": float(said.number("half_saturation_current_a")) * share,
            "resistance_ohm": float(said.number("resistance_ohm")) / share**2,
        }

    @staticmethod
    def can_be_timed(said: Stated) -> bool:
        """Return False: its brushes stand where the maker set them."""
        return False

    @property
    def constant_nm_per_root_w(self) -> Array:
        """Return k/sqrt(R) once the iron is full."""
        return self.saturated_nm_per_a / np.sqrt(self.resistance_ohm)

    def constant_nm_per_a(self, current_a: Array) -> Array:
        """Return k(I) = k_sat I/(I + I_half)."""
        return self.saturated_nm_per_a * current_a / (current_a + self.half_saturation_a)

    def fastest_rad_s(self, source_v: Array) -> Array:
        """Return the free speed: where the current gives no more than the loss torque."""
        free_a = self.current_at_torque_a(scalar(0.0), scalar(0.0))
        return self.speed_at_voltage_rad_s(free_a, source_v)

    def free_rad_s(self, source_v: Array, series_ohm: Array) -> Array:
        """Return the speed at which the current of the loss torque takes all the volts."""
        free_a = self.current_at_torque_a(scalar(0.0), scalar(0.0))
        return self.speed_at_voltage_rad_s(free_a, source_v - free_a * series_ohm)

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k(I) w + I R + V_brush."""
        drop_v = current_a * self.resistance_ohm + np.sign(current_a) * self.brush_drop_v
        return self.constant_nm_per_a(current_a) * speed_rad_s + drop_v

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k(I) I - T_loss."""
        return self.constant_nm_per_a(current_a) * current_a - self.drag_nm

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return the positive root of k_sat I^2 = (T + T_loss)(I + I_half).

        Zero where the shaft should brake harder than its losses do: on its own a series motor
        does not brake.
        """
        need_nm = np.maximum(torque_nm + self.drag_nm, 0.0)
        k = self.saturated_nm_per_a
        return (need_nm + np.sqrt(need_nm * (need_nm + 4 * k * self.half_saturation_a))) / (2 * k)

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return the positive root of V = k(I) w + I (R + R_series) + V_brush."""
        ohm = self.resistance_ohm + series_ohm
        volts = np.maximum(source_v - self.brush_drop_v, 0.0)
        half_a = self.half_saturation_a
        linear = ohm * half_a + self.saturated_nm_per_a * speed_rad_s - volts
        root = np.sqrt(linear * linear + 4 * ohm * half_a * volts)
        with np.errstate(divide="ignore", invalid="ignore"):
            falling = 2 * volts * half_a / (linear + root)
        return np.where(linear > 0, falling, (root - linear) / (2 * ohm))

    def current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the root of I (k(I) w + I (R + R_series) + V_brush + V_series) = P.

        The left side is convex and rises, so Newton's steps from above fall onto the root. They
        begin where the first of its three parts takes the whole power by itself, the others
        left out: there the left side is three times the power at most.
        """
        ohm = self.resistance_ohm + series_ohm
        drop_v = self.brush_drop_v + series_v
        half_a, k = self.half_saturation_a, self.saturated_nm_per_a
        power_w = np.maximum(power_w, 0.0)
        turns_w = k * speed_rad_s
        with np.errstate(divide="ignore", invalid="ignore"):
            by_drop = np.where(drop_v > 0, power_w / drop_v, np.inf)
            root = np.sqrt(power_w * power_w + 4 * turns_w * power_w * half_a)
            by_turning = np.where(turns_w > 0, (power_w + root) / (2 * turns_w), np.inf)
        amps = np.minimum(np.sqrt(power_w / ohm), np.minimum(by_drop, by_turning))
        for _ in range(NEWTON_STEPS):
            with np.errstate(divide="ignore", invalid="ignore"):
                field = np.where(amps > 0, amps / (amps + half_a), 0.0)
            taken_w = amps * (k * field * speed_rad_s + amps * ohm + drop_v)
            rises = k * speed_rad_s * field * (2 - field) + 2 * amps * ohm + drop_v
            with np.errstate(divide="ignore", invalid="ignore"):
                step = np.where(rises > 0, (taken_w - power_w) / rises, 0.0)
            amps = np.maximum(amps - step, 0.0)
            if np.all(np.abs(step) <= 1e-14 * amps):
                break
        return amps

    def braking_current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return nought: on its own it does not brake."""
        return power_w * 0.0

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return (V - I R - V_brush)/k(I)."""
        drop_v = current_a * self.resistance_ohm + self.brush_drop_v
        with np.errstate(divide="ignore", invalid="ignore"):
            return (voltage_v - drop_v) / self.constant_nm_per_a(current_a)

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return I^2 R."""
        return current_a * current_a * self.resistance_ohm

    def brush_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return |I| V_brush."""
        return np.abs(current_a) * self.brush_drop_v

    def no_load_loss_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return T_loss w."""
        return self.drag_nm * speed_rad_s
