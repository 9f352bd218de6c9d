"""Grip of the driven wheels in the launch, and whether the front lifts."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import scalar
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.limits import Limit
from powertrain.verdicts.verdict import Case, Many, Mask, NotJudged, Severity, Verdict, nowhere


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge the hardest push from standstill, and the acceleration that it gives."""
    grip = case.drive.grip
    lifts = float(grip.lifting_mps2(scalar(0.0)))
    if not grip.known:
        say = "Grip of the driven wheels: it is not known."
        yield NotJudged(id="traction", part="vehicle", path="vehicle.traction.friction", say=say)
    else:
        yield _grip(case)
    if np.isfinite(lifts):
        yield _lifts(case, lifts)
    else:
        say = "Lifting of the front: height and place of the balance point are not known."
        path = "vehicle.traction.centre_height_m"
        yield NotJudged(id="front_lift", part="vehicle", path=path, say=say)


def _grip(case: Case) -> Verdict:
    drive, grip = case.drive, case.drive.grip
    level, still = scalar(0.0), scalar(0.0)
    at = full_throttle(drive, still)
    grips_n = float(grip.greatest_force_n(drive.road.weight_n, level, drive.road.rolling_n(level)))
    push_n = float(at.force_n)
    spins = int(at.limited_by) == Limit.TRACTION
    climb = case.moments.climb
    climb_spins = int(climb.state.limited_by) == Limit.TRACTION
    severity: Severity = "stop" if climb_spins and not climb.met else "watch" if spins else "ok"
    share = push_n / grips_n if grips_n > 0 else np.inf
    return Verdict(
        id="traction",
        part="vehicle",
        title="The driven wheels spin at full throttle from standstill"
        if spins
        else f"A hard start uses {100 * share:.0f} % of the grip",
        severity=severity,
        value=push_n,
        limit=grips_n,
        unit="N",
        moment="launch",
        why=f"Tyres put down {grips_n:.0f} N here; more weight on them, a softer start or a lower "
        "motor amps limit keeps them rolling.",
        fix=None,
    )


def _lifts(case: Case, lifts: float) -> Verdict:
    drive, level = case.drive, scalar(0.0)
    push_n = float(full_throttle(drive, scalar(0.0)).force_n)
    spare_n = push_n - float(drive.road.rolling_n(level))
    gains = spare_n / float(drive.equivalent_mass_kg)
    ratio = gains / lifts if lifts > 0 else np.inf
    return Verdict(
        id="front_lift",
        part="vehicle",
        title=f"A hard start gains {gains:.1f} m/s2; the front lifts at {lifts:.1f}",
        severity="stop" if ratio >= 1 else "watch" if ratio > 0.8 else "ok",
        value=gains,
        limit=lifts,
        unit="m/s2",
        moment="launch",
        why="Above it the vehicle throws its rider off backwards: ramp the throttle, gear taller, "
        "or lower the motor amps limit."
        if ratio > 0.8
        else "The weight stands low and forward enough.",
        fix=None,
    )


def stops(many: Many) -> Mask:
    """Return where the climb fails for want of grip, or the front leaves the ground."""
    climb, drive, level = many.moments.climb, many.drive, scalar(0.0)
    stop: Mask = nowhere(many) | ((climb.state.limited_by == Limit.TRACTION) & ~climb.met)
    lifts = drive.grip.lifting_mps2(level)
    if not np.any(np.isfinite(lifts)):
        return stop
    push_n = full_throttle(drive, level).force_n
    gains = (push_n - drive.road.rolling_n(level)) / drive.equivalent_mass_kg
    return np.asanyarray(stop | (gains >= lifts))
