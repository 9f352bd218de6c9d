"""One step of a ride: a speed that is asked of a drive, or a throttle, as it is by then.

What is asked is followed where the drive can: the torque that takes it there is found from the
motion (``T = J a + T_load`` in the middle of the step), and the drive gives it, or motor and brakes
take it. Otherwise it goes at full throttle, by the linearly implicit midpoint of `dynamics.step`.
The ledger closes at every part, whatever the length of the step. Copper's resistance and the
magnets' field are those of the temperatures at the beginning of the step; nodes follow their heat
exactly.
"""

from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, choose
from powertrain.compile.build import CompiledBuild
from powertrain.drive import Drive, fed
from powertrain.heat.nodes import COPPER_PER_K
from powertrain.heat.temperatures import MOST_WEAKENED, after, flows_of
from powertrain.load.protocol import asked_nm
from powertrain.operating.full_throttle import FullThrottle, full_throttle, motor_side_power_w
from powertrain.operating.limits import Limit
from powertrain.operating.part_throttle import at_throttle, closed
from powertrain.operating.state import State, state_at, within_charge
from powertrain.runs.pack import PackInTime

Mask = NDArray[np.bool_]

NUDGE = 1e-4


@dataclass(frozen=True)
class RideState:
    """What a ride remembers: all arrays. `gives` is nought once the controller has cut off."""

    output_rad_s: Array
    charge: Array
    winding_c: Array
    case_c: Array
    controller_c: Array
    pack_c: Array
    gives: Array


STATES = tuple(field.name for field in fields(RideState))


@dataclass(frozen=True)
class Asked:
    """What is asked over a step.

    `want_rad_s` is the speed of the output shaft at its end, infinite for full throttle; `opens`
    is nought where the throttle is kept closed; `throttle` a share of the volts, in place of a
    speed where a hand holds it.
    """

    want_rad_s: Array
    situation: Array
    seconds: Array
    opens: Array
    throttle: Array | None = None


@dataclass(frozen=True)
class Ways:
    """How a ride is reckoned, the same for all of it.

    `rollback_c` are the temperatures between which a controller gives less and less, and
    `rolls_back_a` the motor amps that are taken back from.
    """

    pack: PackInTime
    regenerates: bool
    rollback_c: tuple[Array, Array] | None
    rolls_back_a: Array


@dataclass(frozen=True)
class RideStep:
    """Where a step ends, its middle, what the brakes took, and whether it was at full throttle."""

    ends: RideState
    middle: State
    brakes_w: Array
    kinetic_w: Array
    full: Array


def ride_step(compiled: CompiledBuild, ways: Ways, begins: RideState, asked: Asked) -> RideStep:
    """Return what a drive does over a short while."""
    drive = as_it_is(compiled, ways, begins)
    inertia, begin, situation = drive.inertia_kg_m2, begins.output_rad_s, asked.situation
    gives = begins.gives * asked.opens > 0.5
    seconds = np.maximum(asked.seconds, 1e-9)

    def pushes(output_rad_s: Array) -> FullThrottle:
        if asked.throttle is None:
            on = full_throttle(drive, output_rad_s, situation)
        else:
            on = at_throttle(drive, output_rad_s, situation, asked.throttle)
        return choose(gives, on, closed(drive, on, output_rad_s))

    def spare_nm(output_rad_s: Array) -> Array:
        return pushes(output_rad_s).output_nm - asked_nm(drive.load, output_rad_s, situation)

    nudge = NUDGE * np.maximum(begin, 1.0)
    spare = spare_nm(begin)
    slope = np.minimum((spare_nm(begin + nudge) - spare) / nudge, 0.0)
    half = 0.5 * seconds * spare / (inertia - 0.5 * seconds * slope)
    free_end = np.maximum(begin + 2 * half, 0.0)
    follows = asked.want_rad_s < free_end
    end = np.where(follows, asked.want_rad_s, free_end)
    middle_rad_s = 0.5 * (begin + end)

    at = pushes(middle_rad_s)
    needs_nm = inertia * (end - begin) / seconds + asked_nm(drive.load, middle_rad_s, situation)
    amps, pack_a = _followed(drive, ways, at, middle_rad_s, needs_nm, gives)
    stands = middle_rad_s <= 0
    rests = stands & (follows | ~gives)
    amps = np.where(follows, amps, at.motor_current_a)
    amps = np.where(rests, 0.0, amps)
    pack_a = np.where(follows, pack_a, at.battery_current_a)
    pack_a = np.where(rests, drive.controller.standby_a, pack_a)
    limited = np.where(follows | rests, Limit.NOTHING, at.limited_by)
    middle = _state(drive, middle_rad_s, situation, amps, pack_a, limited, at, follows)

    moving_w = 0.5 * inertia * (end * end - begin * begin) / seconds
    # Of a full step the energy of its middle says how fast it ends; of a followed one the rest of
    # the motor's braking is the brakes'.
    free_j = 0.5 * inertia * begin * begin + middle.speeding_up_w * seconds
    free_rad_s = np.sqrt(2 * np.maximum(free_j, 0.0) / inertia)
    end = np.where(follows, end, free_rad_s)
    moving_w = np.where(follows, moving_w, 0.5 * inertia * (end * end - begin * begin) / seconds)
    brakes_w = middle.speeding_up_w - moving_w

    ends = ends_of(drive, compiled, ways, begins, asked, middle, end)
    full = np.where(follows | ~gives, 0.0, 1.0)
    return RideStep(ends, middle, brakes_w, moving_w, full)


