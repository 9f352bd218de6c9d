"""What a speed alone says, where nothing else was logged: turns, amps, and the load factor.

Turns are those of the gearing and the tyre; amps what holding that speed takes by the engine, or
what full throttle gives there; the load factor that of the trade's formula (`operating.derate`).
"""

from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.calibrate.predict import AsRidden
from powertrain.compile.build import compile_build
from powertrain.documents.build import Build
from powertrain.documents.log import Log, Steady, TopSpeed
from powertrain.documents.paths import changed, number_at
from powertrain.documents.reading import check_build
from powertrain.instruments.tools import TOOLS
from powertrain.operating.derate import implied_load_factor
from powertrain.operating.in_air import in_air
from powertrain.operating.steady import steady
from powertrain.operating.top_speed import top_speed
from powertrain.plain import number
from powertrain.runs.starts import as_it_starts
from powertrain.units import kmh_from_mps, mps_from_kmh


class Implied(BaseModel):
    """What follows from a speed that was read; `load_factor` of full throttle alone."""

    run: str
    speed_kmh: float
    motor_rpm: float
    wheel_rpm: float
    motor_current_a: float | None
    battery_current_a: float | None
    load_factor: float | None
    kv_rpm_per_v: float | None
    """With which this top speed would be reached, all else as it is taken."""


class TimedSpeed(BaseModel):
    """A speed by stopwatch over a marked way, and how far off the watch may make it."""

    speed_kmh: float
    speed_kmh_tolerance: float


def timed_speed(way_m: float, time_s: float) -> TimedSpeed:
    """Return the mean speed over a way or a lap; its doubt is the watch's, at both ends alike."""
    speed = scalar(kmh_from_mps(way_m / time_s))
    doubt = TOOLS["stopwatch"].tolerance(time_s) / time_s
    return TimedSpeed(speed_kmh=float(speed), speed_kmh_tolerance=float(speed * doubt))


KV_SHARE = 2.0
"""Times the stated KV within which another is looked for."""


def _kv_of(build: Build, speed_kmh: float, grade_pct: float) -> float | None:
    """Return the KV whose top speed is `speed_kmh`; None where none within reach is."""
    # Loaded here alone: no other question needs it.
    from scipy.optimize import brentq

    stated = number_at(build, "motor.kv_rpm_per_v")
    if not stated:
        return None
    document = build.model_dump(mode="json", exclude_unset=True)

    def missed(kv: float) -> float:
        other = check_build(changed(document, {"motor.kv_rpm_per_v": kv}))
        state = top_speed(compile_build(other).drive, scalar(grade_pct))
        return float(state.speed_mps) - speed_kmh / 3.6

    least, most = stated / KV_SHARE, stated * KV_SHARE
    if not missed(least) < 0 < missed(most):
        return None
    return float(brentq(missed, least, most, rtol=1e-4))


def implied(build: Build, log: Log) -> list[Implied]:
    """Return what each speed of a log says that stands without turns of the motor."""
    found = []
    for place, run in enumerate(log.runs):
        ridden = AsRidden.of(build, run, place)
        drive = as_it_starts(ridden.build, compile_build(ridden.build), run.start).drive
        if in_air(drive) is not None:
            # Air slips: its speed says nothing of turns.
            continue
        for seen in run.observations:
            if not isinstance(seen, TopSpeed | Steady) or not seen.speed_kmh:
                continue
            if isinstance(seen, TopSpeed) and seen.motor_rpm:
                continue
            speed = scalar(mps_from_kmh(seen.speed_kmh))
            state = steady(drive, speed, scalar(seen.grade_pct))
            flat_out = isinstance(seen, TopSpeed)
            found.append(
                Implied(
                    run=run.id,
                    speed_kmh=seen.speed_kmh,
                    motor_rpm=float(state.motor_rpm),
                    wheel_rpm=float(state.motor_rpm / drive.train.ratio),
                    motor_current_a=number(state.motor_current_a),
                    battery_current_a=number(state.battery_current_a),
                    load_factor=number(implied_load_factor(drive, state)) if flat_out else None,
                    kv_rpm_per_v=_kv_of(ridden.build, seen.speed_kmh, seen.grade_pct)
                    if flat_out
                    else None,
                )
            )
    return found
