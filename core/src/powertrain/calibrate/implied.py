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
from powertrain.operating.derate import implied_load_factor
from powertrain.operating.steady import steady
from powertrain.plain import number
from powertrain.runs.starts import as_it_starts
from powertrain.units import mps_from_kmh


class Implied(BaseModel):
    """What follows from a speed that was read; `load_factor` of full throttle alone."""

    run: str
    speed_kmh: float
    motor_rpm: float
    wheel_rpm: float
    motor_current_a: float | None
    battery_current_a: float | None
    load_factor: float | None


def implied(build: Build, log: Log) -> list[Implied]:
    """Return what each speed of a log says that stands without turns of the motor."""
    found = []
    for place, run in enumerate(log.runs):
        ridden = AsRidden.of(build, run, place)
        drive = as_it_starts(ridden.build, compile_build(ridden.build), run.start).drive
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
                )
            )
    return found
