"""One step of the throttle: its volts, its speed, and how slowly the build can be made to go."""

from collections.abc import Iterator
from typing import Any

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import Array, scalar
from powertrain.compile.build import compile_drive
from powertrain.controller.curve import ThrottleCurve
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.vehicle import ToothedStage
from powertrain.drive import Drive
from powertrain.errors import Refusal
from powertrain.levers.rules.winding import slower_winding
from powertrain.motor.kinds import winding_of
from powertrain.plain import number
from powertrain.stated import Stated
from powertrain.units import kmh_from_mps

FINE_STEPS = 2048
"""Steps of a fine controller; common practice, no source."""

FINE_HALF_PCT = 20.0
"""Half trigger of a curve that crawls well; common practice, no source."""

FEWEST_TEETH = 9


class Ends(BaseModel):
    """A figure of one step at the very slow end, at half trigger and up to full trigger."""

    low: float | None
    half: float | None
    high: float | None


class Slower(BaseModel):
    """One change that makes the slowest steady speed slower, and the speed it makes."""

    path: str
    change: dict[str, Any]
    to_kmh: float


class ThrottlePoint(BaseModel):
    """One point of the curve, which is drawn straight between them."""

    trigger_pct: float
    volts_pct: float


class ThrottleAnswer(BaseModel):
    """The throttle in steps; None where steps, or volts for each speed, are not known."""

    curve: list[ThrottlePoint]
    steps_forward: int | None
    volts_per_step: Ends
    kmh_per_step: Ends
    start_volts: float | None
    slowest_steady_kmh: float | None
    slower_by: list[Slower]


def throttle_of(build: Build) -> ThrottleAnswer:
    """Return the throttle of a build, and what would make it finer."""
    drive = _slow_end(build)
    steps, curve = steps_forward(build), curve_of(build)
    volts, speeds = _ends(drive, steps, curve)
    start_v = start_volts(drive)
    slowest = _slowest_kmh(drive, steps, curve, start_v)
    return ThrottleAnswer(
        curve=[
            ThrottlePoint(trigger_pct=100 * trigger, volts_pct=100 * share)
            for trigger, share in curve.drawn()
        ],
        steps_forward=steps,
        volts_per_step=volts,
        kmh_per_step=speeds,
        start_volts=start_v,
        slowest_steady_kmh=slowest,
        slower_by=[] if slowest is None else list(_slower(build, slowest)),
    )


