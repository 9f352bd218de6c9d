"""What all kinds of motor share in a document."""

from typing import ClassVar, Literal

from pydantic import Field

from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.heat import Cooling, MotorThermal
from powertrain.documents.model import Model


class SharedMotor(Model):
    """What every kind of motor may say beside its constants.

    `label` is what people call the kind.
    """

    label: ClassVar[str]

    name: str | None = words("Motor", "Maker and model, as you would ask for it.", default=None)
    count: Whole = measure(
        "Motors",
        "",
        (1, 8),
        default=1,
        least=1,
        most=1000,
        explain="Equal motors on the same wheel shaft, each with its own controller path.",
    )
    max_rpm: Number | None = measure(
        "Highest rpm",
        "rpm",
        (50, 120000),
        default=None,
        explain="Where the rotor or its bearings give up; a limit for the free motor.",
    )
    max_voltage_v: Number | None = measure(
        "Highest volts",
        "V",
        (2, 1000),
        default=None,
        explain="The maker's limit for the motor.",
    )
    rated_cells: list[Whole] | None = Field(
        default=None,
        min_length=2,
        max_length=2,
        title="Advised cells",
        description="Lowest and highest cell count the maker advises; advice, not a limit.",
    )
    continuous_current_a: Number | None = measure(
        "Continuous",
        "A",
        (0.2, 3000),
        default=None,
        explain="Motor amps it stands for as long as you like.",
    )
    peak_current_a: Number | None = measure(
        "Peak",
        "A",
        (0.2, 6000),
        default=None,
        explain="Motor amps it stands for a short while.",
    )
    peak_duration_s: Number | None = measure(
        "Peak lasts",
        "s",
        (0.1, 600),
        default=None,
        explain="How long the maker allows the peak.",
    )
    max_power_w: Number | None = measure(
        "Watt rating",
        "W",
        (2, 500000),
        default=None,
        explain="The watts printed on the can.",
    )
    power_is: Literal["electrical", "shaft"] | None = choice(
        "Watts are",
        "Whether those watts go in at the wires or come out at the shaft.",
        default=None,
    )
    max_winding_c: Number | None = measure(
        "Hottest winding",
        "C",
        (60, 250),
        default=None,
        least=0,
        most=600,
        explain="What the copper's insulation stands.",
    )
    max_case_c: Number | None = measure(
        "Hottest case",
        "C",
        (40, 150),
        default=None,
        least=0,
        most=400,
        explain="What the maker allows at the can.",
    )
    insulation_class: Literal["A", "E", "B", "F", "H"] | None = choice(
        "Insulation class", "The letter on the plate (IEC 60085).", default=None
    )
    brush_drop_v: Number | None = measure(
        "Brush drop",
        "V",
        (0.05, 4),
        default=None,
        zero=True,
        explain="Volts lost at the brushes, both together.",
    )
    poles: Whole | None = measure(
        "Poles",
        "",
        (2, 60),
        default=None,
        least=2,
        most=1000,
        explain="Magnets in the rotor, counted singly; field poles where it has coils for them.",
    )
    slots: Whole | None = measure(
        "Slots",
        "",
        (3, 72),
        default=None,
        least=1,
        most=1000,
        explain="Teeth of iron that carry the windings.",
    )
    sensor: Literal["none", "hall", "encoder"] | None = choice(
        "Sensor", "How the controller knows where the rotor stands.", default=None
    )
    timing_deg: Number | None = measure(
        "Timing",
        "deg",
        (0, 60),
        default=None,
        least=-90,
        most=90,
        explain="Mechanical advance set at the motor.",
    )
    constants_at_timing_deg: Number | None = measure(
        "Constants taken at",
        "deg",
        (0, 60),
        default=None,
        least=-90,
        most=90,
        explain="Advance at which KV, resistance and no-load amps were taken; 0 if left out.",
    )
    inductance_uh: Number | None = measure(
        "Inductance",
        "uH",
        (1, 5000),
        default=None,
        explain="Between two wires; an LCR meter at 1 kHz reads it, rotor turned a little between.",
    )
    diameter_mm: Number | None = measure(
        "Can diameter",
        "mm",
        (5, 500),
        default=None,
        explain="Outside, without wires.",
    )
    length_mm: Number | None = measure(
        "Can length",
        "mm",
        (5, 800),
        default=None,
        explain="Without the shaft.",
    )
    shaft_mm: Number | None = measure(
        "Shaft",
        "mm",
        (0.8, 80),
        default=None,
        explain="Diameter of the output shaft.",
    )
    mass_kg: Number | None = measure(
        "Motor mass",
        "kg",
        (0.005, 200),
        default=None,
        explain="One motor, with its wires.",
    )
    price: Number | None = measure(
        "Motor price",
        "",
        (1, 50000),
        default=None,
        zero=True,
        explain="For one.",
    )
    rotor_inertia_kg_m2: Number | None = measure(
        "Rotor inertia",
        "kg.m2",
        (1e-9, 1),
        default=None,
        zero=True,
        explain="Of one rotor; it counts with the square of the reduction.",
    )
    thermal: MotorThermal = Field(default_factory=MotorThermal, title="Heat data of the motor")
    cooling: Cooling = Field(default_factory=Cooling, title="Cooling of the motor")
