"""Every candidate considered: ruled out by a bound, solved, or found feasible.

The order of the work is that of the cost of an answer. Parts by themselves come first, then
pairs and trios of them with every rule that gearing does not touch, then bounds on the
reduction: a sound bound rules out only what the solver would refuse too. What is left is
solved: pushes at the speeds wished for, then steady climb and cruise with their heat, then the
searches for top speed and launch. Each step sees only what the one before let through.
"""

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled, scalar
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.shelf import Shelf
from powertrain.drive import Drive
from powertrain.figures import searched_picture, steady_picture, wheels_up_picture
from powertrain.heat.limits import Limits
from powertrain.heat.store import Store
from powertrain.match.bounds import Stretches, stretches, too_weak
from powertrain.match.compose import driven_as, number
from powertrain.match.groups import Trios, trios_of
from powertrain.match.options import Options
from powertrain.match.ranking import Best, Front, counts_as_margin, worth_of
from powertrain.match.seen import Seen
from powertrain.match.tally import Tally
from powertrain.match.wish import OfDrive, OfPart, OfSum, Wished
from powertrain.match.wish_registry import wishes_of
from powertrain.operating.full_throttle import full_throttle
from powertrain.vehicle.traction import Grip
from powertrain.verdicts.registry import stoppers
from powertrain.verdicts.verdict import Many, Mask, exceeds

BLOCK, FIRST_BLOCK = 16384, 2048
"""Candidates that are asked together, which bounds the memory and keeps the numbers in the cache;
fewer while somebody waits for a first answer."""

MOSTLY, TRUST = 0.7, 8
"""Where more than this part of a block passes all that needs no search, so many blocks of the
same group go to the searches at once, which ask everything anyway."""

MOST_AT_ONCE = 2_000_000
"""Candidates of one group that are written out at once, before they are asked block by block."""

MOST_WAITING = 8_000_000
"""Candidates of groups that wait for their turn; beyond, they get it. Bounds the memory."""

PATIENCE = 8192
"""Survivors that are gathered before the searches, which cost least in bulk."""

Keys = NDArray[np.int64]