def steps_forward(build: Build) -> int | None:
    """Return the steps from rest to full trigger: half of all where reverse has the others."""
    said = build.controller
    if said.throttle_steps is None:
        return None
    return said.throttle_steps if said.steps_shared is False else max(said.throttle_steps // 2, 1)


def curve_of(build: Build) -> ThrottleCurve:
    """Return the curve of a build's controller."""
    return ThrottleCurve.of(Stated(build.controller))


def slowest_kmh(build: Build) -> float | None:
    """Return the slowest steady speed: of one whole step, where the motor just turns.

    None where steps or volts are not known, or no step is enough to start.
    """
    drive = _slow_end(build)
    return _slowest_kmh(drive, steps_forward(build), curve_of(build), start_volts(drive))


def start_volts(drive: Drive) -> float | None:
    """Return the least volts at which the motor turns against its friction and the level road.

    ``(T/k + I0)(R + R_controller) + V_brush``, T the road's torque at each shaft. Cogging may ask
    for up to twice as much. None where an inverter chooses the amps.
    """
    motor, controller = drive.motor, drive.controller
    if motor.has_inverter:
        return None
    torque_nm = drive.shaft_torque_for_nm(drive.load.still_nm(drive.load.usual))
    still = scalar(0.0)
    amps = motor.current_at_torque_a(still, torque_nm)
    return number(motor.voltage_v(still, amps) + amps * controller.resistance_ohm)


def kmh_of_volts(drive: Drive, volts: Array) -> Array:
    """Return the speed that so many volts more are, unloaded: through KV, gears and wheel.

    NaN for a motor that has no free speed.
    """
    low = scalar(1.0)
    turns = drive.motor.speed_at_voltage_rad_s(scalar(0.0), low + volts)
    still = drive.motor.speed_at_voltage_rad_s(scalar(0.0), low)
    return kmh_from_mps(drive.speed_mps(drive.output_rad_s(turns - still)))


def _slow_end(build: Build) -> Drive:
    drive = compile_drive(build)
    return drive.in_gear(drive.train.gears[0])


def _ends(drive: Drive, steps: int | None, curve: ThrottleCurve) -> tuple[Ends, Ends]:
    nothing = Ends(low=None, half=None, high=None)
    if steps is None:
        return nothing, nothing
    one = 1 / steps
    at = np.array([0.0, one, 0.5 - one, 0.5 + one, 1.0 - one, 1.0])
    shares = curve.volts_share(np.clip(at, 0.0, 1.0))
    # At half trigger a step is the mean of the one below and the one above.
    width = (min(0.5 + one, 1.0) - max(0.5 - one, 0.0)) / one
    rises = np.array(
        [shares[1] - shares[0], (shares[3] - shares[2]) / width, shares[5] - shares[4]]
    )
    volts = rises * float(drive.pack.open_circuit_v)
    with np.errstate(invalid="ignore"):
        speeds = np.full(3, np.nan)
        if not drive.motor.has_inverter and not drive.motor.races_unloaded:
            speeds = np.asarray(kmh_of_volts(drive, volts))
    names = ("low", "half", "high")
    return (
        Ends(**{name: float(value) for name, value in zip(names, volts, strict=True)}),
        Ends(**{name: number(value) for name, value in zip(names, speeds, strict=True)}),
    )


def _slowest_kmh(
    drive: Drive, steps: int | None, curve: ThrottleCurve, start_v: float | None
) -> float | None:
    rest_v = float(drive.pack.open_circuit_v)
    if steps is None or start_v is None or drive.motor.races_unloaded or start_v > rest_v:
        return None
    step = max(int(np.ceil(curve.trigger_at(start_v / rest_v) * steps - 1e-9)), 1)
    ends = curve.volts_share(np.array([(step - 1) / steps, step / steps]))
    return number(kmh_of_volts(drive, np.asarray(np.diff(ends)[0] * rest_v)))


def _slower(build: Build, slowest: float) -> Iterator[Slower]:
    document = build.model_dump(mode="json", exclude_unset=True)
    found = []
    for path, change in _changes(build):
        try:
            to_kmh = slowest_kmh(check_build(changed(document, change)))
        except Refusal:
            continue
        if to_kmh is not None and to_kmh < slowest * (1 - 1e-9):
            found.append(Slower(path=path, change=change, to_kmh=to_kmh))
    yield from sorted(found, key=lambda one: one.to_kmh)


def _changes(build: Build) -> Iterator[tuple[str, dict[str, Any]]]:
    controller = build.controller
    winding = winding_of(Stated(build.motor))
    if winding is not None:
        yield winding.path, dict(slower_winding(build))
    for index, stage in enumerate(build.gearing):
        if isinstance(stage, ToothedStage) and stage.driver_teeth > FEWEST_TEETH:
            path = f"gearing.{index}.driver_teeth"
            yield path, {path: stage.driver_teeth - 1}
            break
    if build.battery.series > 1:
        yield "battery.series", {"battery.series": build.battery.series - 1}
    steps = controller.throttle_steps or 0
    more = FINE_STEPS if steps < FINE_STEPS else 2 * steps
    yield "controller.throttle_steps", {"controller.throttle_steps": more}
    curve = curve_of(build)
    if not curve.by_points and float(curve.volts_share(np.asarray(0.5))) > FINE_HALF_PCT / 100:
        path = "controller.curve.half_throttle_pct"
        yield path, {path: FINE_HALF_PCT}
