"""The brief document, open format ``young-torrent.brief/1``: a vehicle and what is wished of it."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.battery import Battery
from powertrain.documents.build import at_place
from powertrain.documents.craft import Aircraft, Hull
from powertrain.documents.electrics import Controller
from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.model import Model
from powertrain.documents.motors import MotorDocument
from powertrain.documents.propeller import Propeller
from powertrain.documents.shelf import PartRef
from powertrain.documents.vehicle import Conditions, Stage, Vehicle, Wheel
from powertrain.errors import NO_WHEELS, Refusal

FORMAT = "young-torrent.brief/1"


class Between(Model):
    """A top speed that is wished for: at least, at most, or both."""

    min: Number | None = measure(
        "At least", "km/h", (2, 200), default=None, explain="On the level, flat out."
    )
    max: Number | None = measure(
        "At most", "km/h", (2, 200), default=None, explain="What law, rules or nerves allow."
    )

    @model_validator(mode="after")
    def _ordered(self) -> "Between":
        if self.min is not None and self.max is not None and self.min > self.max:
            raise PydanticCustomError("between", "asks for more than it allows: min is above max")
        return self


class Hill(Model):
    """The hill that must be climbed."""

    grade_pct: Number = measure(
        "Grade", "%", (1, 50), least=0, most=300, explain="Metres up for a hundred along."
    )
    speed_kmh: Number | None = measure(
        "At", "km/h", (1, 100), default=None, explain="Left out: it only has to be climbed."
    )
    length_m: Number | None = measure(
        "Long", "m", (5, 20000), default=None, explain="From bottom to top."
    )


class Start(Model):
    """How quickly it must get going."""

    to_kmh: Number = measure("To", "km/h", (1, 200), explain="From standstill.")
    within_s: Number = measure("Within", "s", (0.5, 120), explain="Seconds from standstill.")


class Round(Model):
    """Room for a round part."""

    diameter_mm: Number | None = measure(
        "Diameter", "mm", (5, 500), default=None, explain="At most."
    )
    length_mm: Number | None = measure("Length", "mm", (5, 800), default=None, explain="At most.")


class Box(Model):
    """Room for a part with six sides; it may be turned to fit."""

    length_mm: Number = measure("Length", "mm", (5, 2000), explain="Of the room.")
    width_mm: Number = measure("Width", "mm", (5, 2000), explain="Of the room.")
    height_mm: Number = measure("Height", "mm", (2, 2000), explain="Of the room.")


class Wishes(Model):
    """What is wished for; each is optional and left out where it does not matter."""

    top_speed_kmh: Between | None = Field(default=None, title="Top speed")
    climb: Hill | None = Field(default=None, title="Hill")
    cruise_kmh: Number | None = measure(
        "Cruise at", "km/h", (1, 200), default=None, explain="The speed of an ordinary trip."
    )
    range_km: Number | None = measure(
        "Range", "km", (0.2, 500), default=None, explain="At cruise, on the level."
    )
    max_full_charge_v: Number | None = measure(
        "Volts at most", "V", (3, 1000), default=None, explain="Straight off the charger."
    )
    budget: Number | None = measure(
        "Budget",
        "",
        (5, 50000),
        default=None,
        explain="For motor, controller, pack and toothed wheels that are not owned yet.",
    )
    max_added_mass_kg: Number | None = measure(
        "Added mass at most", "kg", (0.01, 500), default=None, explain="Of all drive parts."
    )
    motor_space: Round | None = Field(default=None, title="Room for the motor")
    controller_space: Box | None = Field(default=None, title="Room for the controller")
    pack_space: Box | None = Field(default=None, title="Room for the pack")
    run_up_m: Number | None = measure(
        "Run-up",
        "m",
        (1, 5000),
        default=None,
        explain="Length in which the least top speed must be reached; without one, 95 % of it.",
    )
    commutation: Literal["brushed", "brushless"] | None = choice(
        "Motor is", "With brushes or without.", default=None
    )
    hold_stall_s: Number | None = measure(
        "Stands a stall of",
        "s",
        (0.5, 600),
        default=None,
        explain="Held at full throttle with its wheels stuck.",
    )
    launch: Start | None = Field(default=None, title="Start")
    thrust_to_weight: Number | None = measure(
        "Thrust over weight",
        "",
        (0.1, 2),
        default=None,
        explain="Standing at full throttle: 0.3 flies calmly, 0.7 briskly, 1 hangs on it.",
    )
    pitch_speed_over_stall: Number | None = measure(
        "Pitch speed over stall speed",
        "",
        (1.5, 6),
        default=None,
        explain="Standing at full throttle, pitch times turns: 2.5 for ease, 3 and more for speed.",
    )
    climb_ms: Number | None = measure(
        "Rate of climb",
        "m/s up",
        (0.5, 20),
        default=None,
        explain="Height won each second, at its best.",
    )
    endurance_min: Number | None = measure(
        "Stays out", "min", (2, 300), default=None, explain="At cruise, on one charge."
    )
    max_diameter_mm: Number | None = measure(
        "Propeller at most",
        "mm",
        (50, 3000),
        default=None,
        explain="Across the tips: what clears ground, water or the cage.",
    )
    allowed_parts: list[PartRef] | None = Field(
        default=None,
        max_length=10000,
        title="Admitted parts",
        description="Ids that an event's rules admit; kinds of which none is named are free.",
    )


class Owned(Model):
    """Parts that are there already: they cost nothing, and nothing else is taken for them."""

    motor: PartRef | MotorDocument | None = Field(default=None, title="Motor")
    controller: PartRef | Controller | None = Field(default=None, title="Controller")
    battery: PartRef | Battery | None = Field(default=None, title="Pack")
    gearing: list[Stage] | None = Field(default=None, max_length=12, title="Gearing")
    propeller: PartRef | Propeller | None = Field(default=None, title="Propeller")


class FinalDrive(Model):
    """The axle's own fixed reduction, behind all that is searched for."""

    ratio: Number = measure("Ratio", "", (0.2, 50), explain="Turns in for one turn of the wheel.")
    efficiency: Number = measure(
        "Efficiency",
        "",
        (0.5, 1.0),
        default=0.96,
        least=0.01,
        most=1,
        explain="Part of the power that comes out.",
    )


