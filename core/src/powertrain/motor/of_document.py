"""Which class stands for which kind of motor, and what each kind says of its document."""

from typing import Any

import numpy as np

from powertrain.arrays import scalar
from powertrain.documents.motor import Motor as MotorModel
from powertrain.documents.motor import MotorDocument
from powertrain.motor.packaged import Packaged
from powertrain.motor.permanent_magnet import PermanentMagnet
from powertrain.motor.protocol import Motor
from powertrain.motor.series_wound import SeriesWound
from powertrain.motor.size import Make
from powertrain.motor.winding import Winding

KINDS: dict[str, Any] = {
    "permanent_magnet": PermanentMagnet,
    "series_wound": SeriesWound,
    "packaged": Packaged,
}

Constants = dict[str, float | None]
"""New constants of a motor by their keys in the document; None where there is none."""


def motor_of(motor: MotorDocument) -> Motor:
    """Return the motor that a document describes."""
    made: Motor = KINDS[motor.kind].of(motor)
    return made


def in_words(motor: MotorDocument) -> str:
    """Return the motor as a builder would say it."""
    said: str = KINDS[motor.kind].in_words(motor)
    return said


def make_of(motor: MotorDocument) -> Make:
    """Return how a motor is made, for what is usual of its size."""
    made: Make = KINDS[motor.kind].make(motor)
    return made


def loss_names(motor: MotorDocument) -> dict[str, str]:
    """Return what people call the losses of this kind: `copper`, `brush` and `turning`."""
    names: dict[str, str] = KINDS[motor.kind].loss_names(motor)
    return names


def winding_of(motor: MotorDocument) -> Winding | None:
    """Return by what number the windings of this can are told apart, None if there is one only."""
    found: Winding | None = KINDS[motor.kind].winding(motor)
    return found


def turned(motor: MotorDocument, kind: str, volts: float) -> dict[str, Any]:
    """Return the document of another kind of motor about as fast and as strong: a first guess.

    What all kinds share stays as it was said.
    """
    now, source_v = motor_of(motor), scalar(volts)
    now = now.fed_by(source_v, scalar(0.0))
    free = float(now.free_rad_s(source_v, scalar(0.0)))
    if not np.isfinite(free) or free <= 0:
        free = float(now.fastest_rad_s(source_v))
    shared = set(MotorModel.model_fields) & motor.model_fields_set
    kept = motor.model_dump(mode="json", include=shared, exclude_none=True)
    made = KINDS[kind].resembling(volts, free, float(now.constant_nm_per_root_w))
    return {"kind": kind, **{key: float(f"{value:.3g}") for key, value in made.items()}, **kept}


def rewound(motor: MotorDocument, share: float) -> Constants:
    """Return the same can wound to turn `share` times as fast, its current ratings with it.

    The copper in the slots stays what it was, and so does the torque that it can stand.
    """
    constants: Constants = KINDS[motor.kind].rewound(motor, share)
    ratings = {"continuous_current_a": motor.continuous_current_a,
               "peak_current_a": motor.peak_current_a}  # fmt: skip
    if constants:
        constants |= {key: a * share for key, a in ratings.items() if a is not None}
    return constants


def can_be_timed(motor: MotorDocument) -> bool:
    """Return whether the timing advance of such a motor is anybody's to set."""
    may: bool = KINDS[motor.kind].can_be_timed(motor)
    return may
