"""Controller and wires as a document says them."""

from typing import Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.controller_settings import Curve, Rollback, SetByHand, SettingId
from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.heat import Cooling, PartThermal
from powertrain.documents.model import Model


class Controller(Model):
    """The speed controller; each motor has one path of it."""

    name: str | None = words("Controller", "Maker and model.", default=None)
    count: Whole = measure(
        "Controllers",
        "",
        (1, 8),
        default=1,
        least=1,
        most=1000,
        explain="Equal ones that share the motors; ratings and limits here are of one of them.",
    )
    resistance_ohm: Number = measure(
        "Path resistance",
        "ohm",
        (0.0001, 1),
        default=0.0,
        zero=True,
        explain="From pack terminals to motor wires and back, switches included.",
    )
    motor_current_limit_a: Number | None = measure(
        "Motor amps limit",
        "A",
        (0.5, 3000),
        default=None,
        explain="Set in the controller, for each motor. It sets torque, and heat in the motor.",
    )
    battery_current_limit_a: Number | None = measure(
        "Pack amps limit",
        "A",
        (0.5, 3000),
        default=None,
        explain="Set in the controller, for the whole pack. It sets power, and spares the cells.",
    )
    max_voltage_v: Number | None = measure(
        "Highest volts",
        "V",
        (3, 1000),
        default=None,
        explain="What the maker allows at the input.",
    )
    min_voltage_v: Number | None = measure(
        "Lowest volts",
        "V",
        (2, 500),
        default=None,
        explain="Least volts at the input at which it works.",
    )
    capacitor_voltage_v: Number | None = measure(
        "Capacitor volts",
        "V",
        (3, 1000),
        default=None,
        explain="Printed on the input capacitors; often the true limit.",
    )
    capacitance_uf: Number | None = measure(
        "Input capacitors",
        "uF",
        (100, 100000),
        default=None,
        explain="All of one controller together; they are filled when the pack is connected.",
    )
    continuous_current_a: Number | None = measure(
        "Continuous",
        "A",
        (0.5, 3000),
        default=None,
        explain="Rated amps for as long as you like, for one motor path.",
    )
    peak_current_a: Number | None = measure(
        "Peak",
        "A",
        (0.5, 6000),
        default=None,
        explain="Rated amps for a short burst, for one motor path.",
    )
    peak_duration_s: Number | None = measure(
        "Peak lasts",
        "s",
        (0.1, 600),
        default=None,
        explain="How long the maker allows it.",
    )
    rating_side: Literal["motor", "battery"] | None = choice(
        "Amps rated at",
        "Whether the maker's amps are those of a motor or of the pack. At a start a motor takes "
        "many times what leaves the pack, so a rating at the pack says little of a start.",
        default=None,
    )
    max_erpm: Number | None = measure(
        "Highest electrical rpm",
        "erpm",
        (1000, 2000000),
        default=None,
        explain="Shaft rpm times pole pairs that it can follow.",
    )
    throttle_steps: Whole | None = measure(
        "Throttle steps",
        "",
        (32, 65536),
        default=None,
        least=2,
        most=1000000,
        explain="How finely it divides the throttle.",
    )
    steps_shared: bool | None = Field(
        default=None,
        title="Steps go both ways",
        description="Half of its steps are for reverse; so it is usually, and taken if left out.",
    )
    curve: Curve | None = Field(default=None, title="Throttle curve")
    ramp_pct_per_s: Number | None = measure(
        "Ramp",
        "%/s",
        (5, 2000),
        default=None,
        least=0.1,
        most=100000,
        explain="How fast the volts may rise, in percent of all of them for each second.",
    )
    drag_brake_pct: Number | None = measure(
        "Drag brake",
        "%",
        (1, 100),
        default=None,
        zero=True,
        most=100,
        explain="Braking with the trigger let go, as a share of a shorted motor's.",
    )
    brake_pct: Number | None = measure(
        "Brake",
        "%",
        (1, 100),
        default=None,
        zero=True,
        most=100,
        explain="Braking with the trigger pushed, as a share of the most.",
    )
    pwm_hz: Number | None = measure(
        "Switching frequency",
        "Hz",
        (1000, 64000),
        default=None,
        least=50,
        most=1000000,
        explain="How often it switches the motor's volts in a second.",
    )
    reverse: Literal["delayed", "immediate", "none"] | None = choice(
        "Reverse", "After a stop and a second press, at once, or not at all.", default=None
    )
    turbo_delay_s: Number | None = measure(
        "Turbo after",
        "s",
        (0.05, 2),
        default=None,
        zero=True,
        most=60,
        explain="How long at full trigger before turbo timing begins.",
    )
    turbo_deg_per_s: Number | None = measure(
        "Turbo comes in at",
        "deg/s",
        (10, 500),
        default=None,
        least=0.1,
        most=100000,
        explain="How fast turbo timing rises.",
    )
    offers: list[SettingId] | None = Field(
        default=None,
        max_length=17,
        title="Lets one set",
        description="What can be set at it at all; nobody knows if left out.",
    )
    settings: dict[SettingId, SetByHand] | None = Field(
        default=None,
        title="Set by hand",
        description="By setting: what was set at it, when, and what had been worked out.",
    )
    rollback: Rollback | None = Field(default=None, title="Less when hot")
    cut_off_recovers_v: Number | None = measure(
        "Comes back at",
        "V",
        (3, 500),
        default=None,
        explain="Volts of the pack at which it gives again after a cut-off; never if left out.",
    )
    sensor: list[Literal["none", "hall", "encoder"]] | None = Field(
        default=None,
        min_length=1,
        max_length=3,
        title="Runs from",
        description="What it can learn the rotor's place from: the back-EMF alone (none), Hall "
        "sensors, an encoder.",
    )
    throttle_signal: Literal["analogue", "pulse", "serial"] | None = choice(
        "Throttle signal",
        "What it understands: a voltage, a servo pulse, or messages.",
        default=None,
    )
    motor_current_is: Literal["dc", "phase_peak", "phase_rms"] | None = choice(
        "Motor amps are",
        "How its motor amps are told: as direct current (dc, if left out), or by "
        "peak or rms of a phase; a peak of 100 A is 86.6 A here, an rms of 100 A is 122 A.",
        default=None,
    )
    outputs: Whole | None = measure(
        "Outputs",
        "",
        (1, 8),
        default=None,
        least=1,
        most=1000,
        explain="Motors that it can drive.",
    )
    signal: str | None = words("Throttle signal", "Analogue, pulse or other.", default=None)
    regen_current_limit_a: Number | None = measure(
        "Braking amps limit",
        "A",
        (0.5, 1000),
        default=None,
        zero=True,
        explain="What it may push back into the pack.",
    )
    standby_current_a: Number | None = measure(
        "Standby amps",
        "A",
        (0.001, 5),
        default=None,
        zero=True,
        explain="What it draws while nothing turns.",
    )
    switching_loss_v: Number | None = measure(
        "Switching loss",
        "W/A",
        (0.01, 5),
        default=None,
        zero=True,
        explain="Watts lost in switching for each motor amp, beside the path resistance.",
    )
    timing_deg: Number | None = measure(
        "Timing",
        "deg",
        (0, 60),
        default=None,
        least=-90,
        most=90,
        explain="Advance set in the controller for all speeds.",
    )
    boost_timing_deg: Number | None = measure(
        "Boost timing",
        "deg",
        (0, 64),
        default=None,
        zero=True,
        most=360,
        explain="Advance that the controller adds over a range of rpm.",
    )
    turbo_timing_deg: Number | None = measure(
        "Turbo timing",
        "deg",
        (0, 64),
        default=None,
        zero=True,
        most=360,
        explain="Advance that the controller adds at full throttle.",
    )
    boost_from_rpm: Number | None = measure(
        "Boost from",
        "rpm",
        (500, 60000),
        default=None,
        zero=True,
        explain="Rpm of the motor at which boost timing begins to come in; from rest if left out.",
    )
    boost_to_rpm: Number | None = measure(
        "Boost whole at",
        "rpm",
        (500, 100000),
        default=None,
        zero=True,
        explain="Rpm of the motor from which all of it acts.",
    )
    half_throttle_pct: Number | None = measure(
        "Half trigger gives",
        "%",
        (5, 60),
        default=None,
        least=1,
        most=99,
        explain="Share of the volts at half trigger; 50 is a straight line, 20 a fine slow end.",
    )
    max_c: Number | None = measure(
        "Hottest controller",
        "C",
        (40, 120),
        default=None,
        least=0,
        most=300,
        explain="What the maker allows at the case.",
    )
    brake_release_c: Number | None = measure(
        "Brake releases at",
        "C",
        (40, 150),
        default=None,
        least=0,
        most=400,
        explain="Controller temperature at which it lets go of the brake.",
    )
    length_mm: Number | None = measure(
        "Length",
        "mm",
        (5, 800),
        default=None,
        explain="Of the case.",
    )
    width_mm: Number | None = measure(
        "Width",
        "mm",
        (5, 800),
        default=None,
        explain="Of the case.",
    )
    height_mm: Number | None = measure(
        "Height",
        "mm",
        (2, 800),
        default=None,
        explain="Of the case.",
    )
    mass_kg: Number | None = measure(
        "Controller mass",
        "kg",
        (0.002, 100),
        default=None,
        explain="With its wires.",
    )
    price: Number | None = measure(
        "Controller price",
        "",
        (1, 20000),
        default=None,
        zero=True,
        explain="For one.",
    )
    thermal: PartThermal = Field(default_factory=PartThermal, title="Heat data of the controller")
    cooling: Cooling = Field(default_factory=Cooling, title="Cooling of the controller")

    @model_validator(mode="after")
    def _boost_rises(self) -> "Controller":
        begins, ends = self.boost_from_rpm, self.boost_to_rpm
        if begins is not None and ends is not None and ends < begins:
            raise PydanticCustomError(
                "boost", "has boost_to_rpm below boost_from_rpm; boost comes in upwards"
            )
        return self


class Wiring(Model):
    """Wires and connectors, for the amps they stand."""

    pack_wire_mm2: Number | None = measure(
        "Pack wires",
        "mm2",
        (0.2, 120),
        default=None,
        explain="Copper of one wire between pack and controller.",
    )
    motor_wire_mm2: Number | None = measure(
        "Motor wires",
        "mm2",
        (0.2, 120),
        default=None,
        explain="Copper of one wire between controller and motor.",
    )
    connector_current_a: Number | None = measure(
        "Pack connector",
        "A",
        (1, 1000),
        default=None,
        explain="Amps that the connector of the pack is rated for.",
    )
