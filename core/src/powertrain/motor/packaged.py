"""A motor with its inverter, induction or magnets, by the envelope of its data sheet.

Torque up to the greatest one below the base speed, power constant from there to the speed at
which the inverter stops. As a DC-equivalent circuit: amps that the inverter never exceeds, and a
constant ``k`` that weakens as ``w_base/w`` above the base speed, which moves with the volts.
Losses go with torque squared (copper), speed (iron) and speed cubed (windage), or a flat
efficiency stands for all. The shape is that of field weakening in a constant-power range
(common practice; Chapman, Electric Machinery Fundamentals 4e, ch. 9; from memory).
"""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.constants import RPM_PER_RAD_S
from powertrain.motor.fed import braking_root
from powertrain.motor.own_inverter import OwnInverter
from powertrain.stated import Stated

USUAL_EFFICIENCY = 0.88
"""Motor and inverter where the document gives neither efficiency nor losses; common practice."""

STALL_LOSS = 0.04
"""Where no copper loss is stated: the watts that holding the greatest torque takes, at rest too, as
a share of the power at the base speed; common practice, no source (0.03 to 0.1)."""


@dataclass(frozen=True)
class InverterMotor(OwnInverter):
    """Constants of one motor; see `powertrain.motor.protocol.Motor` for the methods.

    The amps are DC-equivalent: as many as take the greatest power from the base volts.
    """

    constant_nm_per_a: Array
    peak_current_a: Array
    base_rad_s: Array
    base_v: Array
    efficiency: Array
    resistance_ohm: Array
    windage_nm_s2: Array
    holding_ohm: Array
    """What stands for an unknown copper loss: it counts where it is more than all others."""

    @classmethod
    def of(cls, said: Stated) -> "InverterMotor":
        """Return the motor that a document describes."""
        base_rad_s = said.number("base_rpm") / RPM_PER_RAD_S
        torque_nm = said.number("peak_torque_nm")
        losses = ("copper_loss_w", "iron_loss_w", "windage_loss_w")
        copper_w, iron_w, windage_w = (said.number(key, 0.0) for key in losses)
        stated = any(said.states(key) for key in losses)
        efficiency = scalar(1.0) if stated else said.number("efficiency", USUAL_EFFICIENCY)
        drag_nm, windage_nm_s2 = iron_w / base_rad_s, windage_w / base_rad_s**3
        inner_nm = torque_nm + drag_nm + windage_nm_s2 * base_rad_s**2
        taken_w = inner_nm * base_rad_s / efficiency + copper_w
        base_v = said.number("base_voltage_v")
        peak_a = taken_w / base_v
        return cls(
            count=said.number("count"),
            inertia_kg_m2=said.number("rotor_inertia_kg_m2", 0.0),
            constant_nm_per_a=inner_nm / peak_a,
            peak_current_a=peak_a,
            base_rad_s=base_rad_s,
            base_v=base_v,
            top_rad_s=said.number("top_rpm") / RPM_PER_RAD_S,
            efficiency=efficiency,
            resistance_ohm=copper_w / peak_a**2,
            drag_nm=drag_nm,
            windage_nm_s2=windage_nm_s2,
            holding_ohm=scalar(0.0)
            if said.states("copper_loss_w")
            else STALL_LOSS * inner_nm * base_rad_s / peak_a**2,
        )

    @staticmethod
    def in_words(said: Stated) -> str:
        """Return the motor as a builder would say it."""
        return f"{float(said.number('peak_torque_nm')):g} N.m with inverter"

    def warmed(self, ohm_share: Array, flux_share: Array) -> "InverterMotor":
        """Return it with the copper's part of its loss times a share."""
        return replace(self, resistance_ohm=self.resistance_ohm * ohm_share)

    @staticmethod
    def loss_names() -> dict[str, str]:
        """Return what its losses are called."""
        return {"copper": "copper", "brush": "motor and inverter", "turning": "turning"}

    @staticmethod
    def resembling(volts: float, free_rad_s: float, per_root_w: float) -> dict[str, float]:
        """Return the envelope of a motor about as strong: a third of the other's stall torque."""
        constant = volts / free_rad_s
        ohm = (constant / per_root_w) ** 2
        return {
            "peak_torque_nm": 0.33 * constant * volts / ohm,
            "base_rpm": 0.7 * free_rad_s * RPM_PER_RAD_S,
            "base_voltage_v": volts,
            "top_rpm": 1.4 * free_rad_s * RPM_PER_RAD_S,
        }

    @property
    def own_current_limit_a(self) -> Array:
        """Return the amps of the greatest torque."""
        return self.peak_current_a

    @property
    def base_speed_rad_s(self) -> Array:
        """Return the base speed at the pack's volts."""
        return self.base_rad_s

    @property
    def constant_nm_per_root_w(self) -> Array:
        """Return the greatest torque over the root of its heat."""
        flat_w = self.constant_nm_per_a * self.base_rad_s * (1 / self.efficiency - 1)
        heat_w = self.peak_current_a * (flat_w + self.peak_current_a * self.resistance_ohm)
        with np.errstate(divide="ignore"):
            return self.constant_nm_per_a * self.peak_current_a / np.sqrt(heat_w)

    def fed_by(self, open_circuit_v: Array, source_ohm: Array) -> "InverterMotor":
        """Return the motor with its base speed moved to the volts that the pack holds there.

        At the base speed the power goes with the volts, so the pack's current is one constant
        and the sagging volts have a closed form. A pack that can't give those amps gives its
        greatest power at half its volts.
        """
        sagged_v = open_circuit_v - self.peak_current_a * source_ohm
        volts = np.maximum(sagged_v, 0.5 * open_circuit_v)
        return replace(self, base_rad_s=self.base_rad_s * volts / self.base_v, base_v=volts)

    def _constant(self, speed_rad_s: Array) -> Array:
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            weakened = np.where(speed_rad_s > self.base_rad_s, self.base_rad_s / speed_rad_s, 1.0)
        return self.constant_nm_per_a * weakened

    def _drag(self, speed_rad_s: Array) -> Array:
        return self.drag_nm + self.windage_nm_s2 * speed_rad_s * speed_rad_s

    def _emf_v(self, speed_rad_s: Array) -> Array:
        return self._constant(speed_rad_s) * speed_rad_s

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return power over amps: k w/efficiency + I R; braking, the efficiency multiplies."""
        return self._fed_v(speed_rad_s, current_a) + current_a * self.resistance_ohm

    def _fed_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return what the amps take without the copper's own: flat losses, or those at rest."""
        emf_v = self._emf_v(speed_rad_s)
        driving = np.maximum(emf_v / self.efficiency, emf_v + current_a * self.holding_ohm)
        return np.where(current_a < 0, emf_v * self.efficiency, driving)

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k I less iron and windage."""
        return self._constant(speed_rad_s) * current_a - self._drag(speed_rad_s)

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return (T + T_drag)/k."""
        return (torque_nm + self._drag(speed_rad_s)) / self._constant(speed_rad_s)

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return its own limit, which its inverter chooses, faded out towards the top speed."""
        fade = self.faded(speed_rad_s)
        return np.where(fade < 1, self.peak_current_a * fade, np.inf)

    def current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the positive root of I^2 (R + R_series) + I (k w/efficiency + V_series) = P."""
        ohm = self.resistance_ohm + series_ohm
        emf_v = self._emf_v(speed_rad_s) / self.efficiency + series_v
        amps = _at_power(power_w, emf_v, ohm)
        held_v = self._emf_v(speed_rad_s) + series_v
        amps = np.minimum(amps, _at_power(power_w, held_v, ohm + self.holding_ohm))
        return np.minimum(amps, self.current_at_voltage_a(speed_rad_s, scalar(0.0), ohm))

    def braking_current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the root nearest nought of I^2 R + I (k w efficiency - V_series) = P."""
        ohm = self.resistance_ohm + series_ohm
        emf_v = self._emf_v(speed_rad_s) * self.efficiency - series_v
        return braking_root(power_w, emf_v, ohm)

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return (V - I R) efficiency/k, at most the top speed; k as below the base speed."""
        fed_v = voltage_v - current_a * self.resistance_ohm
        emf_v = np.minimum(fed_v * self.efficiency, fed_v - current_a * self.holding_ohm)
        speed_rad_s: Array = emf_v / self.constant_nm_per_a
        return np.where(speed_rad_s < self.top_rad_s, speed_rad_s, self.top_rad_s)

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return I^2 R."""
        return current_a * current_a * self.resistance_ohm

    def brush_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return what a flat efficiency takes, or holding its torque if that is more."""
        heat_w: Array = (self._fed_v(speed_rad_s, current_a) - self._emf_v(speed_rad_s)) * current_a
        return heat_w

    def no_load_loss_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return iron and windage."""
        return self._drag(speed_rad_s) * speed_rad_s


def _at_power(power_w: Array, emf_v: Array, ohm: Array) -> Array:
    """Return the positive root of I^2 R + I V = P."""
    root = np.sqrt(emf_v * emf_v + 4 * ohm * np.maximum(power_w, 0.0))
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.where(power_w > 0, 2 * power_w / (emf_v + root), 0.0)
