"""The coils of a series motor's field, joined in another way.

A coil makes its flux by the amps that flow through it. Of b branches side by side each carries one
b-th of the armature's amps, so the same flux, and with it the same torque for each amp of the
armature, comes at b times the amps: the half-saturation amps go with b, the saturated constant
stays. c coils of r ohm each are ``c r/b^2`` (Ohm's law; any textbook of DC machines).
"""

from typing import Any

from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.documents.motors.series_wound import FieldCoils, branches_of
from powertrain.errors import Refusal

NAMES = {"series": "in series", "series_parallel": "in series-parallel", "parallel": "in parallel"}


class FieldAnswer(BaseModel):
    """The motor so connected, as a document says it, and why its constants are those."""

    motor: dict[str, Any]
    why: str


def field_of(build: Build, connection: str) -> FieldAnswer:
    """Return the motor of a build with its field's coils joined in another way.

    Raises
    ------
    Refusal
        If the motor is not series-wound, does not say its field, or its coils can't make such
        branches.
    """
    motor: Any = build.motor
    if "field" not in type(motor).model_fields:
        raise Refusal("motor.kind", "is not series-wound; only such a field carries its amps")
    field: FieldCoils | None = motor.field
    if field is None:
        raise Refusal("motor.field", "is missing; count the coils and measure the field's ohms")
    branches, after = field.branches, branches_of(field.coils, connection)
    if field.coils % after:
        raise Refusal("motor.field.coils", f"are {field.coils}: no {after} equal branches of them")
    share = after / branches
    field_ohm = field.resistance_ohm / share**2
    rest_ohm = motor.resistance_ohm - field.resistance_ohm
    document = motor.model_dump(mode="json", exclude_unset=True) | {
        "half_saturation_current_a": motor.half_saturation_current_a * share,
        "resistance_ohm": rest_ohm + field_ohm,
        "field": {"coils": field.coils, "connection": connection, "resistance_ohm": field_ohm},
    }
    return FieldAnswer(motor=document, why=_why(field.coils, connection, after, share))


def _why(coils: int, connection: str, branches: int, share: float) -> str:
    joined = f"{coils} coils {NAMES[connection]}: "
    if share == 1:
        return joined + "that is how they are joined now."
    carries = "each coil carries all amps" if branches == 1 else f"a coil carries 1/{branches}"
    if share > 1:
        return (
            f"{joined}{carries}. The same field comes at {share:g} times the amps: weaker for "
            f"each amp, so it turns faster and pulls less at a start, and the field's ohms fall to "
            f"1/{share**2:g}. Brushes and commutator see more amps; free it races sooner."
        )
    return (
        f"{joined}{carries}. The same field comes at {share:g} of the amps: it pulls more for "
        f"each amp and turns slower, and the field's ohms rise to {1 / share**2:g} times; its "
        "coils get hot at amps that they stood before."
    )
