"""The temperatures of a bench answer."""

import numpy as np

from powertrain.arrays import pick
from powertrain.bench.answer import Band, FirstLimit, HeatLimit, NodeAnswer, StallAnswer
from powertrain.bench.bands import DRAWN, band_of
from powertrain.doubt.draws import DRAWS, Variants
from powertrain.heat.limits import NODES, NodeId, TemperatureLimits
from powertrain.heat.stall import stall_seconds
from powertrain.heat.temperatures import Temperatures, burnt_seconds
from powertrain.operating.settings import MomentId
from powertrain.plain import number
from powertrain.results import Results
from powertrain.verdicts.context import RuleContext

LASTING: tuple[tuple[int, MomentId], ...] = ((1, "climb"), (2, "cruise"), (3, "top_speed"))


def nodes_at(heat: Temperatures, index: int) -> dict[NodeId, NodeAnswer]:
    """Return the four nodes at one moment."""
    return {
        key: NodeAnswer(
            after_c=number(node.after_c[index]),
            steady_c=number(node.steady_c[index]),
            to_limit_s=number(node.to_limit_s[index]),
            burnt_after_s=number(node.burnt_s[index]),
        )
        for key in NODES
        for node in (getattr(heat, key),)
    }


def burnt_bands(
    context: RuleContext, many: Variants, results: Results, index: int
) -> dict[NodeId, Band]:
    """Return, of the nodes that burn at one moment, the band of the time at which they do."""
    burns = [key for key in NODES if np.isfinite(getattr(context.results.heat, key).burnt_s[index])]
    if not burns:
        return {}
    flows, thermal = pick(pick(results.flows, index), DRAWN), pick(many.compiled.thermal, DRAWN)
    lasts = np.broadcast_to(results.lasts_s[index], (len(many.draws),))[DRAWN]
    times = burnt_seconds(thermal, flows, context.limits, lasts)
    return {key: band_of(times[key]) for key in burns}


def limits_answer(limits: TemperatureLimits, sources: dict[NodeId, str]) -> dict[NodeId, HeatLimit]:
    """Return the limits, and by whom."""
    return {key: HeatLimit(value_c=float(limits.of(key)), source=sources[key]) for key in NODES}


def first_limit(heat: Temperatures) -> FirstLimit | None:
    """Return which limit is passed first, in any moment that lasts."""
    found = [
        FirstLimit(seconds=float(time), node=key, moment=moment)
        for index, moment in LASTING
        for key in NODES
        for time in (getattr(heat, key).to_limit_s[index],)
        if np.isfinite(time)
    ]
    return min(found, key=lambda limit: limit.seconds, default=None)


def stall_answer(context: RuleContext, many: Variants) -> StallAnswer:
    """Return what a stall does, with the band over the draws."""
    drives, thermal = pick(many.compiled.drive, DRAWN), pick(many.compiled.thermal, DRAWN)
    seconds = stall_seconds(drives, thermal, context.limits, context.stall)
    return StallAnswer(
        seconds=number(context.stall.seconds),
        node=context.stall.first,
        motor_current_a=float(context.stall.state.motor_current_a),
        band=band_of(np.broadcast_to(seconds, (DRAWS,))),
    )
