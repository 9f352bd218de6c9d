"""Mechanical, boost and turbo timing together."""

from collections.abc import Iterator

from powertrain.arrays import floats
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    Verdict,
    exceeds,
    nowhere,
    severity_of,
)

UNGEARED = True
"""Gearing makes no difference to it."""


MOST_DEG = 60.0
"""Near this total motors and controllers are destroyed; common practice, no source."""


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
    total = sum(stated.values())
    severity = severity_of(total, MOST_DEG)
    largest = max(stated, key=stated.__getitem__)
    less = max(stated[largest] - (total - 0.75 * MOST_DEG), 0.0)
    yield Verdict(
        id="timing_sum",
        part="motor",
        title=f"Timing adds up to {total:g} degrees, {MOST_DEG:g} destroys",
        severity=severity,
        value=total,
        limit=MOST_DEG,
        unit="deg",
        moment=None,
        why="Mechanical, boost and turbo advance add. Advance works like extra KV: pay for it with "
        "a shorter gear.",
        fix=Fix(say=f"Set the largest of them to {less:g} degrees", change={largest: less})
        if severity == "stop"
        else None,
    )


def stops(many: Many) -> Mask:
    """Return where the sum is above what destroys."""
    motor, controller = many.build.motor, many.build.controller
    parts = (motor.timing_deg, controller.timing_deg, controller.boost_timing_deg,
             controller.turbo_timing_deg)  # fmt: skip
    total = floats(sum(part for part in parts if part is not None))
    return nowhere(many) | exceeds(total, MOST_DEG)
