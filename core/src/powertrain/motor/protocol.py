"""What every kind of motor can be asked. Nothing outside a motor's own module asks its kind."""

from typing import Protocol

from powertrain.arrays import Array


class Motor(Protocol):
    """One motor; `count` equal ones share the load.

    Speeds are of the shaft in rad/s, currents are DC-equivalent amps of one motor, torques are
    at one shaft. All arguments and results broadcast.
    """

    @property
    def count(self) -> Array:
        """How many equal motors drive the wheel."""
        ...

    @property
    def inertia_kg_m2(self) -> Array:
        """Inertia of one rotor."""
        ...

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the volts at the motor's terminals."""
        ...

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the torque that leaves the shaft, losses taken off."""
        ...

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return the amps that give `torque_nm` at the shaft."""
        ...

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return the amps driven by `source_v` through `series_ohm` and the motor."""
        ...

    def current_at_power_a(self, speed_rad_s: Array, power_w: Array, series_ohm: Array) -> Array:
        """Return the amps at which motor and `series_ohm` together take `power_w`."""
        ...

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return the speed at which `current_a` flows with `voltage_v` at the terminals."""
        ...

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return the heat in the winding, I^2 R."""
        ...

    def brush_heat_w(self, current_a: Array) -> Array:
        """Return the heat at the brushes."""
        ...

    def turning_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return what iron, bearings and air take because the shaft turns."""
        ...
