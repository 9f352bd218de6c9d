"""The build document, open format ``young-torrent.build/1``: one vehicle with its whole drive.

This is the only definition. The API embeds these models, the database keeps documents that
they accept, and the types of the screens are generated from them. Units stand in the names.
"""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.fields import Number, Whole, choice, measure, words

FORMAT = "young-torrent.build/1"

MOST_STAGES = 12
"""No drive has a dozen reductions in series; more is a mistake, and is refused."""

Chemistry = Literal["lipo", "li_ion", "lifepo4", "lead_acid", "nimh"]


class Model(BaseModel):
    """A part of a document: unknown keys are errors, nothing is coerced, nothing changes."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)


class Conditions(Model):
    """The air the vehicle moves through."""

    air_density_kg_m3: Number = measure(
        "Air density", "kg/m3", (0.4, 2.0), default=1.225, zero=True,
        explain="1.225 at sea level and 15 C; about a tenth less for each kilometre up.",
    )  # fmt: skip
    ambient_c: Number = measure(
        "Air temperature", "C", (-30, 50), default=20.0, least=-90, most=90,
        explain="The air around motor, controller and pack.",
    )  # fmt: skip
    headwind_mps: Number = measure(
        "Headwind", "m/s", (-20, 20), default=0.0, least=-100, most=100,
        explain="Wind against the direction of travel; a tailwind is negative.",
    )  # fmt: skip


class Traction(Model):
    """Where the weight stands, for grip and for lifting the front."""

    friction: Number = measure(
        "Grip", "", (0.1, 1.5), most=5, least=0.001,
        explain="Friction of tyre on ground: 0.8 dry tarmac, 0.4 wet grass.",
    )  # fmt: skip
    driven_share: Number = measure(
        "Weight on the driven axle", "", (0.2, 1.0), least=0.001, most=1,
        explain="Part of the weight that the driven wheels carry at rest; 1 if all are driven.",
    )  # fmt: skip
    wheelbase_m: Number | None = measure(
        "Wheelbase", "m", (0.05, 4), default=None,
        explain="Distance between the axles.",
    )  # fmt: skip
    centre_height_m: Number | None = measure(
        "Height of the centre of mass", "m", (0.01, 2), default=None, zero=True,
        explain="How high the balance point of vehicle and load stands.",
    )  # fmt: skip
    centre_to_driven_axle_m: Number | None = measure(
        "Centre of mass to driven axle", "m", (0.01, 3), default=None, zero=True,
        explain="Level distance from the balance point to the driven axle.",
    )  # fmt: skip


class Vehicle(Model):
    """What has to be moved."""

    kind: Literal["ground"] = choice("Kind", "A vehicle on wheels.")
    mass_kg: Number = measure(
        "Rolling mass", "kg", (0.2, 20000),
        explain="Everything that moves: vehicle, rider, load and drive. Weigh it loaded.",
    )  # fmt: skip
    rolling_resistance: Number = measure(
        "Rolling resistance", "", (0.0015, 0.3), zero=True, most=10,
        explain="Drag of the tyres per weight: 0.005 good tyres on tarmac, 0.02 gravel, 0.1 mud.",
    )  # fmt: skip
    drag_area_m2: Number = measure(
        "Drag area", "m2", (0.002, 20), zero=True,
        explain="Frontal area times drag coefficient: 0.6 an upright rider, 0.05 a small model.",
    )  # fmt: skip
    rotating_mass_factor: Number = measure(
        "Rotating mass factor", "", (1.0, 1.5), default=1.0, least=0.1, most=100,
        explain="How much heavier the vehicle feels when it speeds up, because its wheels turn.",
    )  # fmt: skip
    rated_speed_kmh: Number | None = measure(
        "Made for", "km/h", (2, 200), default=None,
        explain="The speed that frame and brakes were made for.",
    )  # fmt: skip
    traction: Traction | None = Field(default=None, title="Grip and balance")


class Wheel(Model):
    """The driven wheel."""

    name: str | None = words("Wheel", "Tyre and size, as marked.", default=None)
    rolling_circumference_mm: Number = measure(
        "Rolls", "mm", (20, 8000),
        explain="Distance of one turn under load: mark the tyre, roll one turn, measure.",
    )  # fmt: skip
    inertia_kg_m2: Number | None = measure(
        "Inertia of the wheels", "kg.m2", (1e-6, 10), default=None, zero=True,
        explain="Of all wheels together; leave it out if the rotating mass factor covers it.",
    )  # fmt: skip


class ToothedStage(Model):
    """One reduction with teeth that can be counted."""

    kind: Literal["chain", "belt", "spur"] = choice("Kind", "What passes the power on.")
    driver_teeth: Whole = measure(
        "Driver", "teeth", (6, 200), least=1, most=10000,
        explain="Teeth on the side of the motor.",
    )  # fmt: skip
    driven_teeth: Whole = measure(
        "Driven", "teeth", (6, 400), least=1, most=10000,
        explain="Teeth on the side of the wheel.",
    )  # fmt: skip
    efficiency: Number = measure(
        "Efficiency", "", (0.6, 1.0), least=0.01, most=1,
        explain="Part of the power that comes out: chain .95-.98, toothed belt .96-.98, "
        "spur .97-.99 when straight, clean and oiled.",
    )  # fmt: skip


class FixedStage(Model):
    """One reduction known only by its ratio: a gearbox, a planetary, a differential."""

    kind: Literal["planetary", "fixed"] = choice("Kind", "What passes the power on.")
    ratio: Number = measure(
        "Ratio", "", (0.2, 200),
        explain="Turns in for one turn out.",
    )  # fmt: skip
    efficiency: Number = measure(
        "Efficiency", "", (0.5, 1.0), least=0.01, most=1,
        explain="Part of the power that comes out: .95-.97 for each planetary step.",
    )  # fmt: skip


Stage = Annotated[ToothedStage | FixedStage, Field(discriminator="kind")]


class Motor(Model):
    """What every kind of motor may say beside its constants."""

    name: str | None = words("Motor", "Maker and model, as you would ask for it.", default=None)
    count: Whole = measure(
        "Motors", "", (1, 8), default=1, least=1, most=1000,
        explain="Equal motors on the same wheel shaft, each with its own controller path.",
    )  # fmt: skip
    commutation: Literal["brushed", "brushless"] = choice(
        "Commutation", "Brushed motors have two wires, brushless motors have three.",
        default="brushless",
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


class PermanentMagnetMotor(Motor):
    """A motor with magnets, brushed or brushless: three constants tell nearly all of it."""

    kind: Literal["permanent_magnet"] = choice("Kind", "A motor with permanent magnets.")
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


class Controller(Model):
    """The speed controller; each motor has one path of it."""

    name: str | None = words("Controller", "Maker and model.", default=None)
    resistance_ohm: Number = measure(
        "Path resistance", "ohm", (0.0001, 1), default=0.0, zero=True,
        explain="From pack terminals to motor wires and back, switches included.",
    )  # fmt: skip
    motor_current_limit_a: Number | None = measure(
        "Motor amps limit", "A", (0.5, 3000), default=None,
        explain="Set in the controller, for each motor. It sets torque, and heat in the motor.",
    )  # fmt: skip
    battery_current_limit_a: Number | None = measure(
        "Pack amps limit", "A", (0.5, 3000), default=None,
        explain="Set in the controller, for the whole pack. It sets power, and spares the cells.",
    )  # fmt: skip
    max_voltage_v: Number | None = measure(
        "Highest volts", "V", (3, 1000), default=None,
        explain="What the maker allows at the input.",
    )  # fmt: skip
    capacitor_voltage_v: Number | None = measure(
        "Capacitor volts", "V", (3, 1000), default=None,
        explain="Printed on the input capacitors; often the true limit.",
    )  # fmt: skip
    continuous_current_a: Number | None = measure(
        "Continuous", "A", (0.5, 3000), default=None,
        explain="Rated amps for as long as you like, for one motor path.",
    )  # fmt: skip
    peak_current_a: Number | None = measure(
        "Peak", "A", (0.5, 6000), default=None,
        explain="Rated amps for a short burst, for one motor path.",
    )  # fmt: skip
    peak_duration_s: Number | None = measure(
        "Peak lasts", "s", (0.1, 600), default=None, explain="How long the maker allows it.",
    )  # fmt: skip
    rating_side: Literal["motor", "battery"] | None = choice(
        "Amps rated at", "Whether the maker's amps are motor amps or pack amps.", default=None
    )
    max_erpm: Number | None = measure(
        "Highest electrical rpm", "erpm", (1000, 2000000), default=None,
        explain="Shaft rpm times pole pairs that it can follow.",
    )  # fmt: skip
    throttle_steps: Whole | None = measure(
        "Throttle steps", "", (32, 65536), default=None, least=2, most=1000000,
        explain="How finely it divides the throttle.",
    )  # fmt: skip
    outputs: Whole | None = measure(
        "Outputs", "", (1, 8), default=None, least=1, most=1000,
        explain="Motors that it can drive.",
    )  # fmt: skip
    signal: str | None = words("Throttle signal", "Analogue, pulse or other.", default=None)
    regen_current_limit_a: Number | None = measure(
        "Braking amps limit", "A", (0.5, 1000), default=None, zero=True,
        explain="What it may push back into the pack.",
    )  # fmt: skip
    standby_current_a: Number | None = measure(
        "Standby amps", "A", (0.001, 5), default=None, zero=True,
        explain="What it draws while nothing turns.",
    )  # fmt: skip
    brake_release_c: Number | None = measure(
        "Brake releases at", "C", (40, 150), default=None, least=0, most=400,
        explain="Controller temperature at which it lets go of the brake.",
    )  # fmt: skip
    length_mm: Number | None = measure(
        "Length", "mm", (5, 800), default=None, explain="Of the case.",
    )  # fmt: skip
    width_mm: Number | None = measure(
        "Width", "mm", (5, 800), default=None, explain="Of the case.",
    )  # fmt: skip
    height_mm: Number | None = measure(
        "Height", "mm", (2, 800), default=None, explain="Of the case.",
    )  # fmt: skip
    mass_kg: Number | None = measure(
        "Controller mass", "kg", (0.002, 100), default=None, explain="With its wires.",
    )  # fmt: skip
    price: Number | None = measure(
        "Controller price", "", (1, 20000), default=None, zero=True, explain="For one.",
    )  # fmt: skip


class Battery(Model):
    """The pack: equal cells in series and parallel."""

    name: str | None = words("Pack", "Maker and model, or the cells it is made of.", default=None)
    chemistry: Chemistry = choice("Chemistry", "What the cells are made of.")
    series: Whole = measure(
        "Cells in series", "cells", (1, 400), least=1, most=100000,
        explain="They add their volts.",
    )  # fmt: skip
    parallel: Whole = measure(
        "Strings in parallel", "strings", (1, 500), default=1, least=1, most=100000,
        explain="They share the amps.",
    )  # fmt: skip
    cell_capacity_ah: Number = measure(
        "Cell capacity", "Ah", (0.05, 400),
        explain="Of one cell, as the maker states it.",
    )  # fmt: skip
    cell_resistance_mohm: Number = measure(
        "Cell resistance", "mohm", (0.05, 500), zero=True,
        explain="Of one cell, direct current. Many chargers show it; it doubles in the cold.",
    )  # fmt: skip
    wiring_resistance_mohm: Number = measure(
        "Wiring resistance", "mohm", (0.05, 500), default=0.0, zero=True,
        explain="Leads, links, fuse and connector between cells and controller.",
    )  # fmt: skip
    cell_voltage_v: Number = measure(
        "Cell rests at", "V", (0.8, 5), most=2000,
        explain="Volts of one cell now, with nothing drawn.",
    )  # fmt: skip
    continuous_current_a: Number | None = measure(
        "Continuous", "A", (0.2, 3000), default=None, explain="What the whole pack may give.",
    )  # fmt: skip
    peak_current_a: Number | None = measure(
        "Peak", "A", (0.2, 6000), default=None,
        explain="What the whole pack may give for some seconds.",
    )  # fmt: skip
    cut_off_cell_v: Number | None = measure(
        "Cut-off per cell", "V", (0.7, 4), default=None, most=2000,
        explain="Volts of a cell under load at which controller or protection lets go.",
    )  # fmt: skip
    max_c: Number | None = measure(
        "Hottest pack", "C", (40, 90), default=None, least=0, most=200,
        explain="What the maker allows.",
    )  # fmt: skip
    length_mm: Number | None = measure(
        "Length", "mm", (5, 2000), default=None, explain="Of the pack.",
    )  # fmt: skip
    width_mm: Number | None = measure(
        "Width", "mm", (5, 2000), default=None, explain="Of the pack.",
    )  # fmt: skip
    height_mm: Number | None = measure(
        "Height", "mm", (2, 2000), default=None, explain="Of the pack.",
    )  # fmt: skip
    mass_kg: Number | None = measure(
        "Pack mass", "kg", (0.005, 2000), default=None, explain="Whole, with its case.",
    )  # fmt: skip
    price: Number | None = measure(
        "Pack price", "", (1, 100000), default=None, zero=True, explain="For the whole pack.",
    )  # fmt: skip


class Moments(Model):
    """The moments at which the drive is looked at, where the usual ones don't fit."""

    launch_to_kmh: Number | None = measure(
        "Launch to", "km/h", (1, 200), default=None, explain="From standstill to this speed.",
    )  # fmt: skip
    climb_grade_pct: Number | None = measure(
        "Climb", "%", (0, 50), default=None, least=-100, most=300,
        explain="The hill that matters: metres up for a hundred metres along.",
    )  # fmt: skip
    climb_speed_kmh: Number | None = measure(
        "Climb at", "km/h", (1, 200), default=None,
        explain="Left out, the hill is climbed at full throttle.",
    )  # fmt: skip
    climb_length_m: Number | None = measure(
        "Hill is long", "m", (5, 20000), default=None, explain="From bottom to top.",
    )  # fmt: skip
    cruise_kmh: Number | None = measure(
        "Cruise at", "km/h", (1, 200), default=None, explain="The speed of an ordinary trip.",
    )  # fmt: skip


