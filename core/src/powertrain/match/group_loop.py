"""A group of candidates solved in a compiled loop: the very questions that the search asks.

Solving one candidate is traced, with all that its document states left open, and the trace
is run for all of them; see `powertrain.tracing`. What the trace can't tell of a candidate (a
top speed that a few secants don't find, a launch that only its exact time clears) is left to
the search's ordinary way, so that both ways give the same.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.compile.build import compile_stated
from powertrain.documents.brief import Brief
from powertrain.match.candidates import Candidates
from powertrain.match.gearings import GearingColumns
from powertrain.match.groups import PartSets
from powertrain.match.questions import Answer, Questions, kept
from powertrain.match.ranking import DIGITS, Worth
from powertrain.results import searched_results, steady_results
from powertrain.tracing.program import Program
from powertrain.tracing.trace import Trace
from powertrain.tracing.traced import Untraceable, any_set_aside, traced_input
from powertrain.verdicts.context import Batch

AT_ONCE, ROWS_AT_ONCE = 65_536, 2048
"""Candidates, and different sets of motor, controller and pack, that are run together."""

Keys = NDArray[np.int64]
Value = Callable[[Candidates, Mapping[str, Array]], Worth]


@dataclass(frozen=True)
class Solved:
    """What became of candidates: the number of the first reason against each, nought for none."""

    reason: NDArray[np.int64]
    unsure: NDArray[np.bool_]
    """Where the ordinary way must tell."""
    score: Array
    points: Array
    """Price, mass and minus the tightest margin, as columns."""


class GroupLoop:
    """The loop for one group; `reasons` are the reasons in the order in which they are asked."""

    def __init__(
        self,
        brief: Brief,
        questions: Questions,
        trios: PartSets,
        worth: Value,
    ) -> None:
        """Record and compile it.

        Parameters
        ----------
        worth : callable
            What a candidate is worth, given its margins.

        Raises
        ------
        Untraceable
            If solving these candidates takes decisions that depend on their numbers.
        """
        self._trios = trios
        self.reasons: list[str] = [""]
        trace = Trace()
        one = replace(
            trios,
            columns={path: traced_input(trace, path, quick=False) for path in trios.columns},
            added_kg=traced_input(trace, "added_kg", quick=False),
            price=traced_input(trace, "price", quick=False),
        )
        gear = GearingColumns(
            **{
                name: traced_input(trace, f"gear_{name}", quick=True)
                for name in GearingColumns.__dataclass_fields__
            }
        )
        self._program = self._traced(brief, questions, one, gear, worth, trace)

    def _traced(
        self,
        brief: Brief,
        questions: Questions,
        one: PartSets,
        gear: GearingColumns,
        worth: Value,
        trace: Trace,
    ) -> Program:
        first = np.zeros(1, int)
        said = one.stated(brief, first, gear)
        compiled = compile_stated(said)
        answers = [*questions.quick(compiled.drive)]
        steady = Batch(compiled, steady_results(compiled))
        price, added_kg = one.price + gear.price, one.added_kg + gear.mass_kg
        quickly = self._first_of(answers)
        asked_steady = [*questions.steady(Candidates(said, steady, price, added_kg, gear.stages))]
        refused = np.where(quickly == 0, self._first_of(asked_steady), quickly)
        gates = [
            (early == 0, {"reason": early, "unsure": np.zeros(1, bool)})
            for early in (quickly, refused)
        ]

        whole = Batch(compiled, searched_results(compiled, timed=questions.timed))
        seen = Candidates(said, whole, price, added_kg, gear.stages)
        later = [*questions.stops(whole)]
        unsure = np.zeros(1, bool)
        if not questions.timed:
            # The launch is only bounded: what it stops, its exact time may clear.
            for _, passes in later:
                unsure = unsure | ~passes
            later = []
        margins = {}
        for wish, value in questions.values(seen):
            later += kept(wish, value)
            margins[wish.id] = wish.margin(value)
        unsure = (refused == 0) & (unsure | any_set_aside(trace))
        refused = np.where(refused == 0, self._first_of(later), refused)
        told = worth(seen, margins)
        outputs = {
            "reason": refused,
            "unsure": unsure,
            "score": told.score,
            "price": price,
            "added_kg": added_kg,
            "margin": told.margin,
        }
        return Program(trace, outputs, gates)

    def _first_of(self, answers: list[Answer]) -> Array:
        begin = len(self.reasons)
        self.reasons += [reason for reason, _ in answers]
        refused: Array = np.zeros(1)
        for number, (_, passes) in reversed(list(enumerate(answers, begin))):
            refused = np.where(passes, refused, float(number))
        return refused

    def solve(self, row: Keys, gear: GearingColumns) -> Solved:
        """Solve candidates, which lie row by row of the group."""
        begins = np.append(np.flatnonzero(np.diff(row, prepend=-1)), len(row))
        rows = row[begins[:-1]]
        trios = self._trios
        slow = {path: column[rows] for path, column in trios.columns.items()}
        slow |= {"added_kg": trios.added_kg[rows], "price": trios.price[rows]}
        found = self._program.run(
            slow, begins, {f"gear_{name}": column for name, column in vars(gear).items()}
        )
        return Solved(
            reason=found["reason"].astype(np.int64),
            unsure=found["unsure"] != 0,
            score=np.round(found["score"], DIGITS),
            points=np.column_stack([found["price"], found["added_kg"], -found["margin"]]),
        )


def pieces(row: Keys) -> list[tuple[int, int]]:
    """Return where to cut candidates, which lie row by row, into what is run together."""
    firsts = np.flatnonzero(np.diff(row, prepend=-1))
    cuts, begin = [], 0
    while begin < len(row):
        end = min(begin + AT_ONCE, len(row))
        beyond = np.searchsorted(firsts, begin, side="right") + ROWS_AT_ONCE - 1
        if beyond < len(firsts):
            end = min(end, int(firsts[beyond]))
        cuts.append((begin, end))
        begin = end
    return cuts


__all__ = ["GroupLoop", "Solved", "Untraceable", "pieces"]
