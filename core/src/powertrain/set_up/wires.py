"""Wires between pack, controller and motors: how many, what they lose, which belongs where."""

import math
from itertools import permutations
from typing import Literal

from pydantic import BaseModel

from powertrain.constants import COPPER_OHM_M
from powertrain.documents.build import Build
from powertrain.plain import number
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.rules.wires import LONG_A_PER_MM2, SIZES_MM2

SENSOR_WIRES = {"hall": 5, "encoder": 6}
"""Feed, ground and three signals of Hall sensors; feed, ground and two pairs of an encoder (common
practice)."""

LONG_LEADS_M = 0.5
"""Pack leads beyond which the controller's own capacitors no longer swallow their spikes; common
practice, no source."""


class Cable(BaseModel):
    """One kind of cable in the build: how many wires of how many motors or packs."""

    what: str
    wires: int
    of: str


class Loss(BaseModel):
    """What a cable keeps at a moment; `mm2` is `assumed`, the thinnest that does, where unsaid."""

    id: Literal["pack", "motor"]
    length_m: float
    mm2: float
    assumed: bool
    resistance_mohm: float
    moment: str
    current_a: float
    lost_v: float
    lost_w: float


class PhaseOrder(BaseModel):
    """One way to join the motor's three wires, the sensors' order kept.

    `torque_share` is the mean torque for the same amps, that of the right order being 1.
    """

    order: str
    torque_share: float
    does: str


class WiresAnswer(BaseModel):
    """Cables counted, what they lose, the six orders of three wires, and how to find the right."""

    cables: list[Cable]
    losses: list[Loss]
    leads: str
    orders: list[PhaseOrder]
    finding: list[str]
    direction: str
    twins: str


def wires_of(build: Build, context: RuleContext, pack_m: float, motor_m: float) -> WiresAnswer:
    """Return the wires of a build, its cables as long as said, one way."""
    ratings = context.ratings
    three = ratings.motor.brushless and not context.drive.motor.has_inverter
    sensored = three and ratings.motor.sensor in SENSOR_WIRES
    return WiresAnswer(
        cables=_cables(build, context),
        losses=[
            *_losses("pack", pack_m, float(ratings.wiring.pack_wire_mm2), context),
            *_losses("motor", motor_m, float(ratings.wiring.motor_wire_mm2), context),
        ],
        leads=_leads(pack_m),
        orders=phase_orders() if sensored else [],
        finding=FINDING if sensored else [],
        direction=direction_of(build, context),
        twins=_twins(build),
    )


def _cables(build: Build, context: RuleContext) -> list[Cable]:
    motors, controllers = build.motor.count, build.controller.count
    found = [Cable(what="Pack leads", wires=2 * controllers, of=_each(controllers, "controller"))]
    if context.drive.motor.has_inverter:
        return found
    each = 3 if context.ratings.motor.brushless else 2
    found.append(Cable(what="Motor wires", wires=each * motors, of=_each(motors, "motor")))
    sensor = build.motor.sensor
    if context.ratings.motor.brushless and sensor in SENSOR_WIRES:
        wires = SENSOR_WIRES[sensor] * motors
        word = "Hall sensor wires" if sensor == "hall" else "Encoder wires"
        found.append(Cable(what=word, wires=wires, of=_each(motors, "motor")))
    found.append(Cable(what="Throttle wires", wires=3 * controllers, of=_each(controllers, "")))
    return found


def _each(count: int, noun: str) -> str:
    return f"{count} {noun}{'s' * (count > 1)}".strip() if noun else ""


def _losses(
    which: Literal["pack", "motor"], length_m: float, mm2: float, context: RuleContext
) -> list[Loss]:
    moments = [
        ("at cruise", context.moments.cruise.state),
        ("on its hill", context.moments.climb.state),
    ]
    key = "battery_current_a" if which == "pack" else "motor_current_a"
    amps = [abs(float(getattr(state, key))) for _, state in moments]
    assumed = not math.isfinite(mm2)
    if assumed:
        needed = (number(max(amps)) or 0.0) / LONG_A_PER_MM2
        mm2 = next((size for size in SIZES_MM2 if size >= needed), SIZES_MM2[-1])
    # There and back: two wires carry the amps at any moment, of three too.
    ohm = COPPER_OHM_M * 2 * length_m / (mm2 * 1e-6)
    return [
        Loss(
            id=which,
            length_m=length_m,
            mm2=mm2,
            assumed=assumed,
            resistance_mohm=1000 * ohm,
            moment=word,
            current_a=current,
            lost_v=ohm * current,
            lost_w=ohm * current**2,
        )
        for (word, _), current in zip(moments, amps, strict=True)
    ]


def _leads(pack_m: float) -> str:
    if pack_m <= LONG_LEADS_M:
        return "Short enough for the controller's own capacitors; lengthen the motor's side first."
    return (
        "So long, their inductance makes spikes at each switching that kill capacitors: shorten "
        "them, or add low-loss capacitors at the controller, one for each further 0.2 m. Lengthen "
        "the motor's wires rather than the pack's."
    )


def phase_orders() -> list[PhaseOrder]:
    """Return the six orders of three motor wires with the sensors' order kept.

    The controller pushes a quarter turn ahead of where it takes the rotor to be. Three wires moved
    on by one turn that push by 120 degrees, so that it pulls back with cos 120 of the torque; two
    of them exchanged make it turn the other way round, so that it locks wherever it is pulled to.
    """
    return [_order(order) for order in permutations("ABC")]


def _order(order: tuple[str, ...]) -> PhaseOrder:
    shift = "ABC".index(order[0])
    moved_on = tuple("ABC"[(shift + place) % 3] for place in range(3)) == order
    if not moved_on:
        share, does = 0.0, "Jerks and holds still; amps without turning. Let go at once."
    elif shift == 0:
        share, does = 1.0, "Turns smoothly with the least amps: the right one."
    else:
        share = math.cos(math.radians(120 * shift))
        does = "Turns the wrong way, rough, with twice the amps. Not this one."
    return PhaseOrder(order="".join(order), torque_share=share, does=does)


FINDING = [
    "Wheels off the ground. Hold the pack's amps to a tenth: a limit, a supply, a lamp in series.",
    "Leave the sensors' wires as they are. Write the order down before each change; the pack off.",
    "A touch of trigger for one second in each of the six orders, and read the pack's amps.",
    "The one that turns smoothly with the least amps is right. If it turns the wrong way, let the "
    "controller turn it round, or exchange two motor wires and the two sensor wires of the same "
    "phases.",
]


def direction_of(build: Build, context: RuleContext) -> str:
    """Return how the direction is turned round."""
    motor = context.drive.motor
    if motor.races_unloaded:
        return "Swap the field or the armature, not both."
    if motor.has_inverter:
        return "Let its inverter turn it round."
    if build.motor.commutation == "brushed":
        return "Swap its two wires."
    if build.motor.sensor in SENSOR_WIRES:
        return (
            "Let the controller turn it round: with sensors, two wires swapped alone make it "
            "stutter and burn."
        )
    return "Swap any two of its three wires."


def _twins(build: Build) -> str:
    if build.motor.count < 2:
        return ""
    return (
        "Motors that face one another across an axle turn opposite ways as each sees its own "
        "shaft: turn one of them round, and try each alone before both."
    )
