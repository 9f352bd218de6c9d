"""Every setting of a common controller with its value for one build, and why.

Each row is a function of what is known of the build; they stand in the order in which they are set.
What a step below and above does is said in words. Values without a source are common practice.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.documents.controller_settings import SettingId
from powertrain.motor.timing import stated_deg
from powertrain.plain import number
from powertrain.set_up.by_hand import Standing, standing_of
from powertrain.set_up.drag_brake import drag_brake_of
from powertrain.set_up.limits import highest_rpm, motor_amps, pack_amps, regen_amps
from powertrain.set_up.ramp import RampAnswer
from powertrain.set_up.throttle import ThrottleAnswer, curve_of
from powertrain.stated import Stated
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.rules.slow_speed import COARSE_KMH
from powertrain.verdicts.rules.timing_sum import limit_deg

BUDGET = 0.75
"""Part of the timing that destroys which is used; common practice, no source."""

HALVES_PCT = (50.0, 40.0, 30.0, 20.0, 15.0)
RIPPLE = 0.1
"""Ripple of the motor's amps that is let through, of those for long; common practice, no source."""

HEARD_HZ, MOST_HZ = 16_000.0, 64_000.0
"""Above the first few hear it; above the second switching loses more than it saves."""

ROLLBACK_K = 15.0
"""So far below its hottest a controller begins to give less; common practice, no source."""

STARTS, LEAST_START_PCT = 1.5, 5.0
"""A blind start wants so much of the least volts that turn it, and a twentieth of all to speed the
rotor up; common practice, no source."""

CRAWLS_MPS = 4.0

CREEP_KMH = 0.5


class SettingRow(BaseModel):
    """One setting: its value for this build, why, what a step below and above does.

    `value` is None where it does not apply or can't be known; `at_most` whether any lower one suits
    too; `offered` whether the chosen controller has it, None where that is not known; `stands` what
    is set now, and by whom.
    """

    id: SettingId
    label: str
    value: float | str | None
    unit: str
    why: str
    below: str
    above: str
    at_most: bool
    offered: bool | None
    stands: Standing


@dataclass(frozen=True)
class Known:
    """What rows are made of."""

    build: Build
    context: RuleContext
    throttle: ThrottleAnswer
    ramp: RampAnswer

    @property
    def brushless(self) -> bool:
        """Whether the controller times the motor."""
        return bool(self.context.ratings.motor.brushless)

    @property
    def crawls(self) -> bool:
        """Whether it is a slow model, steered at walking pace."""
        fastest = float(self.context.moments.top_speed.state.speed_mps)
        return self.is_model and fastest < CRAWLS_MPS

    @property
    def is_model(self) -> bool:
        """Whether nobody rides on it."""
        return bool(self.context.ratings.vehicle.is_model)


Told = tuple[float | str | None, str]
"""A value, and why."""


def _motor_amps(known: Known) -> Told:
    bound = motor_amps(known.context.compiled)
    if bound.told is None:
        return None, "Neither motor nor controller says what it carries: ask their maker first."
    return (
        bound.told,
        f"At most, by {bound.why}. It makes the push, and heat by its square.",
    )


def _pack_amps(known: Known) -> Told:
    bound = pack_amps(known.context.compiled)
    return bound.told, f"At most, by {bound.why}. It makes the power at speed, and the sag."


def _regen(known: Known) -> Told:
    bound = regen_amps(known.build, known.context.compiled)
    if bound.told is None:
        return None, "What the pack may be charged with is not stated; leave braking weak."
    return bound.told, f"At most, by {bound.why}. Near full none of it is safe."


def _cut_off(known: Known) -> Told:
    pack = known.context.ratings.pack
    each = float(pack.cut_off_cell_v)
    return float(pack.cut_off_v), f"{known.build.battery.series} cells at {each:.2f} V under load."


