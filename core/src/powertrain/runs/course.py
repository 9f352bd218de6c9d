"""A course as what is asked from step to step: by the clock, or by the place on the road."""

import math
from bisect import bisect_right
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from powertrain.controller.curve import ThrottleCurve
from powertrain.documents.run import (
    CycleCourse,
    Ride,
    RouteCourse,
    SpeedCourse,
    StandingCourse,
    StopsCourse,
    ThrottleCourse,
)
from powertrain.runs.cycles import cycle_points
from powertrain.runs.route import Road, road_of
from powertrain.units import mps_from_kmh

Numbers = NDArray[np.float64]
Mask = NDArray[np.bool_]

LONGEST_S = 48 * 3600.0
"""A ride that has not ended by then never will."""

ARRIVED_M = 1e-6


@dataclass
class Question:
    """What is asked of the next step, arrays over variants."""

    want_mps: Numbers
    asked_mps: Numbers
    grade_pct: Numbers
    seconds: Numbers
    opens: Numbers


class Course(Protocol):
    """What is asked from place to place, and when it is over; all are arrays over variants."""

    by_hand: bool
    begins_mps: float
    cuts: bool
    """Whether a step may go beyond the end, and has to be cut."""

    def ask(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> Question:
        """Return what is asked of the next step."""
        ...

    def overshoot(self, t_s: Numbers, at_m: Numbers, mps: Numbers, before: "Before") -> Numbers:
        """Return the share of a step after which the end was reached; one where it was not."""
        ...

    def settle(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> tuple[Numbers, Mask]:
        """Return the place after a step, and a mask of what is over."""
        ...


@dataclass
class Before:
    """Where a step began."""

    t_s: Numbers
    at_m: Numbers
    mps: Numbers


def course_of(ride: Ride, curve: ThrottleCurve, step_s: float, variants: int) -> "Clocked | Course":
    """Return the course of a run, asked in steps of so many seconds; a hand goes by the curve."""
    course, driver = ride.course, ride.driver
    match course:
        case SpeedCourse():
            points = [(point.t_s, point.speed_kmh) for point in course.points]
        case CycleCourse():
            once = cycle_points(course.name)
            length = once[-1][0]
            points = [
                (t + lap * length, kmh)
                for lap in range(course.repeat)
                for t, kmh in (once if lap == 0 else once[1:])
            ]
        case StopsCourse():
            points = _stops(course, driver.accelerate_mps2, driver.brake_mps2)
        case ThrottleCourse():
            return Clocked.by_throttle(course, curve, step_s)
        case StandingCourse():
            return Standing(course, step_s, variants)
        case RouteCourse():
            road = road_of(course, driver)
            if variants == 1:
                return OneOnRoad(road, ride, step_s)
            return OnRoad(road, ride, step_s, variants)
    grade = 0.0 if isinstance(course, CycleCourse) else course.grade_pct
    return Clocked.by_speed(points, grade, step_s)


def _stops(course: StopsCourse, gains: float, brakes: float) -> list[tuple[float, float]]:
    top_mps = mps_from_kmh(course.to_kmh)
    up_s, down_s = top_mps / gains, top_mps / brakes
    points, t = [(0.0, 0.0)], 0.0
    for _ in range(course.times):
        for seconds, kmh in (
            (up_s, course.to_kmh),
            (course.hold_s, course.to_kmh),
            (down_s, 0.0),
            (course.rest_s, 0.0),
        ):
            if seconds > 0:
                t += seconds
                points.append((t, kmh))
    return points


def _grid(times: list[float], step_s: float) -> Numbers:
    """Return times a step apart, every one of a course among them."""
    begins, ends = times[0], times[-1]
    even = begins + step_s * np.arange(int(np.floor((ends - begins) / step_s + 1e-9)) + 1)
    all_times = np.union1d(even, np.array([t for t in times if begins <= t <= ends]))
    keep = np.append(True, np.diff(all_times) > 1e-9)
    kept: Numbers = all_times[keep]
    return kept


class Clocked:
    """A course by the clock: all that is asked is known before, and the same for all variants."""

    def __init__(
        self,
        times: Numbers,
        want_mps: Numbers,
        grade_pct: float,
        throttle: Numbers | None,
    ) -> None:
        """Take the times of a grid, and the speed at each, or the throttle from each on.

        `seconds`, `ends_s`, `want_mps` and `throttle` are then those of each step.
        """
        self.by_hand = throttle is not None
        self.begins_mps = 0.0 if self.by_hand else float(want_mps[0])
        self.grade_pct = grade_pct
        self.seconds, self.ends_s = np.diff(times), times[1:]
        self.want_mps, self.throttle = want_mps[1:], throttle
        self._taken = 0

    @classmethod
    def by_speed(
        cls, points: list[tuple[float, float]], grade_pct: float, step_s: float
    ) -> "Clocked":
        """Return the course through points of seconds and km/h."""
        times = _grid([t for t, _ in points], step_s)
        speeds = np.interp(times, [t for t, _ in points], [mps_from_kmh(kmh) for _, kmh in points])
        return cls(times - times[0], speeds, grade_pct, None)

    @classmethod
    def by_throttle(cls, course: ThrottleCourse, curve: ThrottleCurve, step_s: float) -> "Clocked":
        """Return the course of a hand; nothing is held before its first point."""
        at = [point.t_s for point in course.points]
        ends = course.until_s or at[-1]
        times = _grid(sorted({0.0, *at, ends}), step_s)
        held = np.searchsorted(at, times + 1e-9, side="right") - 1
        shares = np.array([point.throttle_pct / 100 for point in course.points])
        pulled = np.where(held >= 0, shares[np.maximum(held, 0)], 0.0)
        throttle = curve.volts_share(pulled)
        return cls(times, np.full(len(times), np.inf), course.grade_pct, throttle)

    def next_steps(self, most: int) -> slice:
        """Return which steps of the grid come next, and go on behind them."""
        begins = self._taken
        self._taken = min(begins + most, len(self.seconds))
        return slice(begins, self._taken)

    @property
    def is_over(self) -> bool:
        """Whether all of its steps have been taken."""
        return self._taken >= len(self.seconds)


class Standing:
    """Full throttle from rest."""

    by_hand = False
    begins_mps = 0.0
    cuts = True

    def __init__(self, course: StandingCourse, step_s: float, variants: int) -> None:
        """Take what ends it."""
        self._ones = np.ones(variants)
        self._grade, self._step = course.grade_pct * self._ones, step_s * self._ones
        self._m = np.inf if course.until_m is None else course.until_m
        self._mps = np.inf if course.until_kmh is None else mps_from_kmh(course.until_kmh)
        self._s = np.inf if course.until_s is None else course.until_s

    def ask(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> Question:
        """Ask for all there is."""
        far = np.full_like(self._ones, np.inf)
        seconds = np.minimum(self._step, np.maximum(self._s - t_s, 0.0))
        return Question(far, np.full_like(far, np.nan), self._grade, seconds, self._ones)

    def overshoot(self, t_s: Numbers, at_m: Numbers, mps: Numbers, before: Before) -> Numbers:
        """Return the share of the step after which a distance or a speed was reached."""
        share = self._ones
        for ends, after, was in (
            (self._m, at_m, before.at_m),
            (self._mps, mps, before.mps),
        ):
            with np.errstate(divide="ignore", invalid="ignore"):
                part = (ends - was) / (after - was)
            share = np.where((after > ends) & (part < share), part, share)
        return share

    def settle(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> tuple[Numbers, Mask]:
        """Return what has reached an end."""
        over = (
            (at_m >= self._m * (1 - 1e-12))
            | (mps >= self._mps * (1 - 1e-12))
            | (t_s >= self._s - 1e-9)
        )
        return at_m, over


class OnRoad:
    """A route, whose driver looks ahead."""

    by_hand = False
    begins_mps = 0.0

    def __init__(self, road: Road, ride: Ride, step_s: float, variants: int) -> None:
        """Take a road and who rides it."""
        driver = ride.driver
        self._road, self._step = road, step_s
        self.cuts = not road.ends_standing
        self._gains, self._brakes = driver.accelerate_mps2, driver.brake_mps2
        self._coasts = driver.coast_to_stops
        self._ideal = np.zeros(variants)
        self._wait = np.zeros(variants)
        self._next = np.zeros(variants, int)
        self._stop_m = np.array([place for place, _ in road.stops] + [np.inf])
        self._stop_s = np.array([seconds for _, seconds in road.stops] + [0.0])
        self._length = road.length_m
        self._arrives = np.zeros(variants, bool)
        self._ones = np.ones(variants)

    def ask(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> Question:
        """Return the speed that the driver wants next, by what comes."""
        road, step, brake = self._road, self._step, self._brakes
        here2 = np.interp(at_m, road.envelope_m, road.envelope2)
        ahead2 = np.interp(at_m + mps * step, road.envelope_m, road.envelope2)
        falls = ahead2 < here2 - 1e-9
        # On the way down to a lower speed: v_e^2 = w(s + (v + v_e) dt/2) with w' = -2 b.
        inside = brake * brake * step * step + 4 * np.maximum(here2 - brake * mps * step, 0.0)
        line = 0.5 * (np.sqrt(inside) - brake * step)
        most = np.where(
            falls, np.maximum(line, np.sqrt(ahead2)), np.sqrt(np.minimum(here2, ahead2))
        )
        # A lap's first place is no end of anything: there one speeds up from rest.
        most = np.where((here2 <= 0) & ~falls, np.sqrt(ahead2), most)
        wants = np.minimum(self._ideal + self._gains * step, most)
        rest_m = self._stop_m[self._next] - at_m
        self._arrives = (rest_m <= 0.5 * mps * step + ARRIVED_M) & (self._wait <= 0)
        stands = self._arrives | (self._wait > 0)
        wants = np.where(stands, 0.0, wants)
        seconds = np.where(self._wait > 0, np.minimum(self._wait, step), step)
        middle = at_m + 0.5 * mps * step
        place = np.searchsorted(road.at_m, middle + ARRIVED_M, side="right") - 1
        grade = road.grade_pct[place]
        self._ideal = wants
        opens = self._ones
        if self._coasts:
            opens = np.where(falls & ~stands, 0.0, 1.0)
        return Question(wants, wants, grade, seconds, opens)

    def overshoot(self, t_s: Numbers, at_m: Numbers, mps: Numbers, before: Before) -> Numbers:
        """Return the share of the step after which the end of the road was reached."""
        if self._road.ends_standing:
            return self._ones
        with np.errstate(divide="ignore", invalid="ignore"):
            part = (self._length - before.at_m) / (at_m - before.at_m)
        return np.where(at_m > self._length, part, 1.0)

    def settle(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> tuple[Numbers, Mask]:
        """Stand where a stop was reached, wait there, and say what has come to the end."""
        waited = self._wait > 0
        self._wait = np.where(waited, self._wait - self._step, self._wait)
        self._wait = np.where(self._wait < 1e-9, 0.0, self._wait)
        arrived = self._arrives & (mps <= 0)
        stop = np.minimum(self._next, len(self._stop_s) - 1)
        at_m = np.where(arrived, self._stop_m[stop], at_m)
        self._wait = np.where(arrived, self._stop_s[stop], self._wait)
        self._next = np.where(arrived, self._next + 1, self._next)
        if self._road.ends_standing:
            done = self._next >= len(self._road.stops)
            return at_m, done & (self._wait <= 0)
        return at_m, at_m >= self._length * (1 - 1e-12)


class OneOnRoad:
    """A route for one build alone: as `OnRoad`, in plain numbers, which are many times quicker.

    The two are held against one another in the tests.
    """

    by_hand = False
    begins_mps = 0.0

    def __init__(self, road: Road, ride: Ride, step_s: float) -> None:
        """Take a road and who rides it."""
        driver = ride.driver
        self.cuts = not road.ends_standing
        self._step, self._gains, self._brakes = step_s, driver.accelerate_mps2, driver.brake_mps2
        self._coasts, self._length = driver.coast_to_stops, road.length_m
        self._at: list[float] = road.at_m.tolist()
        self._grade: list[float] = road.grade_pct.tolist()
        self._along: list[float] = road.envelope_m.tolist()
        self._squares: list[float] = road.envelope2.tolist()
        self._stops = [*road.stops, (math.inf, 0.0)]
        self._stands = road.ends_standing
        self._ideal = self._wait = 0.0
        self._next = 0
        self._arrives = False
        self._over, self._on = np.ones(1, bool), np.zeros(1, bool)
        self._whole = np.ones(1)

    def _square(self, at_m: float) -> float:
        """Return the square of the greatest speed at a place."""
        along, squares = self._along, self._squares
        place = bisect_right(along, at_m)
        if place == 0:
            return squares[0]
        if place == len(along):
            return squares[-1]
        low, high = along[place - 1], along[place]
        share = (at_m - low) / (high - low)
        return squares[place - 1] + share * (squares[place] - squares[place - 1])

    def ask(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> Question:
        """Return the speed that the driver wants next; see `OnRoad.ask`."""
        at, speed = float(at_m[0]), float(mps[0])
        step, brake = self._step, self._brakes
        here2, ahead2 = self._square(at), self._square(at + speed * step)
        falls = ahead2 < here2 - 1e-9
        if falls:
            inside = brake * brake * step * step + 4 * max(here2 - brake * speed * step, 0.0)
            most = max(0.5 * (math.sqrt(inside) - brake * step), math.sqrt(ahead2))
        elif here2 <= 0:
            most = math.sqrt(ahead2)
        else:
            most = math.sqrt(min(here2, ahead2))
        wants = min(self._ideal + self._gains * step, most)
        waits = self._wait > 0
        rest_m = self._stops[self._next][0] - at
        self._arrives = not waits and rest_m <= 0.5 * speed * step + ARRIVED_M
        stands = waits or self._arrives
        if stands:
            wants = 0.0
        seconds = min(self._wait, step) if waits else step
        middle = at + 0.5 * speed * step + ARRIVED_M
        grade = self._grade[bisect_right(self._at, middle) - 1]
        self._ideal = wants
        opens = 0.0 if self._coasts and falls and not stands else 1.0
        # Plain numbers go wherever arrays of one do.
        return Question(wants, wants, grade, seconds, opens)  # type: ignore[arg-type]

    def overshoot(self, t_s: Numbers, at_m: Numbers, mps: Numbers, before: Before) -> Numbers:
        """Return the share of the step after which the end of the road was reached."""
        after = float(at_m[0])
        if after <= self._length:
            return self._whole
        was = float(before.at_m[0])
        return np.array([(self._length - was) / (after - was)])

    def settle(self, t_s: Numbers, at_m: Numbers, mps: Numbers) -> tuple[Numbers, Mask]:
        """Stand where a stop was reached; see `OnRoad.settle`."""
        if self._wait > 0:
            self._wait -= self._step
            if self._wait < 1e-9:
                self._wait = 0.0
        if self._arrives and mps[0] <= 0:
            place, self._wait = self._stops[self._next]
            at_m = np.array([place])
            self._next += 1
        if self._stands:
            done = self._next >= len(self._stops) - 1 and self._wait <= 0
        else:
            done = float(at_m[0]) >= self._length * (1 - 1e-12)
        return at_m, self._over if done else self._on
