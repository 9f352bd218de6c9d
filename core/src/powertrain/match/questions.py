"""What is asked of candidates, in the order of what an answer costs: the same for one or many."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.match.candidates import Candidates
from powertrain.match.wish import OfDrive, OfPart, OfSum, Wished
from powertrain.match.wish_registry import wishes_of
from powertrain.verdicts.context import Batch
from powertrain.verdicts.registry import stopping_rules
from powertrain.verdicts.rule import Mask

Answer = tuple[str, Mask]
"""A reason to refuse a candidate, and which of them it does not concern."""


class Questions:
    """The wishes of a brief and the rules that stop a build, as questions about candidates."""

    def __init__(self, brief: Brief, without: str | None = None) -> None:
        """Read the wishes; `without` names a rule that is not asked."""
        self._rules = {name: rule for name, rule in stopping_rules().items() if name != without}
        wished = wishes_of(brief)
        self.wished = wished
        self.of_parts = [wish for wish in wished if isinstance(wish, OfPart)]
        self.of_sums = [wish for wish in wished if isinstance(wish, OfSum)]
        self.of_drives = [wish for wish in wished if isinstance(wish, OfDrive)]
        self.timed = brief.wishes.launch is not None or brief.wishes.run_up_m is not None
        """Whether a launch must be reckoned to know what a candidate is worth."""
        self._quick = _not_implied(self.of_drives)

    def quick(self, drive: Drive) -> Iterator[Answer]:
        """Ask what the drive alone tells, without any state."""
        for wish in self._quick:
            if wish.quick is not None:
                yield wish.id, wish.quick(drive)

    def stops(self, batch: Batch, *, geared: bool = True) -> Iterator[Answer]:
        """Ask every rule that can stop a build and to which gearing matters, or does not."""
        for name, rule in self._rules.items():
            if rule.geared == geared:
                yield name, ~rule.stops(batch)

    def steady(self, seen: Candidates) -> Iterator[Answer]:
        """Ask what can be told without a search, given the results of steady climb and cruise."""
        yield from self.stops(seen.batch)
        for wish in self.of_drives:
            if wish.steady:
                yield from kept(wish, wish.value(seen))
        for total in self.of_sums:
            yield from kept(total, total.value(seen))

    def values(self, seen: Candidates) -> Iterator[tuple[OfSum | OfDrive, Array]]:
        """Yield the wishes that whole results answer, and their figures."""
        for wish in self.wished:
            if isinstance(wish, OfSum) or (isinstance(wish, OfDrive) and not wish.ungeared):
                yield wish, wish.value(seen)


def kept(wish: Wished, value: Array) -> Iterator[Answer]:
    """Ask whether a limit is kept; a figure that is not known does not show it."""
    yield f"{wish.id}_unknown", ~np.isnan(value)
    yield wish.id, wish.met(value)


def _not_implied(wishes: list[OfDrive]) -> list[OfDrive]:
    """Return the wishes to ask of a drive at once: the greater of two speeds on the level."""
    level = [wish for wish in wishes if wish.id in ("top_speed_min", "cruise")]
    most = max((wish.limit for wish in level), default=0.0)
    return [wish for wish in wishes if wish not in level or wish.limit >= most]
