"""Temperatures of copper, can, controller and pack at one moment or many."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled, scalar, shape_of, somewhere
from powertrain.drive import Drive
from powertrain.heat.limits import NODES, NodeId, TemperatureLimits
from powertrain.heat.nodes import COPPER_PER_K, OneNode, TwoNodes
from powertrain.heat.parameters import PartParameters, ThermalParameters
from powertrain.heat.passing import seconds_at_nought
from powertrain.operating.free import held
from powertrain.operating.limits import Limit as Binding
from powertrain.operating.state import State, state_at_full_throttle

MOST_WEAKENED = 0.7
"""Magnets that lost this much are gone; the arithmetic stops there."""

MAGNET_ROUNDS = 6

SAME = scalar(1.0)
MOVES = NONE = scalar(0.0)


@dataclass(frozen=True)
class Flows:
    """Watts that warm each node, of one motor, and the travelling speed that cools.

    `magnet_share` is one where the torque is held and weaker magnets take more amps, nought at
    full throttle, where a limit sets the amps; `stands` is one where a motor holds a load at rest.
    """

    copper_w: Array
    winding_w: Array
    case_w: Array
    controller_w: Array
    pack_w: Array
    travel_mps: Array
    magnet_share: Array
    stands: Array


def flows_of(drive: Drive, state: State) -> Flows:
    """Return the heat flows of a state."""
    n = drive.motor.count
    part_throttle = state.limited_by == Binding.NOTHING
    cells = drive.pack.cells_share
    return Flows(
        copper_w=state.copper_heat_w / n,
        winding_w=state.brush_heat_w / n,
        case_w=np.maximum(state.no_load_loss_w, 0.0) / n,
        controller_w=state.controller_heat_w / drive.controller.count,
        pack_w=state.pack_heat_w * cells,
        travel_mps=drive.load.blown_mps(state.output_rad_s, state.situation),
        magnet_share=np.where(part_throttle, 1.0, 0.0),
        stands=np.where(state.motor_rpm == 0, 1.0, 0.0) if drive.load.is_held else MOVES,
    )


@dataclass(frozen=True)
class Node:
    """One node: after a while, in the long run, and when it passes its limit (infinite: never).

    A temperature is infinite where the part is burnt by then; `burnt_s` is when it burns within
    the while (infinite: it does not).
    """

    after_c: Array
    steady_c: Array
    to_limit_s: Array
    burnt_s: Array


@dataclass(frozen=True)
class Temperatures:
    """The four nodes; `runs_away` where the copper has no steady temperature.

    `repeat_share` is the part of the time for which the moment may be kept up, cooling in the
    same air in between, with winding and case at most at their limits.
    """

    winding: Node
    case: Node
    controller: Node
    pack: Node
    runs_away: NDArray[np.bool_]
    repeat_share: Array


def temperatures(
    thermal: ThermalParameters,
    flows: Flows,
    limits: TemperatureLimits,
    seconds: Array,
    *,
    timed: bool = True,
) -> Temperatures:
    """Return the temperatures of parts that begin at their present ones.

    Parameters
    ----------
    seconds : array_like
        After how long the moment is looked at.
    timed : bool
        Whether to find where it all ends, the times at which limits are passed, and the share of
        repeated duty; they take most of the work, and are NaN without.
    """
    if not timed:
        return _untimed(after(thermal, flows, seconds), limits)
    start = {key: thermal.begins.of(key) - thermal.ambient_c for key in NODES}
    begins = start["winding"], start["case"]
    cold = nodes = _nodes(thermal, flows, _leaves_w_per_k(thermal, flows))
    winding, case = _motor_after(thermal, flows, seconds, cold, *begins)
    winding_end, case_end = nodes.steady_k()
    for _ in _magnet_rounds(thermal):
        weaker = _weakened(thermal, flows, case_end)
        nodes = _nodes(thermal, flows, cold.to_air_w_per_k, weaker)
        winding_end, case_end = nodes.steady_k()
    rooms = {key: limits.of(key) - thermal.ambient_c for key in NODES}
    burnt = {key: limits.burnt_c(key) - thermal.ambient_c for key in NODES}
    ends = (winding_end, case_end)
    winding_s, case_s = nodes.seconds_until((rooms["winding"], rooms["case"]), ends, begins)
    burnt_s = (np.full(np.shape(winding), np.inf),) * 2
    if somewhere(winding > burnt["winding"]) or somewhere(case > burnt["case"]):
        burnt_s = nodes.seconds_until((burnt["winding"], burnt["case"]), ends, begins)

    def node(
        key: NodeId, reached_k: Array, end_k: Array, to_limit_s: Array, burns_s: Array
    ) -> Node:
        air = thermal.ambient_c
        return Node(
            limits.or_burnt(key, reached_k + air),
            limits.or_burnt(key, end_k + air),
            to_limit_s,
            np.where(reached_k > burnt[key], burns_s, np.inf),
        )

    def single(key: NodeId, part: PartParameters, heat_w: Array) -> Node:
        single_node = _one(part, heat_w, flows.travel_mps)
        reached_k, burns_s = single_node.after_k(seconds, start[key]), scalar(np.inf)
        if somewhere(reached_k > burnt[key]):
            burns_s = single_node.seconds_until(burnt[key], start[key])
        to_limit_s = single_node.seconds_until(rooms[key], start[key])
        return node(key, reached_k, single_node.steady_k(), to_limit_s, burns_s)

    return Temperatures(
        winding=node("winding", winding, winding_end, winding_s, burnt_s[0]),
        case=node("case", case, case_end, case_s, burnt_s[1]),
        controller=single("controller", thermal.controller, flows.controller_w),
        pack=single("pack", thermal.pack, flows.pack_w),
        runs_away=nodes.runs_away,
        repeat_share=_repeat_share(thermal, flows, limits, cold),
    )


def _untimed(reached: dict[NodeId, Array], limits: TemperatureLimits) -> Temperatures:
    unknown = np.full(np.shape(reached["winding"]), np.nan)
    winding, case, controller, pack = (
        Node(limits.or_burnt(key, reached[key]), unknown, unknown, unknown) for key in NODES
    )
    never = np.zeros(unknown.shape, bool)
    return Temperatures(winding, case, controller, pack, never, unknown)


TABLE = np.geomspace(1e-5, 1.0, 120)
"""Shares of a moment at which many drives are looked at for when they burn."""


def burnt_seconds(
    thermal: ThermalParameters, flows: Flows, limits: TemperatureLimits, within_s: Array
) -> dict[NodeId, Array]:
    """Return when each node of many drives burns at one moment, infinite where it does not.

    Read between times of a table; `flows` are those of one moment, `within_s` how long it lasts.
    """
    at_s = TABLE[:, None] * within_s
    reached = after(thermal, flows, at_s)
    found: dict[NodeId, Array] = {}
    for key in NODES:
        over = np.broadcast_to(reached[key] - limits.burnt_c(key), at_s.shape)
        found[key] = seconds_at_nought(at_s, over)
    return found


def after(
    thermal: ThermalParameters,
    flows: Flows,
    seconds: Array,
    begins_c: Mapping[NodeId, Array] | None = None,
    *,
    as_warm: bool = False,
) -> dict[NodeId, Array]:
    """Return each node's temperature `seconds` into a state.

    Parameters
    ----------
    begins_c : mapping, optional
        Temperature of each node at its beginning; that at which all parts begin where it is None.
    as_warm : bool
        Whether the heat is already that of parts as warm as they are, as in a short step.
    """
    air = thermal.ambient_c
    begins = {key: thermal.begins.of(key) for key in NODES} if begins_c is None else begins_c
    start = {key: begins[key] - air for key in NODES}
    cold = _nodes(thermal, flows, _leaves_w_per_k(thermal, flows))
    if as_warm:
        steady = replace(
            cold, winding_w=flows.copper_w + flows.winding_w, copper_slope_w_per_k=NONE
        )
        winding, case = steady.after_k(seconds, start["winding"], start["case"])
    else:
        winding, case = _motor_after(thermal, flows, seconds, cold, start["winding"], start["case"])
    controller = _one(thermal.controller, flows.controller_w, flows.travel_mps)
    pack = _one(thermal.pack, flows.pack_w, flows.travel_mps)
    return {
        "winding": winding + air,
        "case": case + air,
        "controller": controller.after_k(seconds, start["controller"]) + air,
        "pack": pack.after_k(seconds, start["pack"]) + air,
    }


def _motor_after(
    thermal: ThermalParameters,
    flows: Flows,
    seconds: Array,
    cold: TwoNodes,
    winding_k: Array,
    case_k: Array,
) -> tuple[Array, Array]:
    """Return how far winding and case are above the air after `seconds`.

    `cold` is the motor with its magnets at full strength; `winding_k` and `case_k` are where they
    begin.
    """
    winding, case = cold.after_k(seconds, winding_k, case_k)
    for _ in _magnet_rounds(thermal):
        weaker = _nodes(thermal, flows, cold.to_air_w_per_k, _weakened(thermal, flows, case))
        winding, case = weaker.after_k(seconds, winding_k, case_k)
    return winding, case


def _leaves_w_per_k(thermal: ThermalParameters, flows: Flows) -> Array:
    """Return the watts per kelvin that leave the motor's case."""
    motor = thermal.motor
    return motor.air.conductance_w_per_k(motor.case_to_air_k_per_w, flows.travel_mps)


