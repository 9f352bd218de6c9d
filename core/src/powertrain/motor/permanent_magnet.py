"""The permanent-magnet motor, brushed or brushless, by its DC-equivalent circuit.

Back-EMF ``k w`` behind a resistance, torque ``k I`` less a loss torque, with
``k = 60/(2 pi KV)``. The loss torque is ``k I0``; a second no-load run splits it into a constant
part and one that grows with speed. Amps are DC-equivalent: the six-step line current of a
brushless motor.
Source: the separately excited DC machine with constant flux, e.g. Chapman, Electric Machinery
Fundamentals 4e, ch. 9 (from memory).
"""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, is_nought, scalar
from powertrain.constants import RPM_PER_RAD_S
from powertrain.motor.fed import FedByController, braking_root
from powertrain.motor.size import Make
from powertrain.motor.timing import KV_PER_DEGREE, LEAST_SHARE, Timing, kv_share
from powertrain.motor.winding import Winding
from powertrain.stated import Stated
from powertrain.units import torque_constant_nm_per_a

NONE, ONE = scalar(0.0), scalar(1.0)

USUAL_READ_V = 12.0
"""Volts at which no-load amps are read where nobody says; common practice, no source."""

FREE_ROUNDS = 12
"""How often the free speed and the no-load amps of a boosted motor follow one another."""


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
    boost: Array = NONE
    """Share of KV that boost timing adds, whole from the end of its window on."""
    boost_from_rad_s: Array = NONE
    boost_to_rad_s: Array = ONE
    turbo: Array = NONE
    """Share of KV that turbo timing adds at full throttle."""

    @classmethod
    def of(cls, said: Stated) -> "PermanentMagnet":
        """Return the motor that a document describes."""
        constant = torque_constant_nm_per_a(said.number("kv_rpm_per_v"))
        at_rest_a, slope_a_s = _free_runs(said, constant)
        return cls(
            count=said.number("count"),
            constant_nm_per_a=constant,
            resistance_ohm=said.number("resistance_ohm"),
            no_load_current_a=at_rest_a,
            brush_drop_v=said.number("brush_drop_v", 0.0),
            inertia_kg_m2=said.number("rotor_inertia_kg_m2", 0.0),
            loss_slope_a_s=slope_a_s,
        )

    @staticmethod
    def in_words(said: Stated) -> str:
        """Return the motor as a builder would say it."""
        return f"{float(said.number('kv_rpm_per_v')):g} KV {said.word('commutation')}"

    @staticmethod
    def make(said: Stated) -> Make:
        """Return how it is made, for what is usual of its size."""
        return "brushed" if said.word("commutation") == "brushed" else "brushless"

    @staticmethod
    def driven_by(said: Stated) -> str:
        """Return its commutation."""
        return str(said.word("commutation"))

    @staticmethod
    def loss_names() -> dict[str, str]:
        """Return what its losses are called."""
        return {"copper": "copper", "brush": "brushes", "turning": "turning"}

    @staticmethod
    def winding(said: Stated) -> Winding:
        """Return the winding by its KV."""
        return Winding(float(said.number("kv_rpm_per_v")), "KV", "motor.kv_rpm_per_v")

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
    def rewound(said: Stated, share: float) -> dict[str, float | None]:
        """Return the constants of the same can with KV times `share`.

        With fewer turns of thicker wire KV rises, resistance falls as 1/KV^2 and the no-load
        current rises as KV: the copper in the slots stays what it was.
        """
        goes_with = {
            "kv_rpm_per_v": share,
            "no_load_current_a": share,
            "second_no_load_current_a": share,
            "no_load_voltage_v": 1 / share,
            "second_no_load_voltage_v": 1 / share,
        }
        return {
            "resistance_ohm": float(said.number("resistance_ohm")) / share**2,
            **{
                key: float(said.number(key)) * factor if said.states(key) else None
                for key, factor in goes_with.items()
            },
        }

    @staticmethod
    def can_be_timed(said: Stated) -> bool:
        """Return whether it is brushless: brushes are set by their maker."""
        return bool(said.word("commutation") == "brushless")

    def timed(self, timing: Timing) -> "PermanentMagnet":
        """Return it with timing: KV up with the degrees, no-load amps by its square.

        Boost raises it further over its window of rpm, turbo once it is `wide_open`.
        """
        always = np.maximum(kv_share(timing.always_deg), LEAST_SHARE)
        return replace(
            self,
            **self._faster(always),
            boost=_beside(timing.boost_deg, always),
            boost_from_rad_s=timing.boost_from_rad_s,
            boost_to_rad_s=np.maximum(timing.boost_to_rad_s, timing.boost_from_rad_s + 1e-6),
            turbo=_beside(timing.turbo_deg, always),
        )

    def wide_open(self) -> "PermanentMagnet":
        """Return it at full throttle, where turbo acts too."""
        if is_nought(self.turbo):
            return self
        share = 1.0 + self.turbo
        return replace(self, **self._faster(share), boost=self.boost / share, turbo=scalar(0.0))

    def warmed(self, ohm_share: Array, flux_share: Array) -> "PermanentMagnet":
        """Return it with R and k times a share; the no-load amps stay."""
        return replace(
            self,
            resistance_ohm=self.resistance_ohm * ohm_share,
            constant_nm_per_a=self.constant_nm_per_a * flux_share,
        )

    def _faster(self, share: Array) -> dict[str, Array]:
        return {
            "constant_nm_per_a": self.constant_nm_per_a / share,
            "no_load_current_a": self.no_load_current_a * share * share,
            "loss_slope_a_s": self.loss_slope_a_s * share * share,
        }

    def _share(self, speed_rad_s: Array) -> Array:
        """Return KV at a speed over that without boost."""
        inside = (speed_rad_s - self.boost_from_rad_s) / self._window
        return 1.0 + self.boost * np.clip(inside, 0.0, 1.0)

    @property
    def _window(self) -> Array:
        return self.boost_to_rad_s - self.boost_from_rad_s

    def _constant(self, speed_rad_s: Array) -> Array:
        if is_nought(self.boost):
            return self.constant_nm_per_a
        return self.constant_nm_per_a / self._share(speed_rad_s)

    def _speed_at_emf(self, emf_v: Array) -> Array:
        """Return the speed at which the back-EMF is `emf_v`: ``k w/(1 + boost(w)) = V``.

        Linear below, in and above the window; where boost makes it run away through its window,
        the speed above it.
        """
        slow: Array = emf_v / self.constant_nm_per_a
        if is_nought(self.boost):
            return slow
        fast = slow * (1.0 + self.boost)
        with np.errstate(divide="ignore", invalid="ignore"):
            per = slow * self.boost / self._window
            inside = (slow - per * self.boost_from_rad_s) / (1.0 - per)
        within = np.where(per < 1.0, inside, fast)
        return np.where(
            slow <= self.boost_from_rad_s, slow, np.where(fast >= self.boost_to_rad_s, fast, within)
        )

    def corners_rad_s(self) -> tuple[Array, ...]:
        """Return the ends of the window of boost, where there is one."""
        return () if is_nought(self.boost) else (self.boost_from_rad_s, self.boost_to_rad_s)

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
        free = driving_v / (self.constant_nm_per_a + self.loss_slope_a_s * ohm)
        if is_nought(self.boost):
            return free
        for _ in range(FREE_ROUNDS):
            amps = self.loss_current_a(free)
            free = self._speed_at_emf(source_v - self.brush_drop_v - amps * ohm)
        return free

    def loss_current_a(self, speed_rad_s: Array) -> Array:
        """Return the amps that iron, bearings and brushes take at a speed."""
        amps = self.no_load_current_a
        if not is_nought(self.loss_slope_a_s):
            amps = amps + self.loss_slope_a_s * speed_rad_s
        return amps if is_nought(self.boost) else amps * self._share(speed_rad_s) ** 2

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k w + I R + V_brush, the brush drop opposing whichever way the current flows."""
        volts = self._constant(speed_rad_s) * speed_rad_s + current_a * self.resistance_ohm
        if is_nought(self.brush_drop_v):
            return volts
        return volts + np.sign(current_a) * self.brush_drop_v

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k (I - I0)."""
        return self._constant(speed_rad_s) * (current_a - self.loss_current_a(speed_rad_s))

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return T/k + I0."""
        return torque_nm / self._constant(speed_rad_s) + self.loss_current_a(speed_rad_s)

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return (V - k w - V_brush)/(R + R_series), negative above the free speed."""
        driving_v = source_v - self._constant(speed_rad_s) * speed_rad_s - self.brush_drop_v
        return driving_v / (self.resistance_ohm + series_ohm)

    def current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the positive root of I^2 (R + R_series) + I (k w + V_brush + V_series) = P."""
        ohm = self.resistance_ohm + series_ohm
        emf_v = self._constant(speed_rad_s) * speed_rad_s + (self.brush_drop_v + series_v)
        root = np.sqrt(emf_v * emf_v + 4 * ohm * np.maximum(power_w, 0.0))
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.where(power_w > 0, 2 * power_w / (emf_v + root), 0.0)

    def braking_current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the root nearest nought of I^2 R + I (k w - V_brush - V_series) = P."""
        ohm = self.resistance_ohm + series_ohm
        emf_v = self._constant(speed_rad_s) * speed_rad_s - (self.brush_drop_v + series_v)
        return braking_root(power_w, emf_v, ohm)

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return (V - I R - V_brush)/k, negative where the voltage can't drive that current."""
        drop_v = current_a * self.resistance_ohm + self.brush_drop_v
        return self._speed_at_emf(voltage_v - drop_v)

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return I^2 R."""
        return current_a * current_a * self.resistance_ohm

    def brush_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return |I| V_brush."""
        return np.abs(current_a) * self.brush_drop_v

    def no_load_loss_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return k I0 w."""
        return self._constant(speed_rad_s) * self.loss_current_a(speed_rad_s) * speed_rad_s


def _free_runs(said: Stated, constant: Array) -> tuple[Array, Array]:
    """Return the no-load current at rest and what each rad/s adds, from one or two free runs."""
    amps = said.number("no_load_current_a")
    keys = ("no_load_voltage_v", "second_no_load_current_a", "second_no_load_voltage_v")
    if not said.states(*keys):
        return _growing(said, constant, amps)
    volts, more_a, more_v = (said.number(key) for key in keys)
    drop_v, ohm = said.number("brush_drop_v", 0.0), said.number("resistance_ohm")
    speed = (volts - drop_v - amps * ohm) / constant
    more_speed = (more_v - drop_v - more_a * ohm) / constant
    slope = (more_a - amps) / (more_speed - speed)
    return amps - slope * speed, slope


def _growing(said: Stated, constant: Array, amps: Array) -> tuple[Array, Array]:
    """Return the no-load amps split by the share that is said to grow with speed.

    They are whole at the volts they were read at; where those are not stated, at the speed of the
    motor's own highest volts, or twelve.
    """
    if not said.states("loss_growing_share"):
        return amps, scalar(0.0)
    usual = said.number("max_voltage_v", USUAL_READ_V)
    volts = said.number("no_load_voltage_v") if said.states("no_load_voltage_v") else usual
    share, ohm = said.number("loss_growing_share"), said.number("resistance_ohm")
    speed = (volts - said.number("brush_drop_v", 0.0) - amps * ohm) / constant
    return amps * (1 - share), amps * share / np.maximum(speed, 1e-9)


def _beside(degrees: Array, always: Array) -> Array:
    """Return the share of KV that degrees add to what always acts; none stays one number."""
    return scalar(0.0) if is_nought(degrees) else KV_PER_DEGREE * degrees / always
