"""The motor that comes with its inverter, as a document says it."""

from typing import Literal

from powertrain.documents.fields import Number, choice, measure
from powertrain.documents.motors.shared import SharedMotor


class PackagedMotor(SharedMotor):
    """A motor with its inverter, induction or magnets, known by the envelope of its data sheet."""

    label = "with its inverter"

    commutation: Literal["brushless"] = choice(
        "Commutation", "Its inverter turns the field.", default="brushless"
    )
    kind: Literal["packaged"] = choice("Kind", "A motor with its inverter, by data sheet.")
    peak_torque_nm: Number = measure(
        "Greatest torque",
        "N.m",
        (0.05, 3000),
        explain="From standstill up to the base speed.",
    )
    base_rpm: Number = measure(
        "Base speed",
        "rpm",
        (50, 60000),
        explain="Where torque begins to fall at the stated volts; it moves with the volts.",
    )
    base_voltage_v: Number = measure(
        "Base speed is at",
        "V",
        (5, 1000),
        explain="Volts at the inverter for that base speed.",
    )
    top_rpm: Number = measure(
        "Inverter stops at",
        "rpm",
        (100, 120000),
        explain="Highest speed that the inverter allows.",
    )
    efficiency: Number | None = measure(
        "Efficiency",
        "",
        (0.6, 0.98),
        default=None,
        least=0.05,
        most=1,
        explain="Motor and inverter at usual load; 0.88 if neither this nor losses are known.",
    )
    copper_loss_w: Number | None = measure(
        "Copper loss",
        "W",
        (1, 100000),
        default=None,
        zero=True,
        explain="At the greatest torque; it goes with torque squared.",
    )
    iron_loss_w: Number | None = measure(
        "Iron loss",
        "W",
        (1, 50000),
        default=None,
        zero=True,
        explain="At the base speed; it goes with speed.",
    )
    windage_loss_w: Number | None = measure(
        "Windage loss",
        "W",
        (0.1, 50000),
        default=None,
        zero=True,
        explain="At the base speed; it goes with the cube of speed.",
    )
