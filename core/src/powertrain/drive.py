"""A whole drive as numbers: what the operating questions are asked of."""

from dataclasses import dataclass, replace

from powertrain.arrays import Array
from powertrain.auxiliaries import Auxiliaries
from powertrain.battery.pack import Pack
from powertrain.controller.chopper import Chopper
from powertrain.controller.protocol import Converter
from powertrain.errors import NO_WHEELS, Refusal
from powertrain.load.kinds import load_of
from powertrain.load.protocol import Load
from powertrain.load.wheel_on_road import WheelOnRoad
from powertrain.motor.kinds import motor_of
from powertrain.motor.protocol import Motor
from powertrain.motor.tail import WithTail
from powertrain.motor.timing import Timing
from powertrain.stated import Stated
from powertrain.transmission.train import Train


@dataclass(frozen=True)
class Drive:
    """Pack, controller, motors, gearing and load of one build, or arrays over many.

    Use `powertrain.arrays.stack` to put several into one, `with_axis` to ask each about a row
    of speeds. The output shaft is that of the wheel, the drum or whatever the gearing turns.
    """

    pack: Pack
    controller: Converter
    motor: Motor
    train: Train
    load: Load
    auxiliaries: Auxiliaries | None = None
    """What runs along; what of it hangs on the shaft is part of `motor`, too."""

    @classmethod
    def of(cls, build: Stated) -> "Drive":
        """Return the drive that a checked document describes."""
        said_motor, said_controller = build.under("motor"), build.under("controller")
        pack, motor = Pack.of(build.under("battery")), motor_of(said_motor)
        timing = Timing.of(said_motor, said_controller)
        if timing is not None:
            motor = motor.timed(timing)
        controller, auxiliaries = Chopper.of(said_controller), Auxiliaries.of(build)
        if auxiliaries is not None:
            motor = WithTail(motor, auxiliaries)
            controller = controller.feeding(auxiliaries.pack_w, pack)
        return cls(
            pack=pack,
            controller=controller,
            motor=fed(motor, pack, controller),
            train=Train.of(tuple(build.each("gearing"))),
            load=load_of(build),
            auxiliaries=auxiliaries,
        )

    def wide_open(self) -> "Drive":
        """Return the drive as full throttle has it, with what acts at full throttle alone."""
        motor = self.motor.wide_open()
        return self if motor is self.motor else replace(self, motor=motor)

    def straight_off_the_charger(self) -> "Drive":
        """Return the drive at the volts at which charging ends."""
        pack = self.pack.straight_off_the_charger()
        return replace(self, pack=pack, motor=fed(self.motor, pack, self.controller))

    def in_gear(self, gear: Array) -> "Drive":
        """Return the drive with one gear of its gearbox engaged, given by its factor."""
        if len(self.train.gears) == 1:
            return self
        return replace(self, train=self.train.in_gear(gear))

    def motor_rad_s(self, output_rad_s: Array) -> Array:
        """Return the speed of the motors' shafts when the output shaft turns at `output_rad_s`."""
        return output_rad_s * self.train.ratio

    def output_rad_s(self, motor_rad_s: Array) -> Array:
        """Return the speed of the output shaft when the motors' turn at `motor_rad_s`."""
        return motor_rad_s / self.train.ratio

    def output_nm(self, shaft_torque_nm: Array) -> Array:
        """Return the torque of all motors at the output shaft, negative when it drives them."""
        return self.train.wheel_torque_nm(self.motor.count * shaft_torque_nm)

    def shaft_torque_for_nm(self, output_nm: Array) -> Array:
        """Return the torque of each motor's shaft that gives `output_nm` at the output shaft."""
        return self.train.shaft_torque_nm(output_nm) / self.motor.count

    def speed_mps(self, output_rad_s: Array) -> Array:
        """Return the speed of what the output shaft moves."""
        return output_rad_s * self.load.travel_m

    def output_at_mps(self, speed_mps: Array) -> Array:
        """Return the speed of the output shaft in rad/s at which its load moves at `speed_mps`."""
        return speed_mps / self.load.travel_m

    def force_n(self, output_nm: Array) -> Array:
        """Return the push or pull that a torque of the output shaft is on what it moves."""
        return output_nm / self.load.travel_m

    @property
    def inertia_kg_m2(self) -> Array:
        """Everything that must be sped up, at the output shaft: load and n J_m G^2."""
        return self.load.inertia_kg_m2 + (
            self.motor.count * self.motor.inertia_kg_m2 * self.train.ratio**2
        )

    @property
    def rolls(self) -> bool:
        """Whether its load is wheels on a road."""
        return isinstance(self.load, WheelOnRoad)

    @property
    def wheels(self) -> WheelOnRoad:
        """The load where it is wheels on a road.

        Raises
        ------
        Refusal
            Where it is anything else, which has neither tyres nor a road.
        """
        if not isinstance(self.load, WheelOnRoad):
            raise Refusal("vehicle.kind", NO_WHEELS)
        return self.load


def fed(motor: Motor, pack: Pack, controller: Converter) -> Motor:
    """Return a motor on a pack; only one whose envelope moves with the volts changes."""
    ohm = motor.count * pack.resistance_ohm + controller.resistance_ohm
    return motor.fed_by(pack.open_circuit_v - controller.switching_v, ohm)
