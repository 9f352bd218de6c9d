"""What a kind of motor is argued by: its own efficiency, ripple, brushes, and its cost in use."""

import math
from typing import Any

import numpy as np

from powertrain.bench.answer import Band, StateAnswer
from powertrain.compare.candidate import Compared, Said
from powertrain.load.traction import MODEL_KG
from powertrain.motor.brush_life import BrushLife
from powertrain.operating.full_throttle import fastest_rad_s
from powertrain.operating.state import State, state_at_full_throttle

SPEEDS = 200
SIX_STEPS = 6
"""Pulses of a brushless motor for each pair of poles."""


def cruising(one: Compared) -> Said:
    """Return what the motor alone makes of its watts at cruise."""
    state = next(item for item in one.answer.moments if item.id == "cruise").state
    fed_w, given_w = _own_watts(one, state)
    if fed_w <= 0 or given_w <= 0:
        return None, ""
    return float(100 * given_w / fed_w), f"at {state.motor_rpm:,.0f} rpm"


def _own_watts(one: Compared, state: StateAnswer | State) -> tuple[Any, Any]:
    """Return what the motors are fed and what they give, what hangs on their tail included."""
    along = one.drive.auxiliaries
    from_pack_w = 0.0 if along is None else float(along.pack_w)
    fed_w = state.terminals_w - state.controller_heat_w - from_pack_w
    return fed_w, state.shaft_w + state.auxiliaries_w - from_pack_w


def best(one: Compared) -> Said:
    """Return the most that the motor alone makes of its watts at full throttle, and where."""
    fastest = float(fastest_rad_s(one.drive))
    if not math.isfinite(fastest) or fastest <= 0:
        return None, ""
    speeds = np.linspace(0.0, fastest, SPEEDS)[1:]
    states = state_at_full_throttle(one.drive, speeds, np.zeros(speeds.shape))
    fed_w, given_w = _own_watts(one, states)
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.where((fed_w > 0) & (given_w > 0), given_w / fed_w, 0.0)
    place = int(np.argmax(share))
    if share[place] <= 0:
        return None, ""
    rpm = np.broadcast_to(states.motor_rpm, share.shape)[place]
    return 100 * float(share[place]), f"at {rpm:,.0f} rpm"


def ripple(one: Compared) -> Said:
    """Return how far the torque swings while it turns slowly.

    With brushes and an odd number N of slots the commutator makes 2 N pulses a turn. Cogging comes
    on top, and no label tells it.
    """
    motor = one.build.motor
    if one.drive.motor.has_inverter:
        return None, "its inverter feeds sines"
    if motor.commutation == "brushless":
        return _swing_pct(SIX_STEPS), "fed in six steps"
    slots = motor.slots
    if slots is None:
        return None, "its slots are not stated"
    pulses = 2 * slots if slots % 2 else slots
    return _swing_pct(pulses), f"{pulses} pulses a turn"


def _swing_pct(pulses: int) -> float:
    """Return the swing of the tops of so many sines a turn, of their mean (textbook)."""
    half = math.pi / pulses
    return 100 * (1 - math.cos(half)) * half / math.sin(half)


def life_of(one: Compared) -> BrushLife | None:
    """Return how long a build's brushes last at cruise; None where it has none."""
    if one.build.motor.commutation != "brushed":
        return None
    state = next(item for item in one.answer.moments if item.id == "cruise").state
    lasting = one.build.motor.continuous_current_a
    is_model = one.build.vehicle.mass_kg < MODEL_KG
    return BrushLife.at(
        state.motor_current_a, math.inf if lasting is None else lasting, is_model=is_model
    )


def brushes(one: Compared) -> Said:
    """Return how long brushes last at cruise."""
    life = life_of(one)
    if life is None:
        return None, "none to wear"
    return life.hours, "then a new motor" if life.replaced else "then a new set"


def brushes_band(one: Compared) -> Band | None:
    """Return the ends of that."""
    life = life_of(one)
    return None if life is None else [life.least, life.hours, life.most]


def price(one: Compared) -> Said:
    """Return what motors and controllers cost; None where not all prices are said."""
    motor, controller = one.build.motor, one.build.controller
    if motor.price is None or controller.price is None:
        return None, ""
    return motor.count * motor.price + controller.count * controller.price, ""


def cost_band(one: Compared) -> Band | None:
    """Return what they cost over the hours of use, brushes included."""
    first, motor = price(one)[0], one.build.motor
    life = life_of(one)
    if first is None or motor.price is None or life is None:
        return None
    middle, least, most = life.cost(one.hours, motor.count * motor.price)
    return [first + least, first + middle, first + most]


def cost(one: Compared) -> Said:
    """Return what motor and controller cost over the hours of use."""
    band, first = cost_band(one), price(one)[0]
    if first is None:
        return None, ""
    hours = f"{one.hours:,.0f} h"
    return (first, f"in {hours}") if band is None else (band[1], f"in {hours}, with brushes")
