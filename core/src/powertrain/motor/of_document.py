"""Which class stands for which kind of motor in a document."""

from powertrain.documents import build
from powertrain.motor.permanent_magnet import PermanentMagnet
from powertrain.motor.protocol import Motor

KINDS = {"permanent_magnet": PermanentMagnet}


def motor_of(motor: build.PermanentMagnetMotor) -> Motor:
    """Return the motor that a document describes."""
    return KINDS[motor.kind].of(motor)