def _max_rpm(known: Known) -> Told:
    bound = highest_rpm(known.context.compiled)
    if bound.told is None:
        return None, "Neither the motor's highest rpm nor what the controller follows is stated."
    return bound.told, f"{bound.why[0].upper()}{bound.why[1:]}."


def _stated_timing(known: Known, key: str) -> float:
    return float(getattr(known.build.controller, key) or 0.0)


def _timing(known: Known) -> Told:
    if not known.brushless:
        return None, "Brushes are timed by how they are set, not by the controller."
    limit = BUDGET * float(limit_deg(known.context.ratings.motor.poles))
    said = Stated(known.build)
    others = sum(
        float(value)
        for path, value in stated_deg(said.under("motor"), said.under("controller")).items()
        if path != "controller.timing_deg"
    )
    own = _stated_timing(known, "timing_deg")
    value = min(own, max(limit - others, 0.0))
    return value, (
        f"All timing together stays within {limit:g} degrees; {others:g} are set elsewhere. "
        "It works like extra KV and is paid for in amps and heat."
    )


def _more_timing(known: Known, key: str, when: str) -> Told:
    if not known.brushless:
        return None, "A motor with brushes has none."
    if known.build.motor.sensor == "none":
        return 0.0, "Without sensors the controller hardly knows where the rotor stands: none."
    limit = BUDGET * float(limit_deg(known.context.ratings.motor.poles))
    said = Stated(known.build)
    others = sum(
        float(value)
        for path, value in stated_deg(said.under("motor"), said.under("controller")).items()
        if path != f"controller.{key}"
    )
    value = min(_stated_timing(known, key), max(limit - others, 0.0))
    return value, f"Acts {when}. With all others it stays within {limit:g} degrees."


def _boost(known: Known) -> Told:
    return _more_timing(known, "boost_timing_deg", "from one rpm of the motor to another")


def _turbo(known: Known) -> Told:
    return _more_timing(known, "turbo_timing_deg", "at full trigger alone")


def _half(known: Known) -> Told:
    curve = curve_of(known.build)
    if curve.by_points:
        return None, "The curve is drawn by points."
    straight_kmh = known.throttle.kmh_per_step.high
    steps = known.throttle.steps_forward
    if straight_kmh is None or steps is None:
        return 50.0, "Its steps are not stated: straight, until the slow end feels coarse."
    rest_v = float(known.context.drive.pack.open_circuit_v)
    high_v = known.throttle.volts_per_step.high or 1.0
    whole_kmh = straight_kmh / high_v * rest_v
    for half in HALVES_PCT:
        power = np.log(half / 100) / np.log(0.5)
        step_kmh = whole_kmh * (1 / steps) ** power
        if step_kmh <= COARSE_KMH:
            break
    return half, f"The first of {steps} steps is {step_kmh:.2g} km/h then."


def _ramp(known: Known) -> Told:
    if known.context.drive.motor.has_inverter:
        return None, "The inverter ramps by itself."
    fastest, why = known.ramp.fastest_pct_per_s, known.ramp.limited_by
    if fastest is None:
        return None, "No ramp is slow enough: more cells in parallel, a limit, or a shorter gear."
    words = {
        "cut_off": "the pack falls to its cut-off",
        "grip": "the driven wheels slip",
        "front_lift": "the front lifts",
        "rider": "a standing rider is thrown",
        "current_limit": "the amps limits hold it anyway",
        None: "nothing stands in the way of a grabbed trigger",
    }
    if why in (None, "current_limit"):
        any_one = f"Any ramp will do, even full in {100 / fastest:.2g} s"
        return float(f"{fastest:.2g}"), f"{any_one}: {words[why]}."
    return float(f"{fastest:.2g}"), f"Faster, {words[why]}."


