"""Grip of the driven wheels in the launch and on the hill, and whether the front lifts."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import scalar
from powertrain.load.traction import is_assumed
from powertrain.operating.limits import Limit
from powertrain.stated import Stated, unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.moments import assumed_hill
from powertrain.verdicts.rule import ONLY_STOPS, Judgement, Mask, Rule, grades, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict

LEVEL = scalar(0.0)


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the hardest push from standstill, and the acceleration that it gives."""
    yield _grip(batch)
    lifts = batch.drive.wheels.grip.lifting_mps2(LEVEL)
    if unstated(lifts):
        return
    drive = batch.drive
    spare_nm = batch.start.output_nm - drive.load.still_nm(LEVEL)
    gains = drive.speed_mps(spare_nm / drive.inertia_kg_m2)
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.where(lifts > 0, gains / lifts, np.inf)
    severity = grades(stop=gains >= lifts, watch=share > 0.8)
    yield Judgement("front_lift", gains, lifts, severity, gains / lifts)


def slips_on_climb(batch: Batch) -> Mask:
    """Return where the hill is lost for want of grip: it asks more than the tyres put down."""
    climb, wheels = batch.moments.climb, batch.drive.wheels
    targets = batch.moments.targets
    grade_pct, speed_mps = targets.climb_situation, targets.climb_mps
    wanted_n = wheels.road.force_n(scalar(0.0) if speed_mps is None else speed_mps, grade_pct)
    return np.asanyarray(~climb.met & (wheels.holds_n(grade_pct) < wanted_n))


def _grip(batch: Batch) -> Judgement:
    wheels, start = batch.drive.wheels, batch.start
    hill = batch.moments.targets.climb_situation
    lost, spins = slips_on_climb(batch), start.limited_by == Limit.TRACTION
    stops = lost if assumed_hill(batch) is None else batch.nowhere()
    # Grip lost on a hill is the same in every gear.
    return Judgement(
        "traction",
        np.where(lost, wheels.road.rolling_and_grade_n(hill), start.force_n),
        np.where(lost, wheels.holds_n(hill), wheels.holds_n(LEVEL)),
        grades(stop=stops, watch=spins | lost),
        np.where(stops, ONLY_STOPS, 0.0),
    )


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how much of the grip is used, or when the front lifts."""
    if found.id == "front_lift":
        return _say_lifts(found)
    push_n, holds_n = float(found.value), float(found.limit)
    if bool(slips_on_climb(context)):
        title = f"The driven wheels slip on the {context.moments.climb.situation:g} % hill"
        why = (
            f"The hill asks {push_n:.0f} N and the tyres put down {holds_n:.0f} N there; more "
            "weight on the driven wheels or more driven wheels help; gearing and amps don't."
        )
        return verdict(found, "vehicle", title, why, unit="N", moment="climb")
    share = push_n / holds_n if holds_n > 0 else np.inf
    title = f"A hard start uses {100 * share:.0f} % of the grip"
    if found.word == "watch":
        title = "The driven wheels spin at full throttle from standstill"
    why = f"Tyres put down {holds_n:.0f} N here"
    if is_assumed(Stated(context.build.vehicle)):
        why += f" (grip assumed {float(context.drive.wheels.grip.friction):.2g})"
    why += "; more weight on them, a softer start or a lower motor amps limit keeps them rolling."
    return verdict(found, "vehicle", title, why, unit="N", moment="launch")


def _say_lifts(found: Judgement) -> Verdict:
    title = (
        f"A hard start gains {float(found.value):.1f} m/s2; the front lifts at "
        f"{float(found.limit):.1f}"
    )
    why = "The weight stands low and forward enough."
    if found.word != "ok":
        why = (
            "Above it the vehicle throws its rider off backwards: ramp the throttle, gear taller, "
            "or lower the motor amps limit."
        )
    return verdict(found, "vehicle", title, why, unit="m/s2", moment="launch")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that the balance is not known."""
    if unstated(context.drive.wheels.grip.lifting_mps2(LEVEL)):
        say = "Lifting of the front: height and place of the balance point are not known."
        path = "vehicle.traction.centre_height_m"
        yield NotJudged(id="front_lift", part="vehicle", path=path, say=say)


RULE = Rule(
    judge, say, unknown, rejects="the wheels would spin or the front would lift", of_wheels=True
)
