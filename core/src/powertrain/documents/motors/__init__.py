"""Motors as a document says them: the kinds that there are."""

from typing import Annotated, Literal, get_args

from pydantic import Field

from powertrain.documents.motors.induction import InductionMotor
from powertrain.documents.motors.packaged import PackagedMotor
from powertrain.documents.motors.permanent_magnet import PermanentMagnetMotor
from powertrain.documents.motors.series_wound import SeriesWoundMotor
from powertrain.documents.motors.shared import SharedMotor

MotorDocument = Annotated[
    PermanentMagnetMotor | SeriesWoundMotor | PackagedMotor | InductionMotor,
    Field(discriminator="kind"),
]
"""Any kind of motor. A new kind is a file here, its model in `powertrain.motor`, and a line in the
list of either."""

MotorKind = Literal["permanent_magnet", "series_wound", "packaged", "induction"]

MOTOR_DOCUMENTS: tuple[type[SharedMotor], ...] = (
    PermanentMagnetMotor,
    SeriesWoundMotor,
    PackagedMotor,
    InductionMotor,
)


def document_of_kind(kind: str) -> type[SharedMotor]:
    """Return the document class of a kind of motor."""
    return next(
        one for one in MOTOR_DOCUMENTS if kind in get_args(one.model_fields["kind"].annotation)
    )


def constants_of_kind(kind: str) -> tuple[str, ...]:
    """Return the constants that no motor of a kind can do without."""
    fields = document_of_kind(kind).model_fields
    return tuple(key for key, field in fields.items() if field.is_required() and key != "kind")


__all__ = [
    "MOTOR_DOCUMENTS",
    "InductionMotor",
    "MotorDocument",
    "MotorKind",
    "PackagedMotor",
    "PermanentMagnetMotor",
    "SeriesWoundMotor",
    "SharedMotor",
    "constants_of_kind",
    "document_of_kind",
]
