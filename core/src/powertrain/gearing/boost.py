"""A second motor that helps above some speed, on a tap of the pack."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.compile.build import compile_drive
from powertrain.controller.chopper import dc_for
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.errors import Refusal
from powertrain.operating.on_road import fastest_mps, full_throttle_at, push_n
from powertrain.operating.top_speed import top_speed_mps
from powertrain.stated import Stated
from powertrain.units import kmh_from_mps, mps_from_kmh, rpm_from_rad_s
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

POINTS = 60


class BoostFinding(BaseModel):
    """One judgement of the helper."""

    severity: Literal["ok", "watch", "stop"]
    say: str


class BoostAnswer(BaseModel):
    """What a helper adds. Pushes go with `speeds_kmh`; `alone` and `together` are top speeds.

    `feeds_a` and `feeds_w` are what it pushes into its tap at the base's top speed when it is
    overspun and not switched off; `drags_n` is what it costs there when idle and engaged.
    `tap_share` is how much faster the tapped cells empty than the others.
    """

    speeds_kmh: list[float]
    base_n: list[float]
    helper_n: list[float]
    alone_kmh: float
    together_kmh: float
    engages_from_kmh: float
    helps_to_kmh: float
    helper_rpm_at_top: float
    feeds_a: float
    feeds_w: float
    drags_n: float
    tap_share: float
    findings: list[BoostFinding]


def boost(base: Build, helper: Build, tap_cells: int, from_kmh: float) -> BoostAnswer:
    """Return what a helper's motor, controller and gearing add to a base build.

    Parameters
    ----------
    helper : Build
        Its motor, controller, gearing and wheel are taken; its pack is the tap.
    tap_cells : int
        Cells of the base's pack in series that feed the helper.
    from_kmh : float
        It is switched on from this speed.

    Raises
    ------
    Refusal
        If the tap has more cells than the pack.
    """
    base.without_propeller()
    if not 1 <= tap_cells <= base.battery.series:
        raise Refusal("tap_cells", f"must be 1 to the {base.battery.series} of the pack")
    tapped = helper.model_copy(
        update={
            "battery": base.battery.model_copy(update={"series": tap_cells}),
            "vehicle": base.vehicle,
            "conditions": base.conditions,
        }
    )
    main, aid = compile_drive(base), compile_drive(tapped)
    alone = float(top_speed_mps(main, scalar(0.0)))
    helps_to = float(fastest_mps(aid))
    start = float(mps_from_kmh(scalar(from_kmh)))
    together = _together(main, aid, start, max(alone, helps_to))
    speeds = np.linspace(0.0, 1.15 * max(together, alone), POINTS)
    helper_n = np.where(speeds >= start, np.maximum(push_n(aid, speeds), 0.0), 0.0)
    top = max(together, alone)
    rpm = float(rpm_from_rad_s(aid.motor_rad_s(aid.output_at_mps(scalar(top)))))
    feeds_a, feeds_w = _fed_back(aid, top)
    drags = _drag_n(aid, alone)
    share = _tap_share(main, aid, together, base.battery.series, tap_cells)
    return BoostAnswer(
        speeds_kmh=[float(value) for value in kmh_from_mps(speeds)],
        base_n=[float(value) for value in np.maximum(push_n(main, speeds), 0.0)],
        helper_n=[float(value) for value in helper_n],
        alone_kmh=float(kmh_from_mps(scalar(alone))),
        together_kmh=float(kmh_from_mps(scalar(together))),
        engages_from_kmh=from_kmh,
        helps_to_kmh=float(kmh_from_mps(scalar(helps_to))),
        helper_rpm_at_top=rpm,
        feeds_a=feeds_a,
        feeds_w=feeds_w,
        drags_n=drags,
        tap_share=share,
        findings=_findings(Pair(base, tapped, main, aid, start, alone, helps_to, top), share),
    )


@dataclass(frozen=True)
class Pair:
    """Base and helper with their drives, and the speeds (m/s) at which they are looked at.

    `helper` has the tapped cells for its pack.
    """

    base: Build
    helper: Build
    main: Drive
    aid: Drive
    start: float
    alone: float
    helps_to: float
    top: float

    def sides(self) -> Iterator[tuple[str, Build, Drive]]:
        """Yield both, each with what it is called."""
        yield "The base", self.base, self.main
        yield "The helper", self.helper, self.aid


def _together(main: Drive, aid: Drive, start: float, fastest: float) -> float:
    """Return the speed at which both pushes and the road are even, from the fastest downwards."""
    speeds = np.linspace(0.0, 1.2 * fastest, 4000)
    both = np.maximum(push_n(main, speeds), 0.0)
    both = both + np.where(speeds >= start, np.maximum(push_n(aid, speeds), 0.0), 0.0)
    spare = both - main.wheels.road.force_n(speeds, scalar(0.0))
    # From standstill up it stops at the first speed where nothing is left over.
    short = np.flatnonzero(spare < 0)
    if not len(short) or short[0] == 0:
        return 0.0 if len(short) else float(speeds[-1])
    at = int(short[0])
    low, high, a, b = speeds[at - 1], speeds[at], spare[at - 1], spare[at]
    return float(low + (high - low) * a / (a - b))


def _fed_back(aid: Drive, speed_mps: float) -> tuple[float, float]:
    """Return amps and watts into the tap of a helper that is turned faster than its volts."""
    speed_rad_s = aid.motor_rad_s(aid.output_at_mps(scalar(speed_mps)))
    back_v = float(aid.motor.voltage_v(speed_rad_s, scalar(0.0)))
    rest_v = float(aid.pack.open_circuit_v)
    if not np.isfinite(back_v) or back_v <= rest_v:
        return 0.0, 0.0
    ohm = float(aid.pack.resistance_ohm) + float(aid.controller.path_drop_v(scalar(1.0)))
    copper = float(aid.motor.copper_heat_w(scalar(1.0)))
    amps = (back_v - rest_v) / (ohm + copper)
    return amps, amps * rest_v


def _drag_n(aid: Drive, speed_mps: float) -> float:
    """Return what turning the idle helper costs at the wheel."""
    speed_rad_s = aid.motor_rad_s(aid.output_at_mps(scalar(speed_mps)))
    torque = float(aid.motor.shaft_torque_nm(speed_rad_s, scalar(0.0)))
    return max(0.0, -float(aid.force_n(aid.output_nm(scalar(torque)))))


def _tap_share(main: Drive, aid: Drive, speed_mps: float, cells: int, tap: int) -> float:
    """Return amps of tapped cells over those of the others at the speed of both together."""
    base_a, aid_a = _amps(main, speed_mps), _amps(aid, speed_mps)
    if tap == cells or aid_a <= 0:
        return 1.0
    # Where the base draws nothing the tapped cells alone are emptied.
    return (base_a + aid_a) / base_a if base_a > 0.01 * aid_a else MOST_SHARE


MOST_SHARE = 100.0
"""What stands for cells that empty while the others give nothing."""


def _amps(drive: Drive, speed_mps: float) -> float:
    found = float(full_throttle_at(drive, scalar(speed_mps)).battery_current_a)
    return max(found, 0.0) if np.isfinite(found) else 0.0


def _findings(pair: Pair, share: float) -> list[BoostFinding]:
    """Return what speaks against a pair, worst first; every rule of both is asked."""
    found = [
        *_rules(pair),
        *_amps_found(pair),
        *_pack_found(pair),
        *_rpm_found(pair),
        *_fed_found(pair),
        *_helps_found(pair),
    ]
    if share > 1.02:
        say = (
            f"The tapped cells give {share:.1f} times the amps of the others and are empty that "
            "much sooner: balance the pack each time, and let their charge end the ride."
        )
        if share >= MOST_SHARE:
            say = "Only the tapped cells are emptied there: balance the pack each time."
        found.append(BoostFinding(severity="watch", say=say))
    if not found:
        found.append(BoostFinding(severity="ok", say="Nothing known speaks against it."))
    return sorted(found, key=lambda one: ORDER[one.severity])


ORDER = {"stop": 0, "watch": 1, "ok": 2}

SPEEDS = 200

OF_HELPER = {
    "controller_volts",
    "capacitor_volts",
    "controller_min_volts",
    "motor_volts",
    "free_rpm",
    "electrical_rpm",
    "sensor_match",
    "outputs",
    "timing_sum",
    "regeneration_full",
    "throttle_signal",
}
"""Rules that hold of the helper on its tap whatever the vehicle does."""


def _rules(pair: Pair) -> Iterator[BoostFinding]:
    for label, build, _ in pair.sides():
        verdicts, _ = judge_all(RuleContext.of(build, cures=False))
        for seen in verdicts:
            counts = seen.id in OF_HELPER or build is pair.base
            if counts and seen.severity == "stop":
                yield BoostFinding(severity="stop", say=f"{label}: {seen.title}.")


def _amps_found(pair: Pair) -> Iterator[BoostFinding]:
    """Yield motors and controllers over their ratings at any speed at which they push."""
    for label, build, drive in pair.sides():
        begin = pair.start if build is pair.helper else 0.0
        speeds = np.linspace(begin, max(pair.top, begin), SPEEDS)
        at = full_throttle_at(drive, speeds)
        motor_a, pack_a = at.motor_current_a, at.battery_current_a / build.motor.count
        controller = build.controller
        side_a = (
            pack_a if controller.rating_side == "battery" else motor_a / dc_for(Stated(controller))
        )
        for noun, part, amps in (
            ("motor", build.motor, motor_a),
            ("controller", controller, side_a),
        ):
            most = float(np.max(amps))
            lasting = float(amps[-1])
            if part.peak_current_a is not None and most > part.peak_current_a * (1 + 1e-9):
                say = f"{label}'s {noun} carries up to {most:.0f} A of {part.peak_current_a:g}."
                yield BoostFinding(severity="stop", say=say)
            rated = part.continuous_current_a
            if rated is not None and lasting > rated * (1 + 1e-9):
                say = (
                    f"{label}'s {noun} carries {lasting:.0f} A at the top speed, {rated:g} for "
                    "long."
                )
                yield BoostFinding(severity="stop", say=say)
            elif rated is not None and part.peak_current_a is None and most > rated * (1 + 1e-9):
                say = f"{label}'s {noun} carries up to {most:.0f} A, rated {rated:g} for long."
                yield BoostFinding(severity="watch", say=say)


def _pack_found(pair: Pair) -> Iterator[BoostFinding]:
    """Yield tapped cells that give base and helper together more than they may."""
    battery = pair.base.battery
    speeds = np.linspace(0.0, pair.top, SPEEDS)
    base_a = np.maximum(full_throttle_at(pair.main, speeds).battery_current_a, 0.0)
    aid_a = np.maximum(full_throttle_at(pair.aid, speeds).battery_current_a, 0.0)
    both = base_a + np.where(speeds >= pair.start, aid_a, 0.0)
    most, lasting = float(np.max(both)), float(both[-1])
    if battery.peak_current_a is not None and most > battery.peak_current_a * (1 + 1e-9):
        say = f"The tapped cells give up to {most:.0f} A of {battery.peak_current_a:g}."
        yield BoostFinding(severity="stop", say=say)
    rated = battery.continuous_current_a
    if rated is not None and lasting > rated * (1 + 1e-9):
        say = f"The tapped cells give {lasting:.0f} A at the top speed, {rated:g} for long."
        yield BoostFinding(severity="stop", say=say)
    cell = CHEMISTRIES[battery.chemistry]
    cut_v = cell.cut_off_v if battery.cut_off_cell_v is None else battery.cut_off_cell_v
    volts = float(pair.aid.pack.voltage_v(scalar(most))) / pair.helper.battery.series
    if volts < cut_v:
        say = f"With both the tapped cells sag to {volts:.2f} V; cut-off is {cut_v:.2f} V."
        yield BoostFinding(severity="stop", say=say)


def _rpm_found(pair: Pair) -> Iterator[BoostFinding]:
    for label, build, drive in pair.sides():
        limit = build.motor.max_rpm
        rpm = float(rpm_from_rad_s(drive.motor_rad_s(drive.output_at_mps(scalar(pair.top)))))
        if limit is None:
            say = f"{label}'s highest rpm is not known; at the top speed it turns {rpm:,.0f} rpm."
            yield BoostFinding(severity="watch", say=say)
        elif rpm > limit:
            say = (
                f"At the top speed {label.lower()} turns {rpm:,.0f} rpm of {limit:,.0f}: gear it "
                "taller, or let it freewheel."
            )
            yield BoostFinding(severity="stop", say=say)


def _helps_found(pair: Pair) -> Iterator[BoostFinding]:
    if pair.helps_to <= pair.start:
        say = f"It pushes only up to {3.6 * pair.helps_to:.0f} km/h, below where it is switched on."
        yield BoostFinding(severity="stop", say=say)
    elif pair.helps_to < pair.alone:
        say = (
            f"Above {3.6 * pair.helps_to:.0f} km/h it does not push any more: let it freewheel "
            "there."
        )
        yield BoostFinding(severity="watch", say=say)


def _fed_found(pair: Pair) -> Iterator[BoostFinding]:
    """Yield motors that are turned faster than their volts and push back."""
    for label, build, drive in pair.sides():
        amps, watts = _fed_back(drive, pair.top)
        if amps <= 0:
            continue
        back_v = watts / amps + amps * float(drive.pack.resistance_ohm)
        full_v = float(drive.pack.charger_v)
        stands = [
            v
            for v in (build.controller.max_voltage_v, build.controller.capacitor_voltage_v)
            if v is not None
        ]
        charge = build.battery.charge_current_a
        over = charge is None or amps > charge or back_v > full_v
        over = over or any(back_v > volts for volts in stands)
        takes = "how much that takes is not known" if charge is None else f"it takes {charge:g} A"
        say = (
            f"{label}, overspun and connected, would push {amps:.0f} A at up to {back_v:.0f} V "
            f"back, where charging ends at {full_v:.0f} V; {takes}."
        )
        yield BoostFinding(severity="stop" if over else "watch", say=say)
