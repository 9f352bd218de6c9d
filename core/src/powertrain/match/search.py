"""Every candidate considered: ruled out by a bound, solved, or found feasible.

The order of the work is that of the cost of an answer. Parts by themselves come first, then
pairs and trios of them with every rule that what is chosen last does not touch, then bounds on
the reduction or the propeller: a sound bound rules out only what the solver would refuse too
(`prefilter`). What is left
is solved: pushes at the speeds wished for, then steady climb and cruise with their heat, then
the searches for top speed and launch. The first candidates of a group are asked step by step,
each step seeing only what the one before let through; the others of a large group all at once,
in a compiled loop (`group_loop`).
"""

import gc
from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from functools import partial

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled
from powertrain.compile.build import CompiledBuild, compile_stated
from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Shelf
from powertrain.drive import Drive
from powertrain.match.bounds_in_air import PropellerBounds
from powertrain.match.bounds_on_road import GearingBounds
from powertrain.match.candidates import Candidates
from powertrain.match.group_loop import GroupLoop, Untraceable, pieces
from powertrain.match.groups import PartSets
from powertrain.match.last import Bounds, Intervals
from powertrain.match.options import Options
from powertrain.match.prefilter import Prefilter
from powertrain.match.questions import Questions, kept
from powertrain.match.ranking import Best, ParetoFront, Worth, counts_as_margin, worth_of
from powertrain.match.tally import Tally
from powertrain.match.wish import Wished
from powertrain.results import Results, searched_results, steady_results
from powertrain.verdicts.context import Batch
from powertrain.verdicts.rule import Mask

BLOCK, FIRST_BLOCK = 16384, 2048
"""Candidates that are asked together, which bounds the memory and keeps the numbers in the cache;
fewer while somebody waits for a first answer."""

WORTH_A_LOOP = 25_000
"""Candidates of one group for which compiling a loop takes less time than it saves."""

MOST_AT_ONCE = 2_000_000
"""Candidates of one group that are written out at once, before they are asked block by block."""

MOST_SOLVED = 16_000_000
"""Candidates after which a search ends with the best found so far; it says so."""

MOST_WAITING = 8_000_000
"""Candidates of groups that wait for their turn; beyond, they get it. Bounds the memory."""

Keys = NDArray[np.int64]


