"""What a conversion says beside its drive: the engine, the joint to the gearbox, what runs along.

All of it is optional; what is left out is not reckoned with, and nobody is told it was.
"""

from typing import Literal

from powertrain.documents.fields import Number, choice, measure, words
from powertrain.documents.model import Model


class Replaces(Model):
    """The engine that comes out."""

    torque_nm: Number | None = measure(
        "Engine's greatest torque",
        "N.m",
        (2, 1000),
        default=None,
        explain="As its papers say.",
    )
    torque_at_rpm: Number | None = measure(
        "Greatest torque at", "rpm", (500, 9000), default=None, explain="Where it has that."
    )
    power_kw: Number | None = measure(
        "Engine's greatest power",
        "kW",
        (1, 300),
        default=None,
        explain="As its papers say; one horse power is 0.736 kW.",
    )
    power_at_rpm: Number | None = measure(
        "Greatest power at", "rpm", (800, 12000), default=None, explain="Where it has that."
    )
    driven_at_rpm: Number | None = measure(
        "Really driven at",
        "rpm",
        (500, 8000),
        default=None,
        explain="What it turned on an ordinary trip: by ear, tachometer, or gear and speed.",
    )
    mass_kg: Number | None = measure(
        "Engine weighed",
        "kg",
        (3, 800),
        default=None,
        explain="All that comes out with it: exhaust, cooler, fuel and tank.",
    )


class Coupling(Model):
    """How the motor's shaft meets the gearbox, and the room for it."""

    adapter_mm: Number | None = measure(
        "Adapter plate",
        "mm",
        (5, 150),
        default=None,
        zero=True,
        explain="Thickness: from the gearbox's face to the motor's.",
    )
    coupler_mm: Number | None = measure(
        "Coupler",
        "mm",
        (10, 300),
        default=None,
        zero=True,
        explain="Length that it needs between the motor's face and the gearbox's shaft.",
    )
    flywheel: Literal["kept", "removed"] | None = choice(
        "Flywheel", "Whether it stays on the motor's shaft.", default=None
    )
    clutch: Literal["kept", "removed"] | None = choice(
        "Clutch", "Whether the motor drives through the old clutch.", default=None
    )
    shaft: Literal["key", "spline", "taper"] | None = choice(
        "Motor's shaft", "Plain with a key, splined, or a taper.", default=None
    )
    free_length_mm: Number | None = measure(
        "Free length",
        "mm",
        (50, 2500),
        default=None,
        explain="From the gearbox's face to the first thing in the way, measured with a tape.",
    )
    free_across_mm: Number | None = measure(
        "Free across",
        "mm",
        (50, 1000),
        default=None,
        explain="The least of width and height there, clear of steering and exhaust, and as high "
        "above the ground as the sump was.",
    )


class Auxiliary(Model):
    """Something that runs along and takes watts."""

    name: str = words("What", "Brake vacuum, steering, hydraulic pump, lamps.")
    power_w: Number = measure(
        "Takes", "W", (5, 10000), zero=True, explain="While it works, all the time."
    )
    driven_by: Literal["tail_shaft", "belt", "dc_dc"] = choice(
        "Driven by", "The motor's second shaft end, a belt from it, or the DC-DC converter."
    )


class Prices(Model):
    """What a conversion costs beside motor, controller and pack."""

    charger: Number | None = measure(
        "Charger's price", "", (20, 10000), default=None, zero=True, explain="All of them."
    )
    dc_dc: Number | None = measure(
        "DC-DC converter's price", "", (10, 3000), default=None, zero=True, explain="All of them."
    )
    contactors: Number | None = measure(
        "Price of contactors and fuses",
        "",
        (10, 3000),
        default=None,
        zero=True,
        explain="With pre-charge and emergency cut.",
    )
    adapter: Number | None = measure(
        "Price of adapter and coupler",
        "",
        (20, 5000),
        default=None,
        zero=True,
        explain="Plate, coupler, and the machinist's hours.",
    )
