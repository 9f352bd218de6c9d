"""Which single change cures a verdict: candidates are solved together, the mildest is taken."""

from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.by_then import by_then
from powertrain.documents.vehicle import FixedStage, ToothedStage
from powertrain.doubt.draws import Doubt, variants
from powertrain.results import results_of
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.verdict import Fix

FEWEST_TEETH = 11
"""A driver is not made smaller than this to cure anything."""

DRIVER_STEPS, DRIVEN_STEPS = 8, 32
RATIO_STEPS = (1.1, 1.2, 1.35, 1.5, 1.75, 2.0, 2.5)
LIMIT_STEPS = (0.9, 0.8, 0.7, 0.6, 0.5, 0.4, 0.3)

NOTHING_DOUBTED = Doubt((), np.zeros((0, 0)))

Good = Callable[[Batch], Any]
"""Says of each variant of a build whether it is cured."""


def cure(context: RuleContext, good: Good) -> Fix | None:
    """Return the change after which `good` holds and which costs least top speed, if any does."""
    fixes = list(candidates(context)) if context.cures else []
    if not fixes:
        return None
    changes = [fix.change for fix in fixes]
    compiled = variants(context.build, NOTHING_DOUBTED, changes, draws=0).compiled
    compiled = by_then(context.build, compiled, context.then)
    batch = Batch(compiled, results_of(compiled, fine=False, timed=False))
    cured = np.broadcast_to(good(batch), (len(fixes) + 1,))[1:] & _keeps(context, batch, len(fixes))
    if not np.any(cured):
        return None
    speeds = np.broadcast_to(batch.moments.top_speed.state.speed_mps, (len(fixes) + 1,))[1:]
    return fixes[int(np.argmax(np.where(cured, speeds, -np.inf)))]


def _keeps(context: RuleContext, batch: Batch, count: int) -> NDArray[np.bool_]:
    """Return which variants still climb and cruise as asked, if the build does."""
    kept = np.ones(count + 1, bool)
    for now, then in (
        (context.moments.climb, batch.moments.climb),
        (context.moments.cruise, batch.moments.cruise),
    ):
        if bool(now.met):
            kept = kept & then.met
    return kept[1:]


def candidates(context: RuleContext) -> Iterator[Fix]:
    """Yield shorter gearing of every stage, and lower limits that leave the top speed its amps."""
    for index, stage in enumerate(context.build.gearing):
        if isinstance(stage, ToothedStage):
            for side, now, teeth in _shorter(stage):
                say = f"Stage {index + 1}: {side} of {teeth} teeth instead of {now}"
                yield Fix(say=say, change={f"gearing.{index}.{side}_teeth": teeth})
        elif isinstance(stage, FixedStage):
            for step in RATIO_STEPS:
                ratio = float(f"{stage.ratio * step:.3g}")
                say = f"Stage {index + 1}: {ratio:g} : 1 instead of {stage.ratio:g} : 1"
                yield Fix(say=say, change={f"gearing.{index}.ratio": ratio})
    for side, key in (("motor", "motor_current_limit_a"), ("pack", "battery_current_limit_a")):
        limit_a: Any = getattr(context.build.controller, key)
        if limit_a is not None:
            for step in LIMIT_STEPS:
                less_a = float(f"{limit_a * step:.2g}")
                if not may_limit(context, key, less_a):
                    continue
                say = f"Set the {side} amps limit to {less_a:g} A"
                yield Fix(say=say, change={f"controller.{key}": less_a})


def _shorter(stage: ToothedStage) -> Iterator[tuple[str, int, int]]:
    driver, driven = stage.driver_teeth, stage.driven_teeth
    for fewer in range(1, DRIVER_STEPS + 1):
        if driver - fewer >= FEWEST_TEETH:
            yield "driver", driver, driver - fewer
    for more in range(2, DRIVEN_STEPS + 1, 2):
        yield "driven", driven, driven + more


def may_limit(context: RuleContext, path: str, amps: float) -> bool:
    """Return whether an amps limit leaves what the vehicle needs at its own top speed."""
    top, controller = context.moments.top_speed.state, context.ratings.controller
    needed = float(top.motor_current_a) * controller.per_dc
    if path.endswith("battery_current_limit_a"):
        needed = float(top.battery_current_a / context.drive.controller.count)
    return amps >= needed * (1 - 1e-9)
