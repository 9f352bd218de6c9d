"""The kinds of motor there are; nothing but this list and a kind's own file asks which it is."""

from collections.abc import Mapping
from typing import Any

import numpy as np

from powertrain.arrays import scalar
from powertrain.motor.induction import Induction
from powertrain.motor.packaged import InverterMotor
from powertrain.motor.permanent_magnet import PermanentMagnet
from powertrain.motor.protocol import Motor
from powertrain.motor.series_wound import SeriesWound
from powertrain.motor.size import Make
from powertrain.motor.winding import Winding
from powertrain.stated import Stated

KINDS: Mapping[str, Any] = {
    "permanent_magnet": PermanentMagnet,
    "series_wound": SeriesWound,
    "packaged": InverterMotor,
    "induction": Induction,
}

Constants = dict[str, float | None]
"""New constants of a motor by their keys in the document; None where there is none."""


def _kind(said: Stated) -> Any:
    return KINDS[said.word("kind")]


def motor_of(said: Stated) -> Motor:
    """Return the motor that a document describes."""
    made: Motor = _kind(said).of(said)
    return made


def in_words(said: Stated) -> str:
    """Return the motor as a builder would say it."""
    words: str = _kind(said).in_words(said)
    return words


def make_of(said: Stated) -> Make:
    """Return how a motor is made, for what is usual of its size."""
    made: Make = _kind(said).make(said)
    return made


def driven_by(said: Stated) -> str:
    """Return which controllers drive such a motor: `brushed`, `brushless` or its own inverter."""
    word: str = _kind(said).driven_by(said)
    return word


def loss_names(said: Stated) -> dict[str, str]:
    """Return what people call the losses of this kind: `copper`, `brush` and `turning`."""
    names: dict[str, str] = _kind(said).loss_names()
    return names


def winding_of(said: Stated) -> Winding | None:
    """Return by what number the windings of this can are told apart, None if there is one only."""
    found: Winding | None = _kind(said).winding(said)
    return found


def turned(said: Stated, kind: str, volts: float) -> dict[str, float]:
    """Return the constants of another kind of motor about as fast and as strong: a first guess."""
    now, source_v = motor_of(said), scalar(volts)
    now = now.fed_by(source_v, scalar(0.0))
    free = float(now.free_rad_s(source_v, scalar(0.0)))
    if not np.isfinite(free) or free <= 0:
        free = float(now.fastest_rad_s(source_v))
    made: dict[str, float] = KINDS[kind].resembling(volts, free, float(now.constant_nm_per_root_w))
    return {key: float(f"{value:.3g}") for key, value in made.items()}


def rewound(said: Stated, share: float) -> Constants:
    """Return the same can wound to turn `share` times as fast, its current ratings with it.

    The copper in the slots stays what it was, and so does the torque that it can stand.
    """
    constants: Constants = _kind(said).rewound(said, share)
    ratings = ("continuous_current_a", "peak_current_a")
    if constants:
        constants |= {key: float(said.number(key)) * share for key in ratings if said.states(key)}
    return constants


def can_be_timed(said: Stated) -> bool:
    """Return whether the timing advance of such a motor is anybody's to set."""
    may: bool = _kind(said).can_be_timed(said)
    return may
