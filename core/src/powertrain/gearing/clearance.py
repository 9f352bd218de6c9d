"""Whether a toothed wheel on the axle clears the ground."""

from powertrain.documents.vehicle import ToothedStage
from powertrain.gearing.chain import pulley_pitch_diameter_mm, sprocket_outside_diameter_mm

MOST_OF_WHEEL = 0.94
"""Outside of a toothed wheel on the axle over the wheel's own: what is left for chain and stones;
common practice, no source."""


def outside_mm(stage: ToothedStage, teeth: int) -> float | None:
    """Return the outside diameter of a wheel of a stage, None where pitch or module is not known.

    A spur gear stands a module out over its pitch circle on either side (ISO 53).
    """
    if stage.kind == "spur":
        return None if stage.module_mm is None else stage.module_mm * (teeth + 2)
    if stage.pitch_mm is None:
        return None
    if stage.kind == "belt":
        return pulley_pitch_diameter_mm(stage.pitch_mm, teeth)
    # A sprocket of so few teeth has no outside worth the name.
    return sprocket_outside_diameter_mm(stage.pitch_mm, max(teeth, 3))


def on_axle_mm(stage: ToothedStage) -> float:
    """Return the outside of the driven wheel, nought where it is not known."""
    return outside_mm(stage, stage.driven_teeth) or 0.0


def most_on_axle_mm(rolling_circumference_mm: float) -> float:
    """Return the largest outside that clears the ground on an axle with such wheels."""
    return MOST_OF_WHEEL * rolling_circumference_mm / 3.141592653589793
