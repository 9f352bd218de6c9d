"""The controller as a chopper: a resistance and a drop in each motor's path, two current limits."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, is_nought, scalar
from powertrain.battery.pack import Pack
from powertrain.stated import Stated

NOTHING_FED = scalar(0.0)


@dataclass(frozen=True)
class Chopper:
    """Controllers of a drive, together; limits that are absent are infinite and never bind."""

    count: Array
    """How many equal ones share the motors."""
    resistance_ohm: Array
    motor_current_limit_a: Array
    battery_current_limit_a: Array
    standby_a: Array
    switching_v: Array
    """Watts lost in switching for each motor amp."""
    regen_limit_a: Array
    """What braking may push back into the pack; infinite where nothing is set."""
    fed_a: Array = NOTHING_FED
    """What of the standby amps feeds something else."""

    @classmethod
    def of(cls, said: Stated) -> "Chopper":
        """Return what all controllers of a document are together; its ratings are of one."""
        count = said.number("count")
        return cls(
            count=count,
            resistance_ohm=said.number("resistance_ohm"),
            motor_current_limit_a=said.number("motor_current_limit_a", np.inf) * dc_for(said),
            battery_current_limit_a=said.number("battery_current_limit_a", np.inf) * count,
            standby_a=said.number("standby_current_a", 0.0) * count,
            switching_v=said.number("switching_loss_v", 0.0),
            regen_limit_a=said.number("regen_current_limit_a", np.inf) * count,
        )

    def held_to(self, battery_current_a: Array) -> "Chopper":
        """Return it with another limit of the pack's amps."""
        return replace(self, battery_current_limit_a=battery_current_a)

    def feeding(self, beside_w: Array, pack: Pack) -> "Chopper":
        """Return it with a converter beside that takes `beside_w` of the pack.

        Its amps are those at the volts that the pack amps limit leaves, or of a resting pack where
        there is no limit, so that they are never too few at the limit; a `State` has them at the
        volts of its moment.
        """
        limit_a = np.where(
            np.isfinite(self.battery_current_limit_a), self.battery_current_limit_a, 0.0
        )
        volts = np.maximum(pack.voltage_v(limit_a), 0.5 * pack.open_circuit_v)
        fed_a = beside_w / volts
        return replace(self, standby_a=self.standby_a + fed_a, fed_a=self.fed_a + fed_a)

    def at_duty(self, duty: Array) -> "Chopper":
        """Return it with the pack's amps as many more as its volts are fewer."""
        return replace(
            self,
            standby_a=self.standby_a / duty,
            fed_a=self.fed_a / duty,
            battery_current_limit_a=self.battery_current_limit_a / duty,
        )

    def path_drop_v(self, current_a: Array) -> Array:
        """Return the volts that the path keeps: I R_c and the switching loss."""
        drop_v = current_a * self.resistance_ohm
        if is_nought(self.switching_v):
            return drop_v
        return drop_v + np.sign(current_a) * self.switching_v


DC_FOR = {"dc": 1.0, "phase_peak": 0.8660, "phase_rms": 1.2247}
"""DC-equivalent amps for each amp by which a controller tells its motor amps (six-step: the phase
carries 0.866 of a sinusoid's peak, 1.225 of its rms)."""


def dc_for(said: Stated) -> float:
    """Return the DC-equivalent amps for one of the motor amps that a controller is told in."""
    return DC_FOR[said.word("motor_current_is") or "dc"]