class Search:
    """One search; `steps` does it, and may be left at any of its pauses."""

    def __init__(
        self, brief: Brief, shelf: Shelf, *, best: int = 50, favour: Wished | None = None
    ) -> None:
        """Read the options; nothing is solved yet.

        Parameters
        ----------
        favour : Wished, optional
            A wish that the brief does not hold: what comes nearest to it is best.

        Raises
        ------
        Refusal
            If the brief names an owned part that the shelf does not have.
        """
        self.brief = brief
        self.options = Options.of(brief, shelf)
        self.tally = Tally(self.options.considered)
        self.best, self.front = Best.empty(best), Front.empty()
        wished = wishes_of(brief)
        self.wished = wished
        self.of_parts = [wish for wish in wished if isinstance(wish, OfPart)]
        self.of_sums = [wish for wish in wished if isinstance(wish, OfSum)]
        self.of_drives = [wish for wish in wished if isinstance(wish, OfDrive)]
        self._favour = favour
        self._allowed = brief.wishes.allowed_parts
        self._hub = np.array([option.mounts == "hub" for option in self.options.motors])
        self._quick = _not_implied(self.of_drives)
        self._grips = Grip.of(brief.vehicle).known
        self._timed = brief.wishes.launch is not None or brief.wishes.run_up_m is not None

    def run(self) -> "Search":
        """Do all of it."""
        for _ in self.steps():
            pass
        return self

    def steps(self) -> Iterator[Tally]:
        """Yield the tally after each block of candidates."""
        geared = self._possible_gearings()
        waiting: list[tuple[int, Iterator[Tally]]] = []
        for trios in trios_of(self.brief, self.options, self._possible_trios(geared)):
            left = self._ungeared(trios, len(geared))
            found = self._stretches(left, geared) if len(left) else None
            if found is None or not len(found.trio):
                continue
            count = int(found.counts.sum())
            self.tally.to_solve += count
            solving = self._solve(left, found, geared)
            waiting.append((count, solving))
            if not self.tally.feasible:
                # Somebody waits for a first answer; the rest of the group has its turn.
                yield next(solving, self.tally)
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

    # Parts by themselves

    def _possible_gearings(self) -> Keys:
        """Return the places of gearings that can be made and are strong enough for any motor."""
        gearings, options = self.options.gearings, self.options
        others = len(options.motors) * len(options.controllers) * len(options.packs)
        self.tally.reject("stage_teeth", int(np.count_nonzero(~gearings.possible)) * others)
        weak = gearings.possible & too_weak(self.brief, options, self.of_drives)
        self.tally.reject("tooth_load", int(np.count_nonzero(weak)) * others)
        places: Keys = np.flatnonzero(gearings.possible & ~weak)
        return places

    def _possible_trios(self, geared: Keys) -> Mask:
        """Return which motors, controllers and packs may be together at all."""
        options, each = self.options, len(geared)
        sides: dict[str, list[tuple[str, Any]]] = {
            "motor": [(option.id, option.motor) for option in options.motors],
            "controller": [(o.id, o.part.controller) for o in options.controllers],
            "pack": [(option.id, option.battery) for option in options.packs],
        }
        good: dict[str, Mask] = {side: np.ones(len(parts), bool) for side, parts in sides.items()}
        for side, parts in sides.items():
            others = each * int(np.prod([
                good[other].sum() for other in sides if other != side
            ]))  # fmt: skip
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
        for wish in self.of_parts:
            if wish.part == side:
                for place, (_, document) in enumerate(parts):
                    value = wish.ask(document)
                    if value is None:
                        yield place, f"{wish.id}_unknown"
                    elif not bool(wish.met(scalar(value))):
                        yield place, wish.id

    # Trios, whatever their gearing

    def _ungeared(self, trios: Trios, each: int) -> Trios:
        """Return the trios that no rule stops to which gearing does not matter."""
        many = self._many(trios.builds(self.brief, np.arange(len(trios)), _level(len(trios))))
        picture = wheels_up_picture(many.build, many.drive, many.store)
        many = replace(many, picture=picture)
        alive = np.ones(len(trios), bool)
        for stopper in stoppers():
            if not stopper.geared:
                alive = self.tally.sieve(alive, ~filled(stopper.stops(many), alive.shape),
                                    stopper.id, each)  # fmt: skip
        seen = Seen(many, trios.price, trios.added_kg, np.zeros(len(trios)))
        for wish in self.of_sums:
            # The parts alone, with no gearing yet: no gearing makes it less.
            value = wish.value(seen)
            alive = self.tally.kept_by(wish, value, alive, each)
        for drive_wish in self.of_drives:
            if drive_wish.ungeared and drive_wish.stands is not None:
                met = filled(drive_wish.stands(seen), alive.shape)
                alive = self.tally.sieve(alive, met, drive_wish.id, each)
        return trios.some(np.flatnonzero(alive))

    def _stretches(self, trios: Trios, geared: Keys) -> Stretches:
        """Return which stretches of the gearings each trio can use at all."""
        build = trios.builds(self.brief, np.arange(len(trios)), _level(len(trios)))
        found = stretches(self.brief, self.options, trios, Drive.of(build), geared, self.of_drives)
        for reason, count in found.rejected.items():
            self.tally.reject(reason, count)
        return found

    # Candidates

    def _solve(self, trios: Trios, found: Stretches, geared: Keys) -> Iterator[Tally]:
        """Solve what the bounds let through, a bounded number of candidates written out at once."""
        parts = np.cumsum(found.counts) // MOST_AT_ONCE
        for part in np.unique(parts):
            some = parts == part
            yield from self._solve_part(
                trios, found.trio[some], found.low[some], found.counts[some], geared
            )

    def _solve_part(
        self, trios: Trios, trio: Keys, low: Keys, counts: Keys, geared: Keys
    ) -> Iterator[Tally]:
        rows = np.repeat(trio, counts)
        begins = np.repeat(low - np.cumsum(counts) + counts, counts)
        kept_rows: list[Keys] = []
        kept_gears: list[Keys] = []
        trusted = 0
        gears = geared[begins + np.arange(len(rows))]
        rows, gears = self._strong(trios, rows, gears)
        end = 0
        while end < len(rows):
            begin, end = end, end + (BLOCK if self.tally.feasible else FIRST_BLOCK)
            row, gear = rows[begin:end], gears[begin:end]
            self.tally.solved += len(row)
            if trusted and not self._grips:
                # Nearly all of its kind passed; the searches will tell the few that don't.
                left, trusted = np.arange(len(row)), trusted - 1
            else:
                left = self._steady(trios, row, gear)
                trusted = TRUST if len(left) > MOSTLY * len(row) else 0
            kept_rows.append(row[left])
            kept_gears.append(gear[left])
            if sum(map(len, kept_rows)) >= PATIENCE or end >= len(rows):
                self._searched(trios, np.concatenate(kept_rows), np.concatenate(kept_gears))
                kept_rows, kept_gears = [], []
            yield self.tally

    def _strong(self, trios: Trios, row: Keys, gear: Keys) -> tuple[Keys, Keys]:
        """Return the candidates whose teeth stand a full-throttle start, and whose kind fits."""
        passes = np.ones(len(row), bool)
        if self.brief.owned.gearing is None:
            passes = self.tally.sieve(
                passes, self._geared_as_it_mounts(trios, row, gear), "hub_motor", 1
            )
        level = Drive.of(trios.builds(self.brief, np.arange(len(trios)), _level(len(trios))))
        if not level.grip.known:
            # Standing still the torque is that of motor, controller and pack alone.
            strong = self._stand_a_start(filled(_start_nm(level), (len(trios),))[row], gear)
            passes = self.tally.sieve(passes, strong, "tooth_load", 1)
        self.tally.to_solve -= int(np.count_nonzero(~passes))
        return row[passes], gear[passes]

    def _stand_a_start(self, torque_nm: Array, gear: Keys) -> Mask:
        return ~exceeds(torque_nm, self.options.gearings.carries_nm[gear])

    def _many(self, build: Build) -> Many:
        drive = Drive.of(build)
        store = Store.of(build, drive)
        return Many(build, drive, store, None, Limits.of(build))  # type: ignore[arg-type]

    def _builds(self, trios: Trios, row: Keys, gear: Keys) -> Build:
        table = self.options.gearings
        gearing = {
            "ratio": table.ratio[gear],
            "efficiency": table.efficiency[gear],
            "mass_kg": table.mass_kg[gear],
        }
        return trios.builds(self.brief, row, gearing)

    def _steady(self, trios: Trios, row: Keys, gear: Keys) -> Keys:
        """Return the places of candidates that pass everything which needs no search."""
        build = self._builds(trios, row, gear)
        drive, alive = Drive.of(build), np.ones(len(row), bool)
        for wish in self._quick:
            if wish.quick is not None:
                alive = self.tally.sieve(alive, filled(wish.quick(drive), alive.shape), wish.id, 1)
        if drive.grip.known:
            strong = self._stand_a_start(_start_nm(drive), gear)
            alive = self.tally.sieve(alive, strong, "tooth_load", 1)
        left: Keys = np.flatnonzero(alive)
        if not len(left):
            return left
        many = self._many(self._builds(trios, row[left], gear[left]))
        picture = steady_picture(many.build, many.drive, many.store)
        many = replace(many, picture=picture)
        passed = self._stopped(many, len(left), geared=True)
        seen = self._seen(many, trios, row[left], gear[left])
        for wish in self.of_drives:
            if wish.steady:
                passed = self.tally.kept_by(wish, wish.value(seen), passed)
        for total in self.of_sums:
            passed = self.tally.kept_by(total, total.value(seen), passed)
        return left[passed]

    def _geared_as_it_mounts(self, trios: Trios, row: Keys, gear: Keys) -> Mask:
        """Return where a hub motor has no gearing, and another motor has one."""
        return np.asarray(self._hub[trios.motor[row]] == (self.options.gearings.stages[gear] == 0))

    def _stopped(self, many: Many, count: int, *, geared: bool) -> Mask:
        """Return which candidates no rule stops, and count the others."""
        alive = np.ones(count, bool)
        for stopper in stoppers():
            if stopper.geared == geared:
                passes = ~filled(stopper.stops(many), alive.shape)
                alive = self.tally.sieve(alive, passes, stopper.id, 1)
        return alive

    def _seen(self, many: Many, trios: Trios, row: Keys, gear: Keys) -> Seen:
        table = self.options.gearings
        owned = self.brief.owned.gearing is not None
        price = trios.price[row] + (0.0 if owned else table.price[gear])
        return Seen(many, price, trios.added_kg[row] + table.mass_kg[gear],
                    table.stages[gear].astype(float))  # fmt: skip

    def _searched(self, trios: Trios, row: Keys, gear: Keys) -> None:
        """Solve candidates wholly; rank those that are feasible."""
        if not len(row):
            return
        many = self._many(self._builds(trios, row, gear))
        picture = searched_picture(many.build, many.drive, many.store, timed=self._timed)
        many = replace(many, picture=picture)
        alive = self._free_of_stops(many, trios, row, gear)
        seen = self._seen(many, trios, row, gear)
        margins = {}
        for wish in self.wished:
            if isinstance(wish, OfPart) or (isinstance(wish, OfDrive) and wish.ungeared):
                continue
            value = filled(wish.value(seen), alive.shape)  # type: ignore[attr-defined]
            alive = self.tally.kept_by(wish, value, alive)
            if counts_as_margin(wish):
                margins[wish.id] = wish.margin(value)
        worth = worth_of(self.brief, seen, margins)
        score = worth.score if self._favour is None else self._nearness(self._favour, seen)
        self._rank(trios, row, gear, np.flatnonzero(alive), seen, score,
                   filled(worth.margin, alive.shape))  # fmt: skip

    def _free_of_stops(self, many: Many, trios: Trios, row: Keys, gear: Keys) -> Mask:
        """Return which candidates no rule stops; those that a bound on the launch would, timed."""
        if self._timed:
            return self._stopped(many, len(row), geared=True)
        before = Counter(self.tally.rejected)
        alive = self._stopped(many, len(row), geared=True)
        again: Keys = np.flatnonzero(~alive)
        if len(again):
            self.tally.rejected = before
            some = self._many(self._builds(trios, row[again], gear[again]))
            picture = searched_picture(some.build, some.drive, some.store, timed=True)
            some = replace(some, picture=picture)
            alive[again] = self._stopped(some, len(again), geared=True)
        return alive

    def _nearness(self, wish: Wished, seen: Seen) -> Array:
        """Return how near each candidate comes to a wish that it does not meet."""
        build = seen.many.build
        if isinstance(wish, OfPart):
            value = wish.of(build.motor, build.controller, build.battery)
            return np.asarray(np.nan_to_num(wish.margin(number(value)), nan=-1e9))
        return np.nan_to_num(wish.margin(wish.value(seen)), nan=-1e9)  # type: ignore[attr-defined]

    def _rank(
        self, trios: Trios, row: Keys, gear: Keys, left: Keys, seen: Seen, score: Array,
        margin: Array,
    ) -> None:  # fmt: skip
        self.tally.feasible += len(left)
        if not len(left):
            return
        score, row, gear = score[left], row[left], gear[left]
        keys = np.column_stack([trios.motor[row], trios.controller[row], trios.pack[row], gear])
        self.best.offer(score, keys)
        points = np.column_stack([seen.price[left], seen.added_kg[left], -margin[left]])
        self.front.offer(points, keys)
        order = np.lexsort((gear, -score, row))
        begins = np.flatnonzero(np.diff(row[order], prepend=-1))
        counts = np.diff(np.append(begins, len(order)))
        for place, count in zip(order[begins], counts, strict=True):
            self._note_trio(keys[place], float(score[place]), int(count))

    def _note_trio(self, key: Keys, score: float, count: int) -> None:
        trio = (int(key[0]), int(key[1]), int(key[2]))
        before = self.tally.by_trio.get(trio)
        best = (score, int(key[3]))
        if before is not None:
            count += before[0]
            best = max(best, (before[1], before[2]), key=lambda one: (one[0], -one[1]))
        self.tally.by_trio[trio] = (count, *best)


def _not_implied(wishes: list[OfDrive]) -> list[OfDrive]:
    """Return the wishes to ask of a drive at once: the greater of two speeds on the level."""
    level = [wish for wish in wishes if wish.id in ("top_speed_min", "cruise")]
    most = max((wish.limit for wish in level), default=0.0)
    return [wish for wish in wishes if wish not in level or wish.limit >= most]


def _start_nm(drive: Drive) -> Array:
    """Return the torque of all shafts together at a full-throttle start."""
    return full_throttle(drive, scalar(0.0)).shaft_torque_nm * drive.motor.count


def _level(count: int) -> dict[str, Array]:
    one = np.ones(count)
    return {"ratio": one, "efficiency": one, "mass_kg": np.zeros(count)}
