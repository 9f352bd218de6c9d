"""The build document, open format ``young-torrent.build/1``: one vehicle with its whole drive.

This is the only definition. The API embeds these models, the database keeps documents that
they accept, and the types of the screens are generated from them. Units stand in the names.
"""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.battery import Battery
from powertrain.documents.conversion import Auxiliary, Coupling, Prices
from powertrain.documents.electrics import Controller, Wiring
from powertrain.documents.fields import Number, choice, measure, words
from powertrain.documents.model import Model
from powertrain.documents.motors import MotorDocument
from powertrain.documents.propeller import Propeller
from powertrain.documents.vehicle import Conditions, Stage, Wheel
from powertrain.documents.vehicles import VehicleDocument
from powertrain.errors import NO_WHEELS, Refusal

FORMAT = "young-torrent.build/1"

MOST_STAGES = 12
"""No drive has a dozen reductions in series; more is a mistake, and is refused."""


MOST_AUXILIARIES = 20


def at_place(where: str, what: str) -> PydanticCustomError:
    """Return an error that names a place of the document by itself."""
    return PydanticCustomError("at_place", "{where} {what}", {"where": where, "what": what})


class Moments(Model):
    """The moments at which the drive is looked at, where the usual ones don't fit."""

    launch_to_kmh: Number | None = measure(
        "Launch to",
        "km/h",
        (0.2, 200),
        default=None,
        explain="From standstill to this speed.",
    )
    climb_grade_pct: Number | None = measure(
        "Climb",
        "%",
        (0, 50),
        default=None,
        least=-100,
        most=300,
        explain="The hill that matters: metres up for a hundred metres along.",
    )
    climb_speed_kmh: Number | None = measure(
        "Climb at",
        "km/h",
        (1, 200),
        default=None,
        explain="Left out, the hill is climbed at full throttle.",
    )
    climb_length_m: Number | None = measure(
        "Hill is long",
        "m",
        (5, 20000),
        default=None,
        explain="From bottom to top.",
    )
    climb_angle_deg: Number | None = measure(
        "Climb at an angle of",
        "deg",
        (2, 45),
        default=None,
        least=-60,
        most=60,
        explain="Of an aircraft: how steep it is to climb at full throttle.",
    )
    climb_ms: Number | None = measure(
        "Rate of climb",
        "m/s up",
        (0.5, 20),
        default=None,
        explain="Of an aircraft: height won each second, at the speed that is best for it.",
    )
    cruise_kmh: Number | None = measure(
        "Cruise at",
        "km/h",
        (0.2, 200),
        default=None,
        explain="The speed of an ordinary trip; of a hoist that of letting down.",
    )
    range_from_pct: Number | None = measure(
        "Range from",
        "%",
        (50, 100),
        default=None,
        least=1,
        most=100,
        explain="State of charge at which a trip begins; 100 if left out.",
    )
    range_to_pct: Number | None = measure(
        "Range down to",
        "%",
        (5, 50),
        default=None,
        least=0,
        most=99,
        explain="State of charge kept in reserve; 10 if left out.",
    )


HILL = ("climb_grade_pct", "climb_speed_kmh", "climb_length_m")
CLIMB = ("climb_angle_deg", "climb_ms")
PUSHED = ("aircraft", "hull")


def _check_asked(moments: Moments, keys: tuple[str, ...], fits: bool, what: str) -> None:
    known = [key for key in keys if getattr(moments, key) is not None]
    if known and not fits:
        raise at_place(f"moments.{known[0]}", what)


class Provenance(Model):
    """How a value is known."""

    origin: Literal["measured", "data_sheet", "estimated", "default", "fitted"] = choice(
        "Origin", "How the value is known."
    )
    tolerance_pct: Number | None = measure(
        "May be off by",
        "%",
        (0.1, 100),
        default=None,
        zero=True,
        most=1000,
        explain="Either way, four times in five; of an efficiency the loss is off by it.",
    )
    note: str | None = words("Note", "Where it came from.", default=None, longest=500)


class Build(Model):
    """One vehicle with its whole drive."""

    format: Literal["young-torrent.build/1"] = choice("Format", "Version of this format.")
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1)] = words(
        "Name", "What you call it."
    )
    conditions: Conditions = Field(default_factory=Conditions)
    vehicle: VehicleDocument
    wheel: Wheel | None = Field(default=None, title="Driven wheel")
    propeller: Propeller | None = Field(default=None, title="Propeller")
    gearing: list[Stage] = Field(max_length=MOST_STAGES)
    motor: MotorDocument
    controller: Controller
    battery: Battery
    wiring: Wiring = Field(default_factory=Wiring)
    moments: Moments = Field(default_factory=Moments)
    coupling: Coupling | None = Field(default=None, title="Motor to gearbox")
    auxiliaries: list[Auxiliary] | None = Field(
        default=None, max_length=MOST_AUXILIARIES, title="What runs along"
    )
    prices: Prices | None = Field(default=None, title="Beside motor, controller and pack")
    provenance: dict[str, Provenance] = Field(default_factory=dict, max_length=200)

    @property
    def driven_wheel(self) -> Wheel:
        """The wheel of a vehicle that rolls.

        Raises
        ------
        Refusal
            Where what is moved has none.
        """
        if self.wheel is None:
            raise Refusal("vehicle.kind", NO_WHEELS)
        return self.wheel

    def without_propeller(self) -> "Build":
        """Return itself, where no propeller pushes it.

        Raises
        ------
        Refusal
            Where one does.
        """
        if self.propeller is not None:
            raise Refusal("vehicle.kind", NO_WHEELS)
        return self

    @model_validator(mode="after")
    def _wheel_of_what_rolls(self) -> "Build":
        rolls, pushed = self.vehicle.on_wheels, self.propeller is not None
        if rolls and self.wheel is None and not pushed:
            raise at_place("wheel", "is missing; add it")
        if not rolls and self.wheel is not None:
            raise at_place("wheel", "is of a vehicle on wheels; take it out")
        if pushed and self.wheel is not None:
            raise at_place("wheel", "is driven by nothing where a propeller pushes; take it out")
        if self.vehicle.kind in PUSHED and not pushed:
            raise at_place("propeller", "is missing; add it")
        if self.vehicle.kind == "hoist" and pushed:
            raise at_place("propeller", "is of a craft, and this lifts a load; take it out")
        _check_asked(self.moments, HILL, rolls, "is of a vehicle on wheels; take it out")
        flies = self.vehicle.kind == "aircraft"
        _check_asked(self.moments, CLIMB, flies, "is of an aircraft; take it out")
        return self

    @model_validator(mode="after")
    def _provenance_names_values(self) -> "Build":
        from powertrain.documents.paths import known_path

        for path in self.provenance:
            if not known_path(self, path):
                raise PydanticCustomError(
                    "provenance", "names {path}, which this document does not have", {"path": path}
                )
        return self
