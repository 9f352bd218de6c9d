"""What can be ruled out before any candidate is solved: parts, pairs and trios of parts, bounds."""

from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import pick
from powertrain.compile.build import CompiledBuild, compile_stated
from powertrain.documents.brief import Brief
from powertrain.match.candidates import Candidates
from powertrain.match.compose import driven_as
from powertrain.match.groups import PartSets, trios_of
from powertrain.match.last import Bounds, Intervals
from powertrain.match.options import Options
from powertrain.match.questions import Questions, kept
from powertrain.match.tally import Tally
from powertrain.results import wheels_up_results
from powertrain.stated import Stated
from powertrain.verdicts.context import Batch
from powertrain.verdicts.rule import Mask

Keys = NDArray[np.int64]


class Prefilter:
    """The part of a search that comes before solving; what it rules out goes to the tally."""

    def __init__(
        self,
        brief: Brief,
        options: Options,
        questions: Questions,
        tally: Tally,
        bounds: Bounds,
    ) -> None:
        """Look at what is chosen last by itself; the rest is done as it is asked for."""
        self.brief, self.options, self.questions, self.tally = brief, options, questions, tally
        self._bounds, self._allowed = bounds, brief.wishes.allowed_parts
        self.places = self._possible_last()
        """Places of the gearings or propellers that any candidate may have, in their order."""

    def groups(self) -> Iterator[tuple[PartSets, Intervals]]:
        """Yield groups of trios with the stretches of `places` that each of them can use."""
        if not len(self.places):
            return
        for trios in trios_of(self.brief, self.options, self._possible_trios()):
            left, compiled = self._ungeared(trios)
            if not len(left):
                continue
            found = self._bounds.intervals(left, compiled, self.places)
            for reason, count in found.rejected.items():
                self.tally.reject(reason, count)
            if len(found.trio):
                yield left, found

    # Parts by themselves

    def _possible_last(self) -> Keys:
        """Return the places of gearings or propellers that nothing refuses by itself."""
        options = self.options
        others = len(options.motors) * len(options.controllers) * len(options.packs)
        alive = np.ones(len(options.last), bool)
        for reason, refused in self._bounds.refused():
            alive = self.tally.sieve(alive, ~refused, reason, others)
        places: Keys = np.flatnonzero(alive)
        return places

    def _possible_trios(self) -> Mask:
        """Return which motors, controllers and packs may be together at all."""
        options, each = self.options, len(self.places)
        sides: dict[str, list[tuple[str, Any]]] = {
            "motor": [(option.id, option.motor) for option in options.motors],
            "controller": [(o.id, o.part.controller) for o in options.controllers],
            "pack": [(option.id, option.battery) for option in options.packs],
        }
        good: dict[str, Mask] = {side: np.ones(len(parts), bool) for side, parts in sides.items()}
        for side, parts in sides.items():
            others = each * int(np.prod([good[other].sum() for other in sides if other != side]))
            refused = list(self._refused(side, parts))
            if side == "motor":
                reason, unfit = self._bounds.motors_refused()
                refused += [(int(place), reason) for place in np.flatnonzero(unfit)]
            for place, reason in refused:
                if good[side][place]:
                    good[side][place] = False
                    self.tally.reject(reason, others)
        grid = good["motor"][:, None, None] & good["controller"][:, None] & good["pack"]
        drives = np.array([option.part.drives for option in options.controllers])
        kinds = np.array([driven_as(option.motor) for option in options.motors])
        owned = self.brief.owned.controller
        if owned is None or isinstance(owned, str):
            unfit = grid & (kinds[:, None] != drives)[:, :, None]
            self.tally.reject("controller_kind", int(unfit.sum()) * each)
            grid = grid & ~unfit
        return np.asarray(grid)

    def _refused(self, side: str, parts: list[tuple[str, Any]]) -> Iterator[tuple[int, str]]:
        """Yield the places of parts that a wish refuses, and why."""
        allowed = None if self._allowed is None else set(self._allowed)
        if allowed is not None and allowed & {ref for ref, _ in parts}:
            for place, (ref, _) in enumerate(parts):
                if ref not in allowed:
                    yield place, "allowed_parts"
        for wish in self.questions.of_parts:
            if wish.part == side:
                for place, (_, document) in enumerate(parts):
                    value = wish.ask(Stated(document))
                    if np.isnan(value):
                        yield place, f"{wish.id}_unknown"
                    elif not bool(wish.met(value)):
                        yield place, wish.id

    # PartSets, whatever is chosen last

    def _ungeared(self, trios: PartSets) -> tuple[PartSets, CompiledBuild]:
        """Return the trios that no rule stops to which gearing does not matter, and in numbers."""
        each = len(self.places)
        said = trios.stated(self.brief, np.arange(len(trios)), self.options.last.none(len(trios)))
        compiled = compile_stated(said)
        batch = Batch(compiled, wheels_up_results(compiled))
        alive = np.ones(len(trios), bool)
        for reason, passes in self.questions.stops(batch, geared=False):
            alive = self.tally.sieve(alive, passes, reason, each)
        seen = Candidates(said, batch, trios.price, trios.added_kg, np.zeros(len(trios)))
        for wish in self.questions.of_sums:
            # The parts alone: nothing that is chosen last makes it less.
            for reason, passes in kept(wish, wish.value(seen)):
                alive = self.tally.sieve(alive, passes, reason, each)
        for drive_wish in self.questions.of_drives:
            if drive_wish.ungeared and drive_wish.stands is not None:
                alive = self.tally.sieve(alive, drive_wish.stands(seen), drive_wish.id, each)
        left = np.flatnonzero(alive)
        return trios.some(left), compiled if len(left) == len(trios) else pick(compiled, left)
