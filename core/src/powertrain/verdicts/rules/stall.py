"""How long it may be held stalled at full throttle."""

from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.controller.chopper import dc_for
from powertrain.heat.limits import NODES
from powertrain.heat.temperatures import after, stalled
from powertrain.verdicts.rules.temperatures import spoken
from powertrain.verdicts.verdict import (
    Case,
    Fix,
    Many,
    Mask,
    PartId,
    Severity,
    Verdict,
    may_limit,
    nowhere,
)

SHORT_S, LONG_S = 3.0, 20.0
"""A stall shorter than anybody's reaction; one that is noticed and ended. Both are to be watched:
wheels that are held for long are nobody's plan."""

PART: dict[str, PartId] = {
    "winding": "motor",
    "case": "motor",
    "controller": "controller",
    "pack": "pack",
}


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the time until the first part passes its limit, the wheels held and nothing blowing."""
    stall = case.stall
    amps = float(stall.state.motor_current_a)
    severity: Severity = "watch" if stall.seconds < LONG_S else "ok"
    lasts = spoken(stall.seconds) if stall.seconds < 1e5 else "as long as you like"
    fix = None
    if stall.seconds < SHORT_S:
        fix = _lower(case)
    yield Verdict(
        id="stall",
        part=PART[stall.node],
        title=f"Held stalled at full throttle, it lasts {lasts}",
        severity=severity,
        value=min(stall.seconds, 1e6),
        limit=SHORT_S,
        unit="s",
        moment=None,
        why=f"{amps:.0f} A turn into heat alone; the {stall.node} passes its limit first. Let go "
        "of the throttle when the wheels are stuck.",
        fix=fix,
    )


def _lower(case: Case) -> Fix | None:
    """Return the motor amps at which the stall lasts long enough to be noticed."""
    # Heat goes with the square of the amps, and a short stall stores all of it.
    seconds, amps = case.stall.seconds, float(case.stall.state.motor_current_a)
    if case.stall.node not in ("winding", "controller") or seconds <= 0:
        return None
    lasts_a = 0.95 * amps * (seconds / SHORT_S) ** 0.5 / dc_for(case.build.controller)
    limit_a = float(f"{lasts_a:.2g}")
    path = "controller.motor_current_limit_a"
    if not may_limit(case, path, limit_a):
        return None
    return Fix(say=f"Set the motor amps limit to {limit_a:g} A", change={path: limit_a})


def stands(many: Many, seconds: float) -> Mask:
    """Return where no part passes its limit within `seconds` of a stall."""
    _, local, flows = stalled(many.drive, many.store)
    reached = after(local, flows, scalar(seconds))
    cool = ~nowhere(many)
    for node in NODES:
        cool = cool & (reached[node] < getattr(many.limits, node).value_c)
    return cool
