"""How long a step of a ride is: of one that somebody waits for, and of its draws."""

import numpy as np

from powertrain.documents.run import Run
from powertrain.units import mps_from_kmh

STEP_S = 0.1

AIR_STEPS, LONGEST_AIR_STEP_S, USUAL_AIR_STEP_S = 200, 5.0, 0.25
"""Steps of a craft's ride on a way, how long one is at the most, and of what ends by itself. A
step of propellers takes a hundred times as long as one of wheels; over 4 km even steps of 5 s are
off by a thousandth in time and energy, against steps of half a second."""

DRAW_STEPS, DRAW_STEP_S, AIR_DRAW_STEPS = 200, 0.5, 100
"""Steps that a draw takes at the least, and how long they are at the most; steps of a craft's."""


def step_of(run: Run) -> float:
    """Return the step of a ride that somebody waits for: a tenth of a second, of craft longer."""
    course = run.ride.course
    if run.build.propeller is None:
        return STEP_S
    if course.kind != "route":
        return USUAL_AIR_STEP_S
    lasts_s = course.points[-1].distance_m / mps_from_kmh(course.ride_kmh)
    return float(np.clip(lasts_s / AIR_STEPS, STEP_S, LONGEST_AIR_STEP_S))


def draw_step_of(run: Run, lasts_s: float) -> float:
    """Return the step of a draw of a ride that lasts so long."""
    if run.build.propeller is not None:
        return min(lasts_s / AIR_DRAW_STEPS, LONGEST_AIR_STEP_S)
    return min(lasts_s / DRAW_STEPS, DRAW_STEP_S)
