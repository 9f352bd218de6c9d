"""Whether a toothed wheel on the axle clears the ground."""

import numpy as np

from powertrain.arrays import Array
from powertrain.transmission.chain import pulley_pitch_diameter_mm, sprocket_outside_diameter_mm
from powertrain.transmission.stage import StageData

MOST_OF_WHEEL = 0.94
"""Outside of a toothed wheel on the axle over the wheel's own: what is left for chain and stones;
common practice, no source."""


def on_axle_mm(stage: StageData) -> Array:
    """Return the outside diameter of the driven wheel, nought where pitch or module is not known.

    A spur gear stands a module out over its pitch circle on either side (ISO 53).
    """
    teeth = stage.driven_teeth
    if stage.kind == "spur":
        wide = stage.module_mm * (teeth + 2)
    elif stage.kind == "belt":
        wide = pulley_pitch_diameter_mm(stage.pitch_mm, teeth)
    else:
        # A sprocket of so few teeth has no outside worth the name.
        wide = sprocket_outside_diameter_mm(stage.pitch_mm, np.maximum(teeth, 3))
    return np.nan_to_num(wide, nan=0.0)


def most_on_axle_mm(rolling_circumference_mm: Array) -> Array:
    """Return the largest outside that clears the ground on an axle with such wheels."""
    return MOST_OF_WHEEL * rolling_circumference_mm / np.pi
