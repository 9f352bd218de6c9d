"""What can be ruled out before any candidate is solved: parts, pairs and trios of parts, bounds."""

from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, pick
from powertrain.compile.build import CompiledBuild, compile_stated
from powertrain.documents.brief import Brief
from powertrain.match.bounds import RatioIntervals, stretches, too_weak
from powertrain.match.candidates import Candidates
from powertrain.match.compose import driven_as
from powertrain.match.groups import PartSets, trios_of
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

    def __init__(self, brief: Brief, options: Options, questions: Questions, tally: Tally) -> None:
        """Look at the gearings; the rest is done as it is asked for."""
        self.brief, self.options, self.questions, self.tally = brief, options, questions, tally
        self._allowed = brief.wishes.allowed_parts
        self.geared = self._possible_gearings()
        """Places of the gearings that any candidate may have, by rising reduction."""

    def groups(self) -> Iterator[tuple[PartSets, RatioIntervals]]:
        """Yield groups of trios with the stretches of gearings that each of them can use."""
        if not len(self.geared):
            return
        for trios in trios_of(self.brief, self.options, self._possible_trios()):
            left, compiled = self._ungeared(trios)
            if not len(left):
                continue
            found = self._stretches(left, compiled)
            if len(found.trio):
                yield left, found

    # Parts by themselves

    def _possible_gearings(self) -> Keys:
        """Return the places of gearings that can be made and are strong enough for any motor."""
        gearings, options = self.options.gearings, self.options
        others = len(options.motors) * len(options.controllers) * len(options.packs)
        self.tally.reject("stage_teeth", int(np.count_nonzero(~gearings.possible)) * others)
        low = gearings.possible & ~gearings.clears
        self.tally.reject("ground_clearance", int(np.count_nonzero(low)) * others)
        made = gearings.possible & gearings.clears
        weak = made & too_weak(self.brief, options, self.questions.of_drives)
        self.tally.reject("tooth_load", int(np.count_nonzero(weak)) * others)
        places: Keys = np.flatnonzero(made & ~weak)
        return places

    def _possible_trios(self) -> Mask:
        """Return which motors, controllers and packs may be together at all."""
        options, each = self.options, len(self.geared)
        sides: dict[str, list[tuple[str, Any]]] = {
            "motor": [(option.id, option.motor) for option in options.motors],
            "controller": [(o.id, o.part.controller) for o in options.controllers],
            "pack": [(option.id, option.battery) for option in options.packs],
        }
        good: dict[str, Mask] = {side: np.ones(len(parts), bool) for side, parts in sides.items()}
        for side, parts in sides.items():
            others = each * int(np.prod([good[other].sum() for other in sides if other != side]))
            for place, reason in self._refused(side, parts):
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

    # PartSets, whatever their gearing

    def _ungeared(self, trios: PartSets) -> tuple[PartSets, CompiledBuild]:
        """Return the trios that no rule stops to which gearing does not matter, and in numbers."""
        each = len(self.geared)
        said = trios.stated(self.brief, np.arange(len(trios)), level(len(trios)))
        compiled = compile_stated(said)
        batch = Batch(compiled, wheels_up_results(compiled))
        alive = np.ones(len(trios), bool)
        for reason, passes in self.questions.stops(batch, geared=False):
            alive = self.tally.sieve(alive, passes, reason, each)
        seen = Candidates(said, batch, trios.price, trios.added_kg, np.zeros(len(trios)))
        for wish in self.questions.of_sums:
            # The parts alone, with no gearing yet: no gearing makes it less.
            for reason, passes in kept(wish, wish.value(seen)):
                alive = self.tally.sieve(alive, passes, reason, each)
        for drive_wish in self.questions.of_drives:
            if drive_wish.ungeared and drive_wish.stands is not None:
                alive = self.tally.sieve(alive, drive_wish.stands(seen), drive_wish.id, each)
        left = np.flatnonzero(alive)
        return trios.some(left), compiled if len(left) == len(trios) else pick(compiled, left)

    def _stretches(self, trios: PartSets, compiled: CompiledBuild) -> RatioIntervals:
        """Return which stretches of the gearings each trio, geared one to one, can use at all."""
        found = stretches(
            self.brief, self.options, trios, compiled, self.geared, self.questions.of_drives
        )
        for reason, count in found.rejected.items():
            self.tally.reject(reason, count)
        return found


def level(count: int) -> dict[str, Array]:
    """Return the gearing of trios that are looked at without one."""
    one = np.ones(count)
    return {"ratio": one, "efficiency": one, "mass_kg": np.zeros(count)}
