"""What to measure next: the reading that would take most of the doubt of what one cares about."""

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.calibrate.fit import STEP, Fit
from powertrain.calibrate.predict import Predictor
from powertrain.calibrate.readings import readings_of
from powertrain.compile.build import compile_build
from powertrain.documents.build import Build
from powertrain.documents.log import Log
from powertrain.documents.reading import check_model
from powertrain.doubt.draws import Doubt, drawn_of
from powertrain.results import FigureId, figures_of, results_of

Numbers = NDArray[np.float64]

CARED_FOR: tuple[FigureId, ...] = (
    "top_speed_kmh",
    "range_km",
    "climb_kmh",
    "climb_ms",
    "winding_c",
)
"""Figures whose doubt is to go, the mean of all."""

LEAST_GAIN = 0.005

WAYS: dict[str, str] = {
    "free": "Wheels in the air, full throttle: turns by tachometer, volts and amps at the pack.",
    "static": "Held fast at full throttle, from behind it: thrust by a luggage scale, turns, volts "
    "and amps.",
    "top_speed": "Flat out on the level, both ways: speed by satellite, pack volts and amps.",
    "steady": "Hold its usual speed on the level and read volts and amps at the pack.",
    "coast_down": "Let it roll out from speed, motors off, both ways, and film the display.",
    "launch": "Time a standing start to half of its top speed.",
    "roll_out": "Chalk the loaded tyre and measure one turn by tape.",
    "temperature": "Ride the climb for its length and read the motor's can at once.",
}


class MeasureNext(BaseModel):
    """A kind of reading, how it is done, and the part of the doubt that it would take."""

    kind: str
    what: str
    gain: float


def measure_next(build: Build, doubt: Doubt, fit: Fit) -> MeasureNext | None:
    """Return the reading that would take most of what doubt is left, None where none would."""
    size = len(doubt.inputs)
    if size == 0:
        return None
    covariance = fit.covariance[:size, :size]
    guess = fit.guess[:size]
    slopes = _figure_slopes(build, doubt, guess)
    doubts = np.einsum("fi,ij,fj->f", slopes, covariance, slopes)
    cared = doubts > 1e-18
    if not cared.any():
        return None
    best: MeasureNext | None = None
    for kind, told in _would_tell(build, doubt, guess).items():
        # A reading more takes of the covariance what it has in common with it.
        after = np.linalg.inv(np.linalg.inv(covariance) + told.T @ told)
        left = np.einsum("fi,ij,fj->f", slopes, after, slopes)
        gain = float(np.mean(1 - np.sqrt(np.maximum(left[cared] / doubts[cared], 0.0))))
        if gain > LEAST_GAIN and (best is None or gain > best.gain):
            best = MeasureNext(kind=kind, what=WAYS[kind], gain=gain)
    return best


def _around(guess: Numbers) -> Numbers:
    size = len(guess)
    moves = STEP * np.eye(size)
    return np.concatenate([guess[None], guess + moves, guess - moves])


def _figure_slopes(build: Build, doubt: Doubt, guess: Numbers) -> Numbers:
    deviates = _around(guess)
    drawn = drawn_of(build, doubt, deviates)
    compiled = drawn.applied(compile_build(build, drawn.columns))
    figures = figures_of(compiled, results_of(compiled, fine=False, timed=False))
    size, found = len(guess), []
    for name in CARED_FOR:
        if name not in figures:
            continue
        values: Numbers = np.broadcast_to(figures[name], (len(deviates),))
        scale = abs(float(values[0])) or 1.0
        slope = (values[1 : size + 1] - values[size + 1 :]) / (2 * STEP * scale)
        found.append(np.where(np.isfinite(slope), slope, 0.0))
    return np.array(found)


def _would_tell(build: Build, doubt: Doubt, guess: Numbers) -> dict[str, Numbers]:
    """Return what each kind of reading would tell: slopes by inputs, in standard deviations."""
    observations = _tries(build)
    log = check_model(
        Log,
        {
            "format": "young-torrent.log/1",
            "runs": [{"id": "next", "observations": observations}],
        },
    )
    predictor = Predictor(build, log, doubt)
    deviates = _around(guess)
    told = predictor.predict(0, deviates, {})
    size = len(guess)
    found: dict[str, list[Numbers]] = {}
    for reading in readings_of(log):
        values = told.get((reading.observation, reading.field))
        if values is None:
            continue
        values = values if values.ndim == 1 else values[:, reading.sample]
        middle = float(values[0])
        if not np.isfinite(middle) or middle == 0:
            continue
        # Doubt of an instrument that goes by shares is that of what it would read.
        sigma = reading.sigma * (
            abs(middle) / abs(reading.measured) if _by_share(reading.field) else 1
        )
        slope = (values[1 : size + 1] - values[size + 1 :]) / (2 * STEP * sigma)
        found.setdefault(reading.kind, []).append(np.where(np.isfinite(slope), slope, 0.0))
    return {kind: np.array(rows) for kind, rows in found.items()}


def _by_share(field: str) -> bool:
    return field.endswith(("_a", "_v", "rpm"))


def _tries(build: Build) -> list[dict[str, object]]:
    """Return the readings that could be taken, with figures of about the right size."""
    results = results_of(compile_build(build), fine=False, timed=False)
    top = 3.6 * float(results.moments.top_speed.state.speed_mps)
    cruise = 3.6 * float(results.moments.cruise.state.speed_mps)
    pack = {"battery_voltage_v": 40.0, "battery_current_a": 10.0}
    found: list[dict[str, object]] = [{"kind": "free", "motor_rpm": 3000.0, **pack}]
    if build.propeller is not None:
        found.append({"kind": "static", "thrust_n": 10.0, "motor_rpm": 3000.0, **pack})
    if build.wheel is None or not top > 1:
        return found
    coast = [
        {"t_s": float(at), "speed_kmh": max(top * (1 - at / 60), 1.0)} for at in range(0, 41, 2)
    ]
    found += [
        {"kind": "top_speed", "speed_kmh": top, **pack},
        {"kind": "coast_down", "samples": coast},
        {"kind": "launch", "to_kmh": float(f"{0.5 * top:.2g}"), "time_s": 3.0},
        {"kind": "roll_out", "rolling_circumference_mm": build.wheel.rolling_circumference_mm},
        {"kind": "temperature", "moment": "climb", "after_s": 60.0, "case_c": 50.0},
    ]
    if cruise > 1:
        found.append({"kind": "steady", "speed_kmh": cruise, **pack})
    return found
