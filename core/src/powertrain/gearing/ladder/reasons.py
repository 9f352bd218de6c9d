"""Why a rung is worse than the present one, in words, and what stops the present one itself."""

import numpy as np
from numpy.typing import NDArray

from powertrain.documents.build import Build
from powertrain.gearing.ladder.rungs import Hottest, Rungs
from powertrain.heat.limits import BURNT_C, NODES
from powertrain.load.words import LoadWords
from powertrain.match.reasons import sentence
from powertrain.operating.settings import MOMENT_IDS
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import all_rules
from powertrain.verdicts.rules.temperatures import PARTS, moment_words, spoken
from powertrain.verdicts.verdict import Verdict


def stops_now(build: Build) -> tuple[list[str], list[str]]:
    """Return what stops the present rung: what no gearing changes, and what it may."""
    fixed: list[str] = []
    already: list[str] = []
    context = RuleContext.of(build, cures=False)
    for rule in all_rules().values():
        for said in rule.said(context):
            if isinstance(said, Verdict) and said.severity == "stop":
                (already if rule.geared else fixed).append(f"{said.title}.")
    return fixed, already


def alone(rungs: Rungs, here: int, stop: NDArray[np.int64]) -> str:
    """Return why every other rung is worse than the present one, '' where some is not."""
    others = np.flatnonzero(np.arange(len(rungs)) != here)
    if not len(others) or np.any(stop[others] < 0):
        return ""
    apart = np.abs(np.log(rungs.ratio[rungs.of[others]] / rungs.ratio[rungs.of[here]]))
    nearest = int(others[np.argmin(apart)])
    return (
        f"Every other rung is worse than the present one; the nearest: {why(rungs, nearest, stop)}"
    )


def why(rungs: Rungs, place: int, stop: NDArray[np.int64]) -> str | None:
    """Return what makes a rung worse than the present one: part, figure, limit, how long."""
    rule = int(stop[place])
    if rule < 0:
        return None
    name, at = rungs.rules[rule], int(rungs.of[place])
    if name == "temperatures":
        return _too_hot(rungs.hot, at, rungs.words)
    words = sentence(name)
    load, now = float(rungs.loads[rule, at]), float(rungs.base[rule])
    if name not in SHARED or not 1 < load < MOST_TOLD:
        return words
    then = f" ({100 * load:.0f} % of it; the present rung {100 * now:.0f} %)"
    return f"{words[:-1]}{then}."


SHARED = {"motor_current", "controller_current", "pack_current", "loaded_rpm", "cut_off", "wires"}
"""Rules whose load is a share of a limit that people read as such."""

MOST_TOLD = 50.0


def _too_hot(hot: Hottest, at: int, words: LoadWords) -> str:
    node = NODES[int(hot.node[at])]
    _, noun = PARTS[node]
    where = moment_words(words, MOMENT_IDS[int(hot.moment[at])])
    reached, limit = float(hot.reached_c[at]), float(hot.limit_c[at])
    lasts = spoken(float(hot.lasts_s[at]))
    if reached >= BURNT_C[node]:
        return f"The {noun} would burn within {lasts} {where}; its limit is {limit:.0f} \u00b0C."
    return f"The {noun} would reach {reached:.0f} \u00b0C of {limit:.0f} in {lasts} {where}."
