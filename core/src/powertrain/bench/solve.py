"""One build in, all that the bench shows of it out."""

from dataclasses import fields
from typing import Any

from powertrain.bench.answer import Answer, Gauge, MomentAnswer, StateAnswer, Warning
from powertrain.bench.curves import map_of
from powertrain.bench.numbers import limit_word, listed, number, total
from powertrain.documents.build import Build
from powertrain.documents.reading import warnings_of
from powertrain.drive import Drive
from powertrain.levers.registry import levers_of
from powertrain.operating.moments import Moment, MomentId, Moments, moments_of
from powertrain.operating.state import State
from powertrain.operating.steady import energy_wh_per_km
from powertrain.verdicts.registry import judge_all
from powertrain.verdicts.verdict import Case

USABLE = 0.9
"""Share of the pack's energy between full and a sensible stop, for the range; common practice."""


def solve(build: Build) -> Answer:
    """Return everything the bench shows of `build`."""
    drive = Drive.of(build)
    moments = moments_of(build, drive)
    verdicts, not_judged = judge_all(Case(build, drive, moments))
    motor, battery = build.motor, build.battery
    pack_wh = float(drive.pack.open_circuit_v * drive.pack.capacity_ah)
    return Answer(
        name=build.name,
        ratio=float(drive.train.ratio),
        train_efficiency=float(drive.train.efficiency),
        pack_rest_v=float(drive.pack.open_circuit_v),
        pack_full_v=float(drive.pack.charger_v),
        pack_wh=pack_wh,
        drive_mass_kg=total(
            [_each(motor.mass_kg, motor.count), build.controller.mass_kg, battery.mass_kg]
        ),
        drive_price=total([_each(motor.price, motor.count), build.controller.price, battery.price]),
        moments=[_moment(moment, moments, battery.series, pack_wh) for moment in moments.all()],
        map=map_of(drive, moments),
        gauges=list(_gauges(build, moments)),
        verdicts=verdicts,
        not_judged=not_judged,
        levers=levers_of(build),
        warnings=[Warning(**warning) for warning in warnings_of(build)],
    )


def _each(value: float | None, count: int) -> float | None:
    return None if value is None else value * count


def state_answer(state: State, series: int, pack_wh: float) -> StateAnswer:
    """Return one state as plain numbers."""
    plain: dict[str, Any] = {
        f.name: float(getattr(state, f.name))
        for f in fields(state)
        if f.name not in ("stage_losses_w", "limited_by")
    }
    use = number(energy_wh_per_km(state))
    return StateAnswer(
        **plain,
        stage_losses_w=listed(list(state.stage_losses_w)),
        cell_voltage_v=plain["battery_voltage_v"] / series,
        efficiency=number(state.efficiency),
        energy_wh_per_km=use,
        range_km=_range_km(plain, pack_wh),
        limited_by=limit_word(state.limited_by),
    )


def _range_km(state: dict[str, float], pack_wh: float) -> float | None:
    """Return how far the usable energy goes, what the pack itself loses counted."""
    if state["cells_w"] <= 0 or state["speed_mps"] <= 0:
        return None
    return USABLE * pack_wh / state["cells_w"] * state["speed_mps"] * 3.6


def _moment(moment: Moment, moments: Moments, series: int, pack_wh: float) -> MomentAnswer:
    run = moments.launch_run if moment.id == "launch" else None
    return MomentAnswer(
        id=moment.id,
        target_kmh=moment.target_kmh,
        assumed=moment.assumed,
        met=moment.met,
        time_s=number(run.time_s) if run else None,
        distance_m=number(run.distance_m) if run else None,
        peak_battery_current_a=number(run.peak_battery_current_a) if run else None,
        peak_motor_current_a=number(run.peak_motor_current_a) if run else None,
        state=state_answer(moment.state, series, pack_wh),
    )


def _gauges(build: Build, moments: Moments) -> list[Gauge]:
    """Return the amps gauges of pack, controller and motor, where a limit is known."""
    controller, motor, battery = build.controller, build.motor, build.battery
    run = moments.launch_run
    pack = {m.id: float(m.state.battery_current_a) for m in moments.all()}
    each = {m.id: float(m.state.motor_current_a) for m in moments.all()}
    if run is not None:
        pack["launch"] = float(run.peak_battery_current_a)
        each["launch"] = float(run.peak_motor_current_a)
    pack_side = controller.rating_side == "battery"
    path = {key: value / motor.count for key, value in pack.items()} if pack_side else each
    found = [
        _gauge("pack", "pack amps", pack, battery.continuous_current_a, battery.peak_current_a,
               controller.battery_current_limit_a),
        _gauge("controller", "pack amps" if pack_side else "motor amps", path,
               controller.continuous_current_a, controller.peak_current_a, None),
        _gauge("motor", "motor amps", each, motor.continuous_current_a, motor.peak_current_a,
               controller.motor_current_limit_a),
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