def ends_of(
    drive: Drive,
    compiled: CompiledBuild,
    ways: Ways,
    begins: RideState,
    asked: Asked,
    middle: State,
    end_rad_s: Array,
) -> RideState:
    """Return the state at the end of a step: as warm and as empty as its middle has made it."""
    flows = flows_of(drive, middle)
    temperatures = {
        "winding": begins.winding_c,
        "case": begins.case_c,
        "controller": begins.controller_c,
        "pack": begins.pack_c,
    }
    warm = after(compiled.thermal, flows, asked.seconds, temperatures, as_warm=True)  # type: ignore[arg-type]
    pack_a = middle.battery_current_a
    charge = ways.pack.charge_after(begins.charge, pack_a, begins.pack_c, asked.seconds)
    volts = middle.battery_voltage_v
    back = np.where(volts >= ways.pack.recovers_v, 1.0, begins.gives)
    keeps = np.where((volts < ways.pack.cut_off_v) & (begins.gives > 0.5), 0.0, back)
    return RideState(
        output_rad_s=end_rad_s,
        charge=charge,
        winding_c=warm["winding"],
        case_c=warm["case"],
        controller_c=warm["controller"],
        pack_c=warm["pack"],
        gives=np.where(charge > 0, keeps, 0.0),
    )


def as_it_is(compiled: CompiledBuild, ways: Ways, state: RideState) -> Drive:
    """Return the drive with its pack at its charge, and its parts as warm as they are."""
    drive, motor_heat = compiled.drive, compiled.thermal.motor
    at_c = motor_heat.resistance_at_c
    ohm = (1 + COPPER_PER_K * (state.winding_c - 20)) / (1 + COPPER_PER_K * (at_c - 20))
    lost = np.minimum(motor_heat.magnet_per_k * (state.case_c - at_c), MOST_WEAKENED)
    pack = ways.pack.at(drive.pack, state.charge, state.pack_c)
    controller = drive.controller
    if ways.rollback_c is not None:
        low, high = ways.rollback_c
        share = np.minimum(np.maximum((high - state.controller_c) / (high - low), 0.0), 1.0)
        limit = np.where(share < 1, share * ways.rolls_back_a, controller.motor_current_limit_a)
        controller = replace(controller, motor_current_limit_a=limit)  # type: ignore[type-var]
    motor = drive.motor.warmed(ohm, 1.0 - lost)
    return replace(drive, pack=pack, controller=controller, motor=fed(motor, pack, controller))


def _followed(
    drive: Drive, ways: Ways, at: FullThrottle, output_rad_s: Array, needs_nm: Array, gives: Mask
) -> tuple[Array, Array]:
    """Return the motor and pack amps that give a torque, or as much braking as they may."""
    geared = drive.in_gear(at.gear)
    motor, pack, controller = geared.motor, geared.pack, geared.controller
    standby_a = controller.standby_a
    turns = geared.motor_rad_s(output_rad_s)
    none = np.zeros_like(turns)
    coasting_nm = geared.output_nm(motor.shaft_torque_nm(turns, none))
    amps = motor.current_at_torque_a(turns, geared.shaft_torque_for_nm(needs_nm))
    brakes = needs_nm < coasting_nm
    amps = np.where(brakes, np.minimum(amps, 0.0), np.maximum(amps, 0.0))
    if ways.regenerates and not motor.races_unloaded:
        # Never more than shorted motors brake by themselves: beyond, the pack would have to pay.
        emf_v = motor.voltage_v(turns, none)
        ohm = motor.voltage_v(turns, none + 1.0) - emf_v + controller.resistance_ohm
        most = np.minimum(controller.motor_current_limit_a, np.maximum(emf_v, 0.0) / ohm)
        amps = np.maximum(amps, -most)
    else:
        amps = np.maximum(amps, 0.0)
    amps = np.where(gives | brakes, amps, 0.0)
    power_w = motor_side_power_w(geared, turns, amps)
    pack_a = pack.current_at_power_a(power_w, standby_a)
    with np.errstate(divide="ignore", invalid="ignore"):
        room_a = np.maximum(ways.pack.charger_v - pack.open_circuit_v, 0.0) / pack.resistance_ohm
    room_a = np.where(pack.resistance_ohm > 0, room_a, np.inf)
    most_a = np.minimum(np.minimum(controller.regen_limit_a, pack.charge_a), room_a)
    held_a, back_a = within_charge(geared, turns, amps, pack_a, most_a)
    # Motors that give back less than that are held to it; none that pushes is.
    amps, pack_a = np.where(brakes, held_a, amps), np.where(brakes, back_a, pack_a)
    held_w = motor_side_power_w(geared, turns, amps)
    return amps, np.where(brakes, pack.current_at_power_a(held_w, standby_a), pack_a)


def _state(
    drive: Drive,
    output_rad_s: Array,
    situation: Array,
    amps: Array,
    pack_a: Array,
    limited: Array,
    at: FullThrottle,
    follows: Mask,
) -> State:
    whole = (output_rad_s, situation, amps, pack_a, limited, at.gear)
    part, wide = state_at(drive, *whole), drive.wide_open()  # type: ignore[arg-type]
    if wide is drive:
        return part
    return choose(follows, part, state_at(wide, *whole))  # type: ignore[arg-type]
