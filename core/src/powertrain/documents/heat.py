"""Heat data and cooling of a part, as a document says them."""

from typing import Literal

from powertrain.documents.fields import Number, choice, measure
from powertrain.documents.model import Model


class MotorThermal(Model):
    """What the maker says of a motor's heat; what is absent is estimated from mass and size."""

    winding_j_per_k: Number | None = measure(
        "Winding stores",
        "J/K",
        (0.5, 50000),
        default=None,
        explain="Heat that warms the copper by one kelvin: its mass times 385.",
    )
    case_j_per_k: Number | None = measure(
        "Case stores",
        "J/K",
        (2, 500000),
        default=None,
        explain="Heat that warms iron and can by one kelvin: their mass times about 460.",
    )
    winding_to_case_k_per_w: Number | None = measure(
        "Winding to case",
        "K/W",
        (0.005, 30),
        default=None,
        explain="Kelvin between copper and can for each watt that passes.",
    )
    case_to_air_k_per_w: Number | None = measure(
        "Case to air",
        "K/W",
        (0.01, 60),
        default=None,
        explain="Kelvin between can and still air for each watt.",
    )
    resistance_at_c: Number = measure(
        "Resistance was at",
        "C",
        (15, 30),
        default=20.0,
        least=-60,
        most=200,
        explain="Temperature of the copper when its resistance was measured.",
    )
    magnet_pct_per_k: Number = measure(
        "Magnets weaken",
        "%/K",
        (0.03, 0.25),
        default=0.0,
        zero=True,
        most=1,
        explain="For each kelvin: about 0.11 neodymium, 0.2 ferrite. Amps for a torque rise by it.",
    )


class PartThermal(Model):
    """Heat data of a part that is one lump: a controller or a pack."""

    heat_j_per_k: Number | None = measure(
        "Stores",
        "J/K",
        (1, 2e6),
        default=None,
        explain="Heat that warms it by one kelvin: its mass times 900 or so.",
    )
    to_air_k_per_w: Number | None = measure(
        "To air",
        "K/W",
        (0.005, 100),
        default=None,
        explain="Kelvin above still air for each watt of heat.",
    )


class Cooling(Model):
    """What carries the heat away, and what can be changed about it."""

    air: Literal["closed", "vented", "open"] | None = choice(
        "Stands", "In a closed box, in a vented one, or in the open wind of travel.", default=None
    )
    surface: Literal["painted", "bare"] | None = choice(
        "Surface", "Paint, or any coat, radiates; bare bright metal hardly does.", default=None
    )
    fan_mps: Number = measure(
        "Fan blows",
        "m/s",
        (0.5, 20),
        default=0.0,
        zero=True,
        explain="Speed of the air that a fan drives over it.",
    )
    sink_cm2: Number = measure(
        "Heat sink",
        "cm2",
        (5, 5000),
        default=0.0,
        zero=True,
        explain="Surface that a clamped-on heat sink adds, all its fins counted.",
    )