def _drag(known: Known) -> Told:
    motor = known.context.drive.motor
    if motor.has_inverter or motor.races_unloaded:
        return None, "This kind of motor does not brake when shorted."
    if not known.context.drive.rolls:
        return None, "A hoist is held by a brake of its own, never by a shorted motor."
    whole = drag_brake_of(known.build, known.context.compiled, 100.0)
    if whole.creep_kmh is None:
        return None, "This kind of motor does not brake when shorted."
    if not known.is_model:
        return 0.0, (
            "It brakes whenever the trigger is let go and may throw a rider; holding is the "
            "mechanical brake's."
        )
    if whole.creep_kmh == 0:
        return 0.0, "Friction alone holds it on its hill."
    share = 100.0 if known.crawls else min(100.0 * whole.creep_kmh / CREEP_KMH, 100.0)
    creeps = whole.creep_kmh * 100 / share
    return float(f"{share:.2g}"), (
        f"Then it creeps down its hill at {creeps:.2g} km/h; a shorted motor never holds still."
    )


def _brake(known: Known) -> Told:
    drive, limit = known.context.drive, motor_amps(known.context.compiled).told
    if limit is None or not drive.rolls:
        return None, "What the motor may brake with is not known."
    amps = np.asarray(limit / known.context.ratings.controller.per_dc)
    pushes = float(drive.output_nm(drive.motor.shaft_torque_nm(np.asarray(0.0), amps)))
    holds = float(drive.load.holds_nm(drive.load.usual))
    if not np.isfinite(holds) or pushes <= 0:
        return 100.0, "Nothing is known of the grip."
    share = min(100.0, 100.0 * holds / pushes)
    return float(f"{share:.2g}"), "So the driven wheels do not lock on the level."


def _start(known: Known) -> Told:
    if not known.brushless or known.build.motor.sensor in ("hall", "encoder"):
        return None, "It knows where the rotor stands, or has brushes: no blind start."
    start_v = known.throttle.start_volts
    if start_v is None:
        return None, "The least volts that turn it are not known."
    share = 100 * STARTS * start_v / float(known.context.drive.pack.open_circuit_v)
    return float(f"{min(max(share, LEAST_START_PCT), 100.0):.2g}"), (
        f"It turns from {start_v:.2g} V; a blind start wants more, to speed the rotor up. One "
        "school starts hard so that it never stutters, the other softly and spares the gears."
    )


def _dead_band(known: Known) -> Told:
    sends = known.build.vehicle.throttle_signal or known.build.controller.throttle_signal
    if sends is None:
        return 4.0, "What sends the throttle is not stated; usual."
    band = {"analogue": 5.0, "pulse": 4.0, "serial": 2.0}[sends]
    return band, "So that a trembling middle does not turn it."


def _pwm(known: Known) -> Told:
    micro_h = getattr(known.build.motor, "inductance_uh", None)
    amps = float(known.context.ratings.motor.amps.continuous_a)
    if known.context.drive.motor.has_inverter:
        return None, "The inverter chooses it."
    if micro_h is None or not np.isfinite(amps):
        return HEARD_HZ, "Its inductance or its amps for long are not stated; few hear this."
    volts = float(known.context.drive.pack.open_circuit_v)
    # Greatest ripple, at half duty: V/(4 L f).
    hertz = volts / (4 * micro_h * 1e-6 * RIPPLE * amps)
    value = float(f"{min(max(hertz, HEARD_HZ / 2), MOST_HZ):.2g}")
    ripple = volts / (4 * micro_h * 1e-6 * value)
    low = " Its inductance is very low: a choke or a controller made for such." * (hertz > MOST_HZ)
    return value, f"The amps ripple by {ripple:.2g} A at the most.{low}"


def _reverse(known: Known) -> Told:
    if known.build.vehicle.kind != "ground":
        return "immediate", "A hoist goes both ways."
    if known.crawls:
        return "immediate", "A crawler is driven to and fro; its gears turn slowly."
    return "delayed", "At speed a reverse breaks teeth, and throws who rides."


def _rollback(known: Known) -> Told:
    hottest = known.build.controller.max_c
    if hottest is None:
        return None, "What its case may reach is not stated."
    return hottest - ROLLBACK_K, f"{ROLLBACK_K:g} degrees before the {hottest:g} that it stands."


