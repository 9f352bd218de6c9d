"""The bands of a bench answer, and which guess to measure next."""

from collections.abc import Callable, Mapping

import numpy as np

from powertrain.arrays import Array, filled
from powertrain.bench.answer import Band, DoubtAnswer, FigureDoubt, Weak
from powertrain.bench.numbers import state_figures
from powertrain.documents.build import Build
from powertrain.doubt.bands import Shares, bands_of, shares_of
from powertrain.doubt.draws import DRAWS, Doubt, variants
from powertrain.drive import Drive
from powertrain.heat.limits import NODES
from powertrain.levers.board import Sweep, sweep_of
from powertrain.operating.distance import range_km
from powertrain.operating.steady import energy_wh_per_km
from powertrain.plain import number
from powertrain.results import FigureId

DRAWN = slice(1, 1 + DRAWS)

WITHOUT = {"grade_pct", "brush_heat_w", "cells_w"}
"""Figures of a state that have no band: exact ones, and what others stand for."""

WEAKEST = 3
"""How many guesses are named for a figure."""

WORTH_NAMING = 0.02
"""A guess that makes less of a figure's doubt is not named."""


def band_of(samples: Array) -> Band:
    """Return the band of one figure."""
    return _band(bands_of(samples))


def figure_bands(build: Build) -> dict[FigureId, Band]:
    """Return the bands of a build's main figures, as the bench has them, without its levers."""
    sweep = sweep_of(build, Doubt.of(build), ())
    points = bands_of(_figures_drawn(sweep))
    return {key: _band(band) for key, band in zip(sweep.figures, points, strict=True)}


def drive_bands(
    build: Build, told: Callable[[Drive], Mapping[str, Array | None]]
) -> dict[str, Band]:
    """Return the bands of figures that a drive alone tells, in the draws of the bench.

    Parameters
    ----------
    told : callable
        Tells figures of one drive or of many; None for one that there is not.
    """
    many = variants(build, Doubt.of(build))
    return {
        key: band_of(_drawn(values, len(many.draws)))
        for key, values in told(many.compiled.drive).items()
        if values is not None
    }


def _figures_drawn(sweep: Sweep) -> Array:
    """Return the main figures at the draws, a row each."""
    return np.stack([values[DRAWN] for values in sweep.figures.values()])


def _band(points: Array) -> Band:
    low, mid, high = points.tolist()
    return [number(low), number(mid), number(high)]


def moment_bands(sweep: Sweep) -> list[dict[str, Band]]:
    """Return the bands of every figure at each moment."""
    compiled, heat = sweep.variants.compiled, sweep.results.heat
    series = compiled.ratings.pack.series
    names: list[tuple[int, str]] = []
    samples: list[Array] = []
    for index, moment in enumerate(sweep.results.moments.all()):
        state = moment.state
        told = state_figures(compiled.drive.load, state)
        figures = {name: value for name, value in told.items() if name not in WITHOUT}
        figures["cell_voltage_v"] = state.battery_voltage_v / series
        figures["motor_heat_w"] = state.motor_heat_w
        figures["efficiency"] = state.efficiency
        figures["energy_wh_per_km"] = energy_wh_per_km(state)
        figures["range_km"] = range_km(compiled.drive, compiled.settings.usable, state)
        figures |= {f"{node}_c": getattr(heat, node).after_c[index] for node in NODES}
        for name, values in figures.items():
            names.append((index, name))
            samples.append(_drawn(values, len(sweep.variants.draws)))
    points = bands_of(np.array(samples))
    plain = np.where(np.isfinite(points), points, None).tolist()  # type: ignore[call-overload]
    found: list[dict[str, Band]] = [{} for _ in sweep.results.moments.all()]
    for (index, name), three in zip(names, plain, strict=True):
        found[index][name] = three
    return found


def _drawn(values: Array, rows: int) -> Array:
    return filled(values, (rows,))[DRAWN]


def doubt_answer(doubt: Doubt, sweep: Sweep) -> DoubtAnswer:
    """Return the bands of the main figures, their weakest guesses, and what to measure next."""
    figures: dict[FigureId, FigureDoubt] = {}
    drawn = _figures_drawn(sweep)
    shares, bands = shares_of(doubt, drawn), bands_of(drawn)
    order = np.argsort(-shares.share, axis=1)[:, :WEAKEST]
    for row, (key, band) in enumerate(zip(sweep.figures, bands, strict=True)):
        figures[key] = FigureDoubt(
            value=number(sweep.figures[key][0]),
            band=_band(band),
            weakest=[
                _weak(doubt, shares, row, int(index))
                for index in order[row]
                if shares.share[row, index] > WORTH_NAMING
            ],
        )
    return DoubtAnswer(figures=figures, measure_next=_next(doubt, shares))


def _weak(doubt: Doubt, shares: Shares, row: int, index: int) -> Weak:
    item = doubt.inputs[index]
    return Weak(
        path=item.path,
        label=item.label,
        origin=item.origin,
        tolerance_pct=100 * item.tolerance,
        share=float(shares.share[row, index]),
        width_left=float(shares.width_left[row, index]),
        how=item.how,
    )


def _next(doubt: Doubt, shares: Shares) -> Weak | None:
    """Return the guess that narrows the figures most, all of them counted alike."""
    if not doubt.inputs:
        return None
    gains = (1 - shares.width_left).sum(axis=0)
    index = int(np.argmax(gains))
    if gains[index] <= WORTH_NAMING:
        return None
    return _weak(doubt, shares, int(np.argmin(shares.width_left[:, index])), index)
