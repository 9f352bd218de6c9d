"""Grip of the driven wheels in the launch and on the hill, and whether the front lifts."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.operating.full_throttle import grips_n
from powertrain.operating.limits import Limit
from powertrain.vehicle.traction import is_assumed
from powertrain.verdicts.verdict import (
    Case,
    Many,
    Mask,
    NotJudged,
    Severity,
    Verdict,
    assumed_hill,
    nowhere,
)


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge the hardest push from standstill, and the acceleration that it gives."""
    lifts = float(case.drive.grip.lifting_mps2(scalar(0.0)))
    yield _grip(case)
    if np.isfinite(lifts):
        yield _lifts(case, lifts)
    else:
        say = "Lifting of the front: height and place of the balance point are not known."
        path = "vehicle.traction.centre_height_m"
        yield NotJudged(id="front_lift", part="vehicle", path=path, say=say)


def slips_on_climb(many: Many) -> Mask:
    """Return where the hill is lost for want of grip: it asks more than the tyres put down."""
    climb, drive = many.moments.climb, many.drive
    grade_pct, speed_mps = scalar(climb.grade_pct), many.moments.asked.climb_mps
    wanted_n = drive.road.force_n(scalar(0.0) if speed_mps is None else speed_mps, grade_pct)
    return np.asanyarray(~climb.met & (grips_n(drive, grade_pct) < wanted_n))


def _grip(case: Case) -> Verdict:
    drive, level = case.drive, scalar(0.0)
    at = case.start
    holds_n = float(grips_n(drive, level))
    push_n = float(at.force_n)
    spins = int(at.limited_by) == Limit.TRACTION
    lost = bool(slips_on_climb(case))
    severity: Severity = "ok"
    if lost:
        severity = "watch" if assumed_hill(case) is not None else "stop"
    elif spins:
        severity = "watch"
    share = push_n / holds_n if holds_n > 0 else np.inf
    title = f"A hard start uses {100 * share:.0f} % of the grip"
    if spins:
        title = "The driven wheels spin at full throttle from standstill"
    why = f"Tyres put down {holds_n:.0f} N here"
    if is_assumed(case.build.vehicle):
        why += f" (grip assumed {float(drive.grip.friction):.2g})"
    cure = "more weight on them, a softer start or a lower motor amps limit keeps them rolling."
    if lost:
        climb = case.moments.climb
        title = f"The driven wheels slip on the {climb.grade_pct:g} % hill"
        asks_n = float(drive.road.still_n(scalar(climb.grade_pct)))
        holds_n = float(grips_n(drive, scalar(climb.grade_pct)))
        push_n = asks_n
        why = f"The hill asks {asks_n:.0f} N and the tyres put down {holds_n:.0f} N there"
        cure = (
            "more weight on the driven wheels or more driven wheels help; gearing and amps don't."
        )
    return Verdict(
        id="traction",
        part="vehicle",
        title=title,
        severity=severity,
        value=push_n,
        limit=holds_n,
        unit="N",
        moment="climb" if lost else "launch",
        why=f"{why}; {cure}",
        fix=None,
    )


def _gains(many: Many) -> Array:
    """Return the acceleration of a full-throttle start."""
    drive, level = many.drive, scalar(0.0)
    spare_n = many.start.force_n - drive.road.rolling_n(level)
    return spare_n / drive.equivalent_mass_kg


def _lifts(case: Case, lifts: float) -> Verdict:
    gains = float(_gains(case))
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


def load(many: Many) -> Array:
    """Return the acceleration of a hard start over that which lifts the front.

    Grip lost on a hill is the same in every gear.
    """
    lifts = many.drive.grip.lifting_mps2(scalar(0.0))
    if not np.any(np.isfinite(lifts)):
        return np.where(stops(many), 2.0, 0.0)
    return np.where(slips_on_climb(many), 2.0, 0.0 * _gains(many)) + _gains(many) / lifts


def stops(many: Many) -> Mask:
    """Return where the climb fails for want of grip, or the front leaves the ground."""
    stop = nowhere(many)
    if assumed_hill(many) is None:
        stop = stop | slips_on_climb(many)
    lifts = many.drive.grip.lifting_mps2(scalar(0.0))
    if not np.any(np.isfinite(lifts)):
        return stop
    return np.asanyarray(stop | (_gains(many) >= lifts))
