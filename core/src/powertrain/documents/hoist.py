"""A hoist as a document says it: a drum that winds up a load."""

from typing import ClassVar, Literal

from powertrain.documents.fields import Number, Whole, choice, measure
from powertrain.documents.model import Model


class Hoist(Model):
    """What has to be lifted, held and let down."""

    on_wheels: ClassVar[bool] = False

    kind: Literal["hoist"] = choice("Kind", "A load on a rope that a drum winds up.")
    mass_kg: Number = measure(
        "Load",
        "kg",
        (0.05, 5000),
        explain="All that hangs on the rope at its heaviest, hook and pulley block with it.",
    )
    drum_radius_m: Number = measure(
        "Drum radius",
        "m",
        (0.003, 0.5),
        explain="From the drum's middle to the middle of the rope; with the rope in layers, that "
        "of the outermost.",
    )
    falls: Whole = measure(
        "Parts of rope",
        "",
        (1, 8),
        default=1,
        least=1,
        most=100,
        explain="Ropes that carry the load between the pulley blocks: with two the drum pulls half "
        "and winds twice as much.",
    )
    rated_speed_kmh: Number | None = measure(
        "Made for",
        "km/h",
        (0.1, 20),
        default=None,
        explain="The speed of the load that rope, hook and brake were made for.",
    )
    throttle_signal: Literal["analogue", "pulse", "serial"] | None = choice(
        "Lever gives",
        "What the lever or receiver sends: a voltage, a servo pulse, or messages.",
        default=None,
    )
