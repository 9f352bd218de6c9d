"""Blades that are stalled while the craft stands: less thrust than the pitch promises."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.operating.in_air import InAir, in_air
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict

LEAST = 0.92
"""Share of its greatest thrust coefficient below which a standing propeller counts as stalled."""

SHARES = np.linspace(0.0, 1.0, 33)
"""Advance ratios that are looked at, as shares of the pitch ratio."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge what it pulls standing against the most it would pull at the same turns."""
    air = in_air(batch.drive)
    if air is None:
        return
    ct = _coefficients(batch, air)
    share = ct[0] / ct.max(axis=0)
    yield Judgement("pitch_stall", share, scalar(LEAST), grades(watch=share < LEAST))


def _coefficients(batch: Batch, air: InAir) -> Array:
    """Return thrust coefficients at the standing turns, along a first axis of advance ratios."""
    blades, turns = air.load.blades, batch.moments.launch.state.output_rad_s / (2 * np.pi)
    shares = SHARES.reshape(-1, *[1] * np.ndim(turns))
    air_mps = shares * blades.pitch_m * turns
    return blades.turning(turns + 0 * air_mps, air_mps).ct


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how much less it pulls, and from which speed on it is itself."""
    share = float(found.value)
    if found.word == "ok":
        title = "Standing, its blades hold the flow"
        why = "It pulls about as much as it ever does."
        return verdict(found, "wheel", title, why, unit="", moment="launch")
    air = in_air(context.drive)
    assert air is not None
    place = int(np.argmax(_coefficients(context, air)))
    turns = float(context.moments.launch.state.output_rad_s) / (2 * np.pi)
    kmh = float(kmh_from_mps(SHARES[place] * float(air.load.blades.pitch_m) * turns))
    title = f"Standing, it pulls {100 * share:.0f} % of what it pulls at {kmh:.0f} km/h"
    why = (
        "So much pitch stalls the blades until air comes towards them: a test on the scale says "
        "less than the air will, and the start is slow. Less pitch or more diameter starts easier."
    )
    return verdict(found, "wheel", title, why, unit="", moment="launch")


RULE = Rule(judge, say)