class Search:
    """One search; `steps` does it, and may be left at any of its pauses."""

    def __init__(
        self,
        brief: Brief,
        shelf: Shelf,
        *,
        best: int = 50,
        favour: Wished | None = None,
        loops_from: int | None = WORTH_A_LOOP,
        without: str | None = None,
    ) -> None:
        """Read the options; nothing is solved yet.

        Parameters
        ----------
        favour : Wished, optional
            A wish that the brief does not hold: what comes nearest to it is best.
        loops_from : int or None
            Groups of more candidates are solved in a compiled loop; nought for all from the
            first, None for no group. The outcome is the same.
        without : str, optional
            A rule that is not asked.

        Raises
        ------
        Refusal
            If the brief names an owned part that the shelf does not have.
        """
        self.brief = brief
        self.options = Options.of(brief, shelf)
        self.tally = Tally(self.options.considered)
        self.best, self.front = Best.empty(best), ParetoFront.empty()
        self.questions = Questions(brief, without)
        self.in_loops = 0
        """How many candidates were solved in compiled loops."""
        self._favour = favour
        # What turns propellers takes decisions that no trace can hold.
        self._loops_from = None if brief.is_craft else loops_from
        self._bounds = bounds_of(brief, self.options, self.questions)

    def run(self) -> "Search":
        """Do all of it."""
        for _ in self.steps():
            pass
        return self

    def steps(self) -> Iterator[Tally]:
        """Yield the tally after each block of candidates."""
        rough = Prefilter(self.brief, self.options, self.questions, self.tally, self._bounds)
        waiting: list[tuple[int, Iterator[Tally]]] = []
        for trios, found in rough.groups():
            count = int(found.counts.sum())
            self.tally.to_solve += count
            solving = self._solve(trios, found, rough.places)
            waiting.append((count, solving))
            if not self.tally.feasible:
                # Somebody waits for a first answer; the rest of the group has its turn.
                yield next(solving, self.tally)
            else:
                yield self.tally
            if sum(count for count, _ in waiting) > MOST_WAITING:
                yield from self._each_in_turn(waiting)
        yield self.tally
        yield from self._each_in_turn(waiting)

    def _each_in_turn(self, waiting: list[tuple[int, Iterator[Tally]]]) -> Iterator[Tally]:
        """Do what waits, the smallest group first, so that many kinds are seen early."""
        for _, solving in sorted(waiting, key=lambda group: group[0]):
            yield from solving
        waiting.clear()
        self.tally.keep_best_trios()

    # Candidates

    def _solve(self, trios: PartSets, found: Intervals, places: Keys) -> Iterator[Tally]:
        """Solve what the bounds let through, a bounded number of candidates written out at once."""
        parts = np.cumsum(found.counts) // MOST_AT_ONCE
        loop: GroupLoop | None = None
        loops_from = self._loops_from
        for part in np.unique(parts):
            some = parts == part
            if self.tally.solved >= MOST_SOLVED:
                count = int(found.counts[some].sum())
                self.tally.reject("not_tried", count)
                self.tally.to_solve -= count
                continue
            row, last = self._possible(
                trios, *_written_out(found.trio[some], found.low[some], found.counts[some], places)
            )
            while len(row) and loop is None:
                # Compiling takes its time; somebody who waits for a first answer has it sooner.
                waits = not self.tally.feasible
                if loops_from is not None and len(row) > loops_from and not (waits and loops_from):
                    loop = self._loop(trios)
                    loops_from = None
                    continue
                some = FIRST_BLOCK if waits else BLOCK
                yield self._step_by_step(trios, row[:some], last[:some])
                row, last = row[some:], last[some:]
            if loop is not None:
                for begin, end in pieces(row):
                    yield self._in_a_loop(loop, trios, row[begin:end], last[begin:end])

    def _possible(self, trios: PartSets, row: Keys, last: Keys) -> tuple[Keys, Keys]:
        """Return the candidates that pass what is told of their parts alone."""
        passes = np.ones(len(row), bool)
        for reason, asked in self._bounds.of_candidates(trios, row, last):
            passes = self.tally.sieve(passes, asked, reason)
        self.tally.to_solve -= int(np.count_nonzero(~passes))
        return row[passes], last[passes]

    def _solved(
        self, trios: PartSets, row: Keys, last: Keys, solve: Callable[[CompiledBuild], Results]
    ) -> Candidates:
        """Return candidates with what `solve` tells of them."""
        columns = self.options.last.columns(last)
        said = trios.stated(self.brief, row, columns)
        compiled = compile_stated(said)
        return Candidates(
            said,
            Batch(compiled, solve(compiled)),
            trios.price[row] + columns.price,
            trios.added_kg[row] + columns.mass_kg,
            columns.stages,
        )

    # Step by step

    def _step_by_step(self, trios: PartSets, row: Keys, last: Keys) -> Tally:
        self.tally.solved += len(row)
        for some in self.options.last.alike(last):
            these, those = row[some], last[some]
            left = self._steady(trios, these, those)
            self._searched(trios, these[left], those[left])
        return self.tally

    def _steady(self, trios: PartSets, row: Keys, last: Keys) -> Keys:
        """Return the places of candidates that pass everything which needs no search."""
        alive = np.ones(len(row), bool)
        said = trios.stated(self.brief, row, self.options.last.columns(last))
        for reason, passes in self.questions.quick(Drive.of(said)):
            alive = self.tally.sieve(alive, passes, reason)
        left: Keys = np.flatnonzero(alive)
        if not len(left):
            return left
        seen = self._solved(trios, row[left], last[left], steady_results)
        passed = np.ones(len(left), bool)
        for reason, passes in self.questions.steady(seen):
            passed = self.tally.sieve(passed, passes, reason)
        return left[passed]

    def _searched(self, trios: PartSets, row: Keys, last: Keys) -> None:
        """Solve candidates wholly; rank those that are feasible."""
        if not len(row):
            return
        seen = self._whole(trios, row, last, timed=self.questions.timed)
        alive = self._free_of_stops(seen, trios, row, last)
        margins = {}
        for wish, value in self.questions.values(seen):
            for reason, passes in kept(wish, value):
                alive = self.tally.sieve(alive, passes, reason)
            margins[wish.id] = wish.margin(value)
        told = self._worth(seen, margins)
        points = np.column_stack([seen.price, seen.added_kg, -filled(told.margin, alive.shape)])
        self._rank(trios, row, last, np.flatnonzero(alive), told.score, points)

    def _whole(self, trios: PartSets, row: Keys, last: Keys, *, timed: bool) -> Candidates:
        return self._solved(trios, row, last, partial(searched_results, timed=timed))

    def _free_of_stops(self, seen: Candidates, trios: PartSets, row: Keys, last: Keys) -> Mask:
        """Return which candidates no rule stops; those that a bound on the launch would, timed."""
        before = Counter(self.tally.rejected)
        alive = self._unstopped(seen)
        again: Keys = np.flatnonzero(~alive)
        if len(again) and not self.questions.timed:
            self.tally.rejected = before
            alive[again] = self._unstopped(self._whole(trios, row[again], last[again], timed=True))
        return alive

    def _unstopped(self, seen: Candidates) -> Mask:
        alive = np.ones(np.shape(seen.price), bool)
        for reason, passes in self.questions.stops(seen.batch):
            alive = self.tally.sieve(alive, passes, reason)
        return alive

    # All at once

    def _loop(self, trios: PartSets) -> GroupLoop | None:
        """Return the group's compiled loop, None where solving it can't be traced."""
        # Recording makes many small objects that all live on; looking for dead ones among them
        # takes a quarter of the time.
        collects = gc.isenabled()
        gc.disable()
        try:
            return GroupLoop(self.brief, self.questions, trios, self._worth)
        except Untraceable:
            return None
        finally:
            if collects:
                gc.enable()

    def _in_a_loop(self, loop: GroupLoop, trios: PartSets, row: Keys, last: Keys) -> Tally:
        self.tally.solved += len(row)
        self.in_loops += len(row)
        found = loop.solve(row, self.options.gearings.columns(last))
        sure = ~found.unsure
        counts = np.bincount(found.reason[sure], minlength=len(loop.reasons))
        for reason, count in zip(loop.reasons[1:], counts[1:], strict=True):
            self.tally.reject(reason, int(count))
        feasible = np.flatnonzero(sure & (found.reason == 0))
        self._rank(trios, row, last, feasible, found.score, found.points)
        again = np.flatnonzero(found.unsure)
        for begin in range(0, len(again), BLOCK):
            some = again[begin : begin + BLOCK]
            self._searched(trios, row[some], last[some])
        return self.tally

    # What is feasible

    def _worth(self, seen: Candidates, margins: Mapping[str, Array]) -> Worth:
        counted = {
            wish.id: margins[wish.id]
            for wish in self.questions.wished
            if wish.id in margins and counts_as_margin(wish)
        }
        told = worth_of(self.brief, seen, counted)
        if self._favour is None:
            return told
        return replace(told, score=self._nearness(self._favour, seen))

    def _nearness(self, wish: Wished, seen: Candidates) -> Array:
        """Return how near each candidate comes to a wish that it does not meet."""
        value = wish.figure(seen)
        nearness: Array = np.nan_to_num(wish.margin(value), nan=-1e9)
        return nearness

    def _rank(
        self, trios: PartSets, row: Keys, last: Keys, left: Keys, score: Array, points: Array
    ) -> None:
        """Take the feasible ones among candidates, which are `left`, into the order."""
        self.tally.feasible += len(left)
        if not len(left):
            return
        score = filled(score, row.shape)[left]
        row, last = row[left], last[left]
        keys = np.column_stack([trios.motor[row], trios.controller[row], trios.pack[row], last])
        self.best.offer(score, keys)
        self.front.offer(points[left], keys)
        # Candidates lie row by row, and in each by rising reduction.
        begins = np.flatnonzero(np.diff(row, prepend=-1))
        counts = np.diff(np.append(begins, len(row)))
        is_best = score == np.repeat(np.maximum.reduceat(score, begins), counts)
        bests = np.flatnonzero(is_best)
        for place, count in zip(bests[np.searchsorted(bests, begins)], counts, strict=True):
            self._note_trio(keys[place], float(score[place]), int(count))

    def _note_trio(self, key: Keys, score: float, count: int) -> None:
        trio = (int(key[0]), int(key[1]), int(key[2]))
        before = self.tally.by_trio.get(trio)
        best = (score, int(key[3]))
        if before is not None:
            count += before[0]
            best = max(best, (before[1], before[2]), key=lambda one: (one[0], -one[1]))
        self.tally.by_trio[trio] = (count, *best)


def bounds_of(brief: Brief, options: Options, questions: Questions) -> Bounds:
    """Return what rules out gearings, or propellers, before anything is solved."""
    on_what = PropellerBounds if brief.is_craft else GearingBounds
    return on_what(brief, options, questions.of_drives)


def _written_out(trio: Keys, low: Keys, counts: Keys, places: Keys) -> tuple[Keys, Keys]:
    """Return the row and the place of what is last of every candidate in some stretches."""
    begins = np.repeat(low - np.cumsum(counts) + counts, counts)
    return np.repeat(trio, counts), places[begins + np.arange(len(begins))]
