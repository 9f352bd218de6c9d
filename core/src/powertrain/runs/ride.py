"""A run from its first state to its last: step after step, with everything that is summed up."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.compile.build import CompiledBuild
from powertrain.controller.curve import ThrottleCurve
from powertrain.documents.run import Run
from powertrain.doubt.draws import Drawn
from powertrain.heat.limits import NODES
from powertrain.runs.course import LONGEST_S, Before, Clocked, Course, course_of
from powertrain.runs.rider import Rider, begins_of
from powertrain.runs.step import STATES
from powertrain.runs.step_length import STEP_S
from powertrain.stated import Stated
from powertrain.units import mps_from_kmh

Numbers = NDArray[np.float64]

CUTS = 4
"""How often the last step is cut to end at its exact moment."""

BLOCK = 8192
"""Steps times variants that are looked at together."""

SAMPLES = 8
"""Moments of a block of which way and charge are kept of every variant."""

STUCK_S = 1.0
"""After so long at full throttle without moving a hill can't be climbed."""

BEHIND_KMH = 2.0


@dataclass(frozen=True)
class Ridden:
    """What a ride came to, arrays over variants; `rows` only of a single one.

    `totals` are readings and watts times seconds, `squares` those of amps; `rows` hold, for each
    step, its end and the readings of its middle; `ended` why each variant ended.
    """

    compiled: CompiledBuild
    t_s: Numbers
    at_m: Numbers
    behind_s: Numbers
    totals: dict[str, Numbers]
    squares: dict[str, Numbers]
    back_ws: Numbers
    most: dict[str, Numbers]
    least: dict[str, Numbers]
    most_mps: Numbers
    ended: NDArray[np.str_]
    cut: NDArray[np.bool_]
    ends: dict[str, Numbers]
    rows: dict[str, Numbers] | None
    sampled: dict[str, Numbers]
    """Way and charge at some moments of every variant, shape (moments, variants)."""
    watched: dict[str, Numbers]
    """What was to be watched of every step of every variant, shape (steps, variants)."""


def ride(
    run: Run,
    *,
    step_s: float = STEP_S,
    drawn: Drawn | None = None,
    plain: bool = False,
    watch: tuple[str, ...] = (),
) -> Ridden:
    """Return what a run comes to.

    Parameters
    ----------
    drawn : Drawn, optional
        The build's doubtful inputs, arrays over variants.
    plain : bool
        Whether to take the step itself and not its compiled form.
    watch : tuple of str
        Names of outputs and of what is asked that are kept for every variant, not for one alone.
    """
    said, given = Stated(run.build), run.ride
    hand = given.course.kind == "throttle"
    soc = given.start.soc_pct / 100
    rider = Rider(said, soc, regenerates=given.driver.regenerate, by_hand=hand, drawn=drawn)
    return _Loop(run, rider, step_s, plain).go(watch)


