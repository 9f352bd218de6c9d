"""The gap between two runs: what each change makes of it by the engine, and what is left."""

from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np
from pydantic import BaseModel

from powertrain.calibrate.candidates import Explanation, candidates
from powertrain.calibrate.predict import CONDITIONS, Predictor
from powertrain.calibrate.readings import Reading, readings_of
from powertrain.documents.build import Build
from powertrain.documents.log import Log, LoggedRun
from powertrain.documents.paths import value_at
from powertrain.doubt.draws import Doubt
from powertrain.errors import Refusal
from powertrain.plain import number

NO_DOUBT = Doubt((), np.zeros((0, 0)))

MOST_CHANGES = 8
"""Between two runs that are told apart one by one."""


class Explained(BaseModel):
    """One figure in two runs that followed one another: what changed, by what, and what is left.

    Where more is left than the instruments may be off, `candidates` are what nobody wrote down and
    would explain it.
    """

    from_run: str
    to_run: str
    field: str
    measured_change: float
    by_changes: dict[str, float]
    left: float
    within_doubt: bool
    candidates: list[Explanation]


def explained(build: Build, log: Log) -> Iterator[Explained]:
    """Yield each figure that two runs which follow one another both read."""
    by_run: dict[int, list[Reading]] = {}
    for reading in readings_of(log):
        if reading.sample < 0:
            by_run.setdefault(reading.run, []).append(reading)
    for at in range(1, len(log.runs)):
        before, now = log.runs[at - 1], log.runs[at]
        pairs = [
            (one, other)
            for one in by_run.get(at - 1, [])
            for other in by_run.get(at, [])
            if (one.kind, one.field) == (other.kind, other.field)
            and _where(before, one) == _where(now, other)
        ]
        if pairs:
            yield from _between(build, log, at, pairs)


def _where(run: LoggedRun, reading: Reading) -> Any:
    """Return at what a figure was read: the same for two that may be held against one another."""
    seen = run.observations[reading.observation]
    keys = ("speed_kmh", "grade_pct", "to_kmh", "moment", "after_s", "distance_km", "course")
    return tuple(
        (key, repr(getattr(seen, key, None)))
        for key in keys
        if not (key == reading.field and reading.kind != "steady")
    )


def _between(
    build: Build, log: Log, at: int, pairs: list[tuple[Reading, Reading]]
) -> Iterator[Explained]:
    before, now = log.runs[at - 1], log.runs[at]
    old, new = _said(build, before), _said(build, now)
    differing = [path for path in {**old, **new} if old.get(path) != new.get(path)]
    steps = sorted(differing)[:MOST_CHANGES]
    # Each change is made after the others and before them; what it does is the mean of both.
    forth = _parts(build, log, at, old, new, steps, pairs)
    back = _parts(build, log, at, old, new, steps[::-1], pairs)
    for place, (one, other) in enumerate(pairs):
        by_changes = {
            path: float(part)
            for path in steps
            if (part := number((forth[path][place] + back[path][place]) / 2)) is not None
        }
        change = other.measured - one.measured
        left = change - sum(by_changes.values())
        small = abs(left) <= np.hypot(one.tolerance, other.tolerance)
        yield Explained(
            from_run=before.id,
            to_run=now.id,
            field=one.field,
            measured_change=change,
            by_changes=by_changes,
            left=left,
            within_doubt=bool(small),
            candidates=[] if small else _candidates(build, now, new, other, left),
        )


def _candidates(
    build: Build, run: LoggedRun, said: Mapping[str, Any], reading: Reading, left: float
) -> list[Explanation]:
    pair = [(reading, reading)]
    return candidates(build, left, lambda varied: float(_read(varied, run, said, pair)[0]))


def _said(build: Build, run: LoggedRun) -> dict[str, Any]:
    """Return what a run says that another may say otherwise, by document path."""
    said = {
        path: getattr(run.conditions, key)
        for key, path in CONDITIONS.items()
        if getattr(run.conditions, key) is not None
    }
    return {**said, **run.changes}


def _parts(
    build: Build,
    log: Log,
    at: int,
    old: Mapping[str, Any],
    new: Mapping[str, Any],
    steps: list[str],
    pairs: list[tuple[Reading, Reading]],
) -> dict[str, np.ndarray]:
    """Return what each change does to each figure, made one after another in an order."""
    plain = build.model_dump(mode="json", exclude_unset=True)
    now: dict[str, Any] = dict(old)
    values = _read(build, log.runs[at], now, pairs)
    found = {}
    for path in steps:
        now = {**now, path: new.get(path, value_at(plain, path))}
        after = _read(build, log.runs[at], now, pairs)
        found[path] = after - values
        values = after
    return found


def _read(
    build: Build, run: LoggedRun, said: Mapping[str, Any], pairs: list[tuple[Reading, Reading]]
) -> np.ndarray:
    """Return what the second run's instruments would read of a build with some changes."""
    changes = {path: value for path, value in said.items() if path not in CONDITIONS.values()}
    air = {key: said[path] for key, path in CONDITIONS.items() if path in said}
    moved = run.model_copy(
        update={"changes": changes, "conditions": run.conditions.model_copy(update=air)}
    )
    log = Log(format="young-torrent.log/1", runs=[moved])
    try:
        told = Predictor(build, log, NO_DOUBT).predict(0, np.zeros((1, 0)), {})
    except Refusal:
        return np.full(len(pairs), np.nan)
    nothing = np.array([np.nan])
    return np.array(
        [float(told.get((other.observation, other.field), nothing)[0]) for _, other in pairs]
    )
