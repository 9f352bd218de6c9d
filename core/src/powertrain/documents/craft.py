"""What a propeller pushes, as a document says it: an aircraft, or a hull in water."""

from typing import ClassVar, Literal

from pydantic import Field, model_validator

from powertrain.documents.fields import Number, choice, measure
from powertrain.documents.model import Model, within


class Craft(Model):
    """What all of them have."""

    on_wheels: ClassVar[bool] = False
    by_propeller: ClassVar[bool] = True

    rated_speed_kmh: Number | None = measure(
        "Made for", "km/h", (5, 300), default=None, explain="The speed that it was made to stand."
    )
    hub_height_mm: Number | None = measure(
        "Propeller's hub above ground",
        "mm",
        (30, 3000),
        default=None,
        explain="Or above the water, or above what is beneath the tips: a frame, a deck, a boom.",
    )
    throttle_signal: Literal["analogue", "pulse", "serial"] | None = choice(
        "Lever gives",
        "What the lever or receiver sends: a voltage, a servo pulse, or messages.",
        default=None,
    )


class Aircraft(Craft):
    """A fixed wing."""

    kind: Literal["aircraft"] = choice("Kind", "A fixed wing.")
    mass_kg: Number = measure("Mass", "kg", (0.02, 50), explain="As it flies, pack and load in it.")
    wing_area_m2: Number = measure(
        "Wing area", "m2", (0.01, 20), explain="Both halves, seen from above."
    )
    span_m: Number = measure("Span", "m", (0.2, 15), explain="From tip to tip.")
    zero_lift_drag: Number = measure(
        "Drag without lift",
        "",
        (0.015, 0.08),
        default=0.04,
        explain="C_D0 on the wing's area: 0.02 sleek, 0.04 with wires and wheels, 0.06 a box.",
    )
    oswald: Number = measure(
        "Span efficiency",
        "",
        (0.6, 0.95),
        default=0.8,
        most=1.2,
        explain="Oswald's: how near lift over the span comes to the ideal.",
    )
    lift_max: Number = measure(
        "Most lift",
        "",
        (0.8, 2.0),
        default=1.2,
        explain="C_L at which it stalls: 1.0 thin and small, 1.2 usual, 1.6 with flaps.",
    )


class DragPoint(Model):
    """What the water holds back at a speed."""

    speed_kmh: Number = measure("At", "km/h", (1, 100), zero=True, explain="Over ground.")
    force_n: Number = measure("Drag", "N", (1, 5000), zero=True, explain="By a spring scale.")


class Hull(Craft):
    """A boat pushed by air."""

    kind: Literal["hull"] = choice("Kind", "A hull in water, pushed by air.")
    mass_kg: Number = measure("Mass", "kg", (0.2, 2000), explain="Afloat, with who sits in it.")
    drag: list[DragPoint] | None = Field(
        default=None,
        min_length=1,
        max_length=200,
        title="Drag over speed",
        description="Towed with a spring scale, a pair for each speed, slowest first.",
    )
    drag_area_m2: Number | None = measure(
        "Drag area in water",
        "m2",
        (0.0001, 1),
        default=None,
        explain="C_D A of the wetted hull; left out where its drag is measured.",
    )
    air_drag_area_m2: Number = measure(
        "Drag area in air",
        "m2",
        (0.01, 3),
        default=0.0,
        zero=True,
        explain="C_D A of what stands above the water.",
    )

    @model_validator(mode="after")
    def _drags(self) -> "Hull":
        if (self.drag is None) == (self.drag_area_m2 is None):
            what = "must be said, or drag_area_m2 instead; just one of them"
            raise within("drag", what)
        before = None
        for place, point in enumerate(self.drag or []):
            if before is not None and point.speed_kmh <= before:
                raise within(f"drag.{place}.speed_kmh", "must rise from point to point")
            before = point.speed_kmh
        return self
