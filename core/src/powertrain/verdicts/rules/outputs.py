"""One controller output for each motor."""

from collections.abc import Iterator

import numpy as np

from powertrain.verdicts.verdict import Case, Many, Mask, Verdict, nowhere

UNGEARED = True
"""Gearing makes no difference to it."""


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the outputs where they are stated."""
    each, count = case.build.controller.outputs, case.build.motor.count
    outputs = None if each is None else each * case.build.controller.count
    if outputs is None:
        return
    yield Verdict(
        id="outputs",
        part="controller",
        title=f"Outputs of the controller: {outputs}, motors: {count}",
        severity="stop" if count > outputs else "ok",
        value=float(count),
        limit=float(outputs),
        unit="",
        moment=None,
        why="Brushless motors can't share an output; use one with more outputs, or one for each."
        if count > outputs
        else "Each motor has its own.",
        fix=None,
    )


def stops(many: Many) -> Mask:
    """Return where there are more motors than outputs."""
    controller = many.build.controller
    if controller.outputs is None:
        return nowhere(many)
    outputs = np.asanyarray(controller.outputs) * controller.count
    return nowhere(many) | (many.build.motor.count > outputs)
