"""The series-wound motor, as a document says it."""

from typing import Literal, Self

from pydantic import Field, model_validator

from powertrain.documents.fields import Number, Whole, choice, measure
from powertrain.documents.model import Model, within
from powertrain.documents.motors.shared import SharedMotor

BRANCHES: dict[str, int | None] = {"series": 1, "series_parallel": 2, "parallel": None}
"""Branches of the field side by side; None for as many as there are coils."""


class FieldCoils(Model):
    """The field's coils, and how they are joined."""

    coils: Whole = measure("Field coils", "", (2, 8), least=1, most=64, explain="Counted inside.")
    connection: Literal["series", "series_parallel", "parallel"] = choice(
        "Coils are in",
        "One after the other, two branches side by side, or all side by side.",
    )
    resistance_ohm: Number = measure(
        "Field's resistance",
        "ohm",
        (0.0001, 5),
        explain="Of the whole field as it is joined now; part of the motor's.",
    )

    @property
    def branches(self) -> int:
        """How many branches share the armature's amps."""
        return branches_of(self.coils, self.connection)

    @model_validator(mode="after")
    def _even_branches(self) -> Self:
        if self.coils % self.branches:
            raise within(
                "coils",
                f"are {self.coils}, which {self.branches} equal branches can't be made of; count "
                "them again",
            )
        return self


def branches_of(coils: int, connection: str) -> int:
    """Return how many branches a connection of coils has."""
    return BRANCHES[connection] or coils


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
    field: FieldCoils | None = Field(default=None, title="Field coils")

    @model_validator(mode="after")
    def _field_is_a_part(self) -> Self:
        if self.field is not None and self.field.resistance_ohm >= self.resistance_ohm:
            raise within(
                "field.resistance_ohm", "must be less than the motor's own, of which it is a part"
            )
        return self
