"""A whole drive as numbers: what the operating questions are asked of."""

from dataclasses import dataclass, replace

from powertrain.arrays import Array
from powertrain.battery.pack import Pack
from powertrain.controller.chopper import Chopper
from powertrain.gearing.train import Train
from powertrain.motor.kinds import motor_of
from powertrain.motor.protocol import Motor
from powertrain.motor.timing import Timing
from powertrain.stated import Stated
from powertrain.units import radius_m_from_circumference_mm
from powertrain.vehicle.road_load import RoadLoad
from powertrain.vehicle.traction import Grip


@dataclass(frozen=True)
class Drive:
    """Pack, controller, motors, gearing, wheel and road of one build, or arrays over many.

    Use `powertrain.arrays.stack` to put several into one, `with_axis` to ask each about a row
    of speeds.
    """

    pack: Pack
    controller: Chopper
    motor: Motor
    train: Train
    wheel_radius_m: Array
    wheel_inertia_kg_m2: Array
    road: RoadLoad
    grip: Grip

    @classmethod
    def of(cls, build: Stated) -> "Drive":
        """Return the drive that a checked document describes."""
        said_motor, said_controller = build.under("motor"), build.under("controller")
        pack, motor = Pack.of(build.under("battery")), motor_of(said_motor)
        timing = Timing.of(said_motor, said_controller)
        if timing is not None:
            motor = motor.timed(timing)
        controller, wheel = Chopper.of(said_controller), build.under("wheel")
        vehicle = build.under("vehicle")
        return cls(
            pack=pack,
            controller=controller,
            motor=_fed(motor, pack, controller),
            train=Train.of(tuple(build.each("gearing"))),
            wheel_radius_m=radius_m_from_circumference_mm(wheel.number("rolling_circumference_mm")),
            wheel_inertia_kg_m2=wheel.number("inertia_kg_m2", 0.0),
            road=RoadLoad.of(vehicle, build.under("conditions")),
            grip=Grip.of(vehicle),
        )

    def wide_open(self) -> "Drive":
        """Return the drive as full throttle has it, with what acts at full throttle alone."""
        motor = self.motor.wide_open()
        return self if motor is self.motor else replace(self, motor=motor)

    def straight_off_the_charger(self) -> "Drive":
        """Return the drive at the volts at which charging ends."""
        pack = self.pack.straight_off_the_charger()
        return replace(self, pack=pack, motor=_fed(self.motor, pack, self.controller))

    def in_gear(self, gear: Array) -> "Drive":
        """Return the drive with one gear of its gearbox engaged, given by its factor."""
        if len(self.train.gears) == 1:
            return self
        return replace(self, train=self.train.in_gear(gear))

    def motor_speed_rad_s(self, speed_mps: Array) -> Array:
        """Return the speed of the shaft when the vehicle moves at `speed_mps`."""
        return speed_mps / self.wheel_radius_m * self.train.ratio

    def road_speed_mps(self, motor_speed_rad_s: Array) -> Array:
        """Return the speed of the vehicle when the shaft turns at `motor_speed_rad_s`."""
        return motor_speed_rad_s / self.train.ratio * self.wheel_radius_m

    def wheel_force_n(self, shaft_torque_nm: Array) -> Array:
        """Return the push of all motors at the ground, negative when the wheel drives them."""
        wheel_nm = self.train.wheel_torque_nm(self.motor.count * shaft_torque_nm)
        return wheel_nm / self.wheel_radius_m

    def shaft_torque_for_nm(self, force_n: Array) -> Array:
        """Return the torque of each shaft that gives `force_n` at the ground."""
        return self.train.shaft_torque_nm(force_n * self.wheel_radius_m) / self.motor.count

    @property
    def equivalent_mass_kg(self) -> Array:
        """Mass with everything that must be spun up: m f + J_w/r^2 + n J_m G^2/r^2."""
        turning = self.wheel_inertia_kg_m2 + (
            self.motor.count * self.motor.inertia_kg_m2 * self.train.ratio**2
        )
        return self.road.mass_kg * self.road.rotating_mass_factor + turning / self.wheel_radius_m**2


def _fed(motor: Motor, pack: Pack, controller: Chopper) -> Motor:
    ohm = motor.count * pack.resistance_ohm + controller.resistance_ohm
    return motor.fed_by(pack.open_circuit_v - controller.switching_v, ohm)
