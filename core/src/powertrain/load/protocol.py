"""What every load can be asked. Nothing outside a load's own module asks its kind."""

from typing import Protocol

from powertrain.arrays import Array
from powertrain.load.words import LoadWords


class Load(Protocol):
    """What the output shaft of a drive turns.

    Speeds are of the output shaft in rad/s, torques are at it, in N.m, positive against the
    drive. All arguments and results broadcast. A `situation` is one number that the load itself
    understands: of wheels on a road the grade in percent, of a hoist what hangs on its hook, as a
    share of its load.
    """

    @property
    def takes(self) -> tuple[str, ...]:
        """Where the power of the output shaft goes, in the order of `parts_w`."""
        ...

    @property
    def travel_m(self) -> Array:
        """Way of what is moved for each radian of the output shaft."""
        ...

    @property
    def inertia_kg_m2(self) -> Array:
        """Everything that is moved, as if it turned with the output shaft."""
        ...

    @property
    def usual(self) -> Array:
        """The situation in which it is mostly moved: started, and driven flat out."""
        ...

    @property
    def trip(self) -> Array:
        """The situation of an ordinary trip."""
        ...

    @property
    def hard(self) -> Array:
        """The situation that is hard for the drive, where nobody says another."""
        ...

    @property
    def is_held(self) -> bool:
        """Whether the hard situation is to hold it where it is, and not to move it."""
        ...

    def situations(self, most_nm: Array, own: float) -> Array:
        """Return situations of one drive to be looked at on a map, rising, `own` among them.

        Parameters
        ----------
        most_nm : array_like
            The greatest torque of the drive.
        """
        ...

    @property
    def words(self) -> LoadWords:
        """What people call what it does."""
        ...

    @property
    def grips(self) -> bool:
        """Whether more torque than it holds makes it slip."""
        ...

    def still_nm(self, situation: Array) -> Array:
        """Return the torque that it asks whatever the speed."""
        ...

    def moving_nm(self, output_rad_s: Array) -> Array:
        """Return the torque that it asks because it moves."""
        ...

    def speed_mps(self, output_rad_s: Array, situation: Array) -> Array:
        """Return how fast what it moves goes."""
        ...

    def blown_mps(self, output_rad_s: Array, situation: Array) -> Array:
        """Return how fast the air goes past the drive, where that is not how fast it moves."""
        ...

    def force_n(self, output_nm: Array, output_rad_s: Array, situation: Array) -> Array:
        """Return what a torque of the output shaft is as a push or pull on what it moves."""
        ...

    def parts_w(self, output_rad_s: Array, situation: Array) -> tuple[Array, ...]:
        """Return what each of `takes` takes at a steady speed."""
        ...

    def useful_w(self, output_w: Array, taken_w: tuple[Array, ...]) -> Array:
        """Return what of the power it takes does what the drive is for."""
        ...

    def holds_nm(self, situation: Array) -> Array:
        """Return the greatest torque before it slips; infinite where nothing can."""
        ...

    def coasting_rad_s(self, situation: Array) -> Array:
        """Return the speed to which it runs by itself; below zero where it does not."""
        ...

    def speed_at_nm(self, torque_nm: Array, situation: Array) -> Array:
        """Return the speed that a constant torque holds; below zero where it does not move it."""
        ...

    def slipless(self) -> "Load":
        """Return the load that holds any torque, of the same shape."""
        ...


def asked_nm(load: Load, output_rad_s: Array, situation: Array) -> Array:
    """Return the torque that holds a steady speed."""
    return load.still_nm(situation) + load.moving_nm(output_rad_s)
