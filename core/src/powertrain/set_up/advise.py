"""Which kind of motor: with brushes or without, sensed or not, which rotor, which machine.

The trade draws lines by the top speed of the vehicle, at 8, 15 and 20 mph: up to the first a
brushed motor gives the finest slow control for the money, up to the second either does, from the
third brush wear rules it out. All other lines are common practice without a source, and said so.
Each answer holds its reasons in the order of their weight, with the figure that decided, and both
schools.
"""

from typing import Literal

from pydantic import BaseModel

from powertrain.compare.baseline import CLASSES, VehicleClass
from powertrain.load.traction import MODEL_KG
from powertrain.motor.brush_life import BrushLife
from powertrain.set_up.advised_by import AdvisedBy, Commutation

MPH_KMH = 1.609344
FINE_KMH, EITHER_KMH, WEAR_KMH = 8 * MPH_KMH, 15 * MPH_KMH, 20 * MPH_KMH
"""The trade's lines between brushed and brushless: 8, 15 and 20 mph."""

STEEP_PCT = 4.0
"""A start on more than that is one under load."""

HUB_NM = 25.0
"""Torque that a hub of a rider's vehicle gives for long, with no gear to help it."""

HUB_RPM = (90.0, 1000.0)
"""Rpm of a wheel between which a hub motor is neither huge nor torn apart."""

INRUNNER_RPM = 700.0
"""A wheel that turns faster belongs to a small quick vehicle, which gears an inrunner down."""

SMALL_W, LARGE_W = 6_000.0, 20_000.0
"""Below the first permanent magnets are what is sold; above the second AC with its inverter is."""

HEAVY_KG = 300.0

USED_H = 100.0
"""Hours of use in a year, where nobody says; common practice, no source."""

TIGHT_BUDGET = 150.0

Sensing = Literal["sensored", "sensorless", "hybrid", "either"]
Rotor = Literal["inrunner", "outrunner", "hub", "either"]
Machine = Literal["permanent_magnet", "series_wound", "packaged", "induction", "either"]


class KindReason(BaseModel):
    """Why, by a figure of the vehicle against a line; `figure` ends in its unit."""

    say: str
    figure: str
    value: float | None
    line: float | None


class KindAdvice(BaseModel):
    """Why one of several kinds, what would turn it, and both schools."""

    why: list[KindReason]
    turns: str
    schools: list[str]


class CommutationAdvice(KindAdvice):
    """With brushes or without."""

    pick: Commutation


class SensingAdvice(KindAdvice):
    """How the controller knows where the rotor stands."""

    pick: Sensing


class RotorAdvice(KindAdvice):
    """Which of motor and magnets turns, and where."""

    pick: Rotor


class MachineAdvice(KindAdvice):
    """Which machine."""

    pick: Machine


class AdviceAnswer(BaseModel):
    """All four, each with its reasons, what would turn it, and both schools."""

    commutation: CommutationAdvice
    sensing: SensingAdvice
    rotor: RotorAdvice
    machine: MachineAdvice


def advice_of(figures: AdvisedBy) -> AdviceAnswer:
    """Return which kind of motor suits."""
    commutation = _commutation(figures)
    return AdviceAnswer(
        commutation=commutation,
        sensing=sensing_of(figures, commutation.pick),
        rotor=_rotor(figures, commutation.pick),
        machine=_machine(figures),
    )


