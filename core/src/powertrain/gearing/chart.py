"""The speed chart: packs in their states against windings, free and loaded."""

from typing import Any, Literal

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import Array
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.bench.bands import drive_bands
from powertrain.compile.build import compile_drive
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.shelf import Shelf
from powertrain.gearing.windings import can_of, winding_change
from powertrain.motor.kinds import winding_of
from powertrain.operating.free import free_running
from powertrain.operating.on_road import fastest_mps
from powertrain.operating.top_speed import top_speed_mps
from powertrain.plain import number
from powertrain.stated import Stated
from powertrain.units import rpm_from_rad_s
from powertrain.verdicts.rules.rpm_window import FAST_RPM, HIGH_RPM, LOW_RPM, SMALL_KG

StateId = Literal["charger", "full", "nominal", "storage", "empty"]
STATES: tuple[StateId, ...] = ("charger", "full", "nominal", "storage", "empty")

AROUND = 3
"""Cells shown on either side of the present pack."""


class ChartCell(BaseModel):
    """One pack with one winding: rpm by state, and the values that set it on the bench."""

    free_rpm: list[float | None]
    loaded_rpm: list[float | None]
    change: dict[str, Any]


class ChartAnswer(BaseModel):
    """Rows of packs, columns of windings; each cell's rpm go with `states`.

    `window_rpm` is what one school aims small fast motors at, at storage volts; the other takes
    all of `limit_rpm`. None where it is not spoken of. `within_pct` is how far all rpm may be off
    either way, four times in five; None where it can't be told.
    """

    cells: list[int]
    windings: list[float]
    unit: str
    states: list[StateId]
    rows: list[list[ChartCell]]
    own: list[int]
    limit_rpm: float | None
    window_rpm: list[float] | None
    schools: str
    within_pct: float | None


def speed_chart(build: Build, shelf: Shelf) -> ChartAnswer:
    """Return the chart around a build."""
    build.without_propeller()
    cells = [
        s for s in range(build.battery.series - AROUND, build.battery.series + AROUND + 1) if s >= 1
    ]
    winding, family = winding_of(Stated(build.motor)), can_of(build, shelf) or [(0.0, None)]
    numbers = [number for number, _ in family]
    changes = [winding_change(build, number, stated) for number, stated in family]
    volts = [getattr(CHEMISTRIES[build.battery.chemistry], f"{state}_v") for state in STATES]
    document = build.model_dump(mode="json", exclude_unset=True)
    found = [
        _rpm(check_build(changed(document, change)) if change else build, cells, volts)
        for change in changes
    ]
    free, loaded = (np.stack([one[side] for one in found], axis=1) for side in (0, 1))
    rows = [
        [
            ChartCell(
                free_rpm=_listed(free[i, j]),
                loaded_rpm=_listed(loaded[i, j]),
                change={**changes[j], "battery.series": series},
            )
            for j in range(len(changes))
        ]
        for i, series in enumerate(cells)
    ]
    own = (cells.index(build.battery.series), _own(numbers, winding.value if winding else None))
    small = build.vehicle.mass_kg <= SMALL_KG and float(np.nanmax(free)) > FAST_RPM
    return ChartAnswer(
        cells=cells,
        windings=numbers,
        unit=winding.unit if winding else "",
        states=list(STATES),
        rows=rows,
        own=own,
        limit_rpm=build.motor.max_rpm,
        window_rpm=(LOW_RPM, HIGH_RPM) if small else None,
        schools=SMALL_SCHOOLS if small else SCHOOLS,
        within_pct=_within_pct(build),
    )


def _within_pct(build: Build) -> float | None:
    """Return how sure free rpm are; the guesses are the same for every cell of the chart."""
    bands = drive_bands(build, lambda drive: {"rpm": free_running(drive).now.motor_rpm})
    low, middle, high = bands["rpm"]
    if low is None or high is None or not middle:
        return None
    return 50 * (high - low) / middle


SMALL_SCHOOLS = (
    "One school aims small fast motors at 36,000 to 38,000 rpm at storage volts, since that "
    "balances speed and heat. The other uses all the rated rpm: half the rpm is half the power."
)
SCHOOLS = (
    "One school stays at the maker's cells. The other goes by the limits alone: rpm free at full "
    "charge, controller volts, heat."
)


def _own(numbers: list[float], value: float | None) -> int:
    return next((place for place, number in enumerate(numbers) if number == value), 0)


def _rpm(build: Build, cells: list[int], volts: list[float]) -> tuple[Array, Array]:
    """Return free rpm and rpm at top speed, cells by cell volts, in one array."""
    shape = (len(cells), len(volts))
    series, cell_v = np.repeat(np.array(cells, float), len(volts)), np.tile(volts, len(cells))
    drive = compile_drive(build, {"battery.series": series, "battery.cell_voltage_v": cell_v})
    count = len(series)
    free = np.broadcast_to(free_running(drive).now.motor_rpm, (count,))
    near = 0.8 * np.broadcast_to(fastest_mps(drive), (count,))
    near = np.where(np.isfinite(near) & (near > 0), near, 10.0)
    speed = np.broadcast_to(top_speed_mps(drive, np.zeros(count), near), (count,))
    tallest = drive.in_gear(drive.train.gears[-1])
    loaded = np.broadcast_to(
        rpm_from_rad_s(tallest.motor_rad_s(tallest.output_at_mps(speed))), (count,)
    )
    return np.array(free).reshape(shape), loaded.reshape(shape)


def _listed(values: Array) -> list[float | None]:
    return [number(value) for value in values]
