"""Motors as a document says them: what all kinds share, and each kind's constants."""

from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.heat import Cooling, MotorThermal
from powertrain.documents.model import Model


class Motor(Model):
    """What every kind of motor may say beside its constants."""

    name: str | None = words("Motor", "Maker and model, as you would ask for it.", default=None)
    count: Whole = measure(
        "Motors", "", (1, 8), default=1, least=1, most=1000,
        explain="Equal motors on the same wheel shaft, each with its own controller path.",
    )  # fmt: skip
    max_rpm: Number | None = measure(
        "Highest rpm", "rpm", (50, 120000), default=None,
        explain="Where the rotor or its bearings give up; a limit for the free motor.",
    )  # fmt: skip
    max_voltage_v: Number | None = measure(
        "Highest volts", "V", (2, 1000), default=None,
        explain="The maker's limit for the motor.",
    )  # fmt: skip
    rated_cells: list[Whole] | None = Field(
        default=None,
        min_length=2,
        max_length=2, title="Advised cells",
        description="Lowest and highest cell count the maker advises; advice, not a limit.",
    )  # fmt: skip
    continuous_current_a: Number | None = measure(
        "Continuous", "A", (0.2, 3000), default=None,
        explain="Motor amps it stands for as long as you like.",
    )  # fmt: skip
    peak_current_a: Number | None = measure(
        "Peak", "A", (0.2, 6000), default=None,
        explain="Motor amps it stands for a short while.",
    )  # fmt: skip
    peak_duration_s: Number | None = measure(
        "Peak lasts", "s", (0.1, 600), default=None,
        explain="How long the maker allows the peak.",
    )  # fmt: skip
    max_power_w: Number | None = measure(
        "Watt rating", "W", (2, 500000), default=None,
        explain="The watts printed on the can.",
    )  # fmt: skip
    power_is: Literal["electrical", "shaft"] | None = choice(
        "Watts are", "Whether those watts go in at the wires or come out at the shaft.",
        default=None,
    )  # fmt: skip
    max_winding_c: Number | None = measure(
        "Hottest winding", "C", (60, 250), default=None, least=0, most=600,
        explain="What the copper's insulation stands.",
    )  # fmt: skip
    max_case_c: Number | None = measure(
        "Hottest case", "C", (40, 150), default=None, least=0, most=400,
        explain="What the maker allows at the can.",
    )  # fmt: skip
    insulation_class: Literal["A", "E", "B", "F", "H"] | None = choice(
        "Insulation class", "The letter on the plate (IEC 60085).", default=None
    )
    brush_drop_v: Number | None = measure(
        "Brush drop", "V", (0.05, 4), default=None, zero=True,
        explain="Volts lost at the brushes, both together.",
    )  # fmt: skip
    poles: Whole | None = measure(
        "Poles", "", (2, 60), default=None, least=2, most=1000,
        explain="Magnets in the rotor, counted singly.",
    )  # fmt: skip
    slots: Whole | None = measure(
        "Slots", "", (3, 72), default=None, least=1, most=1000,
        explain="Teeth of iron that carry the windings.",
    )  # fmt: skip
    sensor: Literal["none", "hall", "encoder"] | None = choice(
        "Sensor", "How the controller knows where the rotor stands.", default=None
    )
    timing_deg: Number | None = measure(
        "Timing", "deg", (0, 60), default=None, least=-90, most=90,
        explain="Mechanical advance set at the motor.",
    )  # fmt: skip
    constants_at_timing_deg: Number | None = measure(
        "Constants taken at", "deg", (0, 60), default=None, least=-90, most=90,
        explain="Advance at which KV, resistance and no-load amps were taken; 0 if left out.",
    )  # fmt: skip
    diameter_mm: Number | None = measure(
        "Can diameter", "mm", (5, 500), default=None, explain="Outside, without wires.",
    )  # fmt: skip
    length_mm: Number | None = measure(
        "Can length", "mm", (5, 800), default=None, explain="Without the shaft.",
    )  # fmt: skip
    shaft_mm: Number | None = measure(
        "Shaft", "mm", (0.8, 80), default=None, explain="Diameter of the output shaft.",
    )  # fmt: skip
    mass_kg: Number | None = measure(
        "Motor mass", "kg", (0.005, 200), default=None, explain="One motor, with its wires.",
    )  # fmt: skip
    price: Number | None = measure(
        "Motor price", "", (1, 50000), default=None, zero=True, explain="For one.",
    )  # fmt: skip
    rotor_inertia_kg_m2: Number | None = measure(
        "Rotor inertia", "kg.m2", (1e-9, 1), default=None, zero=True,
        explain="Of one rotor; it counts with the square of the reduction.",
    )  # fmt: skip
    thermal: MotorThermal = Field(default_factory=MotorThermal, title="Heat data of the motor")
    cooling: Cooling = Field(default_factory=Cooling, title="Cooling of the motor")