def _commutation(figures: AdvisedBy) -> CommutationAdvice:
    top = figures.top_speed_kmh
    why: list[KindReason] = []
    if figures.stated is not None:
        why.append(KindReason(say="The brief says so.", figure="wish", value=None, line=None))
        pick: Commutation = figures.stated
    elif top is None:
        pick = "either"
        why.append(_unknown("top_speed_kmh", "No top speed is wished for: nothing decides."))
    elif top <= FINE_KMH:
        pick = "brushed"
        say = "Below 8 mph brushes give the finest slow control for the money."
        why.append(KindReason(say=say, figure="top_speed_kmh", value=top, line=FINE_KMH))
    elif top <= EITHER_KMH:
        pick = "either"
        say = "Between 8 and 15 mph either does."
        why.append(KindReason(say=say, figure="top_speed_kmh", value=top, line=EITHER_KMH))
    else:
        pick = "brushless"
        say = (
            "From 20 mph brush wear rules brushes out."
            if top >= WEAR_KMH
            else "Above 15 mph brushes wear fast; they are near where wear rules them out."
        )
        line = WEAR_KMH if top >= WEAR_KMH else EITHER_KMH
        why.append(KindReason(say=say, figure="top_speed_kmh", value=top, line=line))
    if figures.budget is not None and figures.budget < TIGHT_BUDGET:
        say = "Little money speaks for brushes: motor and controller cost half."
        why.append(KindReason(say=say, figure="budget", value=figures.budget, line=TIGHT_BUDGET))
    if figures.stall_s is not None:
        say = "Held stalled, brushes burn their commutator in one place."
        why.append(KindReason(say=say, figure="hold_stall_s", value=figures.stall_s, line=1.0))
    if figures.power_w is not None and figures.power_w > 1000:
        say = "Of this power 75 to 80 % come through brushes, 85 to 90 % without."
        why.append(KindReason(say=say, figure="power_w", value=figures.power_w, line=1000.0))
    if pick != "brushless":
        life = BrushLife.at(1.0, 1.0, is_model=figures.is_model)
        wears = (
            "the motor is changed then" if life.replaced else "a new set is a tenth of the motor"
        )
        say = (
            f"Brushes last about {life.hours:g} hours here, {life.least:.0f} to {life.most:.0f}; "
            f"{wears}. Against {USED_H:g} hours a year."
        )
        why.append(KindReason(say=say, figure="brush_life_h", value=life.hours, line=USED_H))
    return CommutationAdvice(
        pick=pick,
        why=why,
        turns="Another top speed across 8, 15 or 20 mph; dust and water speak against brushes, "
        "spare parts at hand for them.",
        schools=[
            "One school: brushed for all that crawls. It starts from nothing, its controller "
            "costs little, and one wire fewer can break.",
            "The other: a well-set sensored brushless drive crawls as finely, lasts, and wastes "
            "less; brushes dust, spark and wear.",
            trade_table(figures),
        ],
    )


def sensing_of(figures: AdvisedBy, commutation: Commutation) -> SensingAdvice:
    """Return how the controller should know where the rotor stands."""
    top, grade = figures.top_speed_kmh, figures.grade_pct
    why: list[KindReason] = []
    if commutation == "brushed":
        pick: Sensing = "either"
        say = "Brushes find the rotor by themselves; this is for a brushless one."
        why.append(KindReason(say=say, figure="top_speed_kmh", value=top, line=FINE_KMH))
    elif top is not None and top <= EITHER_KMH:
        pick = "sensored"
        say = "It goes slowly: without sensors it stutters where it is steered finest."
        why.append(KindReason(say=say, figure="top_speed_kmh", value=top, line=EITHER_KMH))
    elif not figures.is_model:
        pick = "sensored" if grade is not None and grade >= STEEP_PCT else "hybrid"
        say = "It starts from rest with its load: a blind start under load jerks or fails."
        why.append(KindReason(say=say, figure="mass_kg", value=figures.mass_kg, line=MODEL_KG))
        if grade is not None:
            say = "It may have to start on its hill."
            why.append(KindReason(say=say, figure="climb_grade_pct", value=grade, line=STEEP_PCT))
    elif top is not None and top > WEAR_KMH:
        pick = "sensorless"
        say = (
            "It is light and fast: it is soon at rpm where back-EMF tells enough, and wires break."
        )
        why.append(KindReason(say=say, figure="top_speed_kmh", value=top, line=WEAR_KMH))
    else:
        pick = "hybrid"
        why.append(_unknown("top_speed_kmh", "Sensors for the start, none above, suit most."))
    return SensingAdvice(
        pick=pick,
        why=why,
        turns="Slow steering and starts under load ask for sensors; water, heat and long cables "
        "speak against them.",
        schools=[
            "One school: always sensored. It starts, holds and crawls from nothing.",
            "The other: sensorless. Five thin wires fewer, and none of it fails in the wet; a push "
            "with the foot or a soft start does.",
            trade_table(figures),
        ],
    )


