"""Motors as a document says them: the kinds that there are."""

from typing import Annotated, Literal

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

__all__ = [
    "MOTOR_DOCUMENTS",
    "InductionMotor",
    "MotorDocument",
    "MotorKind",
    "PackagedMotor",
    "PermanentMagnetMotor",
    "SeriesWoundMotor",
    "SharedMotor",
]
