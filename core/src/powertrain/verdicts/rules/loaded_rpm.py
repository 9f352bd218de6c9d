"""Rpm under load against the motor's limit, and what happens when the load goes."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, greatest
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    Verdict,
    exceeds,
    lasting,
    nowhere,
    severity_of,
)

RUNS_LOOSE = 1.6
"""From this ratio of free to loaded rpm on a motor is said to run away when it loses its load."""


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the loaded rpm, and name a motor that races when belt, chain or grip lets go."""
    limit, series = case.build.motor.max_rpm, case.build.battery.series
    loaded = {m.id: float(m.state.motor_rpm) for m in (case.moments.launch, *lasting(case))}
    worst = max(loaded, key=loaded.__getitem__)
    if limit is not None:
        severity = severity_of(loaded[worst], limit)
        cells = int(series * limit / loaded[worst]) if severity == "stop" else series
        yield Verdict(
            id="loaded_rpm",
            part="motor",
            title=f"Loaded, it turns {loaded[worst]:,.0f} rpm of {limit:,.0f} allowed",
            severity=severity,
            value=loaded[worst],
            limit=limit,
            unit="rpm",
            moment=worst,
            why="The fastest that it turns while it pushes.",
            fix=Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
            if severity == "stop" and cells >= 1
            else None,
        )
    free, most = float(case.moments.wheels_up.state.motor_rpm), max(loaded["top_speed"], 1.0)
    races = case.drive.motor.races_unloaded and limit is not None and free > limit
    if races or free > RUNS_LOOSE * most:
        yield Verdict(
            id="runs_loose",
            part="motor",
            title=f"Without its load it races to {free:,.0f} rpm, {free / most:.1f} times as fast",
            severity="watch",
            value=free / most,
            limit=RUNS_LOOSE,
            unit="",
            moment="wheels_up",
            why="A lost chain, a wheel in the air or a lifted belt lets it run away and burst"
            + ("" if limit is None else f" (its limit is {limit:,.0f} rpm)")
            + ": never run it free at full volts, couple it firmly, and cut the throttle when the "
            "load goes.",
            fix=None,
        )


def load(many: Many) -> Array:
    """Return its loaded rpm over the highest it may turn; nought where that is not known."""
    limit = many.build.motor.max_rpm
    rpms = [moment.state.motor_rpm for moment in (many.moments.launch, *lasting(many))]
    return greatest(*rpms) / (np.inf if limit is None else limit)


def stops(many: Many) -> Mask:
    """Return where it turns faster than it may while it pushes."""
    if many.build.motor.max_rpm is None:
        return nowhere(many)
    rpms = [moment.state.motor_rpm for moment in (many.moments.launch, *lasting(many))]
    most = greatest(*rpms)
    return nowhere(many) | exceeds(most, many.build.motor.max_rpm)