class PermanentMagnetMotor(Motor):
    """A motor with magnets, brushed or brushless: three constants tell nearly all of it."""

    kind: Literal["permanent_magnet"] = choice("Kind", "A motor with permanent magnets.")
    commutation: Literal["brushed", "brushless"] = choice(
        "Commutation", "Brushed motors have two wires, brushless motors have three.",
        default="brushless",
    )  # fmt: skip
    kv_rpm_per_v: Number = measure(
        "KV", "rpm/V", (1, 20000),
        explain="Free rpm for each volt. Rated rpm over rated volts is a first guess.",
    )  # fmt: skip
    resistance_ohm: Number = measure(
        "Resistance", "ohm", (0.0005, 10),
        explain="Between two motor wires, cold. Measure with a known current, not a multimeter.",
    )  # fmt: skip
    no_load_current_a: Number = measure(
        "No-load amps", "A", (0.01, 200), zero=True,
        explain="What the motor draws when it turns freely at its usual volts.",
    )  # fmt: skip
    no_load_voltage_v: Number | None = measure(
        "No-load amps were at", "V", (0.5, 1000), default=None,
        explain="Volts at which the no-load amps were read; needed only with a second run.",
    )  # fmt: skip
    second_no_load_current_a: Number | None = measure(
        "Second no-load amps", "A", (0.01, 200), default=None, zero=True,
        explain="A second free run at other volts tells how much of the loss grows with speed.",
    )  # fmt: skip
    second_no_load_voltage_v: Number | None = measure(
        "Second run was at", "V", (0.5, 1000), default=None,
        explain="Volts of the second free run.",
    )  # fmt: skip

    @model_validator(mode="after")
    def _free_runs_agree(self) -> "PermanentMagnetMotor":
        volts, more_v = self.no_load_voltage_v, self.second_no_load_voltage_v
        amps, more_a = self.no_load_current_a, self.second_no_load_current_a
        if (volts is None) != (more_v is None) or (more_v is None) != (more_a is None):
            raise PydanticCustomError(
                "free_runs",
                "needs no_load_voltage_v, second_no_load_current_a and second_no_load_voltage_v "
                "together, or none of them",
            )
        if volts is None or more_v is None or more_a is None:
            return self
        drop_v = self.brush_drop_v or 0.0
        speed, more_speed = (
            v - drop_v - a * self.resistance_ohm for v, a in ((volts, amps), (more_v, more_a))
        )
        if min(speed, more_speed) <= 0 or speed == more_speed:
            raise PydanticCustomError(
                "free_runs", "has two free runs at one speed, or one that can't turn; check them"
            )
        slope = (more_a - amps) / (more_speed - speed)
        if slope < 0 or amps - slope * speed < 0:
            raise PydanticCustomError(
                "free_runs",
                "has free runs that contradict one another: amps must rise with volts, and less "
                "than in proportion",
            )
        return self


class SeriesWoundMotor(Motor):
    """A brushed motor whose field carries the armature's current; its iron saturates."""

    commutation: Literal["brushed"] = choice("Commutation", "It has brushes.", default="brushed")
    kind: Literal["series_wound"] = choice("Kind", "A brushed motor with its field in series.")
    saturated_constant_nm_per_a: Number = measure(
        "Saturated constant", "N.m/A", (0.001, 10),
        explain="Torque for each amp once the iron is full; equally volts per rad/s.",
    )  # fmt: skip
    half_saturation_current_a: Number = measure(
        "Half-saturation amps", "A", (0.1, 3000),
        explain="Amps at which the constant has half of its saturated value.",
    )  # fmt: skip
    resistance_ohm: Number = measure(
        "Resistance", "ohm", (0.0005, 10),
        explain="Armature, field and brushes together, cold.",
    )  # fmt: skip
    loss_torque_nm: Number = measure(
        "Loss torque", "N.m", (0.005, 50),
        explain="What bearings, brushes and fan take. Only this keeps it from running away free.",
    )  # fmt: skip


class PackagedMotor(Motor):
    """A motor with its inverter, induction or magnets, known by the envelope of its data sheet."""

    commutation: Literal["brushless"] = choice(
        "Commutation", "Its inverter turns the field.", default="brushless"
    )
    kind: Literal["packaged"] = choice("Kind", "A motor with its inverter, by data sheet.")
    peak_torque_nm: Number = measure(
        "Greatest torque", "N.m", (0.05, 3000),
        explain="From standstill up to the base speed.",
    )  # fmt: skip
    base_rpm: Number = measure(
        "Base speed", "rpm", (50, 60000),
        explain="Where torque begins to fall at the stated volts; it moves with the volts.",
    )  # fmt: skip
    base_voltage_v: Number = measure(
        "Base speed is at", "V", (5, 1000), explain="Volts at the inverter for that base speed.",
    )  # fmt: skip
    top_rpm: Number = measure(
        "Inverter stops at", "rpm", (100, 120000),
        explain="Highest speed that the inverter allows.",
    )  # fmt: skip
    efficiency: Number | None = measure(
        "Efficiency", "", (0.6, 0.98), default=None, least=0.05, most=1,
        explain="Motor and inverter at usual load; 0.88 if neither this nor losses are known.",
    )  # fmt: skip
    copper_loss_w: Number | None = measure(
        "Copper loss", "W", (1, 100000), default=None, zero=True,
        explain="At the greatest torque; it goes with torque squared.",
    )  # fmt: skip
    iron_loss_w: Number | None = measure(
        "Iron loss", "W", (1, 50000), default=None, zero=True,
        explain="At the base speed; it goes with speed.",
    )  # fmt: skip
    windage_loss_w: Number | None = measure(
        "Windage loss", "W", (0.1, 50000), default=None, zero=True,
        explain="At the base speed; it goes with the cube of speed.",
    )  # fmt: skip


MotorDocument = Annotated[
    PermanentMagnetMotor | SeriesWoundMotor | PackagedMotor, Field(discriminator="kind")
]
"""Any kind of motor. A new kind is a class here and a module in `powertrain.motor`."""
