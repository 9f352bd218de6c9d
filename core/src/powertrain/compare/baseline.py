"""The other school: a table by class of vehicle, beside what is computed for this one.

The table holds what builders of such vehicles tell each other (common practice, no source). It
knows neither the hill nor the load; where it differs from the computed need, the difference is
told by what it takes for granted.
"""

import math
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_drive
from powertrain.documents.build import Build
from powertrain.errors import Refusal
from powertrain.plain import two_digits
from powertrain.units import mps_from_kmh


@dataclass(frozen=True)
class VehicleClass:
    """One line of the table; ranges are from low to high.

    `mass_kg`, `grade_pct` and `speed_kmh` are what it takes for granted, `wheel_mm` the
    circumference of its wheels.
    """

    id: str
    title: str
    mass_kg: tuple[float, float]
    wheel_mm: tuple[float, float]
    speed_kmh: float
    grade_pct: float
    motor_w: tuple[float, float]
    controller_a: float
    cells: tuple[int, int]


CLASSES: tuple[VehicleClass, ...] = (
    VehicleClass(
        "small_model", "Model up to 3 kg", (0.3, 3), (80, 480), 45, 5, (150, 600), 45, (2, 3)
    ),
    VehicleClass(
        "large_model", "Model of 3 to 15 kg", (3, 15), (250, 800), 55, 5, (600, 2500), 100, (4, 8)
    ),
    VehicleClass(
        "robot",
        "Rover or robot of 10 to 60 kg",
        (10, 60),
        (300, 1300),
        8,
        10,
        (100, 500),
        20,
        (6, 10),
    ),
    VehicleClass(
        "board", "Board with its rider", (60, 120), (200, 700), 35, 8, (800, 2500), 50, (8, 12)
    ),
    VehicleClass(
        "scooter",
        "Kick scooter with its rider",
        (70, 130),
        (600, 950),
        25,
        8,
        (250, 600),
        20,
        (9, 13),
    ),
    VehicleClass(
        "bicycle",
        "Bicycle with its rider",
        (80, 150),
        (1500, 2400),
        25,
        8,
        (250, 750),
        20,
        (10, 14),
    ),
    VehicleClass(
        "cargo", "Cargo cycle or trike", (140, 350), (1100, 2300), 25, 8, (500, 1200), 35, (12, 16)
    ),
    VehicleClass(
        "kart",
        "Kart, mower or small tractor",
        (150, 600),
        (700, 2200),
        25,
        15,
        (1500, 6000),
        150,
        (13, 24),
    ),
    VehicleClass(
        "car",
        "Light car conversion",
        (400, 1500),
        (1400, 2200),
        70,
        8,
        (8000, 30000),
        300,
        (24, 60),
    ),
)
"""Common practice, no source."""


class BaselineRow(BaseModel):
    """What the table says of one thing, and what is computed; None where there is no such end."""

    id: str
    label: str
    unit: str
    low: float | None
    high: float | None
    computed: float
    stands: Literal["below", "within", "above"]
    why: str


class ClassName(BaseModel):
    """One line of the table to choose."""

    id: str
    title: str


class BaselineAnswer(BaseModel):
    """The table's line for a vehicle beside the computed need."""

    chosen: str
    title: str
    assumes: str
    classes: list[ClassName]
    rows: list[BaselineRow]
    say: str


