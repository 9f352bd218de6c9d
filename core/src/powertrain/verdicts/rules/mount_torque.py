"""What the motor's mount holds, and how far the propeller's torque rolls the craft.

What the air gives a propeller in torque, the mount gives back: Q = P/(2 pi n), the greatest while
it stands. A wing that is let go of then has only its ailerons against it.
"""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.operating.in_air import in_air
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the torque of all propellers, standing, as if all turned the same way."""
    air = in_air(batch.drive)
    if air is None:
        return
    torque, braced = _torque_nm(batch), air.load.craft.braced_nm
    yield Judgement("mount_torque", torque, np.asarray(braced), grades(watch=torque > braced))


def _torque_nm(batch: Batch) -> Array:
    state = batch.moments.launch.state
    return np.asarray(state.output_w / np.maximum(state.output_rad_s, 1e-9))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what each mount holds, and what the torque does to the craft."""
    air = in_air(context.drive)
    assert air is not None
    count = float(air.load.count)
    state = context.moments.launch.state
    thrust = float(air.load.thrust_n(state.output_rad_s, scalar(0.0)))
    each = "Each mount" if count > 1 else "The mount"
    twist = float(found.value) / count
    title = f"{each} holds {thrust / count:.3g} N of thrust and {twist:.2g} N.m of twist"
    why = "Screws and washers, not glue: a blade that strikes asks for many times that."
    if found.word == "watch":
        why = (
            "More than holds it level as it leaves: it rolls against the way the propeller turns. "
            "Open the throttle slowly, or turn less pitch and diameter faster; two propellers "
            "that turn opposite ways cancel it. " + why
        )
    return verdict(found, "motor", title, why, unit="N.m", moment="launch")


RULE = Rule(judge, say)
