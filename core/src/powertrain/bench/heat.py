"""The temperatures of a bench answer."""

import numpy as np

from powertrain.arrays import pick
from powertrain.bench.answer import Band, FirstLimit, HeatLimit, NodeAnswer, StallAnswer
from powertrain.bench.bands import DRAWN, band_of
from powertrain.bench.numbers import number
from powertrain.doubt.draws import DRAWS, Variants
from powertrain.figures import Picture
from powertrain.heat.limits import NODES, Limits, NodeId
from powertrain.heat.stall import stall_seconds
from powertrain.heat.temperatures import Temperatures, burnt_seconds
from powertrain.operating.moments import MomentId
from powertrain.verdicts.verdict import Case

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


def burnt_bands(case: Case, many: Variants, picture: Picture, index: int) -> dict[NodeId, Band]:
    """Return, of the nodes that burn at one moment, the band of the time at which they do."""
    burns = [key for key in NODES if np.isfinite(getattr(case.picture.heat, key).burnt_s[index])]
    if not burns:
        return {}
    flows, stores = pick(pick(picture.flows, index), DRAWN), pick(many.stores, DRAWN)
    lasts = np.broadcast_to(picture.lasts_s[index], (len(many.draws),))[DRAWN]
    times = burnt_seconds(stores, flows, case.limits, lasts)
    return {key: band_of(times[key]) for key in burns}


def limits_answer(limits: Limits) -> dict[NodeId, HeatLimit]:
    """Return the limits, and by whom."""
    return {
        key: HeatLimit(value_c=float(limit.value_c), source=limit.source)
        for key in NODES
        for limit in (getattr(limits, key),)
    }


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


def stall_answer(case: Case, many: Variants) -> StallAnswer:
    """Return what a stall does, with the band over the draws."""
    drives, stores = pick(many.drives, DRAWN), pick(many.stores, DRAWN)
    seconds = stall_seconds(drives, stores, case.limits, case.stall)
    return StallAnswer(
        seconds=number(case.stall.seconds),
        node=case.stall.node,
        motor_current_a=float(case.stall.state.motor_current_a),
        band=band_of(np.broadcast_to(seconds, (DRAWS,))),
    )
