"""The amps, volts and rpm that a controller is set to: never above what a part says it stands."""

from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel

from powertrain.compile.build import CompiledBuild
from powertrain.compile.ratings import CurrentRating
from powertrain.documents.build import Build
from powertrain.plain import number


class LimitsAnswer(BaseModel):
    """What to set, as one controller is told it; None where no part says what it stands."""

    motor_current_a: float | None
    battery_current_a: float | None
    regen_current_a: float | None
    cut_off_v: float


@dataclass(frozen=True)
class Bound:
    """A limit, and in words what sets it; infinite and silent where nothing does."""

    value: float
    why: str

    @property
    def told(self) -> float | None:
        """Return the limit, None where nothing sets it."""
        return number(self.value)


def least(*bounds: Bound) -> Bound:
    """Return the bound that binds."""
    return min(bounds, key=lambda bound: bound.value)


def motor_amps(compiled: CompiledBuild) -> Bound:
    """Return the motor amps limit of one controller, in the amps that it is told in."""
    motor, controller = compiled.ratings.motor, compiled.ratings.controller
    of_motor = _most(motor.amps, "the motor's")
    bounds = [Bound(of_motor.value * controller.per_dc, of_motor.why)]
    if not controller.pack_side:
        # A side that is not told may be the motor's, which is the harder.
        bounds.append(_most(controller.amps, "the controller's"))
    return least(*bounds)


def pack_amps(compiled: CompiledBuild) -> Bound:
    """Return the pack amps limit of one controller.

    Not above the pack's peak, nor so many that the pack, resting as it does now, falls to its
    cut-off, nor above what a controller that is rated at the pack stands.
    """
    drive, ratings = compiled.drive, compiled.ratings
    count = float(drive.controller.count)
    of_pack = _most(ratings.pack.amps, "the pack's")
    if not np.isfinite(of_pack.value):
        usual_a = float(ratings.pack.usual_c * drive.pack.capacity_ah)
        of_pack = Bound(usual_a, "what such cells usually give, as their maker does not say")
    room_v = max(float(drive.pack.open_circuit_v - ratings.pack.cut_off_v), 0.0)
    ohm = float(drive.pack.resistance_ohm)
    sags_a = room_v / ohm if ohm > 0 else np.inf
    bounds = [
        Bound(of_pack.value / count, of_pack.why),
        Bound(sags_a * (1 - 1e-9) / count, "what keeps the pack above its cut-off"),
    ]
    # Nothing draws more from the pack than all motors at their own limit.
    each = motor_amps(compiled)
    all_a = each.value / ratings.controller.per_dc * float(drive.motor.count)
    bounds.append(Bound(all_a / count, "what its motors take at their limit"))
    if ratings.controller.pack_side:
        bounds.append(_most(ratings.controller.amps, "the controller's"))
    wires = ratings.wiring
    bounds.append(Bound(float(wires.connector_a) / count, "what the connector carries"))
    return least(*bounds)


def regen_amps(build: Build, compiled: CompiledBuild) -> Bound:
    """Return what one controller may push back: never more than the pack may be charged with."""
    count = float(compiled.drive.controller.count)
    charge, own = build.battery.charge_current_a, build.controller.regen_current_limit_a
    bounds = [
        Bound(np.inf if charge is None else charge / count, "what the pack may be charged with"),
        Bound(np.inf if own is None else own, "what is set now"),
    ]
    return least(*bounds)


def highest_rpm(compiled: CompiledBuild) -> Bound:
    """Return the motor's highest rpm, or what the controller follows, whichever is lower."""
    motor, controller = compiled.ratings.motor, compiled.ratings.controller
    pairs = float(motor.poles) / 2
    follows = float(controller.max_erpm) / pairs if np.isfinite(pairs) else np.inf
    return least(
        Bound(float(motor.max_rpm), "what the motor may turn"),
        Bound(follows, f"what the controller follows with {pairs:g} pairs of poles"),
    )


def limits_of(build: Build, compiled: CompiledBuild) -> LimitsAnswer:
    """Return the four limits that are set first."""
    return LimitsAnswer(
        motor_current_a=motor_amps(compiled).told,
        battery_current_a=pack_amps(compiled).told,
        regen_current_a=regen_amps(build, compiled).told,
        cut_off_v=float(compiled.ratings.pack.cut_off_v),
    )


def _most(amps: CurrentRating, whose: str) -> Bound:
    """Return the peak amps of a part; those for long where no peak is stated."""
    peak, lasting = float(amps.peak_a), float(amps.continuous_a)
    if np.isfinite(peak):
        return Bound(peak, f"{whose} peak")
    return Bound(lasting, f"{whose} amps for long, as no peak is stated")
