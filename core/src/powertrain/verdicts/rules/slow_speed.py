"""How finely the slow end can be steered."""

import math
from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.units import kmh_from_mps, rpm_from_rad_s
from powertrain.verdicts.verdict import Case, Fix, Severity, Verdict

FORWARD = 0.5
"""Half of the throttle's steps go forward."""

SLOW = 0.2
"""Part of the trigger at which the slow end is steered."""

COARSE_KMH = 0.3
"""A step larger than this is felt as a jerk by a slow vehicle; common practice, no source."""

SMOOTH_KV = {3: 2100.0, 5: 3000.0}
"""Brushed motors above these KV, by slots, do not crawl smoothly; common practice, no source."""


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the first throttle steps, and a brushed motor's KV by its slots."""
    steps = case.build.controller.throttle_steps
    if steps is not None:
        yield _steps(case, steps)
    motor = case.build.motor
    # What a volt more gives, so that the brushes' own volts drop out.
    slow, fast = (case.drive.motor.speed_at_voltage_rad_s(scalar(0.0), scalar(v)) for v in (9, 10))
    # A motor whose speed has no bound at ten volts has none at nine.
    kv = float(rpm_from_rad_s(fast - slow)) if math.isfinite(fast) else math.inf
    limit = SMOOTH_KV.get(motor.slots or 0)
    if motor.commutation == "brushed" and limit is not None and math.isfinite(kv):
        yield Verdict(
            id="crawling_kv",
            part="motor",
            title=f"{kv:.0f} KV with {motor.slots} slots; crawling is smooth to about {limit:g}",
            severity="watch" if kv > limit else "ok",
            value=kv,
            limit=limit,
            unit="rpm/V",
            moment=None,
            why="Fewer slots and more KV make it cog at walking pace; it matters to crawlers only.",
            fix=None,
        )


def _steps(case: Case, steps: int) -> Verdict:
    half_pct = case.build.controller.half_throttle_pct or 50.0
    # The slope at a fifth of the trigger of a curve u = x^p through the stated half.
    power = math.log(half_pct / 100) / math.log(0.5)
    slope = power * SLOW ** (power - 1)
    free_kmh = float(kmh_from_mps(case.moments.wheels_up.state.speed_mps))
    step_kmh = slope * free_kmh / (steps * FORWARD)
    severity: Severity = "watch" if step_kmh > COARSE_KMH else "ok"
    return Verdict(
        id="throttle_steps",
        part="controller",
        title=f"At the slow end a throttle step is {step_kmh:.2g} km/h",
        severity=severity,
        value=step_kmh,
        limit=COARSE_KMH,
        unit="km/h",
        moment=None,
        why=f"{steps:g} steps, half of them forward, over {free_kmh:.0f} km/h free. A curve in the "
        "controller makes the first steps finer; one in the transmitter only spreads them out.",
        fix=Fix(say="Set half trigger to 20 %", change={"controller.half_throttle_pct": 20.0})
        if severity == "watch" and half_pct > 20
        else None,
    )
