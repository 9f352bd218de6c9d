"""One build in, all that the bench shows of it out."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.bench.answer import (
    Answer,
    Band,
    Gauge,
    LoadLabels,
    MomentAnswer,
    NodeAnswer,
    StateAnswer,
    Warning,
)
from powertrain.bench.bands import doubt_answer, moment_bands
from powertrain.bench.curves import map_of
from powertrain.bench.heat import burnt_bands, first_limit, limits_answer, nodes_at, stall_answer
from powertrain.bench.in_short import in_short
from powertrain.bench.numbers import drive_kg, state_figures, total
from powertrain.by_then import When, by_then, then_of
from powertrain.compile.build import compile_build
from powertrain.compile.ratings import CurrentRating
from powertrain.documents.build import Build
from powertrain.documents.reading import warnings_of
from powertrain.doubt.draws import Doubt
from powertrain.drive import Drive
from powertrain.heat.limits import NodeId
from powertrain.in_words import drive_in_words
from powertrain.levers.board import Sweep, board_of, sweep_of
from powertrain.levers.registry import levers_of
from powertrain.load.words import LoadWords
from powertrain.motor.kinds import loss_names
from powertrain.operating.derate import implied_load_factor
from powertrain.operating.distance import range_km, usable_wh
from powertrain.operating.moments import moments_of
from powertrain.operating.settings import MOMENT_IDS, MomentId
from powertrain.operating.state import State
from powertrain.operating.steady import energy_wh_per_km
from powertrain.plain import limit_word, listed, number
from powertrain.results import first_of
from powertrain.stated import Stated
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all
from powertrain.verdicts.verdict import Verdict


def solve(build: Build, when: When = "now") -> Answer:
    """Return everything the bench shows of `build`, as it is now or as it is by then."""
    compiled, levers, doubt = compile_build(build), levers_of(build), Doubt.of(build)
    then = None
    if when != "now":
        moments = moments_of(compiled.settings, compiled.drive, fine=False)
        then = then_of(build, compiled, moments, when)
        compiled = by_then(build, compiled, then)
    sweep = sweep_of(build, doubt, levers, then)
    context = RuleContext(compiled, first_of(compiled, sweep.results), build, then=then)
    drive, moments, usable = compiled.drive, context.moments, compiled.settings.usable
    verdicts, not_judged = judge_all(context)
    bands = moment_bands(sweep)
    motor, battery = build.motor, build.battery
    return Answer(
        name=build.name,
        drive=drive_in_words(build),
        in_short=in_short(context, verdicts),
        load=_labels(drive.load.words),
        ratio=float(drive.train.ratio),
        train_efficiency=float(drive.train.efficiency),
        pack_rest_v=float(drive.pack.open_circuit_v),
        pack_full_v=float(drive.pack.charger_v),
        pack_wh=float(drive.pack.nominal_v * drive.pack.capacity_ah),
        usable_wh=float(usable_wh(usable, drive)),
        range_from_pct=usable.from_pct,
        range_to_pct=usable.to_pct,
        loss_names=loss_names(Stated(motor)),
        load_factor=_load_factor(drive, moments.top_speed.state),
        drive_mass_kg=drive_kg(build),
        drive_price=total(
            [
                _each(motor.price, motor.count),
                _each(build.controller.price, build.controller.count),
                battery.price,
            ]
        ),
        moments=[_moment(context, sweep, index, bands[index]) for index in range(len(MOMENT_IDS))],
        map=map_of(drive, moments),
        gauges=_gauges(context),
        heat_limits=limits_answer(compiled.limits, context.limit_sources),
        heat_estimated=dict(compiled.estimated),
        stall=stall_answer(context, sweep.variants),
        first_limit=first_limit(context.results.heat),
        doubt=doubt_answer(doubt, sweep),
        board=board_of(sweep),
        verdicts=verdicts,
        not_judged=not_judged,
        levers=levers,
        warnings=[Warning(**warning) for warning in warnings_of(build)],
    )


@dataclass(frozen=True)
class Glance:
    """What a card of a build shows: the states of its moments, and its verdicts."""

    titles: dict[MomentId, str]
    met: dict[MomentId, bool]
    states: dict[MomentId, StateAnswer]
    verdicts: list[Verdict]

    @property
    def going(self) -> StateAnswer:
        """The state that shows what it does: cruise, or flat out where cruise takes no power."""
        cruise = self.states["cruise"]
        return cruise if cruise.road_w > 0 else self.states["top_speed"]


def glance(build: Build) -> Glance:
    """Return a build's states and verdicts alone, at a fraction of the work."""
    context = RuleContext.of(build)
    moments, words = context.moments.all(), context.drive.load.words
    return Glance(
        titles={m.id: words.title(m.id, m.situation) for m in moments},
        met={m.id: bool(m.met) for m in moments},
        states={m.id: state_answer(context, m.state) for m in moments},
        verdicts=judge_all(context)[0],
    )


