"""Mechanical, controller, boost and turbo timing together, and what pays for it."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import floats
from powertrain.documents.vehicle import ToothedStage
from powertrain.motor.timing import KV_PER_DEGREE, acting_deg
from powertrain.verdicts.verdict import (
    NEAR,
    Case,
    Fix,
    Many,
    Mask,
    Severity,
    Verdict,
    nowhere,
)

UNGEARED = True
"""Gearing makes no difference to it."""

MOST_DEG = 60.0
"""Near this total motors and controllers are destroyed; common practice, no source."""

FEW_POLES_DEG = {2: 80.0, 4: 70.0}
"""Two-pole motors take far more than those of many poles; common practice, no source."""

FEWEST_TEETH = 11


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the sum where any timing is stated."""
    motor, controller = case.build.motor, case.build.controller
    parts = {
        "motor.timing_deg": motor.timing_deg,
        "controller.timing_deg": controller.timing_deg,
        "controller.boost_timing_deg": controller.boost_timing_deg,
        "controller.turbo_timing_deg": controller.turbo_timing_deg,
    }
    stated = {path: degrees for path, degrees in parts.items() if degrees is not None}
    if not stated:
        return
    total, acting = acting_deg(motor, controller)
    limit = float(limit_deg(motor.poles))
    severity: Severity = "ok"
    if total >= limit:
        severity = "stop"
    elif total > NEAR * limit:
        severity = "watch"
    largest = max(stated, key=stated.__getitem__)
    less = max(stated[largest] - (total - 0.75 * limit), 0.0)
    fix = _pays(case, acting)
    if severity == "stop":
        fix = Fix(say=f"Set the largest of them to {less:g} degrees", change={largest: less})
    yield Verdict(
        id="timing_sum",
        part="motor",
        title=f"Timing adds up to {total:g} degrees, {limit:g} destroys",
        severity=severity,
        value=total,
        limit=limit,
        unit="deg",
        moment=None,
        why="Mechanical, boost and turbo advance add. Advance works like extra KV: pay for it with "
        "a shorter gear.",
        fix=fix,
    )
    if motor.sensor == "none" and motor.timing_deg:
        yield Verdict(
            id="timing_sensor",
            part="motor",
            title=f"{motor.timing_deg:g} degrees are set at a motor without sensors",
            severity="watch",
            value=motor.timing_deg,
            limit=0.0,
            unit="deg",
            moment=None,
            why="Turning its back plate moves sensors; without any the controller times by the "
            "back-EMF and knows nothing of it. Set the advance in the controller.",
            fix=Fix(say="Leave it out at the motor", change={"motor.timing_deg": None}),
        )


def limit_deg(poles: int | None) -> float:
    """Return the total that destroys, by the number of poles; the least where it is not known."""
    return MOST_DEG if poles is None else FEW_POLES_DEG.get(poles, MOST_DEG)


def _pays(case: Case, acting: float) -> Fix | None:
    """Return the tooth that takes back what timing adds to the amps, None where nothing does."""
    share = 1 + KV_PER_DEGREE * acting
    if share <= 1.005:
        return None
    for index, stage in enumerate(case.build.gearing):
        if isinstance(stage, ToothedStage):
            ratio = stage.driven_teeth / stage.driver_teeth
            pairs = [
                (f"gearing.{index}.driver_teeth", teeth, stage.driven_teeth / teeth, "driver")
                for teeth in range(FEWEST_TEETH, stage.driver_teeth)
            ] + [
                (f"gearing.{index}.driven_teeth", teeth, teeth / stage.driver_teeth, "driven")
                for teeth in range(stage.driven_teeth + 1, stage.driven_teeth + 40)
            ]
            if not pairs:
                return None
            wanted = ratio * share
            path, teeth, _, side = min(pairs, key=lambda pair: abs(np.log(pair[2] / wanted)))
            say = f"Take it back: stage {index + 1} {side} of {teeth} teeth"
            return Fix(say=say, change={path: teeth})
    return None


def stops(many: Many) -> Mask:
    """Return where the sum is what destroys."""
    motor, controller = many.build.motor, many.build.controller
    parts = (motor.timing_deg, controller.timing_deg, controller.boost_timing_deg,
             controller.turbo_timing_deg)  # fmt: skip
    total = floats(sum(part for part in parts if part is not None))
    if motor.poles is None:
        return nowhere(many) | (total >= MOST_DEG)
    poles = floats(motor.poles)
    limit = np.where(poles == 2, FEW_POLES_DEG[2], np.where(poles == 4, FEW_POLES_DEG[4], MOST_DEG))
    return nowhere(many) | (total >= limit)
