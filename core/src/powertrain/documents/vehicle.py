"""The vehicle, its air, its wheel and the stages that drive it, as a document says them."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field, field_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.conversion import Replaces
from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.model import Model


class Conditions(Model):
    """The air the vehicle moves through."""

    air_density_kg_m3: Number = measure(
        "Air density",
        "kg/m3",
        (0.4, 2.0),
        default=1.225,
        zero=True,
        explain="1.225 at sea level and 15 C; about a tenth less for each kilometre up.",
    )
    altitude_m: Number | None = measure(
        "Height above the sea",
        "m",
        (-400, 5000),
        default=None,
        least=-500,
        most=10900,
        explain="With the air's temperature it sets the density, where that is not stated.",
    )
    ambient_c: Number = measure(
        "Air temperature",
        "C",
        (-30, 50),
        default=20.0,
        least=-90,
        most=90,
        explain="The air around motor, controller and pack.",
    )
    headwind_mps: Number = measure(
        "Headwind",
        "m/s",
        (-20, 20),
        default=0.0,
        least=-100,
        most=100,
        explain="Wind against the direction of travel; a tailwind is negative.",
    )
    parts_c: Number | None = measure(
        "Parts begin at",
        "C",
        (-30, 90),
        default=None,
        least=-90,
        most=400,
        explain="Temperature of motor, controller and pack now; left out, that of the air.",
    )


class Traction(Model):
    """Where the weight stands, for grip and for lifting the front."""

    friction: Number | None = measure(
        "Grip",
        "",
        (0.1, 1.5),
        default=None,
        most=5,
        least=0.001,
        explain="Friction of tyre on ground: 0.8 dry tarmac, 0.4 wet grass.",
    )
    driven_share: Number | None = measure(
        "Weight on the driven axle",
        "",
        (0.2, 1.0),
        default=None,
        least=0.001,
        most=1,
        explain="Part of the weight that the driven wheels carry at rest; 1 if all are driven. "
        "Left out, it follows from the balance, or all are driven.",
    )
    driven_axle: Literal["rear", "front"] = choice(
        "Driven axle", "Pushing forward loads the rear and unloads the front.", default="rear"
    )
    wheelbase_m: Number | None = measure(
        "Wheelbase",
        "m",
        (0.05, 4),
        default=None,
        explain="Distance between the axles.",
    )
    centre_height_m: Number | None = measure(
        "Height of the centre of mass",
        "m",
        (0.01, 2),
        default=None,
        zero=True,
        explain="How high the balance point of vehicle and load stands.",
    )
    centre_to_driven_axle_m: Number | None = measure(
        "Centre of mass to driven axle",
        "m",
        (0.01, 3),
        default=None,
        zero=True,
        explain="Level distance from the balance point to the driven axle.",
    )


class Vehicle(Model):
    """What has to be moved."""

    on_wheels: ClassVar[bool] = True

    kind: Literal["ground"] = choice("Kind", "A vehicle on wheels.")
    mass_kg: Number = measure(
        "Rolling mass",
        "kg",
        (0.2, 20000),
        explain="Everything that moves: vehicle, rider, load and drive. Weigh it loaded.",
    )
    rolling_resistance: Number = measure(
        "Rolling resistance",
        "",
        (0.0015, 0.3),
        zero=True,
        most=10,
        explain="Drag of the tyres per weight: 0.005 good tyres on tarmac, 0.02 gravel, 0.1 mud.",
    )
    drag_area_m2: Number = measure(
        "Drag area",
        "m2",
        (0.002, 20),
        zero=True,
        explain="Frontal area times drag coefficient: 0.6 an upright rider, 0.05 a small model.",
    )
    rotating_mass_factor: Number = measure(
        "Rotating mass factor",
        "",
        (1.0, 1.5),
        default=1.0,
        least=0.1,
        most=100,
        explain="How much heavier the vehicle feels when it speeds up, because its wheels turn.",
    )
    rated_speed_kmh: Number | None = measure(
        "Made for",
        "km/h",
        (2, 200),
        default=None,
        explain="The speed that frame and brakes were made for.",
    )
    throttle_signal: Literal["analogue", "pulse", "serial"] | None = choice(
        "Throttle gives",
        "What throttle or receiver sends: a voltage, a servo pulse, or messages.",
        default=None,
    )
    traction: Traction | None = Field(default=None, title="Grip and balance")
    replaces: Replaces | None = Field(default=None, title="The engine that comes out")


class Wheel(Model):
    """The driven wheel."""

    name: str | None = words("Wheel", "Tyre and size, as marked.", default=None)
    rolling_circumference_mm: Number = measure(
        "Rolls",
        "mm",
        (20, 8000),
        explain="Distance of one turn under load: mark the tyre, roll one turn, measure.",
    )
    inertia_kg_m2: Number | None = measure(
        "Inertia of the wheels",
        "kg.m2",
        (1e-6, 10),
        default=None,
        zero=True,
        explain="Of all wheels together; leave it out if the rotating mass factor covers it.",
    )


class ToothStrength(Model):
    """What a stage's teeth or links are, for what they may pull."""

    pitch_mm: Number | None = measure(
        "Pitch",
        "mm",
        (1, 32),
        default=None,
        explain="From roller to roller, or tooth to tooth: 12.7 for a bicycle chain.",
    )
    allowed_pull_n: Number | None = measure(
        "May pull",
        "N",
        (20, 50000),
        default=None,
        explain="Working load of chain or belt; about an eighth of the load that breaks it.",
    )
    module_mm: Number | None = measure(
        "Module",
        "mm",
        (0.2, 8),
        default=None,
        explain="Of spur gears: pitch diameter over teeth; 25.4 over the diametral pitch.",
    )
    face_mm: Number | None = measure(
        "Face width",
        "mm",
        (1, 100),
        default=None,
        explain="Width on which the teeth bear.",
    )
    allowed_stress_mpa: Number | None = measure(
        "Teeth stand",
        "MPa",
        (5, 600),
        default=None,
        explain="Bending stress: about 20 plastic, 60 brass, 150 mild and 300 hard steel.",
    )


