"""What every controller can be asked, whatever feeds the motors of a drive."""

from typing import Protocol

from powertrain.arrays import Array
from powertrain.battery.pack import Pack


class Converter(Protocol):
    """What stands between pack and motors; limits that are absent are infinite and never bind."""

    @property
    def count(self) -> Array:
        """How many equal ones share the motors."""
        ...

    @property
    def resistance_ohm(self) -> Array:
        """Resistance in the path of each motor's amps."""
        ...

    @property
    def switching_v(self) -> Array:
        """Watts lost in switching for each motor amp."""
        ...

    @property
    def motor_current_limit_a(self) -> Array:
        """The most that each motor is given."""
        ...

    @property
    def battery_current_limit_a(self) -> Array:
        """The most that all of them take from the pack."""
        ...

    @property
    def regen_limit_a(self) -> Array:
        """What braking may push back into the pack."""
        ...

    @property
    def standby_a(self) -> Array:
        """What they take from the pack beside the motors: for themselves, and what they feed."""
        ...

    @property
    def fed_a(self) -> Array:
        """What of it feeds something else; its heat is not theirs."""
        ...

    def feeding(self, beside_w: Array, pack: Pack) -> "Converter":
        """Return it with something beside that takes so many watts of the pack."""
        ...

    def held_to(self, battery_current_a: Array) -> "Converter":
        """Return it with another limit of the pack's amps."""
        ...

    def at_duty(self, duty: Array) -> "Converter":
        """Return it as motors meet it that see the pack through a duty."""
        ...

    def path_drop_v(self, current_a: Array) -> Array:
        """Return the volts that the path keeps at a motor's amps."""
        ...
