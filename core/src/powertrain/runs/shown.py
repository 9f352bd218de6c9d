"""A ride as a screen shows it: its figures, and as many of its moments as a picture can hold."""

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.documents.run import Run
from powertrain.heat.limits import NODES
from powertrain.plain import limit_word
from powertrain.runs.answer import COLUMNS, RunAnswer, ridden_draws, rows_of, run_answer
from powertrain.runs.left import left_bands, left_km
from powertrain.runs.ride import ride
from powertrain.runs.step_length import step_of
from powertrain.runs.verdicts import ride_verdicts
from powertrain.verdicts.verdict import Verdict

MOST_SHOWN = 600
"""Moments of a picture; figures and the table know all of them."""

STREAM = {
    "cells_w": "cells_w",
    "pack_heat_w": "pack_heat_w",
    "terminals_w": "terminals_w",
    "controller_heat_w": "controller_heat_w",
    "copper_heat_w": "copper_heat_w",
    "brush_heat_w": "brush_heat_w",
    "turning_heat_w": "no_load_loss_w",
    "auxiliaries_w": "auxiliaries_w",
    "shaft_w": "shaft_w",
    "road_w": "output_w",
    "air_w": "air_w",
    "rolling_w": "rolling_w",
    "climbing_w": "climbing_w",
    "speeding_up_w": "kinetic_w",
    "brakes_w": "brakes_w",
}
"""Watts of the stream by their names there, from those of a step."""


STIRRED = ("wake_w", "blades_w", "water_w")
"""Of a craft, too: what its propellers leave in the air, and the water's drag."""


class RideShown(BaseModel):
    """A ride's figures, and its moments by column.

    `rows` are those of the table and the watts of the stream, None where there is no such value;
    `height_m` is the road's above its lowest place. `limits_c` are what parts may reach. `left_km`
    is how much further the pack goes from there, `left_band` its 10, 50 and 90 % points, empty
    without draws.
    """

    told: RunAnswer
    verdicts: list[Verdict]
    rows: dict[str, list[float | None]]
    limited_by: list[str]
    height_m: list[float]
    limits_c: dict[str, float]
    left_km: list[float | None]
    left_band: list[list[float | None]]


def shown(run: Run, *, draws: int = 0) -> RideShown:
    """Return a ride with its picture."""
    ridden = ride(run, step_s=step_of(run))
    rows, steps = rows_of(run, ridden), ridden.rows
    assert steps is not None
    count = len(rows["time_s"])
    places = np.unique(np.linspace(0, count - 1, min(count, MOST_SHOWN)).round().astype(int))
    middle = np.maximum(places - 1, 0)
    columns = {name: _listed(rows[name][places]) for name in COLUMNS[:-1]}
    columns |= {name: _listed(steps[of][middle]) for name, of in STREAM.items()}
    columns |= {name: _listed(steps[name][middle]) for name in STIRRED if name in steps}
    gearing = steps["shaft_w"] - steps["output_w"]
    columns["gearing_heat_w"] = _listed(gearing[middle])
    height = _heights(rows["distance_m"], rows["grade_pct"])
    limits = ridden.compiled.limits
    many = ridden_draws(run, ridden, draws) if draws else None
    told = run_answer(run, ridden=ridden, many=many)
    at_m, charge = rows["distance_m"][places], rows["soc_pct"][places] / 100
    bands = [] if many is None else [_listed(one) for one in left_bands(run, many, at_m)]
    return RideShown(
        told=told,
        verdicts=ride_verdicts(run, told, ridden),
        rows=columns,
        limited_by=[limit_word(code) or "" for code in rows["limited_by"][places]],
        height_m=[float(value) for value in height[places]],
        limits_c={key: float(limits.of(key)) for key in NODES},
        left_km=_listed(left_km(run, ridden, at_m, charge)),
        left_band=bands,
    )


def _heights(at_m: NDArray[np.float64], grade_pct: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return the height along the way, from its slopes, above the lowest place."""
    slope = grade_pct[1:] / 100
    rises = np.diff(at_m) * slope / np.sqrt(1 + slope * slope)
    height = np.append(0.0, np.cumsum(rises))
    found: NDArray[np.float64] = height - height.min()
    return found


def _listed(values: NDArray[np.float64]) -> list[float | None]:
    return [float(f"{value:.6g}") if np.isfinite(value) else None for value in values]
