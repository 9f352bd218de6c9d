"""One controller output for each motor."""

from collections.abc import Iterator

from powertrain.verdicts.verdict import Case, Verdict


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the outputs where they are stated."""
    outputs, count = case.build.controller.outputs, case.build.motor.count
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