def _magnet_rounds(thermal: ThermalParameters) -> range:
    """Return how often amps and warmth follow one another: none where no magnet weakens."""
    return range(MAGNET_ROUNDS if somewhere(thermal.motor.magnet_per_k > 0) else 0)


def stalled(drive: Drive, thermal: ThermalParameters) -> tuple[State, ThermalParameters, Flows]:
    """Return full throttle with the wheels held, and the heat data as a stall loads it.

    The wheels are taken to be held, not slipping; nothing blows; and in a brushless motor two
    of three phases carry all of the heat.
    """
    state = state_at_full_throttle(held(drive), np.zeros(shape_of(drive)), drive.load.usual)
    motor = thermal.motor
    local = replace(motor, winding_j_per_k=motor.winding_j_per_k * motor.stall_share)
    return state, replace(thermal, motor=local), flows_of(drive, state)


def stacked(flows: list[Flows]) -> Flows:
    """Return the flows of several moments as one, moments along the first axis."""
    shape = np.broadcast_shapes(*(np.shape(item.copper_w) for item in flows))
    columns = {
        name: np.stack([filled(getattr(item, name), shape) for item in flows])
        for name in flows[0].__dict__
    }
    return Flows(**columns)


def _nodes(
    thermal: ThermalParameters, flows: Flows, leaves_w_per_k: Array, more_amps: Array = SAME
) -> TwoNodes:
    motor = thermal.motor
    copper_w = flows.copper_w * more_amps * more_amps
    # IEC 60034-1 writes the same rise as (235 + T2)/(235 + T1).
    slope = copper_w * COPPER_PER_K / (1 + COPPER_PER_K * (motor.resistance_at_c - 20.0))
    at_air_w = copper_w + slope * (thermal.ambient_c - motor.resistance_at_c)
    return TwoNodes(
        # Amps that stand still warm two of three phases.
        winding_j_per_k=motor.winding_j_per_k * (1 - flows.stands * (1 - motor.stall_share)),
        case_j_per_k=motor.case_j_per_k,
        between_w_per_k=1 / motor.winding_to_case_k_per_w,
        to_air_w_per_k=leaves_w_per_k,
        winding_w=np.maximum(at_air_w, 0.0) + flows.winding_w,
        case_w=flows.case_w,
        copper_slope_w_per_k=slope,
    )


