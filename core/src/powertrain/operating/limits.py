"""What sets the drive's edge at full throttle."""

from enum import IntEnum
from typing import Literal

LimitWord = Literal[
    "voltage", "motor_current", "battery_current", "traction", "cannot_move", "overrun"
]
"""Names of limits in the open formats."""


class Limit(IntEnum):
    """What binds; the numbers fill arrays, `words` are for documents and screens."""

    VOLTAGE = 0
    MOTOR_CURRENT = 1
    BATTERY_CURRENT = 2
    TRACTION = 3
    CANNOT_MOVE = 4
    OVERRUN = 5
    NOTHING = 6

    @property
    def words(self) -> str | None:
        """Name in the open formats; None for a part-throttle state."""
        return None if self is Limit.NOTHING else self.name.lower()
