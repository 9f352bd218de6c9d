"""One build in, all that the bench shows of it out."""

from dataclasses import dataclass, fields
from typing import Any

from powertrain.bench.answer import (
    Answer,
    Band,
    Gauge,
    MomentAnswer,
    NodeAnswer,
    StateAnswer,
    Warning,
)
from powertrain.bench.bands import doubt_answer, moment_bands
from powertrain.bench.curves import map_of
from powertrain.bench.heat import burnt_bands, first_limit, limits_answer, nodes_at, stall_answer
from powertrain.bench.numbers import drive_kg, limit_word, listed, number, total
from powertrain.controller.chopper import dc_for
from powertrain.documents.build import Build
from powertrain.documents.reading import warnings_of
from powertrain.doubt.draws import Doubt
from powertrain.drive import Drive
from powertrain.figures import first_of
from powertrain.heat.limits import NodeId
from powertrain.heat.store import Store, estimated
from powertrain.levers.board import Sweep, board_of, sweep_of
from powertrain.levers.registry import levers_of
from powertrain.motor.of_document import loss_names
from powertrain.operating.derate import implied_load_factor
from powertrain.operating.distance import Usable, range_km
from powertrain.operating.moments import MomentId, Moments
from powertrain.operating.state import State
from powertrain.operating.steady import energy_wh_per_km
from powertrain.verdicts.registry import judge_all
from powertrain.verdicts.verdict import Case, Verdict


