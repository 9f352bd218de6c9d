"""What every kind of motor can be asked. Nothing outside a motor's own module asks its kind."""

from typing import Protocol

from powertrain.arrays import Array
from powertrain.motor.timing import Timing


class Motor(Protocol):
    """One motor; `count` equal ones share the load.

    Speeds are of the shaft in rad/s, currents are DC-equivalent amps of one motor, torques are
    at one shaft. All arguments and results broadcast. `series_ohm` and `series_v` are what the
    controller's path adds: a resistance, and a drop that does not depend on the amps.
    """

    @property
    def count(self) -> Array:
        """How many equal motors drive the wheel."""
        ...

    @property
    def inertia_kg_m2(self) -> Array:
        """Inertia of one rotor."""
        ...

    @property
    def has_inverter(self) -> bool:
        """Whether the motor's own electronics choose the amps, so that it never sees duty one."""
        ...

    @property
    def races_unloaded(self) -> bool:
        """Whether nothing but its losses holds it when its load is gone."""
        ...

    @property
    def own_current_limit_a(self) -> Array:
        """Amps that the motor's own electronics never exceed; infinite where it has none."""
        ...

    @property
    def base_speed_rad_s(self) -> Array:
        """Speed above which the volts, not the amps, set the torque at its own current limit."""
        ...

    @property
    def constant_nm_per_root_w(self) -> Array:
        """Torque for the square root of each watt of copper heat: how much motor it is."""
        ...

    def timed(self, timing: Timing) -> "Motor":
        """Return the motor with timing advance; only one that a controller times changes."""
        ...

    def wide_open(self) -> "Motor":
        """Return the motor as full throttle has it, with what acts at full throttle alone."""
        ...

    def fed_by(self, open_circuit_v: Array, source_ohm: Array) -> "Motor":
        """Return the motor on a pack; only one whose envelope moves with the volts changes."""
        ...

    def warmed(self, ohm_share: Array, flux_share: Array) -> "Motor":
        """Return the motor with its copper's resistance and its magnets' field times a share."""
        ...

    def fastest_rad_s(self, source_v: Array) -> Array:
        """Return the speed above which full throttle does not push any more."""
        ...

    def free_rad_s(self, source_v: Array, series_ohm: Array) -> Array:
        """Return the speed of the unloaded shaft at full throttle; NaN where no formula has it."""
        ...

    def corners_rad_s(self) -> tuple[Array, ...]:
        """Return the speeds at which the motor's own curve has a kink."""
        ...

    def voltage_v(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the volts at the motor's terminals."""
        ...

    def shaft_torque_nm(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the torque that leaves the shaft, losses taken off."""
        ...

    def current_at_torque_a(self, speed_rad_s: Array, torque_nm: Array) -> Array:
        """Return the amps that give `torque_nm` at the shaft; zero where no amps do."""
        ...

    def current_at_voltage_a(self, speed_rad_s: Array, source_v: Array, series_ohm: Array) -> Array:
        """Return the amps driven by `source_v` through `series_ohm` and the motor.

        Infinite where the motor's own electronics choose the amps.
        """
        ...

    def current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the amps at which motor and path together take `power_w`."""
        ...

    def braking_current_at_power_a(
        self, speed_rad_s: Array, power_w: Array, series_ohm: Array, series_v: Array
    ) -> Array:
        """Return the amps, below zero, at which motor and path give back ``-power_w``.

        Nought where the kind of motor does not brake by itself.
        """
        ...

    def speed_at_voltage_rad_s(self, current_a: Array, voltage_v: Array) -> Array:
        """Return the speed at which `current_a` flows with `voltage_v` at the terminals."""
        ...

    def copper_heat_w(self, current_a: Array) -> Array:
        """Return the heat in the winding, I^2 R."""
        ...

    def brush_heat_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return the heat at the brushes, or in the inverter that the motor came with."""
        ...

    def no_load_loss_w(self, speed_rad_s: Array, current_a: Array) -> Array:
        """Return what iron, bearings and air take because the shaft turns."""
        ...
