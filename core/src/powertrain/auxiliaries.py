"""What runs along with a drive and takes watts at every moment: pumps, steering, lamps.

What a converter feeds takes its watts from the pack, whatever the volts. What hangs on the motor's
tail shaft or on a belt from it takes its watts of the shaft, torque ``P/w``; below the idle speed
of an engine its torque is that at idle, since a pump at rest does no work (common practice).
"""

from dataclasses import dataclass
from typing import Optional

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.stated import Stated

IDLE_RAD_S = 600 * np.pi / 30
"""Engines that such pumps are made for idle at 600 rpm; common practice, no source."""


@dataclass(frozen=True)
class Auxiliaries:
    """Watts of all of them together: from the pack, and at the motors' shafts."""

    pack_w: Array
    shaft_w: Array

    @classmethod
    def of(cls, build: Stated) -> Optional["Auxiliaries"]:
        """Return those of a document, None where it names none."""
        if not build.word("auxiliaries"):
            return None
        pack_w = shaft_w = scalar(0.0)
        for one in build.each("auxiliaries"):
            if one.word("driven_by") == "dc_dc":
                pack_w = pack_w + one.number("power_w")
            else:
                shaft_w = shaft_w + one.number("power_w")
        return cls(pack_w, shaft_w)

    def shaft_nm(self, motor_rad_s: Array) -> Array:
        """Return the torque that they take off all shafts together."""
        return self.shaft_w / np.maximum(motor_rad_s, IDLE_RAD_S)
