"""What the faces of instruments show while a hidden vehicle is driven: each at its own pace.

Rates and lags are those of ordinary instruments; common practice, no source.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.documents.log import Instrument
from powertrain.documents.run import Run
from powertrain.instruments.tools import TOOLS
from powertrain.runs.answer import rows_of
from powertrain.runs.ride import Ridden

Numbers = NDArray[np.float64]

TICK_S = 0.2
"""A frame of the faces; no instrument shows anything new more often."""

FIX_LOST_EVERY_S, FIX_LOST_S = 150.0, (2.0, 7.0)
"""A satellite receiver loses its fix about so often, for so long."""


@dataclass(frozen=True)
class Face:
    """One figure of one instrument: read every so often, some time behind."""

    id: str
    instrument: Instrument
    column: str
    every_s: float
    lag_s: float


FACES = (
    Face("satellite.speed_kmh", "satellite", "speed_kmh", 0.2, 0.8),
    Face("tachometer.motor_rpm", "tachometer", "motor_rpm", 0.4, 0.0),
    Face("clamp.motor_current_a", "clamp", "motor_current_a", 0.4, 0.4),
    Face("watt_meter.battery_voltage_v", "watt_meter", "battery_voltage_v", 0.6, 0.0),
    Face("watt_meter.battery_current_a", "watt_meter", "battery_current_a", 0.6, 0.0),
    Face("watt_meter.energy_wh", "watt_meter", "energy_wh", 1.0, 0.0),
    Face("infrared.case_c", "infrared", "case_c", 1.0, 0.5),
    Face("infrared.controller_c", "infrared", "controller_c", 1.0, 0.5),
    Face("infrared.pack_c", "infrared", "pack_c", 1.0, 0.5),
)
"""All that can be looked at on the way; the copper inside a motor can't."""


class MeterFrame(BaseModel):
    """What is new on the faces at a time; None where one shows nothing."""

    t_s: float
    shows: dict[str, float | None]


def meter_frames(run: Run, ridden: Ridden, seed: int) -> Iterator[MeterFrame]:
    """Yield a frame for each `TICK_S` of a ride in which some face shows something new."""
    chance = np.random.default_rng([seed, 2])
    rows = rows_of(run, ridden)
    times = rows["time_s"]
    watts = rows["battery_voltage_v"] * rows["battery_current_a"]
    energy = np.append(0.0, np.cumsum(watts[1:] * np.diff(times))) / 3600
    columns: dict[str, Numbers] = {**rows, "energy_wh": energy}
    lost = _fix_lost(float(times[-1]), chance)
    for tick in range(int(np.floor(times[-1] / TICK_S)) + 1):
        at_s = tick * TICK_S
        shows: dict[str, float | None] = {}
        for face in FACES:
            every = round(face.every_s / TICK_S)
            if tick % every:
                continue
            true = float(np.interp(max(at_s - face.lag_s, 0.0), times, columns[face.column]))
            reading = TOOLS[face.instrument].reads(true, chance)
            gone = face.instrument == "satellite" and any(a <= at_s < b for a, b in lost)
            shows[face.id] = None if gone else reading
        if shows:
            yield MeterFrame(t_s=round(at_s, 3), shows=shows)


def _fix_lost(lasts_s: float, chance: np.random.Generator) -> list[tuple[float, float]]:
    found: list[tuple[float, float]] = []
    at = 0.0
    while True:
        at += float(chance.exponential(FIX_LOST_EVERY_S))
        if at >= lasts_s:
            return found
        found.append((at, at + float(chance.uniform(*FIX_LOST_S))))