def _labels(words: LoadWords) -> LoadLabels:
    return LoadLabels(
        end=words.end,
        parts=dict(words.parts),
        unnamed=words.unnamed,
        weighs=words.weighs,
        caution=words.caution,
    )


def _each(value: float | None, count: int) -> float | None:
    return None if value is None else value * count


def state_answer(context: RuleContext, state: State) -> StateAnswer:
    """Return one state as plain numbers."""
    series, usable = context.build.battery.series, context.settings.usable
    figures = state_figures(context.drive.load, state)
    plain: dict[str, Any] = {name: float(value) for name, value in figures.items()}
    return StateAnswer(
        **plain,
        stage_losses_w=listed(list(state.stage_losses_w)),
        cell_voltage_v=plain["battery_voltage_v"] / series,
        efficiency=number(state.efficiency),
        energy_wh_per_km=number(energy_wh_per_km(state)),
        range_km=number(range_km(context.drive, usable, state)),
        limited_by=limit_word(state.limited_by),
        takes=dict(context.drive.load.words.takes),
    )


def _load_factor(drive: Drive, state: State) -> float | None:
    """Return the load factor of the hobby formula that the physics implies at top speed."""
    return number(implied_load_factor(drive, state)) if state.speed_mps > 0 else None


def _moment(context: RuleContext, sweep: Sweep, index: int, bands: dict[str, Band]) -> MomentAnswer:
    drive, moments, heat = context.drive, context.moments, context.results.heat
    moment = moments.all()[index]
    run = moments.launch_run if moment.id == "launch" else None
    return MomentAnswer(
        id=moment.id,
        title=drive.load.words.title(moment.id, moment.situation),
        during=drive.load.words.during[moment.id],
        target_kmh=moment.target_kmh,
        assumed=moment.assumed,
        met=bool(moment.met),
        time_s=number(run.time_s) if run else None,
        distance_m=number(run.distance_m) if run else None,
        peak_battery_current_a=number(moments.peaks.battery_a) if run else None,
        peak_motor_current_a=number(moments.peaks.motor_a) if run else None,
        state=state_answer(context, moment.state),
        gear=_gear(drive, moment.state),
        lasts_s=float(context.results.lasts_s[index]),
        heat=_nodes(context, sweep, index),
        runs_away=bool(heat.runs_away[index]),
        repeat_share=float(heat.repeat_share[index]),
        bands=bands,
    )


def _nodes(context: RuleContext, sweep: Sweep, index: int) -> dict[NodeId, NodeAnswer]:
    nodes = nodes_at(context.results.heat, index)
    for key, band in burnt_bands(context, sweep.variants, sweep.results, index).items():
        nodes[key] = nodes[key].model_copy(update={"burnt_band": band})
    return nodes


def _gear(drive: Drive, state: State) -> int:
    """Return which gear is engaged, one being the shortest."""
    gears = [abs(float(gear) - float(state.gear)) for gear in drive.train.gears]
    return 1 + gears.index(min(gears))


def _gauges(context: RuleContext) -> list[Gauge]:
    """Return the amps gauges of pack, controller and motor, where a limit is known."""
    moments, set_to, ratings = context.moments, context.drive.controller, context.ratings
    pack = {m.id: float(m.state.battery_current_a) for m in moments.all()}
    each = {m.id: float(m.state.motor_current_a) for m in moments.all()}
    pack["launch"] = float(moments.peaks.battery_a)
    each["launch"] = float(moments.peaks.motor_a)
    pack_side, motors = ratings.controller.pack_side, float(context.drive.motor.count)
    path = {key: value / motors for key, value in pack.items()} if pack_side else each
    side = "pack amps" if pack_side else "motor amps"
    never = scalar(np.inf)
    found = [
        _gauge("pack", "pack amps", pack, ratings.pack.amps, set_to.battery_current_limit_a),
        _gauge("controller", side, path, ratings.controller.amps, never),
        _gauge("motor", "motor amps", each, ratings.motor.amps, set_to.motor_current_limit_a),
    ]
    return [gauge for gauge in found if gauge is not None]


def _gauge(
    part: Any,
    label: str,
    values: dict[MomentId, float],
    rating: CurrentRating,
    set_a: Array,
) -> Gauge | None:
    known = [
        (float(limit), word)
        for limit, word in (
            (rating.continuous_a, "continuous rating"),
            (rating.peak_a, "peak rating"),
            (set_a, "set limit"),
        )
        if np.isfinite(limit)
    ]
    if not known:
        return None
    limit, word = known[0]
    worst = max(values, key=lambda key: abs(values[key]))
    return Gauge(
        part=part, label=label, unit="A", limit=limit, limit_is=word, by_moment=values, worst=worst
    )