class Weights(Model):
    """What counts for how much in the order of the results; only their proportions matter."""

    margin: Number = measure(
        "Margin",
        "",
        (0.1, 10),
        default=3.0,
        zero=True,
        explain="How far the tightest wish or limit is from giving way.",
    )
    cost: Number = measure(
        "Cost",
        "",
        (0.1, 10),
        default=2.0,
        zero=True,
        explain="Less to pay.",
    )
    mass: Number = measure(
        "Mass",
        "",
        (0.1, 10),
        default=1.0,
        zero=True,
        explain="Less to carry.",
    )
    range: Number = measure(
        "Range",
        "",
        (0.1, 10),
        default=1.0,
        zero=True,
        explain="Farther on one charge.",
    )
    simplicity: Number = measure(
        "Simplicity",
        "",
        (0.1, 10),
        default=1.0,
        zero=True,
        explain="Fewer stages.",
    )

    @model_validator(mode="after")
    def _something_counts(self) -> "Weights":
        if self.margin + self.cost + self.mass + self.range + self.simplicity <= 0:
            raise PydanticCustomError("weights", "must not all be nought")
        return self


ChargeState = Literal["full", "nominal", "storage"]

BriefVehicle = Annotated[Vehicle | Aircraft | Hull, Field(discriminator="kind")]
"""What a drive can be found for."""

OF_WHEELS = ("climb", "launch", "run_up_m", "hold_stall_s")
OF_CRAFT = ("thrust_to_weight", "endurance_min", "max_diameter_mm")
OF_WINGS = ("pitch_speed_over_stall", "climb_ms")


class Brief(Model):
    """A vehicle without its drive, and what is wished of it.

    With a `wheel` it is driven by it; without one it is a craft that propellers push, and what is
    searched for last is the propeller in place of the gearing. `vehicle.mass_kg` is that of vehicle
    and load without motor, controller, pack and gearing or propeller; those of each candidate are
    added. Speeds, hills and amps are judged at the rest volts of `judged_at`; limits of volts
    straight off the charger; the range between the two states of charge.
    """

    format: Literal["young-torrent.brief/1"] = choice("Format", "Version of this format.")
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1)] = words(
        "Name", "What you call it.", default="Brief"
    )
    conditions: Conditions = Field(default_factory=Conditions)
    vehicle: BriefVehicle
    wheel: Wheel | None = Field(
        default=None,
        title="Driven wheel",
        description="Left out of a craft that propellers push.",
    )
    final_drive: FinalDrive | None = Field(default=None, title="Axle's own ratio")
    motor_count: Whole = measure(
        "Motors", "", (1, 8), default=1, least=1, most=1000, explain="Equal ones on one shaft."
    )
    wishes: Wishes = Field(default_factory=Wishes)
    owned: Owned = Field(default_factory=Owned)
    weights: Weights = Field(default_factory=Weights)
    judged_at: ChargeState = choice(
        "Judged at",
        "Rest volts of the cells at which speeds and amps are judged.",
        default="nominal",
    )
    range_from_pct: Number | None = measure(
        "Range from", "%", (50, 100), default=None, least=1, most=100, explain="100 if left out."
    )
    range_to_pct: Number | None = measure(
        "Range down to", "%", (5, 50), default=None, least=0, most=99, explain="10 if left out."
    )

    @property
    def is_craft(self) -> bool:
        """Whether propellers push it."""
        return self.wheel is None

    @property
    def driven_wheel(self) -> Wheel:
        """The wheel of a vehicle that rolls.

        Raises
        ------
        Refusal
            Where propellers push it.
        """
        if self.wheel is None:
            raise Refusal("vehicle.kind", NO_WHEELS)
        return self.wheel

    @property
    def vehicle_on_wheels(self) -> Vehicle:
        """The vehicle, where it has wheels.

        Raises
        ------
        Refusal
            Where it has none.
        """
        if not isinstance(self.vehicle, Vehicle):
            raise Refusal("vehicle.kind", NO_WHEELS)
        return self.vehicle

    @model_validator(mode="after")
    def _asks_what_it_can_do(self) -> "Brief":
        """Refuse what has no meaning for such a vehicle, and name the place."""
        if self.vehicle.kind != "ground" and self.wheel is not None:
            raise at_place("wheel", "is of a vehicle on wheels; take it out")
        of_wheels = "is asked of a vehicle on wheels, and propellers push this one; take it out"
        of_craft = "is of a craft that propellers push, and a wheel drives this one; take it out"
        of_wings = "is of an aircraft; take it out"
        refused = of_wheels if self.is_craft else of_craft
        for key in OF_WHEELS if self.is_craft else OF_CRAFT:
            if getattr(self.wishes, key) is not None:
                raise at_place(f"wishes.{key}", refused)
        for key in OF_WINGS:
            if getattr(self.wishes, key) is not None and self.vehicle.kind != "aircraft":
                raise at_place(f"wishes.{key}", of_wings)
        if self.is_craft and self.final_drive is not None:
            raise at_place("final_drive", of_wheels)
        if not self.is_craft and self.owned.propeller is not None:
            raise at_place("owned.propeller", of_craft)
        return self