WORKED_OUT: dict[SettingId, tuple[str, str, Callable[[Known], Told]]] = {
    "motor_current_limit_a": ("Motor amps limit", "A", _motor_amps),
    "battery_current_limit_a": ("Pack amps limit", "A", _pack_amps),
    "regen_current_limit_a": ("Braking amps limit", "A", _regen),
    "cut_off_v": ("Low-voltage cut-off", "V", _cut_off),
    "max_rpm": ("Highest rpm", "rpm", _max_rpm),
    "timing_deg": ("Timing", "deg", _timing),
    "boost_timing_deg": ("Boost timing", "deg", _boost),
    "turbo_timing_deg": ("Turbo timing", "deg", _turbo),
    "half_throttle_pct": ("Half trigger gives", "%", _half),
    "ramp_pct_per_s": ("Ramp", "%/s", _ramp),
    "drag_brake_pct": ("Drag brake", "%", _drag),
    "brake_pct": ("Brake", "%", _brake),
    "start_power_pct": ("Start power", "%", _start),
    "dead_band_pct": ("Dead band", "%", _dead_band),
    "pwm_hz": ("Switching frequency", "Hz", _pwm),
    "reverse": ("Reverse", "", _reverse),
    "rollback_from_c": ("Gives less from", "C", _rollback),
}
"""Label, unit and working out of each, in the order in which they are set."""

EITHER_WAY: dict[SettingId, tuple[str, str]] = {
    "motor_current_limit_a": ("Less push, cooler.", "Hotter by its square, past some peak."),
    "battery_current_limit_a": ("Slower uphill and at speed.", "The pack sags and warms more."),
    "regen_current_limit_a": ("More for the brake.", "Cells are charged too fast."),
    "cut_off_v": ("Farther on a charge; cells age.", "Cuts out with charge left when cold."),
    "max_rpm": ("A slower top.", "Rotor or controller passes what it stands."),
    "timing_deg": ("Cooler, slower.", "Faster and hotter; magnets suffer."),
    "boost_timing_deg": ("Less rush at the top.", "More rpm, far more amps."),
    "turbo_timing_deg": ("Less at full trigger.", "More rpm on the straight, and heat."),
    "half_throttle_pct": ("Finer when slow, coarser at the top.", "Coarser when slow."),
    "ramp_pct_per_s": ("Softer, later.", "Punchier, until pack, grip or rider gives way."),
    "drag_brake_pct": ("Rolls on more freely.", "Stops harder as the trigger is let go."),
    "brake_pct": ("A longer way to stop.", "Wheels lock."),
    "start_power_pct": ("Stutters at the start.", "Jerks, and heats a rotor that is stuck."),
    "dead_band_pct": ("May creep with the trigger let go.", "First of the trigger does nothing."),
    "pwm_hz": ("Rougher, louder, less switching loss.", "Smoother, the controller warmer."),
    "reverse": ("No way back by power.", "Gears take the blow."),
    "rollback_from_c": ("Gives less sooner, lives longer.", "Full power nearer to its end."),
}
"""What a step below and a step above does."""

LIMITS: frozenset[SettingId] = frozenset(
    ("motor_current_limit_a", "battery_current_limit_a", "regen_current_limit_a")
)
"""Those whose value is the most; what is set below is left alone."""


def rows_of(known: Known) -> list[SettingRow]:
    """Return every setting of a build."""
    offers = known.build.controller.offers
    rows = []
    for setting, (label, unit, worked_out) in WORKED_OUT.items():
        value, why = worked_out(known)
        below, above = EITHER_WAY[setting]
        told = number(value) if isinstance(value, float) else value
        rows.append(
            SettingRow(
                id=setting,
                label=label,
                value=told,
                unit=unit,
                why=why,
                below=below,
                above=above,
                at_most=setting in LIMITS,
                offered=None if offers is None else setting in offers,
                stands=standing_of(known.build, setting, told, at_most=setting in LIMITS),
            )
        )
    return rows
