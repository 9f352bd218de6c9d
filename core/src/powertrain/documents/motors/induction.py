"""The induction machine with its inverter, by its equivalent circuit, as a document says it."""

from typing import Literal

from powertrain.documents.fields import Number, Whole, choice, measure
from powertrain.documents.motors.shared import SharedMotor


class InductionMotor(SharedMotor):
    """A three-phase induction machine with its inverter: constants of its inverse-gamma circuit."""

    label = "induction"

    commutation: Literal["brushless"] = choice(
        "Commutation", "Its inverter turns the field.", default="brushless"
    )
    kind: Literal["induction"] = choice("Kind", "A cage of bars that an inverter drags along.")
    stator_poles: Whole = measure(
        "Stator poles",
        "",
        (2, 12),
        least=2,
        most=1000,
        explain="Of the stator's winding, counted singly: 3,000 rpm at 50 Hz are two, 1,500 four.",
    )
    stator_resistance_ohm: Number = measure(
        "Stator resistance", "ohm", (0.0005, 5), explain="Of one phase, star, cold."
    )
    rotor_resistance_ohm: Number = measure(
        "Rotor resistance",
        "ohm",
        (0.0005, 5),
        explain="Of one phase, as the stator sees it; slip over amps tells it.",
    )
    leakage_inductance_mh: Number = measure(
        "Leakage inductance",
        "mH",
        (0.005, 50),
        explain="All of it, of one phase: what a blocked rotor shows at high frequency.",
    )
    magnetising_inductance_mh: Number = measure(
        "Magnetising inductance",
        "mH",
        (0.1, 1000),
        explain="Of one phase: volts over no-load amps and frequency, less the leakage.",
    )
    magnetising_current_a: Number = measure(
        "Magnetising amps",
        "A",
        (0.5, 500),
        explain="Rms of a phase at which its iron is full: about the no-load amps at rated volts.",
    )
    inverter_current_a: Number = measure(
        "Inverter gives", "A", (1, 3000), explain="Rms of a phase, the most for a short while."
    )
    top_rpm: Number = measure(
        "Inverter stops at", "rpm", (100, 30000), explain="Highest speed that it allows."
    )
    drag_torque_nm: Number = measure(
        "Drag torque",
        "N.m",
        (0.005, 50),
        default=0.0,
        zero=True,
        explain="What iron, bearings and fan take.",
    )
