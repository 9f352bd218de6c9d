"""Which class stands for which kind of motor in a document."""

from powertrain.documents.motor import PermanentMagnetMotor
from powertrain.motor.permanent_magnet import PermanentMagnet
from powertrain.motor.protocol import Motor

KINDS = {"permanent_magnet": PermanentMagnet}


def motor_of(motor: PermanentMagnetMotor) -> Motor:
    """Return the motor that a document describes."""
    return KINDS[motor.kind].of(motor)
