"""The series-wound motor, as a document says it."""

from typing import Literal

from powertrain.documents.fields import Number, choice, measure
from powertrain.documents.motors.shared import SharedMotor


class SeriesWoundMotor(SharedMotor):
    """A brushed motor whose field carries the armature's current; its iron saturates."""

    label = "series-wound"

    commutation: Literal["brushed"] = choice("Commutation", "It has brushes.", default="brushed")
    kind: Literal["series_wound"] = choice("Kind", "A brushed motor with its field in series.")
    saturated_constant_nm_per_a: Number = measure(
        "Saturated constant",
        "N.m/A",
        (0.001, 10),
        explain="Torque for each amp once the iron is full; equally volts per rad/s.",
    )
    half_saturation_current_a: Number = measure(
        "Half-saturation amps",
        "A",
        (0.1, 3000),
        explain="Amps at which the constant has half of its saturated value.",
    )
    resistance_ohm: Number = measure(
        "Resistance",
        "ohm",
        (0.0005, 10),
        explain="Armature, field and brushes together, cold.",
    )
    loss_torque_nm: Number = measure(
        "Loss torque",
        "N.m",
        (0.005, 50),
        explain="What bearings, brushes and fan take. Only this keeps it from running away free.",
    )
