"""What is asked of candidates, in the order of what an answer costs: the same for one or many."""

from collections.abc import Iterator

import numpy as np

from powertrain.arrays import Array
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.heat.limits import Limits
from powertrain.heat.store import Store
from powertrain.match.seen import Seen
from powertrain.match.wish import OfDrive, OfPart, OfSum, Wished
from powertrain.match.wish_registry import wishes_of
from powertrain.verdicts.registry import stoppers
from powertrain.verdicts.verdict import Many, Mask

Answer = tuple[str, Mask]
"""A reason to refuse a candidate, and which of them it does not concern."""


class Questions:
    """The wishes of a brief and the rules that stop a build, as questions about candidates."""

    def __init__(self, brief: Brief, without: str | None = None) -> None:
        """Read the wishes; `without` names a rule that is not asked."""
        self._stoppers = [one for one in stoppers() if one.id != without]
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

    def stops(self, many: Many, *, geared: bool = True) -> Iterator[Answer]:
        """Ask every rule that can stop a build and to which gearing matters, or does not."""
        for stopper in self._stoppers:
            if stopper.geared == geared:
                yield stopper.id, ~stopper.stops(many)

    def steady(self, many: Many, seen: Seen) -> Iterator[Answer]:
        """Ask what can be told without a search, given the picture of steady climb and cruise."""
        yield from self.stops(many)
        for wish in self.of_drives:
            if wish.steady:
                yield from kept(wish, wish.value(seen))
        for total in self.of_sums:
            yield from kept(total, total.value(seen))

    def values(self, seen: Seen) -> Iterator[tuple[OfSum | OfDrive, Array]]:
        """Yield the wishes that a whole picture answers, and their figures."""
        for wish in self.wished:
            if isinstance(wish, OfSum) or (isinstance(wish, OfDrive) and not wish.ungeared):
                yield wish, wish.value(seen)


def kept(wish: Wished, value: Array) -> Iterator[Answer]:
    """Ask whether a limit is kept; a figure that is not known does not show it."""
    yield f"{wish.id}_unknown", ~np.isnan(value)
    yield wish.id, wish.met(value)


def unseen(build: Build) -> Many:
    """Return builds with their drives and heat data, and no picture yet."""
    drive = Drive.of(build)
    store = Store.of(build, drive)
    return Many(build, drive, store, None, Limits.of(build))  # type: ignore[arg-type]


def _not_implied(wishes: list[OfDrive]) -> list[OfDrive]:
    """Return the wishes to ask of a drive at once: the greater of two speeds on the level."""
    level = [wish for wish in wishes if wish.id in ("top_speed_min", "cruise")]
    most = max((wish.limit for wish in level), default=0.0)
    return [wish for wish in wishes if wish not in level or wish.limit >= most]