def baseline(build: Build, chosen: str | None = None) -> BaselineAnswer:
    """Return the table's line for a build's vehicle and where the computed need differs.

    Raises
    ------
    Refusal
        If no such class is in the table.
    """
    line = _class_of(build) if chosen is None else _named(chosen)
    answer = solve(build)
    moments = {moment.id: moment for moment in answer.moments}
    hill, trip = moments["climb"], moments["cruise"]
    lasting = [moment for moment in (hill, trip) if moment.met] or [hill]
    shaft_w = max(moment.state.shaft_w for moment in lasting)
    motor_a = max(moment.state.motor_current_a for moment in lasting)
    rows = [
        _row(
            "motor_w",
            "Motor for long, all shafts",
            "W",
            line.motor_w,
            shaft_w,
            _power_why(build, line, hill.state.speed_mps, hill.state.grade_pct),
        ),
        _row(
            "controller_a",
            "Controller for long",
            "A",
            (line.controller_a, None),
            motor_a,
            "The table means amps on its label, at whatever side; computed are motor amps on the "
            "hill or at cruise, whichever are more. A slower winding or taller wheel asks for "
            "more of them at the same watts.",
        ),
        _row(
            "cells",
            "Cells in series",
            "cells",
            line.cells,
            float(build.battery.series),
            "More cells for the same watts mean fewer amps; the table only says what is usual.",
        ),
    ]
    away = [row for row in rows if row.stands != "within"]
    say = (
        "Table and computation agree here."
        if not away
        else "They differ in " + ", ".join(row.label.lower() for row in away) + "."
    )
    return BaselineAnswer(
        chosen=line.id,
        title=line.title,
        assumes=f"{line.mass_kg[0]:g} to {line.mass_kg[1]:g} kg, {line.speed_kmh:g} km/h, hills "
        f"to {line.grade_pct:g} %",
        classes=[ClassName(id=one.id, title=one.title) for one in CLASSES],
        rows=rows,
        say=say,
    )


def _named(chosen: str) -> VehicleClass:
    found = next((one for one in CLASSES if one.id == chosen), None)
    if found is None:
        raise Refusal("chosen", f"must be one of {', '.join(one.id for one in CLASSES)}")
    return found


def _class_of(build: Build) -> VehicleClass:
    """Return the line that mass and wheel fall into; of several, the nearest to its middle."""
    mass, round_mm = build.vehicle.mass_kg, build.driven_wheel.rolling_circumference_mm
    speed = build.moments.cruise_kmh or build.moments.climb_speed_kmh

    def apart(value: float, low: float, high: float) -> float:
        return abs(math.log(value / math.sqrt(low * high)))

    def outside(value: float, low: float, high: float) -> float:
        return math.log(max(low / value, value / high, 1.0))

    def far(one: VehicleClass) -> float:
        slow = 0.0 if speed is None else apart(speed, 0.5 * one.speed_kmh, one.speed_kmh)
        beyond = outside(mass, *one.mass_kg) + outside(round_mm, *one.wheel_mm)
        near = apart(mass, *one.mass_kg) / 2 + apart(round_mm, *one.wheel_mm) + slow / 2
        return 4 * beyond + near

    return min(CLASSES, key=far)


def _row(
    key: str, label: str, unit: str, said: tuple[float, float | None], computed: float, why: str
) -> BaselineRow:
    low, high = said
    stands: Literal["below", "within", "above"] = "within"
    if (high is not None and computed > high) or (high is None and computed > low):
        stands = "above"
    elif high is not None and computed < low:
        stands = "below"
    return BaselineRow(
        id=key,
        label=label,
        unit=unit,
        low=low,
        high=high,
        computed=computed,
        stands=stands,
        why=why,
    )


def _power_why(build: Build, line: VehicleClass, speed_mps: float, grade_pct: float) -> str:
    """Return what the table's own vehicle would take at the wheel, and what this one takes."""
    road = compile_drive(build).wheels.road
    here_w = float(road.force_n(scalar(speed_mps), scalar(grade_pct))) * speed_mps
    middle_kg = math.sqrt(line.mass_kg[0] * line.mass_kg[1])
    update = {"mass_kg": middle_kg}
    there = build.model_copy(update={"vehicle": build.vehicle.model_copy(update=update)})
    # On the hill people of this school expect half of the usual speed.
    slow_mps = float(mps_from_kmh(scalar(line.speed_kmh / 2)))
    there_n = compile_drive(there).wheels.road.force_n(scalar(slow_mps), scalar(line.grade_pct))
    there_w = float(there_n) * slow_mps
    return (
        f"The table thinks of {two_digits(middle_kg)} kg going up {line.grade_pct:g} % at half its "
        f"speed, about {two_digits(there_w)} W at the wheel; here the hill of "
        f"{two_digits(grade_pct)} % takes {two_digits(here_w)} W."
    )
