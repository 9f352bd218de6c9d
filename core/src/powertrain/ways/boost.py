"""A second motor that helps above some speed, on a tap of the pack."""

from typing import Literal

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.errors import Refusal
from powertrain.operating.free import free_running
from powertrain.operating.full_throttle import fastest_mps, full_throttle, push_n
from powertrain.operating.top_speed import top_speed_mps
from powertrain.units import kmh_from_mps, mps_from_kmh, rpm_from_rad_s

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
    if not 1 <= tap_cells <= base.battery.series:
        raise Refusal("tap_cells", f"must be 1 to the {base.battery.series} of the pack")
    tapped = helper.model_copy(
        update={
            "battery": base.battery.model_copy(update={"series": tap_cells}),
            "vehicle": base.vehicle,
            "conditions": base.conditions,
        }
    )
    main, aid = Drive.of(base), Drive.of(tapped)
    alone = float(top_speed_mps(main, scalar(0.0)))
    helps_to = float(fastest_mps(aid))
    start = float(mps_from_kmh(scalar(from_kmh)))
    together = _together(main, aid, start, max(alone, helps_to))
    speeds = np.linspace(0.0, 1.15 * max(together, alone), POINTS)
    helper_n = np.where(speeds >= start, np.maximum(push_n(aid, speeds), 0.0), 0.0)
    top = max(together, alone)
    rpm = float(rpm_from_rad_s(aid.motor_speed_rad_s(scalar(top))))
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
        findings=_findings(tapped, aid, rpm, start, alone, helps_to, feeds_a, share),
    )


def _together(main: Drive, aid: Drive, start: float, fastest: float) -> float:
    """Return the speed at which both pushes and the road are even, from the fastest downwards."""
    speeds = np.linspace(0.0, 1.2 * fastest, 4000)
    both = np.maximum(push_n(main, speeds), 0.0)
    both = both + np.where(speeds >= start, np.maximum(push_n(aid, speeds), 0.0), 0.0)
    spare = both - main.road.force_n(speeds, scalar(0.0))
    # From standstill up it stops at the first speed where nothing is left over.
    short = np.flatnonzero(spare < 0)
    if not len(short) or short[0] == 0:
        return 0.0 if len(short) else float(speeds[-1])
    at = int(short[0])
    low, high, a, b = speeds[at - 1], speeds[at], spare[at - 1], spare[at]
    return float(low + (high - low) * a / (a - b))


def _fed_back(aid: Drive, speed_mps: float) -> tuple[float, float]:
    """Return amps and watts into the tap of a helper that is turned faster than its volts."""
    speed_rad_s = aid.motor_speed_rad_s(scalar(speed_mps))
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
    speed_rad_s = aid.motor_speed_rad_s(scalar(speed_mps))
    torque = float(aid.motor.shaft_torque_nm(speed_rad_s, scalar(0.0)))
    return max(0.0, -float(aid.wheel_force_n(scalar(torque))))


def _tap_share(main: Drive, aid: Drive, speed_mps: float, cells: int, tap: int) -> float:
    """Return amps of tapped cells over those of the others at the speed of both together."""
    base_a, aid_a = _amps(main, speed_mps), _amps(aid, speed_mps)
    return 1.0 if base_a <= 0 or tap == cells else (base_a + aid_a) / base_a


def _amps(drive: Drive, speed_mps: float) -> float:
    found = float(full_throttle(drive, scalar(speed_mps)).battery_current_a)
    return max(found, 0.0) if np.isfinite(found) else 0.0


def _findings(
    helper: Build,
    aid: Drive,
    rpm: float,
    start: float,
    alone: float,
    helps_to: float,
    feeds_a: float,
    share: float,
) -> list[BoostFinding]:
    found = []
    limit = helper.motor.max_rpm
    if limit is None:
        found.append(
            BoostFinding(
                severity="watch",
                say="The helper's highest rpm is not known; at "
                f"the top speed it turns {rpm:,.0f} rpm.",
            )
        )
    elif rpm > limit:
        found.append(
            BoostFinding(
                severity="stop",
                say="At the top speed the helper turns "
                f"{rpm:,.0f} rpm of {limit:,.0f}: gear it taller, or let it "
                "freewheel.",
            )
        )
    if helps_to <= start:
        say = f"It pushes only up to {3.6 * helps_to:.0f} km/h, below where it is switched on."
        found.append(BoostFinding(severity="stop", say=say))
    elif helps_to < alone:
        found.append(
            BoostFinding(
                severity="watch",
                say="Above "
                f"{3.6 * helps_to:.0f} km/h it does not push any more: let it "
                "freewheel there.",
            )
        )
    if feeds_a > 0:
        charge = helper.battery.charge_current_a
        over = charge is not None and feeds_a > charge
        found.append(
            BoostFinding(
                severity="stop" if over or charge is None else "watch",
                say=f"Overspun and connected it would push {feeds_a:.0f} A into "
                "its tap"
                + (
                    f", which takes {charge:g} A."
                    if charge
                    else "; how much that takes is not known."
                ),
            )
        )
    if share > 1.02:
        say = (
            f"The tapped cells give {share:.1f} times the amps of the others and are empty that "
            "much sooner: balance the pack each time, and let their charge end the ride."
        )
        found.append(BoostFinding(severity="watch", say=say))
    free = float(free_running(aid).full_charge.motor_rpm)
    if not aid.motor.races_unloaded and limit is not None and free > limit:
        found.append(
            BoostFinding(
                severity="stop",
                say=f"In the air on a fresh tap it turns {free:,.0f} rpm of {limit:,.0f}.",
            )
        )
    if not found:
        found.append(BoostFinding(severity="ok", say="Nothing known speaks against it."))
    return found