def _rotor(figures: AdvisedBy, commutation: Commutation) -> RotorAdvice:
    rpm, torque = figures.wheel_rpm, figures.hill_nm
    low, high = HUB_RPM
    why: list[KindReason] = []
    if commutation == "brushed":
        pick: Rotor = "inrunner"
        say = "A brushed motor's rotor turns inside."
        why.append(
            KindReason(say=say, figure="top_speed_kmh", value=figures.top_speed_kmh, line=FINE_KMH)
        )
    elif rpm is None:
        pick = "either"
        why.append(_unknown("wheel_rpm", "No top speed is wished for: the wheel's rpm is open."))
    elif figures.is_model:
        pick = "inrunner" if rpm > INRUNNER_RPM else "outrunner"
        say = (
            "Its small wheels turn fast: a slim rotor stands the rpm, and gears take them down."
            if rpm > INRUNNER_RPM
            else "Its wheels turn slowly: an outrunner's torque needs less gearing."
        )
        why.append(KindReason(say=say, figure="wheel_rpm", value=rpm, line=INRUNNER_RPM))
    elif torque is not None and torque > HUB_NM:
        pick = "outrunner"
        say = "Its hill asks more torque of the wheel than a hub without gears gives for long."
        why.append(KindReason(say=say, figure="hill_torque_nm", value=torque, line=HUB_NM))
    elif low <= rpm <= high and figures.mass_kg < HEAVY_KG:
        pick = "hub"
        say = "Its wheel turns as a hub motor likes to: nothing to mesh, nothing to tension."
        why.append(KindReason(say=say, figure="wheel_rpm", value=rpm, line=high))
        light = "It is light enough."
        why.append(KindReason(say=light, figure="mass_kg", value=figures.mass_kg, line=HEAVY_KG))
    else:
        pick = "either"
        say = "It needs gearing either way; what fits the frame decides."
        why.append(
            KindReason(say=say, figure="wheel_rpm", value=rpm, line=low if rpm < low else high)
        )
    return RotorAdvice(
        pick=pick,
        why=why,
        turns="Steep hills and heavy loads ask for gears; little to mend and silence for a hub.",
        schools=[
            "One school: gears and a small quick motor. Light, strong, and a tooth changes it.",
            "The other: a hub or a large slow outrunner. Silent, nothing wears but bearings.",
            trade_table(figures),
        ],
    )


def _machine(figures: AdvisedBy) -> MachineAdvice:
    power, mass, top = figures.power_w, figures.mass_kg, figures.top_speed_kmh
    why: list[KindReason] = []
    if power is None:
        pick: Machine = "either"
        why.append(_unknown("power_w", "Neither speed nor hill is wished for: the power is open."))
    elif power > LARGE_W:
        pick = "packaged"
        say = "So much power is sold as a machine with its inverter, tested together."
        why.append(KindReason(say=say, figure="power_w", value=power, line=LARGE_W))
    elif mass > HEAVY_KG and power > SMALL_W:
        pick = "series_wound" if top is not None and top <= WEAR_KMH else "either"
        say = (
            "Heavy and slow: a series motor from a lift truck pulls from nothing and costs little."
        )
        why.append(KindReason(say=say, figure="mass_kg", value=mass, line=HEAVY_KG))
        why.append(KindReason(say="Of this power.", figure="power_w", value=power, line=SMALL_W))
    else:
        pick = "permanent_magnet"
        say = (
            "Up to this power permanent magnets are lightest, waste least and are sold everywhere."
        )
        why.append(KindReason(say=say, figure="power_w", value=power, line=SMALL_W))
    return MachineAdvice(
        pick=pick,
        why=why,
        turns="A salvaged motor at hand, or braking by power on long descents, where AC is good.",
        schools=[
            "One school: a salvaged series motor. Cheap, and its torque grows with the square of "
            "the amps until its iron is full; it needs brushes, and a load, or it races.",
            "The other: AC with its inverter. No brushes, brakes by power, sealed; it costs more "
            "and its controller decides its torque.",
            trade_table(figures),
        ],
    )


def _unknown(figure: str, say: str) -> KindReason:
    return KindReason(say=say, figure=figure, value=None, line=None)


def trade_table(figures: AdvisedBy) -> str:
    """Return what the trade's table by class of vehicle says of the nearest class."""

    def apart(one: VehicleClass) -> float:
        low, high = one.mass_kg
        outside = max(low - figures.mass_kg, figures.mass_kg - high, 0.0)
        speed = abs(one.speed_kmh - (figures.top_speed_kmh or one.speed_kmh))
        return 10 * outside / high + speed / 20

    near = min(CLASSES, key=apart)
    low_w, high_w = near.motor_w
    return (
        f"The trade's table, {near.title.lower()}: a motor of {low_w:g} to {high_w:g} W, a "
        f"controller of at least {near.controller_a:g} A for long, {near.cells[0]} to "
        f"{near.cells[1]} cells in series."
    )