class ToothedStage(ToothStrength):
    """One reduction with teeth that can be counted."""

    kind: Literal["chain", "belt", "spur"] = choice("Kind", "What passes the power on.")
    driver_teeth: Whole = measure(
        "Driver",
        "teeth",
        (6, 200),
        least=1,
        most=10000,
        explain="Teeth on the side of the motor.",
    )
    driven_teeth: Whole = measure(
        "Driven",
        "teeth",
        (6, 400),
        least=1,
        most=10000,
        explain="Teeth on the side of the wheel.",
    )
    efficiency: Number = measure(
        "Efficiency",
        "",
        (0.6, 1.0),
        least=0.01,
        most=1,
        explain="Part of the power that comes out: chain .95-.98, toothed belt .96-.98, "
        "spur .97-.99 when straight, clean and oiled.",
    )

    centre_mm: Number | None = measure(
        "Centre distance",
        "mm",
        (5, 2000),
        default=None,
        explain="From shaft to shaft as it is mounted now; tells chain or belt length and wrap.",
    )
    slot_mm: Number | None = measure(
        "Mount can move by",
        "mm",
        (0.5, 200),
        default=None,
        zero=True,
        explain="How far the mount's slot lets the shafts move apart from there.",
    )
    links: Whole | None = measure(
        "Links",
        "",
        (20, 400),
        default=None,
        least=3,
        most=100000,
        explain="Links of the chain or teeth of the belt that is on it.",
    )


class GearboxStage(Model):
    """A gearbox with speeds that are changed while riding; the best gear is taken at each speed."""

    kind: Literal["gearbox"] = choice("Kind", "What passes the power on.")
    ratios: list[Number] = Field(
        min_length=1,
        max_length=12,
        title="Ratios",
        description="Turns in for one turn out, a number for each gear.",
    )
    efficiency: Number = measure(
        "Efficiency",
        "",
        (0.5, 1.0),
        least=0.01,
        most=1,
        explain="Part of the power that comes out.",
    )

    @field_validator("ratios")
    @classmethod
    def _possible(cls, ratios: list[float]) -> list[float]:
        if not all(1e-3 <= ratio <= 1e4 for ratio in ratios):
            raise PydanticCustomError("ratios", "must hold ratios between 0.001 and 10000")
        return ratios


class FixedStage(Model):
    """One reduction known only by its ratio: a gearbox, a planetary, a differential."""

    kind: Literal["planetary", "fixed"] = choice("Kind", "What passes the power on.")
    ratio: Number = measure(
        "Ratio",
        "",
        (0.2, 200),
        explain="Turns in for one turn out.",
    )
    efficiency: Number = measure(
        "Efficiency",
        "",
        (0.5, 1.0),
        least=0.01,
        most=1,
        explain="Part of the power that comes out: .95-.97 for each planetary step.",
    )


Stage = Annotated[ToothedStage | FixedStage | GearboxStage, Field(discriminator="kind")]

STAGE_DOCUMENTS: tuple[type[Model], ...] = (ToothedStage, FixedStage, GearboxStage)