def solve(build: Build) -> Answer:
    """Return everything the bench shows of `build`."""
    drive = Drive.of(build)
    store, levers = Store.of(build, drive), levers_of(build)
    doubt = Doubt.of(build)
    sweep = sweep_of(build, doubt, levers)
    case = Case.seen(build, drive, store, first_of(build, drive, store, sweep.picture))
    moments = case.moments
    verdicts, not_judged = judge_all(case)
    bands = moment_bands(build, sweep)
    heat, usable = case.picture.heat, Usable.of(build.moments)
    motor, battery = build.motor, build.battery
    return Answer(
        name=build.name,
        ratio=float(drive.train.ratio),
        train_efficiency=float(drive.train.efficiency),
        pack_rest_v=float(drive.pack.open_circuit_v),
        pack_full_v=float(drive.pack.charger_v),
        pack_wh=float(drive.pack.nominal_v * drive.pack.capacity_ah),
        usable_wh=float(usable.energy_wh(drive)),
        range_from_pct=usable.from_pct,
        range_to_pct=usable.to_pct,
        loss_names=loss_names(motor),
        load_factor=_load_factor(drive, moments.top_speed.state),
        drive_mass_kg=drive_kg(build),
        drive_price=total(
            [
                _each(motor.price, motor.count),
                _each(build.controller.price, build.controller.count),
                battery.price,
            ]
        ),
        moments=[_moment(build, case, sweep, index, bands[index]) for index in range(5)],
        map=map_of(drive, moments),
        gauges=list(_gauges(build, moments)),
        heat_limits=limits_answer(case.limits),
        heat_estimated=estimated(build),
        stall=stall_answer(case, sweep.variants),
        first_limit=first_limit(heat),
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

    states: dict[MomentId, StateAnswer]
    verdicts: list[Verdict]


def glance(build: Build) -> Glance:
    """Return a build's states and verdicts alone, at a fraction of the work."""
    drive = Drive.of(build)
    case = Case.of(build, drive)
    states = {m.id: state_answer(build, drive, m.state) for m in case.moments.all()}
    return Glance(states, judge_all(case)[0])


def _each(value: float | None, count: int) -> float | None:
    return None if value is None else value * count


def state_answer(build: Build, drive: Drive, state: State) -> StateAnswer:
    """Return one state as plain numbers."""
    plain: dict[str, Any] = {
        f.name: float(getattr(state, f.name))
        for f in fields(state)
        if f.name not in ("stage_losses_w", "limited_by", "gear")
    }
    return StateAnswer(
        **plain,
        stage_losses_w=listed(list(state.stage_losses_w)),
        cell_voltage_v=plain["battery_voltage_v"] / build.battery.series,
        efficiency=number(state.efficiency),
        energy_wh_per_km=number(energy_wh_per_km(state)),
        range_km=number(range_km(drive, build, state)),
        limited_by=limit_word(state.limited_by),
    )


def _load_factor(drive: Drive, state: State) -> float | None:
    """Return the load factor of the hobby formula that the physics implies at top speed."""
    return number(implied_load_factor(drive, state)) if state.speed_mps > 0 else None


def _moment(
    build: Build, case: Case, sweep: Sweep, index: int, bands: dict[str, Band]
) -> MomentAnswer:
    drive, moments, heat = case.drive, case.moments, case.picture.heat
    moment = moments.all()[index]
    run = moments.launch_run if moment.id == "launch" else None
    return MomentAnswer(
        id=moment.id,
        target_kmh=moment.target_kmh,
        assumed=moment.assumed,
        met=bool(moment.met),
        time_s=number(run.time_s) if run else None,
        distance_m=number(run.distance_m) if run else None,
        peak_battery_current_a=number(moments.peaks.battery_a) if run else None,
        peak_motor_current_a=number(moments.peaks.motor_a) if run else None,
        state=state_answer(build, drive, moment.state),
        gear=_gear(drive, moment.state),
        lasts_s=float(case.picture.lasts_s[index]),
        heat=_nodes(case, sweep, index),
        runs_away=bool(heat.runs_away[index]),
        repeat_share=float(heat.repeat_share[index]),
        bands=bands,
    )


def _nodes(case: Case, sweep: Sweep, index: int) -> dict[NodeId, NodeAnswer]:
    nodes = nodes_at(case.picture.heat, index)
    for key, band in burnt_bands(case, sweep.variants, sweep.picture, index).items():
        nodes[key] = nodes[key].model_copy(update={"burnt_band": band})
    return nodes


def _gear(drive: Drive, state: State) -> int:
    """Return which gear is engaged, one being the shortest."""
    gears = [abs(float(gear) - float(state.gear)) for gear in drive.train.gears]
    return 1 + gears.index(min(gears))


def _gauges(build: Build, moments: Moments) -> list[Gauge]:
    """Return the amps gauges of pack, controller and motor, where a limit is known."""
    controller, motor, battery = build.controller, build.motor, build.battery
    pack = {m.id: float(m.state.battery_current_a) for m in moments.all()}
    each = {m.id: float(m.state.motor_current_a) for m in moments.all()}
    pack["launch"] = float(moments.peaks.battery_a)
    each["launch"] = float(moments.peaks.motor_a)
    pack_side = controller.rating_side == "battery"
    path = {key: value / motor.count for key, value in pack.items()} if pack_side else each
    set_a = (
        None
        if controller.motor_current_limit_a is None
        else (controller.motor_current_limit_a * dc_for(controller))
    )
    pack_set_a = (
        None
        if controller.battery_current_limit_a is None
        else (controller.battery_current_limit_a * controller.count)
    )
    found = [
        _gauge("pack", "pack amps", pack, battery.continuous_current_a, battery.peak_current_a,
               pack_set_a),
        _gauge("controller", "pack amps" if pack_side else "motor amps", path,
               controller.continuous_current_a, controller.peak_current_a, None),
        _gauge("motor", "motor amps", each, motor.continuous_current_a, motor.peak_current_a,
               set_a),
    ]  # fmt: skip
    return [gauge for gauge in found if gauge is not None]


def _gauge(
    part: Any,
    label: str,
    values: dict[MomentId, float],
    continuous_a: float | None,
    peak_a: float | None,
    set_a: float | None,
) -> Gauge | None:
    known = [
        (limit, word)
        for limit, word in (
            (continuous_a, "continuous rating"),
            (peak_a, "peak rating"),
            (set_a, "set limit"),
        )
        if limit is not None
    ]
    if not known:
        return None
    limit, word = known[0]
    worst = max(values, key=lambda key: abs(values[key]))
    return Gauge(
        part=part, label=label, unit="A", limit=limit, limit_is=word, by_moment=values, worst=worst
    )
