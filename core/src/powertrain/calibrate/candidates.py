"""What nobody wrote down and would explain what is left of a gap: how much of each it would take.

Ranges are common practice, no source: a tyre pumped or soft, a chain slack, dry or too tight, wind
that changed, a pack that was not as full.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.documents.paths import changed, number_at
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal

TRIES = 9
"""Values over the range that is believable, between which the one that does it is found."""

LEAST_SHARE = 0.1
"""Part of what is left below which something explains nothing."""


@dataclass(frozen=True)
class Guess:
    """Something that changes by itself: how it is called, and how much is believable."""

    path: str
    words: str
    least: float
    most: float
    of_loss: bool = False
    adds: bool = False


class Explanation(BaseModel):
    """Something that would explain what is left: from what to what, and whether that is believable.

    `explains` is how much of it is explained within what is believable.
    """

    path: str
    what: str
    before: float
    needs: float | None
    explains: float
    believable: bool


def guesses_of(build: Build) -> Iterator[Guess]:
    """Yield what may have been otherwise on the day."""
    yield Guess("vehicle.rolling_resistance", "rolling resistance (tyre pressure)", 0.6, 2.0)
    for place in range(len(build.gearing)):
        words = f"losses of stage {place + 1} (chain slack, dry or too tight)"
        yield Guess(f"gearing.{place}.efficiency", words, 0.5, 4.0, of_loss=True)
    yield Guess("conditions.headwind_mps", "wind", -4.0, 4.0, adds=True)
    yield Guess("battery.cell_voltage_v", "charge (rest volts of a cell)", -0.4, 0.1, adds=True)


Reads = Callable[[Build], float]
"""What an instrument reads of a build."""


def candidates(build: Build, left: float, reads: Reads) -> list[Explanation]:
    """Return what would explain a rest of a gap, the likeliest first.

    Parameters
    ----------
    left : float
        By how much a reading differs from what the build as it was gives.
    """
    now = reads(build)
    found = []
    for guess in guesses_of(build):
        before = number_at(build, guess.path)
        before = 0.0 if before is None and guess.adds else before
        if before is None:
            continue
        values = [_value(guess, before, part) for part in np.linspace(0, 1, TRIES)]
        changes = np.array([_read(build, guess.path, value, reads) - now for value in values])
        known = np.isfinite(changes)
        if known.sum() < 2:
            continue
        own, at = changes[known], np.array(values)[known]
        order = np.argsort(own)
        reach = float(own[np.argmax(own * np.sign(left))])
        if reach * np.sign(left) < LEAST_SHARE * abs(left):
            continue
        enough = own.min() <= left <= own.max()
        needs = float(np.interp(left, own[order], at[order])) if enough else None
        found.append(
            Explanation(
                path=guess.path,
                what=guess.words,
                before=before,
                needs=needs,
                explains=left if enough else reach,
                believable=bool(enough),
            )
        )
    return sorted(found, key=lambda one: (not one.believable, -abs(one.explains)))


def _value(guess: Guess, before: float, part: float) -> float:
    if guess.adds:
        return before + guess.least + part * (guess.most - guess.least)
    factor = float(guess.least * (guess.most / guess.least) ** part)
    return 1 - (1 - before) * factor if guess.of_loss else before * factor


def _read(build: Build, path: str, value: float, reads: Reads) -> float:
    document: dict[str, Any] = build.model_dump(mode="json", exclude_unset=True)
    try:
        return float(reads(check_build(changed(document, {path: value}))))
    except Refusal:
        return float("nan")
