"""A wanted reduction split into stages of teeth that exist."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.documents.shelf import Shelf
from powertrain.errors import Refusal
from powertrain.transmission.chain import pulley_pitch_diameter_mm, sprocket_outside_diameter_mm
from powertrain.verdicts.rules.teeth import MOST_RATIO, too_few

MOST_STAGES = 4
SHOWN = 3
USUAL = 6.0
"""A stage of several reduces no more than this; common practice."""


class SplitStage(BaseModel):
    """One stage: its teeth, its ratio, and how wide its larger wheel is."""

    kind: str
    driver_teeth: int
    driven_teeth: int
    pitch_mm: float | None
    module_mm: float | None
    ratio: float
    efficiency: float
    diameter_mm: float


class Split(BaseModel):
    """Stages from motor to wheel whose reduction comes near to what is wanted."""

    stages: list[SplitStage]
    ratio: float
    off_pct: float
    efficiency: float
    widest_mm: float


class SplitAnswer(BaseModel):
    """For one to four stages the nearest splits, or why there is none."""

    wanted: float
    splits: dict[int, list[Split]]
    refused: dict[int, str]
    say: str


@dataclass(frozen=True)
class _Singles:
    stages: list[SplitStage]
    logs: NDArray[np.float64]


def split(wanted: float, shelf: Shelf, kinds: tuple[str, ...] = ("chain", "belt")) -> SplitAnswer:
    """Return how a reduction is made of the toothed wheels on a shelf, least stages first.

    Parameters
    ----------
    wanted : float
        Turns of the motor for one of the wheel: rated rpm over wheel rpm.

    Raises
    ------
    Refusal
        If it is no reduction, or beyond what four stages do.
    """
    if not 1.0 < wanted <= 10_000:
        raise Refusal("wanted", "must be a reduction: above 1, at most 10,000")
    singles = _singles(shelf, kinds)
    if not singles.stages:
        raise Refusal("kinds", f"has nothing on this shelf: {', '.join(kinds)}")
    splits: dict[int, list[Split]] = {}
    refused: dict[int, str] = {}
    log = float(np.log(wanted))
    for count in range(1, MOST_STAGES + 1):
        most = float(singles.logs.max()) * count if count == 1 else np.log(USUAL) * count
        if log > most + 1e-9:
            refused[count] = _refusal(count, wanted, kinds, singles)
        elif log < float(singles.logs.min()) * count:
            refused[count] = f"{wanted:.3g} to 1 is too little to share among {count} stages."
        else:
            splits[count] = _nearest(singles, log, count)
    if not splits:
        raise Refusal("wanted", f"{wanted:g} to 1 is beyond {MOST_STAGES} stages of {USUAL:g}")
    fewest = min(splits)
    best = splits[fewest][0]
    say = (
        f"{fewest} stage{'s' if fewest > 1 else ''}: {best.ratio:.4g} to 1, "
        f"{100 * best.efficiency:.0f} % of the power comes through."
    )
    return SplitAnswer(wanted=wanted, splits=splits, refused=refused, say=say)


def _refusal(count: int, wanted: float, kinds: tuple[str, ...], singles: _Singles) -> str:
    if count > 1:
        return f"{wanted:.3g} to 1 is more than {count} stages of {USUAL:g} to 1 do."
    most = max(MOST_RATIO[kind][0] for kind in kinds)
    if wanted > most:
        return (
            f"{wanted:.3g} to 1 can't be one stage: above {most:g} to 1 too little of the small "
            "wheel is wrapped or in mesh."
        )
    largest = singles.stages[-1]
    return (
        f"no pair that is sold does {wanted:.3g} to 1; the most is {largest.ratio:.3g} to 1, "
        f"{largest.driver_teeth} to {largest.driven_teeth} teeth."
    )


def _singles(shelf: Shelf, kinds: tuple[str, ...]) -> _Singles:
    """Return one stage for every ratio that can be bought, the smallest wheels of each."""
    best: dict[tuple[str, float], SplitStage] = {}
    small_by_mesh, large_by_mesh = (_teeth_by_mesh(shelf, kinds, s) for s in ("driver", "driven"))
    for mesh, smalls in small_by_mesh.items():
        kind, pitch, module = mesh
        for small, efficiency in smalls.items():
            for large in large_by_mesh.get(mesh, ()):
                ratio = large / small
                if ratio <= 1.2:
                    continue
                if too_few(kind, scalar(small), scalar(large)):
                    continue
                made = _single(kind, small, large, pitch, module, efficiency)
                key = (kind, round(ratio, 9))
                if key not in best or made.diameter_mm < best[key].diameter_mm:
                    best[key] = made
    stages = sorted(best.values(), key=lambda stage: stage.ratio)
    return _Singles(stages, np.log([stage.ratio for stage in stages]))


Mesh = tuple[Literal["chain", "belt", "spur"], float | None, float | None]
"""Kind, pitch and module: wheels that have them in common run together."""


def _teeth_by_mesh(shelf: Shelf, kinds: tuple[str, ...], side: str) -> dict[Mesh, dict[int, float]]:
    """Return the teeth that are sold of each mesh, each with the efficiency of the first range."""
    found: dict[Mesh, dict[int, float]] = {}
    for sold in shelf.teeth:
        if sold.kind in kinds and sold.side == side:
            teeth = found.setdefault((sold.kind, sold.pitch_mm, sold.module_mm), {})
            for size in sold.sizes:
                teeth.setdefault(size.teeth, sold.efficiency)
    return found


def _single(
    kind: str,
    driver: int,
    driven: int,
    pitch: float | None,
    module: float | None,
    efficiency: float,
) -> SplitStage:
    if kind == "spur":
        wide = (module or 1.0) * (driven + 2)
    elif kind == "belt":
        wide = pulley_pitch_diameter_mm(pitch or 5.0, driven)
    else:
        wide = sprocket_outside_diameter_mm(pitch or 12.7, driven)
    return SplitStage(
        kind=kind,
        driver_teeth=driver,
        driven_teeth=driven,
        pitch_mm=pitch,
        module_mm=module,
        ratio=driven / driver,
        efficiency=efficiency,
        diameter_mm=wide,
    )


def _nearest(singles: _Singles, log: float, count: int) -> list[Split]:
    logs = singles.logs
    if count > 1:
        logs = logs[logs <= np.log(USUAL) + 1e-9]
    places = np.arange(len(logs))[:, None]
    sums = logs.copy()
    for _ in range(count - 2):
        # Rising places only: the order of stages is chosen afterwards.
        grown = np.concatenate(
            [
                np.column_stack(
                    [places[places[:, -1] <= k], np.full((places[:, -1] <= k).sum(), k)]
                )
                for k in range(len(logs))
            ]
        )
        sums = logs[grown].sum(axis=1)
        thin = np.argsort(sums)[:: max(1, len(sums) // 40_000)]
        places, sums = grown[thin], sums[thin]
    if count == 1:
        near = np.argsort(np.abs(logs - log))[:SHOWN]
        return [_split(singles, [int(place)], log) for place in near]
    found: list[tuple[float, tuple[int, ...]]] = []
    at = np.clip(np.searchsorted(logs, log - sums), 1, len(logs) - 1)
    for last in (at - 1, at):
        off = np.abs(sums + logs[last] - log)
        for row in np.argsort(off)[: 4 * SHOWN]:
            chosen = tuple(sorted((*(int(p) for p in places[row]), int(last[row]))))
            found.append((float(off[row]), chosen))
    distinct = sorted({chosen: off for off, chosen in found}.items(), key=lambda item: item[1])
    return [_split(singles, list(chosen), log) for chosen, _ in distinct[:SHOWN]]


def _split(singles: _Singles, places: list[int], log: float) -> Split:
    # The largest reduction comes last: what stands before it then carries less torque.
    stages = [singles.stages[place] for place in sorted(places)]
    ratio = float(np.prod([stage.ratio for stage in stages]))
    return Split(
        stages=stages,
        ratio=ratio,
        off_pct=100 * (ratio / float(np.exp(log)) - 1),
        efficiency=float(np.prod([stage.efficiency for stage in stages])),
        widest_mm=max(stage.diameter_mm for stage in stages),
    )