def _weakened(thermal: ThermalParameters, flows: Flows, case_k: Array) -> Array:
    motor = thermal.motor
    warmer_k = np.where(np.isfinite(case_k), case_k, 1e3) + thermal.ambient_c - motor.magnet_at_c
    lost = np.clip(motor.magnet_per_k * warmer_k * flows.magnet_share, -0.1, MOST_WEAKENED)
    return 1 / (1 - lost)


def _one(part: PartParameters, heat_w: Array, travel_mps: Array) -> OneNode:
    leaves = part.air.conductance_w_per_k(part.to_air_k_per_w, travel_mps)
    return OneNode(part.j_per_k, leaves, heat_w)


def _repeat_share(
    thermal: ThermalParameters, flows: Flows, limits: TemperatureLimits, cold: TwoNodes
) -> Array:
    """Return the share of time for which the heat may flow; the copper taken at its limit."""
    motor, air = thermal.motor, thermal.ambient_c
    room, case_room = limits.winding - air, limits.case - air
    hot = 1 + COPPER_PER_K * (limits.winding - motor.resistance_at_c)
    winding_w = flows.copper_w * hot + flows.winding_w
    to_case = (winding_w + flows.case_w) / cold.to_air_w_per_k
    to_winding = to_case + motor.winding_to_case_k_per_w * winding_w
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        share = np.minimum(room / to_winding, case_room / to_case)
    return np.clip(np.where(np.isfinite(share), share, 1.0), 0.0, 1.0)