class _Loop:
    """Steps in blocks: what each step leads to is reckoned for a whole block at once."""

    def __init__(self, run: Run, rider: Rider, step_s: float, plain: bool) -> None:
        self.count, self.rider = rider.variants, rider
        self.course = course_of(
            run.ride, ThrottleCurve.of(Stated(run.build.controller)), step_s, self.count
        )
        self.compiled = rider.compiled
        stepper = rider.stepper(plain=plain)
        self.stepper, self.names = stepper, stepper.names
        self.at = {name: index for index, name in enumerate(self.names)}
        place = stepper.place
        state = begins_of(self.compiled, self.count, run.ride.start, self.course.begins_mps)
        # An empty pack gives nothing from the first moment.
        state["gives"] = np.where(state["charge"] > 0, 1.0, 0.0)
        for name in STATES:
            if name in place:
                stepper.inputs[place[name]] = state[name]
        self.moves = [
            (stepper.inputs[place[name]], stepper.outputs[self.at[name]])
            for name in STATES
            if name in place
        ]
        travel = self.compiled.drive.load.travel_m
        self.travel_m = np.array(np.broadcast_to(np.asarray(travel, float), (self.count,)))
        limits = self.compiled.limits
        self.burnt = np.stack(
            [
                np.broadcast_to(np.asarray(limits.burnt_c(key), float), (self.count,))
                for key in NODES
            ]
        )
        self.t_s, self.at_m = np.zeros(self.count), np.zeros(self.count)
        self.mps = np.full(self.count, self.course.begins_mps)
        self.alive = np.ones(self.count, bool)
        self.ended = np.full(self.count, "", "<U12")
        self.stuck = np.zeros(self.count)
        size = max(16, BLOCK // self.count)
        self.block = np.empty((size, *stepper.outputs.shape))
        self.asked = {name: np.empty((size, self.count)) for name in ROW}
        self.over = np.zeros((size, self.count), bool)

    def go(self, watch: tuple[str, ...] = ()) -> Ridden:
        count, at = self.count, self.at
        sums = _Sums(count, len(self.names), self.mps)
        kept: list[dict[str, Numbers]] = []
        sampled: list[dict[str, Numbers]] = []
        watched: dict[str, list[Numbers]] = {name: [] for name in watch}
        while self.alive.any():
            steps = self._block()
            lives = self._judged(steps)
            seconds = self.asked["seconds"][:steps] * lives
            sums.add(self.block[:steps], self.asked, seconds, lives, at)
            for name in watch:
                values = self.block[:, at[name]] if name in at else self.asked[name]
                watched[name].append(values[:steps].copy())
            some = slice(None, steps, max(steps // SAMPLES, 1))
            ways = {"at_m": self.asked["at_m"], "charge": self.block[:, at["charge"]]}
            sampled.append({name: values[some].copy() for name, values in ways.items()})
            if count == 1:
                shown = lives[:, 0]
                rows = {name: self.block[:steps, index, 0][shown] for name, index in at.items()}
                own = {name: values[:steps, 0][shown] for name, values in self.asked.items()}
                kept.append({**rows, **own})
        if "set_aside" in at and np.any(sums.totals[at["set_aside"]]):
            raise ValueError("a step decided by its numbers what to do next")
        named = {name: sums.totals[index] for name, index in at.items()}
        joined: dict[str, Numbers] | None = None
        if count == 1:
            joined = {name: np.concatenate([one[name] for one in kept]) for name in kept[0]}
        return Ridden(
            compiled=self.compiled,
            t_s=sums.t_s,
            at_m=sums.at_m,
            behind_s=sums.behind_s,
            totals=named,
            squares=sums.squares,
            back_ws=sums.back_ws,
            most={name: sums.most[index] for name, index in at.items()},
            least={name: sums.least[index] for name, index in at.items()},
            most_mps=sums.most_mps,
            ended=self.ended,
            cut=sums.cut,
            ends={name: sums.last[at[name]] for name in STATES},
            rows=joined,
            sampled={name: np.concatenate([one[name] for one in sampled]) for name in sampled[0]},
            watched={name: np.concatenate(values) for name, values in watched.items()},
        )

    def _block(self) -> int:
        """Take as many steps as a block has, or as the course goes on; return how many."""
        course = self.course
        return self._by_clock(course) if isinstance(course, Clocked) else self._by_place(course)

    def _by_clock(self, course: Clocked) -> int:
        """Take steps of which all that is asked is known before."""
        stepper, asked = self.stepper, self.asked
        outputs, run, block, moves = stepper.outputs, stepper.run, self.block, self.moves
        some = course.next_steps(len(block))
        count = len(course.seconds[some])
        seconds = course.seconds[some, None] * self.alive
        wants = course.want_mps[some]
        self._input("situation")[...] = course.grade_pct
        self._input("opens")[...] = 1.0
        want, given = self._input("want_rad_s"), self._input("seconds")
        throttle = self._input("throttle")
        held = np.full(count, np.nan) if course.throttle is None else course.throttle[some]
        turns = wants[:, None] / self.travel_m
        if not self.alive.all():
            # What has ended stays as it is.
            turns[:, ~self.alive] = (self.mps / self.travel_m)[~self.alive]
        for step in range(count):
            want[...] = turns[step]
            given[...] = seconds[step]
            throttle[...] = held[step]
            run()
            for to, of in moves:
                to[...] = of
            block[step] = outputs
        taken = block[:count]
        ways = np.cumsum(taken[:, self.at["speed_mps"]] * seconds, axis=0)
        asked["at_m"][:count] = self.at_m + ways
        asked["mps"][:count] = taken[:, self.at["output_rad_s"]] * self.travel_m
        asked["begin_mps"][0] = self.mps
        asked["begin_mps"][1:count] = asked["mps"][: count - 1]
        asked["t_s"][:count] = course.ends_s[some, None]
        asked["seconds"][:count] = seconds
        asked["want_mps"][:count] = wants[:, None]
        asked["asked_mps"][:count] = np.nan if course.by_hand else wants[:, None]
        asked["grade_pct"][:count] = course.grade_pct
        asked["throttle"][:count] = held[:, None]
        self.at_m, self.mps = asked["at_m"][count - 1].copy(), asked["mps"][count - 1].copy()
        self.over[:count] = False
        self.over[count - 1] = course.is_over
        return count

    def _by_place(self, course: Course) -> int:
        """Take steps that are asked by where one is."""
        stepper, asked_rows = self.stepper, self.asked
        outputs, run = stepper.outputs, stepper.run
        want, opens = self._input("want_rad_s"), self._input("opens")
        situation, seconds_in = self._input("situation"), self._input("seconds")
        speed = outputs[self.at["speed_mps"]]
        turns = outputs[self.at["output_rad_s"]]
        travel, alive = self.travel_m, self.alive
        all_live = bool(alive.all())
        asked_rows["throttle"][...] = np.nan
        for step in range(len(self.block)):
            asked = course.ask(self.t_s, self.at_m, self.mps)
            seconds = asked.seconds if all_live else np.where(alive, asked.seconds, 0.0)
            want[...] = asked.want_mps / travel
            if not all_live:
                want[~alive] = (self.mps / travel)[~alive]
            situation[...] = asked.grade_pct
            seconds_in[...] = seconds
            opens[...] = asked.opens
            run()
            if course.cuts:
                seconds = self._cut(course, seconds, seconds_in, speed, turns)
            before = self.mps
            self.at_m = self.at_m + speed * seconds
            self.mps = turns * travel
            self.t_s = self.t_s + seconds
            for to, of in self.moves:
                to[...] = of
            self.block[step] = outputs
            asked_rows["asked_mps"][step] = asked.asked_mps
            asked_rows["want_mps"][step] = asked.want_mps
            asked_rows["grade_pct"][step] = asked.grade_pct
            asked_rows["seconds"][step] = seconds
            asked_rows["begin_mps"][step] = before
            self.at_m, self.over[step] = course.settle(self.t_s, self.at_m, self.mps)
            asked_rows["at_m"][step], asked_rows["mps"][step] = self.at_m, self.mps
            asked_rows["t_s"][step] = self.t_s
            if self.over[step].all():
                return step + 1
        return len(self.block)

    def _input(self, name: str) -> Numbers:
        """Return the row of an input; one that nothing depends on is written for nothing."""
        place = self.stepper.place.get(name)
        return np.zeros(self.count) if place is None else self.stepper.inputs[place]

    def _cut(
        self, course: Course, seconds: Numbers, given: Numbers, speed: Numbers, turns: Numbers
    ) -> Numbers:
        """Return the seconds of a step that ends where the course does."""
        before = Before(self.t_s, self.at_m, self.mps)
        for _ in range(CUTS):
            share = course.overshoot(
                self.t_s + seconds, self.at_m + speed * seconds, turns * self.travel_m, before
            )
            if (share >= 1.0).all():
                break
            seconds = seconds * share
            given[...] = seconds
            self.stepper.run()
        return seconds

    def _judged(self, steps: int) -> NDArray[np.bool_]:
        """Say why what ends in a block ends; return at which of its steps each still rides."""
        block, at = self.block[:steps], self.at
        asked = {name: values[:steps] for name, values in self.asked.items()}
        warm = block[:, [at[f"{key}_c"] for key in NODES]]
        gives, stands = block[:, at["gives"]] > 0.5, asked["mps"] <= 0
        pulls = (block[:, at["full"]] > 0.5) & stands & (asked["want_mps"] > 0)
        pulls &= not self.course.by_hand
        stuck = _lasting(pulls, asked["seconds"], self.stuck)
        self.stuck = stuck[-1]
        lost = stands & ~gives
        if self.rider.recovers:
            lost &= False
        reasons = (
            ((warm > self.burnt).any(axis=1), "burnt"),
            (self.over[:steps], "course"),
            (lost & (block[:, at["charge"]] <= 0), "empty"),
            (lost, "cut_off"),
            (stuck >= STUCK_S, "cannot_climb"),
            (asked["t_s"] >= LONGEST_S, "too_long"),
        )
        masks = np.stack([mask for mask, _ in reasons])
        ends: NDArray[np.bool_] = np.logical_or.reduce(masks, axis=0)
        first = np.where(ends.any(axis=0), np.argmax(ends, axis=0), steps)
        lives = (np.arange(steps)[:, None] <= first) & self.alive
        for variant in np.flatnonzero(self.alive & (first < steps)):
            held = masks[:, first[variant], variant]
            self.ended[variant] = reasons[int(np.argmax(held))][1]
        self.alive = self.alive & (first >= steps)
        return lives


ROW = (
    "t_s",
    "at_m",
    "mps",
    "begin_mps",
    "seconds",
    "asked_mps",
    "want_mps",
    "grade_pct",
    "throttle",
)
"""What is kept of each step beside its outputs."""


class _Sums:
    """All that is summed up over a ride, arrays over variants."""

    def __init__(self, count: int, outputs: int, mps: Numbers) -> None:
        self.totals = np.zeros((outputs, count))
        self.most = np.full((outputs, count), -np.inf)
        self.least = np.full((outputs, count), np.inf)
        self.last = np.zeros((outputs, count))
        self.squares = {name: np.zeros(count) for name in ("motor_current_a", "battery_current_a")}
        self.back_ws, self.behind_s = np.zeros(count), np.zeros(count)
        self.t_s, self.at_m, self.most_mps = np.zeros(count), np.zeros(count), mps.copy()
        self.cut = np.zeros(count, bool)

    def add(
        self,
        block: Numbers,
        asked: dict[str, Numbers],
        seconds: Numbers,
        lives: NDArray[np.bool_],
        at: dict[str, int],
    ) -> None:
        steps = len(block)
        self.totals += np.einsum("son,sn->on", block, seconds)
        for name, sums in self.squares.items():
            amps = block[:, at[name]]
            sums += (amps * amps * seconds).sum(axis=0)
        self.back_ws += (np.maximum(-block[:, at["terminals_w"]], 0.0) * seconds).sum(axis=0)
        behind = asked["asked_mps"][:steps] - asked["mps"][:steps] > mps_from_kmh(BEHIND_KMH)
        self.behind_s += np.where(behind, seconds, 0.0).sum(axis=0)
        whole = lives[:, None, :]
        np.maximum(self.most, np.where(whole, block, -np.inf).max(axis=0), out=self.most)
        np.minimum(self.least, np.where(whole, block, np.inf).min(axis=0), out=self.least)
        speeds = np.where(lives, asked["mps"][:steps], -np.inf)
        self.most_mps = np.maximum(self.most_mps, speeds.max(axis=0))
        self.cut |= (~(block[:, at["gives"]] > 0.5) & lives).any(axis=0)
        ridden = lives.sum(axis=0)
        for variant in np.flatnonzero(ridden):
            end = ridden[variant] - 1
            self.last[:, variant] = block[end, :, variant]
            self.t_s[variant] = asked["t_s"][end, variant]
            self.at_m[variant] = asked["at_m"][end, variant]


def _lasting(holds: NDArray[np.bool_], seconds: Numbers, before: Numbers) -> Numbers:
    """Return for how long something has held without a break, at each step."""
    lasted = np.cumsum(np.where(holds, seconds, 0.0), axis=0)
    since = np.maximum.accumulate(np.where(holds, 0.0, lasted), axis=0)
    unbroken = np.logical_and.accumulate(holds, axis=0)
    return np.where(holds, lasted - since + np.where(unbroken, before, 0.0), 0.0)
