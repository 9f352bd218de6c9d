"""The lever board: every single change at hand, with what it gains and what it costs."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import Array, filled
from powertrain.by_then import Then, by_then
from powertrain.documents.build import Build
from powertrain.doubt.bands import bands_of
from powertrain.doubt.draws import DRAWS, Doubt, Variants, variants
from powertrain.levers.lever import Lever, step_word
from powertrain.levers.registry import levers_of
from powertrain.results import FigureId, Results, figures_of, results_of
from powertrain.verdicts.context import Batch
from powertrain.verdicts.registry import stopping_rules
from powertrain.verdicts.verdict import PartId

PAIRED = 8
"""Draws in which each change is compared with the build as it stands; a power of two, as a
quasi-random sequence is balanced there."""

BETTER: dict[FigureId, Literal[1, -1]] = {
    "top_speed_kmh": 1,
    "climb_kmh": 1,
    "launch_s": -1,
    "thrust_to_weight": 1,
    "pitch_speed_kmh": 1,
    "climb_ms": 1,
    "endurance_min": 1,
    "range_km": 1,
    "pack_peak_a": -1,
    "motor_peak_a": -1,
    "winding_c": -1,
    "case_c": -1,
}
"""Whether a builder wishes for more or for less of a figure."""


Effect = list[float]
"""What a change does to one figure: the difference, and its 10 and 90 % points over draws in
which all else is equal. None where the figure is not finite before or after."""


class Row(BaseModel):
    """One press of one lever.

    `stops` says what would stop the build after it and does not now, `clears` what stops it now and
    would not any more.
    """

    lever: str
    step: Literal[1, -1]
    part: PartId
    say: str
    effects: dict[FigureId, Effect | None]
    stops: list[str]
    clears: list[str]


class Board(BaseModel):
    """All rows, and for each wish the order in which they serve it best.

    `now` are the figures as they stand: the range at cruise, the temperatures at the end of the
    climb. `better` says whether more of a figure is wished for, or less.
    """

    now: dict[FigureId, float | None]
    rows: list[Row]
    ranked: dict[FigureId, list[int]]
    better: dict[FigureId, Literal[1, -1]]


@dataclass(frozen=True)
class Sweep:
    """A build as it stands, in its draws, and with each lever pressed; solved in one go."""

    variants: Variants
    results: Results
    figures: dict[FigureId, Array]
    presses: tuple[tuple[Lever, Literal[1, -1]], ...]


def sweep_of(
    build: Build, doubt: Doubt, levers: Sequence[Lever], then: Then | None = None
) -> Sweep:
    """Return the sweep of a build over its draws and the presses of `levers`, as it is by then."""
    presses: list[tuple[Lever, Literal[1, -1]]] = []
    changes: list[dict[str, Any]] = []
    for lever in levers:
        for change, step in ((lever.up, 1), (lever.down, -1)):
            if change is not None:
                presses.append((lever, 1 if step > 0 else -1))
                changes.append(change)
    many = variants(build, doubt, changes, paired=PAIRED)
    many = replace(many, compiled=by_then(build, many.compiled, then))
    results = results_of(many.compiled, fine=False, timed=False)
    figures = figures_of(many.compiled, results)
    rows = len(many.draws)
    whole = {key: np.broadcast_to(value, (rows,)) for key, value in figures.items()}
    return Sweep(many, results, whole, tuple(presses))


def board_of(sweep: Sweep) -> Board:
    """Return the lever board of a sweep."""
    effects, verdicts = _effects(sweep), _verdicts(sweep)
    rows = [
        Row.model_construct(
            lever=lever.id,
            step=step,
            part=lever.part,
            say=step_word(lever, step),
            effects=effect,
            stops=stops,
            clears=clears,
        )
        for (lever, step), effect, (stops, clears) in zip(
            sweep.presses, effects, verdicts, strict=True
        )
    ]
    now = {key: _finite(values[0]) for key, values in sweep.figures.items()}
    # Each kind of load has figures of its own.
    better = {key: side for key, side in BETTER.items() if key in now}
    ranked = {key: _ranked(rows, key, abs(now[key] or 1.0)) for key in better}
    return Board(now=now, rows=rows, ranked=ranked, better=better)


def levers_board(build: Build) -> Board:
    """Return the lever board of a build."""
    return board_of(sweep_of(build, Doubt.of(build), levers_of(build)))


def _effects(sweep: Sweep) -> list[dict[FigureId, Effect | None]]:
    """Return, for each press, its effect on every figure."""
    keys, values = list(sweep.figures), np.stack(list(sweep.figures.values()))
    count, first = len(sweep.presses), 1 + DRAWS
    paired = values[:, first + count :].reshape(len(keys), count, PAIRED)
    with np.errstate(invalid="ignore"):
        deltas = values[:, first : first + count] - values[:, :1]
        bands = bands_of(paired - values[:, None, 1 : 1 + PAIRED])
    whole = np.stack([deltas, bands[..., 0], bands[..., 2]], axis=-1)
    finite, plain = np.all(np.isfinite(whole), axis=-1).tolist(), whole.tolist()
    return [
        {key: plain[f][row] if finite[f][row] else None for f, key in enumerate(keys)}
        for row in range(count)
    ]


def _verdicts(sweep: Sweep) -> list[tuple[list[str], list[str]]]:
    """Return, for each press, what stops the build after it alone, and what it clears."""
    batch = Batch(sweep.variants.compiled, sweep.results)
    first, count = 1 + DRAWS, len(sweep.presses)
    found: list[tuple[list[str], list[str]]] = [([], []) for _ in range(count)]
    for rule in stopping_rules().values():
        stops = filled(rule.stops(batch), (len(sweep.variants.draws),))
        now, after = bool(stops[0]), stops[first : first + count]
        for place in np.flatnonzero(after != now):
            found[place][1 if now else 0].append(rule.rejects)
    return found


NOTHING = 1e-6
"""Share of a figure that an effect must exceed; below, it may be nothing but arithmetic."""


def _ranked(rows: list[Row], figure: FigureId, now: float) -> list[int]:
    """Return the rows that serve a wish, the most helpful first; others are left out."""
    effects = [row.effects[figure] for row in rows]
    shares = [0.0 if effect is None else effect[0] * BETTER[figure] / now for effect in effects]
    serving = [index for index, share in enumerate(shares) if share > NOTHING]
    return sorted(serving, key=lambda index: (-round(shares[index], 6), index))


def _finite(value: Any) -> float | None:
    return float(value) if np.isfinite(value) else None
