"""Whether the hill is climbed, and the cruise and launch that were asked are reached."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.operating.full_throttle import push_n
from powertrain.units import kmh_from_mps
from powertrain.verdicts.cures import cure
from powertrain.verdicts.rules.traction import slips_on_climb
from powertrain.verdicts.verdict import Case, Many, Mask, Verdict, nowhere


def judge(case: Case) -> Iterator[Verdict]:
    """Judge what the document asks of climb and cruise."""
    climb, cruise = case.moments.climb, case.moments.cruise
    moves = bool(climb.met)
    if not climb.assumed or not moves:
        top = float(kmh_from_mps(case.moments.climb_top.speed_mps))
        wanted = climb.target_kmh if climb.target_kmh is not None else 0.0
        slips = bool(slips_on_climb(case))
        fix = None
        if not moves and not slips:
            fix = cure(case, lambda many, picture: picture.moments.climb.met)
        title = f"The {climb.grade_pct:g} % hill is climbed at up to {top:.1f} km/h"
        if not moves:
            title = f"The {climb.grade_pct:g} % hill can't be climbed"
            if top > 0:
                title += f" at {wanted:g} km/h, only at {top:.1f}"
        yield Verdict(
            id="asked_climb",
            part="vehicle",
            title=title,
            severity="ok" if moves else "watch" if climb.assumed else "stop",
            value=top,
            limit=wanted,
            unit="km/h",
            moment="climb",
            why=_why(moves, slips, bool(case.build.gearing)),
            fix=fix,
        )
    if not cruise.assumed and not bool(cruise.met):
        top = float(kmh_from_mps(case.moments.top_speed.state.speed_mps))
        yield Verdict(
            id="asked_cruise",
            part="vehicle",
            title=f"A cruise at {cruise.target_kmh:g} km/h is beyond its {top:.1f} km/h",
            severity="stop",
            value=top,
            limit=cruise.target_kmh or 0.0,
            unit="km/h",
            moment="cruise",
            why="Taller gearing, a faster winding or more cells turn the wheel faster.",
            fix=None,
        )


def _why(moves: bool, slips: bool, geared: bool) -> str:
    if moves:
        return "Full throttle on that slope."
    if slips:
        return (
            "The driven wheels slip before they push as much as the slope asks: more weight on "
            "them or more driven wheels, not gearing or amps."
        )
    shorter = "shorter gearing" if geared else "a slower winding or a smaller wheel"
    return f"The wheels push less than slope and tyres ask: {shorter}, more amps, or less to carry."


def load(many: Many) -> Array:
    """Return what hill and cruise that were asked take over what the wheels push there."""
    moments, drive, assumed = many.moments, many.drive, many.moments.asked.assumed
    asked = []
    if "climb" not in assumed:
        speed_mps = moments.asked.climb_mps
        speed_mps = scalar(0.0) if speed_mps is None else speed_mps
        asked.append((speed_mps, scalar(moments.climb.grade_pct)))
    if "cruise" not in assumed:
        asked.append((moments.asked.cruise_mps, scalar(0.0)))
    found: Array = np.zeros(np.shape(nowhere(many)))
    for speed_mps, grade_pct in asked:
        pushed_n = np.maximum(push_n(drive, speed_mps, grade_pct), 1e-9)
        found = np.maximum(found, drive.road.force_n(speed_mps, grade_pct) / pushed_n)
    return found


def stops(many: Many) -> Mask:
    """Return where climb or cruise that were asked are not met."""
    moments, assumed = many.moments, many.moments.asked.assumed
    asked = [m for m in (moments.climb, moments.cruise) if m.id not in assumed]
    missed = nowhere(many)
    for moment in asked:
        missed = missed | ~moment.met
    return missed
