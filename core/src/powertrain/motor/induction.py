"""The induction machine with its inverter, by its inverse-gamma circuit in the rotor's flux.

With the flux-making amps d and the torque-making amps q (peak of a phase), poles p/2, stator and
rotor resistance R_s and R_r, leakage L_l and magnetising inductance L_m:
``T = 3/2 p/2 L_m d q``, slip ``w_r = R_r q/(L_m d)``, stator frequency ``w_s = p/2 w + w_r``,
``|v|^2 = (R_s d - w_s L_l q)^2 + (R_s q + w_s (L_l + L_m) d)^2``, and copper takes
``3/2 (R_s (d^2 + q^2) + R_r q^2)``.
Of the amps it carries its inverter makes as much flux as torque until its iron is full; above the
base speed only as much flux as the volts of the pack allow, and no more amps than at the breakdown
torque, which falls with the square of the speed.
Source: Novotny and Lipo, Vector Control and Dynamics of AC Drives; the same circuit as a machine
textbook's T (Chapman, Electric Machinery Fundamentals 4e, ch. 7), its rotor seen through
``L_m/(L_m + L_2)``; from memory.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.constants import RPM_PER_RAD_S
from powertrain.motor.own_inverter import OwnInverter
from powertrain.roots import falling_root
from powertrain.stated import Stated

DC_PER_PEAK = 0.8660
"""DC-equivalent amps for each ampere of a phase's peak; the framework's amps of all motors."""

PHASE_PER_DC_VOLT = 1 / np.sqrt(3.0)
"""Greatest phase volts (peak) that an inverter makes of a volt of the pack."""

NEWTON_STEPS = 10

CLOSE = 1e-11
"""Relative change of the slip at which it counts as found."""


@dataclass(frozen=True)
class Induction(OwnInverter):
    """Constants of one machine; see `powertrain.motor.protocol.Motor` for the methods.

    Inside, amps are those of a phase's peak; outside, DC-equivalent.
    """

    pole_pairs: Array
    stator_ohm: Array
    rotor_ohm: Array
    leakage_h: Array
    magnetising_h: Array
    flux_a: Array
    most_a: Array
    phase_v: Array

    @classmethod
    def of(cls, said: Stated) -> "Induction":
        """Return the machine that a document describes, with no volts yet."""
        return cls(
            count=said.number("count"),
            inertia_kg_m2=said.number("rotor_inertia_kg_m2", 0.0),
            pole_pairs=said.number("stator_poles") / 2,
            stator_ohm=said.number("stator_resistance_ohm"),
            rotor_ohm=said.number("rotor_resistance_ohm"),
            leakage_h=said.number("leakage_inductance_mh") / 1000,
            magnetising_h=said.number("magnetising_inductance_mh") / 1000,
            flux_a=said.number("magnetising_current_a") * np.sqrt(2.0),
            most_a=said.number("inverter_current_a") * np.sqrt(2.0),
            top_rad_s=said.number("top_rpm") / RPM_PER_RAD_S,
            drag_nm=said.number("drag_torque_nm"),
            phase_v=scalar(np.inf),
        )

    @staticmethod
    def in_words(said: Stated) -> str:
        """Return the machine as a builder would say it."""
        return f"{float(said.number('stator_poles')):g}-pole induction"

    def warmed(self, ohm_share: Array, flux_share: Array) -> "Induction":
        """Return it with both windings' resistance times a share; it has no magnets."""
        return replace(
            self, stator_ohm=self.stator_ohm * ohm_share, rotor_ohm=self.rotor_ohm * ohm_share
        )

    @staticmethod
    def loss_names() -> dict[str, str]:
        """Return what its losses are called."""
        return {"copper": "stator", "brush": "rotor", "turning": "turning"}

    @staticmethod
    def resembling(volts: float, free_rad_s: float, per_root_w: float) -> dict[str, float]:
        """Return the circuit of a four-pole machine about as strong and as fast.

        Its base speed is seven tenths of the other's free speed, its greatest torque a third of
        the other's stall, made with a quarter as many amps for flux as for torque; a twentieth of
        the volts drops in each resistance, a tenth in leakage (common practice, no source).
        """
        constant = volts / free_rad_s
        torque = 0.33 * constant * volts / (constant / per_root_w) ** 2
        base = 0.7 * free_rad_s
        # T = 3/2 p/2 L_m d q with d = q/4 and nearly all of the volts on the flux.
        phase_v = volts * PHASE_PER_DC_VOLT
        q = torque * base / (1.5 * 0.9 * phase_v)
        magnetising = 0.85 * phase_v / (2 * base * 0.25 * q)
        ohm = 0.05 * phase_v / q
        return {
            "stator_poles": 4,
            "stator_resistance_ohm": ohm,
            "rotor_resistance_ohm": ohm,
            "leakage_inductance_mh": 1000 * 0.1 * phase_v / (2 * base * q),
            "magnetising_inductance_mh": 1000 * magnetising,
            "magnetising_current_a": 0.25 * q / np.sqrt(2.0),
            "inverter_current_a": q * np.sqrt((1 + 0.25**2) / 2.0),
            "top_rpm": 1.6 * free_rad_s * RPM_PER_RAD_S,
        }

    @property
    def own_current_limit_a(self) -> Array:
        """Return the most amps of its inverter."""
        return self.most_a * DC_PER_PEAK

    @property
    def base_speed_rad_s(self) -> Array:
        """Return the base speed: where the volts begin to bind at the most amps."""
        d, q = self._full()
        # (R d - w L_l q)^2 + (R q + w L_s d)^2 = V^2, a square in w.
        r, stator_h = self.stator_ohm, self.leakage_h + self.magnetising_h
        a = (self.leakage_h * q) ** 2 + (stator_h * d) ** 2
        b = 2 * r * d * q * (stator_h - self.leakage_h)
        c = r**2 * (d**2 + q**2) - self.phase_v**2
        with np.errstate(invalid="ignore"):
            stator_rad_s = (np.sqrt(np.maximum(b**2 - 4 * a * c, 0.0)) - b) / (2 * a)
        return np.maximum(stator_rad_s - self._slip(d, q), 0.0) / self.pole_pairs

    @property
    def constant_nm_per_root_w(self) -> Array:
        """Return the greatest torque over the root of its heat."""
        d, q = self._full()
        return self._torque_per_square() * d * q / np.sqrt(self._copper_w(d, q))

    def fed_by(self, open_circuit_v: Array, source_ohm: Array) -> "Induction":
        """Return the machine at the volts that the pack holds at its greatest power.

        Base speed and power go with the volts, so that the pack's amps there are one constant. A
        pack that can't give those amps gives its greatest power at half its volts.
        """
        full = replace(self, phase_v=open_circuit_v * PHASE_PER_DC_VOLT)
        d, q = self._full()
        power_w = full._torque_per_square() * d * q * full.base_speed_rad_s + full._copper_w(d, q)
        with np.errstate(divide="ignore", invalid="ignore"):
            sagged_v = open_circuit_v - power_w / open_circuit_v * source_ohm
        volts = np.maximum(sagged_v, 0.5 * open_circuit_v)
        return replace(self, phase_v=volts * PHASE_PER_DC_VOLT)

    def _full(self) -> tuple[Array, Array]:
        """Return flux and torque amps at the inverter's most, its volts not asked."""
        d = np.minimum(self.most_a / np.sqrt(2.0), self.flux_a)
        return d, np.sqrt(np.maximum(self.most_a**2 - d**2, 0.0))

    def _torque_per_square(self) -> Array:
        """Return T/(d q)."""
        return 1.5 * self.pole_pairs * self.magnetising_h

    def _slip(self, d: Array, q: Array) -> Array:
        with np.errstate(divide="ignore", invalid="ignore"):
            return np.where(d > 0, self.rotor_ohm * q / (self.magnetising_h * d), 0.0)

    def _copper_w(self, d: Array, q: Array) -> Array:
        return 1.5 * (self.stator_ohm * (d**2 + q**2) + self.rotor_ohm * q**2)

    def _flux_per_slip(self) -> Array:
        """Return (q/d)/w_r, seconds: L_m/R_r."""
        return self.magnetising_h / self.rotor_ohm

    def _volts(self, speed_rad_s: Array) -> tuple[Array, ...]:
        """Return a0 to a4 of ``(|v|/d)^2 = a0 + a1 w_r + a2 w_r^2 + a3 w_r^3 + a4 w_r^4``.

        From ``q = g w_r d`` with ``g = L_m/R_r`` and ``w_s = p + w_r``; none is below zero.
        """
        p, g, r = np.abs(speed_rad_s) * self.pole_pairs, self._flux_per_slip(), self.stator_ohm
        leak, stator_h = self.leakage_h, self.leakage_h + self.magnetising_h
        own = r * g + stator_h
        return (
            r**2 + (p * stator_h) ** 2,
            2 * p * (stator_h * own - r * leak * g),
            own**2 - 2 * r * leak * g + (p * leak * g) ** 2,
            2 * p * (leak * g) ** 2,
            (leak * g) ** 2 + 0.0 * p,
        )

    def _breakdown(self, volts: tuple[Array, ...]) -> tuple[Array, Array]:
        """Return the greatest d q that volts and iron allow at a speed, and the slip there.

        On the limit of volts ``d q = g V^2 w_r/(a0 + ... + a4 w_r^4)``, greatest where
        ``a0 = a2 w_r^2 + 2 a3 w_r^3 + 3 a4 w_r^4``. Where the iron is full before that, slip
        rises until the volts bind. Newton's steps from above, on rising convex functions.
        """
        a0, a1, a2, a3, a4 = volts
        with np.errstate(divide="ignore"):
            slip = np.minimum(np.sqrt(a0 / a2), np.sqrt(np.sqrt(a0 / (3 * a4))))
        for _ in range(NEWTON_STEPS):
            over = ((3 * a4 * slip + 2 * a3) * slip + a2) * slip**2 - a0
            step = over / (((12 * a4 * slip + 6 * a3) * slip + 2 * a2) * slip)
            slip = slip - step
            if np.all(np.abs(step) <= CLOSE * slip):
                break
        room = (self.phase_v / self.flux_a) ** 2
        if np.all((((a4 * slip + a3) * slip + a2) * slip + a1) * slip + a0 >= room):
            square = (((a4 * slip + a3) * slip + a2) * slip + a1) * slip + a0
            return self._flux_per_slip() * slip * self.phase_v**2 / square, slip
        full = np.maximum(slip, np.sqrt(room / a2))
        for _ in range(NEWTON_STEPS):
            over = (((a4 * full + a3) * full + a2) * full + a1) * full + a0 - room
            step = over / (((4 * a4 * full + 3 * a3) * full + 2 * a2) * full + a1)
            full = np.maximum(full - step, slip)
            if np.all((np.abs(step) <= CLOSE * full) | (full == slip)):
                break
        square = (((a4 * full + a3) * full + a2) * full + a1) * full + a0
        flux_a = np.minimum(self.flux_a, self.phase_v / np.sqrt(square))
        return self._flux_per_slip() * full * flux_a**2, full

    def _at_product(self, speed_rad_s: Array, product: Array) -> tuple[Array, Array]:
        """Return d and q, with the fewest amps that iron and volts allow, whose product is given.

        Where there are none, those of the breakdown torque. What drives and what brakes are
        held to the same volts; braking would need a little less.
        """
        volts, most, last = self._limits(speed_rad_s)
        wanted = np.minimum(np.abs(product), most)
        a0, a1, a2, a3, a4 = volts
        g, square_v = self._flux_per_slip(), self.phase_v**2
        # As much flux as torque until the iron is full; then as many torque-making amps as asked.
        unbound = np.minimum(np.maximum(1.0, wanted / self.flux_a**2) / g, last)

        a_unbound = (((a4 * unbound + a3) * unbound + a2) * unbound + a1) * unbound + a0
        if np.all(wanted * a_unbound <= g * square_v * unbound):
            return self._pair(wanted, g * unbound, product)

        # f = g V^2 w_r - d q (|v|/d)^2 is concave and goes up through zero once before `last`.
        bend = wanted * (12 * a4 * last**2 + 6 * a3 * last + 2 * a2)
        spare = g * square_v * last - wanted * (
            (((a4 * last + a3) * last + a2) * last + a1) * last + a0
        )
        with np.errstate(divide="ignore", invalid="ignore"):
            away = np.where(bend > 0, np.sqrt(2 * np.maximum(spare, 0.0) / bend), last)
        slip = np.maximum(unbound, last - away)
        for _ in range(NEWTON_STEPS):
            short = (
                wanted * ((((a4 * slip + a3) * slip + a2) * slip + a1) * slip + a0)
                - g * square_v * slip
            )
            rises = g * square_v - wanted * (((4 * a4 * slip + 3 * a3) * slip + 2 * a2) * slip + a1)
            with np.errstate(divide="ignore", invalid="ignore"):
                step = np.where(rises > 0, short / rises, 0.0)
            before = slip
            slip = np.clip(slip + step, unbound, last)
            if np.all(np.abs(slip - before) <= CLOSE * slip):
                break
        return self._pair(wanted, g * slip, product)

    @staticmethod
    def _pair(size: Array, over: Array, product: Array) -> tuple[Array, Array]:
        """Return d and q of the sign of `product`, by their product and their quotient q/d."""
        return np.sqrt(size / over), np.sign(product) * np.sqrt(size * over)

    def _greatest(self, speed_rad_s: Array) -> Array:
        """Return the greatest d q at a speed of amps, iron and volts."""
        d, q = self._full()
        return np.minimum(d * q, self._limits(speed_rad_s)[1])

    @cached_property
    def _known(self) -> dict[str, tuple[tuple[Array, ...], Any]]:
        return {}

    def _remembered(self, asked: str, given: tuple[Array, ...], reckon: Callable[..., Any]) -> Any:
        """Return what was asked of the same arrays the last time, or reckon it.

        Torque, volts and heat are asked of the same speeds and amps one after the other.
        """
        last = self._known.get(asked)
        if last is not None and all(one is now for one, now in zip(last[0], given, strict=True)):
            return last[1]
        found = reckon(*given)
        self._known[asked] = (given, found)
        return found

    def _limits(self, speed_rad_s: Array) -> tuple[tuple[Array, ...], Array, Array]:
        """Return `_volts` and `_breakdown` of a speed."""

        def reckon(speed_rad_s: Array) -> tuple[tuple[Array, ...], Array, Array]:
            volts = self._volts(speed_rad_s)
            return volts, *self._breakdown(volts)

        found: tuple[tuple[Array, ...], Array, Array]
        found = self._remembered("limits", (speed_rad_s,), reckon)
        return found

    def _product(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the greatest d q of some DC-equivalent amps."""
        product: Array = self._remembered("product", (speed_rad_s, current_a), self._most_product)
        return product

    def _most_product(self, speed_rad_s: Array, current_a: Array) -> Array:
        amps = np.abs(current_a)
        peak = amps / DC_PER_PEAK
        d = np.minimum(peak / np.sqrt(2.0), self.flux_a)
        unbound = d * np.sqrt(np.maximum(peak**2 - d**2, 0.0))
        volts, most, last = self._limits(speed_rad_s)
        high = np.minimum(unbound, most) + 0.0 * speed_rad_s
        least, bound = self._at_product(speed_rad_s, high)
        if np.any(np.hypot(least, bound) > peak * (1 + 1e-12)):
            # The volts bind: on their limit amps rise with slip, |i|^2 h = V^2 (1 + (g w_r)^2).
            g, square_v = self._flux_per_slip(), self.phase_v**2

            def spare(slip: Array) -> Array:
                square = (((a4 * slip + a3) * slip + a2) * slip + a1) * slip + a0
                return peak**2 * square - square_v * (1 + (g * slip) ** 2)

            a0, a1, a2, a3, a4 = volts
            free = np.minimum(np.sqrt(np.maximum(1.0, (peak / self.flux_a) ** 2 - 1)) / g, last)
            slip = falling_root(spare, free + 0.0 * high, last + 0.0 * high)
            high = np.minimum(high, peak**2 * g * slip / (1 + (g * slip) ** 2))
        product: Array = np.sign(current_a) * high
        return product

    def _amps(self, d: Array, q: Array) -> Array:
        return np.sqrt(d**2 + q**2) * DC_PER_PEAK

    def _taken_w(self, speed_rad_s: Array, product: Array) -> Array:
        """Return the watts at the terminals."""
        d, q = self._at_product(speed_rad_s, product)
        return self._torque_per_square() * product * speed_rad_s + self._copper_w(d, q)

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the DC-equivalent volts: power over amps."""
        taken_w = self._taken_w(speed_rad_s, self._product(speed_rad_s, current_a))
        with np.errstate(divide="ignore", invalid="ignore"):
            return np.where(current_a == 0, 0.0, taken_w / current_a)

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return 3/2 p/2 L_m d q less the losses of turning."""
        product = self._product(speed_rad_s, current_a)
        return self._torque_per_square() * product - self.drag_nm

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return the fewest amps that give a torque; below zero where it brakes."""
        product = (torque_nm + self.drag_nm) / self._torque_per_square()
        d, q = self._at_product(speed_rad_s, product)
        return np.sign(product) * self._amps(d, q)

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return the amps of the breakdown torque, faded out towards the top speed.

        Infinite where more than the inverter gives.
        """
        _, most, _ = self._limits(speed_rad_s)
        amps = self._amps(*self._at_product(speed_rad_s, most))
        fade = self.faded(speed_rad_s)
        own_a = self.own_current_limit_a
        bound = np.where(np.isfinite(amps) & (amps < own_a), amps, np.inf)
        return np.where(fade < 1, np.minimum(bound, own_a) * fade, bound)

    def current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the amps at which machine and path take a power."""

        def spare_w(product: Array) -> Array:
            amps = self._amps(*self._at_product(speed_rad_s, product))
            path_w = amps * (amps * series_ohm + series_v)
            return power_w - self._taken_w(speed_rad_s, product) - path_w

        most = self._greatest(speed_rad_s) + 0.0 * power_w
        return self._amps(*self._at_product(speed_rad_s, falling_root(spare_w, 0.0 * most, most)))

    def braking_current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the amps, below zero, at which ``-power_w`` comes back.

        What comes back grows with the braking torque until heat takes more than is added; the
        watts asked for are looked for before that.
        """

        def spare_w(product: Array) -> Array:
            amps = self._amps(*self._at_product(speed_rad_s, product))
            path_w = amps * (amps * series_ohm + series_v)
            return -power_w + self._taken_w(speed_rad_s, -product) + path_w

        most = self._greatest(speed_rad_s) + 0.0 * power_w
        return -self._amps(*self._at_product(speed_rad_s, falling_root(spare_w, 0.0 * most, most)))

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return the speed at which an amp takes so many volts, the field not weakened."""
        peak = np.abs(current_a) / DC_PER_PEAK
        d = np.minimum(peak / np.sqrt(2.0), self.flux_a)
        q = np.sqrt(np.maximum(peak**2 - d**2, 0.0))
        with np.errstate(divide="ignore", invalid="ignore"):
            turning_w = voltage_v * np.abs(current_a) - self._copper_w(d, q)
            speed_rad_s = turning_w / (self._torque_per_square() * d * q)
        return np.where(speed_rad_s < self.top_rad_s, speed_rad_s, self.top_rad_s)

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return the heat of the stator."""
        peak = current_a / DC_PER_PEAK
        return 1.5 * self.stator_ohm * peak * peak

    def brush_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the heat of the rotor's bars."""
        _, q = self._at_product(speed_rad_s, self._product(speed_rad_s, current_a))
        return 1.5 * self.rotor_ohm * q * q

    def no_load_loss_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return T_loss w."""
        return self.drag_nm * speed_rad_s
