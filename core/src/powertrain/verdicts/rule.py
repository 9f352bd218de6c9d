"""What a rule is: one function of numbers, asked alike of one build or a million, and its words."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING, overload

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, everywhere
from powertrain.verdicts.verdict import Fix, NotJudged, PartId, Severity, Verdict

if TYPE_CHECKING:
    from powertrain.verdicts.context import Batch, RuleContext

OK, WATCH, STOP = 0, 1, 2
"""How bad a finding is, as numbers that fill arrays."""

SEVERITIES: tuple[Severity, ...] = ("ok", "watch", "stop")

NEAR = 0.9
"""From this share of a limit on, a finding is a thing to watch."""

ONLY_STOPS = 2.0
"""Load of a limit that is passed, where a rule only knows whether."""

Mask = NDArray[np.bool_]
Grades = NDArray[np.int8]


@dataclass(frozen=True)
class Judgement:
    """What a rule finds of one build, or of each of many: a figure, its limit, how bad that is.

    `applies` is false where a build has nothing of the kind, and nothing is said.
    `load` is how much of what stops a build is used up, more than one where it stops, or a function
    that reckons it where that takes work; None where only whether it stops is known. `at` says
    where the figure was met, as a place in an order that the rule's words know, and `lasts_s` for
    how long that was kept up; a rule about each of several parts numbers them by `part`.
    """

    id: str
    value: Array
    limit: Array
    severity: Grades
    load: Array | Callable[[], Array] | None = None
    applies: Mask | bool = True
    at: NDArray[np.int64] | int = -1
    lasts_s: Array | None = None
    part: int = 0

    @property
    def stops(self) -> Mask:
        """Where it stops a build."""
        return np.asanyarray((self.severity == STOP) & self.applies)

    @property
    def used(self) -> Array:
        """How much of its limit is used up, by the rule's own measure or by whether it stops."""
        if self.load is None:
            return np.where(self.stops, ONLY_STOPS, 0.0)
        return self.load() if callable(self.load) else self.load

    @property
    def word(self) -> Severity:
        """How bad it is, of one build."""
        return SEVERITIES[int(self.severity)]


@dataclass(frozen=True)
class Rule:
    """One rule; `powertrain.verdicts.registry` finds it by the name `RULE` in its file.

    Attributes
    ----------
    judge : callable
        Yields the findings of one build or many, from numbers alone.
    say : callable
        Puts one finding of one build into words.
    unknown : callable
        Yields what can't be judged of one build, and the document path that is missing.
    rejects : str
        Why a candidate falls out by it, as people say it; empty for a rule that never stops.
    geared : bool
        Whether gearing matters to it; where not, one answer holds for all gearings.
    of_wheels : bool
        Whether it speaks of wheels on the ground, and says nothing of other loads.
    """

    judge: Callable[["Batch"], Iterable[Judgement]]
    say: Callable[["RuleContext", Judgement], Verdict]
    unknown: Callable[["RuleContext"], Iterable[NotJudged]] = lambda context: ()
    rejects: str = ""
    geared: bool = True
    of_wheels: bool = False

    def findings(self, batch: "Batch") -> Iterable[Judgement]:
        """Yield what it finds of one build or many; nothing where their load is not its kind."""
        return () if self.of_wheels and not batch.drive.rolls else self.judge(batch)

    def stops(self, batch: "Batch") -> Mask:
        """Return where it stops builds."""
        stop = batch.nowhere()
        for found in self.findings(batch):
            stop = stop | found.stops
        return stop

    def load(self, batch: "Batch") -> Array:
        """Return how much of its limit each build uses, more than one where it stops."""
        most: Array = np.zeros(np.shape(batch.nowhere()))
        for found in self.findings(batch):
            most = np.maximum(most, found.used)
        return most

    def said(self, context: "RuleContext") -> Iterator[Verdict | NotJudged]:
        """Yield what it says of one build."""
        for found in self.findings(context):
            if everywhere(found.applies):
                yield self.say(context, found)
        if context.drive.rolls or not self.of_wheels:
            yield from self.unknown(context)


@overload
def exceeds(value: float, limit: float) -> bool: ...
@overload
def exceeds(value: Array, limit: float | Array) -> Mask: ...
def exceeds(value: float | Array, limit: float | Array) -> bool | Mask:
    """Return whether `value` is above `limit` by more than arithmetic can blur."""
    return value > limit * (1 + 1e-9)


def graded(value: Array, limit: Array) -> Grades:
    """Return stop above the limit, watch from `NEAR` of it on, else ok."""
    return grades(stop=exceeds(value, limit), watch=value > NEAR * limit)


def grades(*, stop: Mask | bool = False, watch: Mask | bool = False) -> Grades:
    """Return stop where that holds, else watch where that does, else ok."""
    return np.where(stop, STOP, np.where(watch, WATCH, OK))


def verdict(
    found: Judgement,
    part: PartId,
    title: str,
    why: str,
    *,
    unit: str,
    moment: str | None = None,
    fix: Fix | None = None,
) -> Verdict:
    """Return a finding of one build with its words."""
    return Verdict(
        id=found.id,
        part=part,
        title=title,
        severity=found.word,
        value=float(found.value),
        limit=float(found.limit),
        unit=unit,
        moment=moment,
        why=why,
        fix=fix,
    )