class Provenance(Model):
    """How a value is known."""

    origin: Literal["measured", "data_sheet", "estimated", "default"] = choice(
        "Origin", "How the value is known."
    )
    tolerance_pct: Number | None = measure(
        "May be off by", "%", (0.1, 100), default=None, zero=True, most=1000,
        explain="Either way, four times in five.",
    )  # fmt: skip
    note: str | None = words("Note", "Where it came from.", default=None, longest=500)


class Build(Model):
    """One vehicle with its whole drive."""

    format: Literal["young-torrent.build/1"] = choice("Format", "Version of this format.")
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1)] = words(
        "Name", "What you call it."
    )
    conditions: Conditions = Field(default_factory=Conditions)
    vehicle: Vehicle
    wheel: Wheel
    gearing: list[Stage] = Field(max_length=MOST_STAGES)
    motor: PermanentMagnetMotor
    controller: Controller
    battery: Battery
    moments: Moments = Field(default_factory=Moments)
    provenance: dict[str, Provenance] = Field(default_factory=dict, max_length=200)

    @model_validator(mode="after")
    def _provenance_names_values(self) -> "Build":
        from powertrain.documents.paths import known_path

        for path in self.provenance:
            if not known_path(self, path):
                raise PydanticCustomError(
                    "provenance", "names {path}, which this document does not have", {"path": path}
                )
        return self
