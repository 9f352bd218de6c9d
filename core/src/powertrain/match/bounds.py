"""Sound bounds on the reduction: they rule out only what the solver would refuse too.

Push never rises with speed and never exceeds that of standstill, and there is none above the
speed where the back-EMF leaves no volts. So a reduction beyond ``v_free(1)/v`` can't reach v,
and one below ``F/(F_0(1) eta)`` can't push with F anywhere.
"""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled, pick, scalar, with_axis
from powertrain.compile.build import CompiledBuild
from powertrain.compile.ratings import Ratings
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.load.road_load import RoadLoad
from powertrain.load.traction import Grip
from powertrain.match.compose import own_gearbox
from powertrain.match.groups import PartSets
from powertrain.match.last import Intervals
from powertrain.match.options import Options
from powertrain.match.wish import OfDrive
from powertrain.match.wishes.climb import JUST_MOVES_KMH
from powertrain.operating.free import held
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.on_road import fastest_mps, push_n
from powertrain.stated import Stated, unstated
from powertrain.units import mps_from_kmh, radius_m_from_circumference_mm

ROOM = 1e-9
"""Relative room for arithmetic, on the side of considering."""


@dataclass(frozen=True)
class Duty:
    """A speed that must be held on a grade, and the wish that asks it."""

    id: str
    speed_mps: float
    grade_pct: float


def duties_of(brief: Brief, wishes: Sequence[OfDrive]) -> list[Duty]:
    """Return the speeds that must be held, as the wishes say them."""
    hill = brief.wishes.climb
    found = []
    for wish in wishes:
        if wish.id in ("top_speed_min", "cruise"):
            found.append(Duty(wish.id, mps_from_kmh(wish.limit), 0.0))
        elif wish.id == "climb" and hill is not None:
            speed_kmh = hill.speed_kmh or JUST_MOVES_KMH
            found.append(Duty(wish.id, mps_from_kmh(speed_kmh), hill.grade_pct))
    return found


def too_weak(brief: Brief, options: Options, wishes: Sequence[OfDrive]) -> NDArray[np.bool_]:
    """Return the gearings whose teeth can't pass on what some duty takes.

    With the lightest parts: the torque at the shafts for a push F is ``F r/(G eta)``, and a
    full-throttle start, at which the teeth are judged, gives no less: push never rises with
    speed, and tyres put down most on the level.
    """
    gearings = options.gearings
    lightest = brief.vehicle.mass_kg + _lightest_kg(brief, options)
    road = RoadLoad.of(Stated(brief.vehicle), Stated(brief.conditions))
    road = replace(road, mass_kg=scalar(lightest))
    radius_m = radius_m_from_circumference_mm(brief.driven_wheel.rolling_circumference_mm)
    weak = np.zeros(len(gearings), bool)
    for duty in duties_of(brief, wishes):
        force_n = float(road.force_n(scalar(duty.speed_mps), scalar(duty.grade_pct)))
        torque_nm = force_n * radius_m / (gearings.ratio * gearings.efficiency)
        weak = weak | (torque_nm > gearings.carries_nm * (1 + 2 * ROOM))
    return weak


def _lightest_kg(brief: Brief, options: Options) -> float:
    def least(masses: list[float | None]) -> float:
        return min((mass or 0.0 for mass in masses), default=0.0)

    return (
        brief.motor_count * least([option.motor.mass_kg for option in options.motors])
        + least([option.part.controller.mass_kg for option in options.controllers])
        + least([option.battery.mass_kg for option in options.packs])
    )


CELLS = 64
"""Parts into which a trio's window is cut, each of one step in proportion."""

TOGETHER = 512
"""PartSets whose windows are cut together; bounds the memory."""


def stretches(
    brief: Brief,
    options: Options,
    trios: PartSets,
    level: CompiledBuild,
    geared: NDArray[np.int64],
    wishes: Sequence[OfDrive],
) -> Intervals:
    """Return which of the possible gearings, by rising reduction, each trio may use.

    Parameters
    ----------
    level : CompiledBuild
        The trios geared one to one without loss.
    """
    if own_gearbox(brief):
        # Which gear is engaged the solver finds; there is one gearing, and nothing to rule out.
        every = np.arange(len(trios), dtype=np.int64)
        return Intervals(every, 0 * every, np.full_like(every, len(geared)), Counter())
    drive = held(level.drive)
    ask = _Ask(brief, options, trios, drive, level.ratings, geared, wishes)
    low, high, rejected = _windows(ask)
    found = []
    for begin in range(0, len(trios), TOGETHER):
        rows = np.arange(begin, min(begin + TOGETHER, len(trios)))
        found.append(_cut(ask, rows, low[rows], high[rows], rejected))
    trio, begins, counts = (np.concatenate(parts) for parts in zip(*found, strict=True))
    return Intervals(trio, begins, counts, rejected)


@dataclass(frozen=True)
class _Ask:
    brief: Brief
    options: Options
    trios: PartSets
    level: Drive
    ratings: Ratings
    geared: NDArray[np.int64]
    wishes: Sequence[OfDrive]

    @property
    def ratio(self) -> Array:
        return self.options.gearings.ratio[self.geared]

    @property
    def best(self) -> float:
        """The least loss of any gearing."""
        return float(np.max(self.options.gearings.efficiency[self.geared], initial=0.0))

    def duties(self) -> list[Duty]:
        """Return the duties that take a push of every trio; what the wind does bounds none."""
        found = duties_of(self.brief, self.wishes)
        return [duty for duty in found if np.all(self.wanted_n(duty) > 0)]

    def grips_n(self) -> Array:
        """Return what the tyres put down on the level with a gearing of no mass."""
        road = self.level.wheels.road
        grip = Grip.of(Stated(self.brief.vehicle))
        return grip.greatest_force_n(road.weight_n, scalar(0.0), road.rolling_n(scalar(0.0)))

    def wanted_n(self, duty: Duty, more_kg: float = 0.0) -> Array:
        """Return the push that a duty takes, with a gearing of no mass or of `more_kg`."""
        road = replace(self.level.wheels.road, mass_kg=self.level.wheels.road.mass_kg + more_kg)
        return road.force_n(scalar(duty.speed_mps), scalar(duty.grade_pct))


def _windows(ask: _Ask) -> tuple[NDArray[np.int64], NDArray[np.int64], Counter[str]]:
    """Return the outermost gearings of each trio, and what lies outside."""
    count, each, ratio = len(ask.trios), len(ask.geared), ask.ratio
    rejected: Counter[str] = Counter()
    low, high = np.zeros(count, np.int64), np.full(count, each, np.int64)
    if ask.brief.owned.gearing is None:
        low, high = _by_mount(ask, low, high, rejected)
    fastest = filled(fastest_mps(ask.level), (count,))
    start_n = filled(full_throttle(ask.level, scalar(0.0)).force_n, (count,))
    for duty in ask.duties():
        most = fastest / duty.speed_mps * (1 + ROOM)
        ends = np.searchsorted(ratio, most, side="right")
        low, high = _narrowed(low, high, 0, ends, duty.id, rejected)
        for reason, most_n in (
            (duty.id, start_n),
            *_lasting_pushes(ask, duty, count),
        ):
            with np.errstate(divide="ignore", invalid="ignore"):
                least = np.where(most_n > 0, ask.wanted_n(duty) / (most_n * ask.best), np.inf)
            begins = np.searchsorted(ratio, least * (1 - ROOM), side="left")
            low, high = _narrowed(low, high, begins, high, reason, rejected)
    return low, high, rejected


def _by_mount(ask: _Ask, low: Any, high: Any, rejected: Counter[str]) -> tuple[Any, Any]:
    """Return the windows of hub motors, which take the gearing that is none."""
    none = np.flatnonzero(ask.options.gearings.stages[ask.geared] == 0)
    hub = np.array([option.mounts == "hub" for option in ask.options.motors])[ask.trios.motor]
    at = int(none[0]) if len(none) else 0
    rejected["hub_motor"] += int(np.sum(hub)) * (len(ask.geared) - len(none))
    return np.where(hub, at, low), np.where(hub, at + len(none), high)


def _narrowed(
    low: Any, high: Any, begins: Any, ends: Any, reason: str, rejected: Counter[str]
) -> tuple[Any, Any]:
    new_low = np.maximum(low, begins)
    new_high = np.maximum(np.minimum(high, ends), new_low)
    rejected[reason] += int(np.sum((high - low) - (new_high - new_low)))
    return new_low, new_high


def _lasting_pushes(ask: _Ask, duty: Duty, count: int) -> Iterator[tuple[str, Array]]:
    """Yield the push, geared one to one, of the amps that each part stands for long.

    A duty that lasts must be done with them: else a rule stops the candidate.
    """
    hill, level = ask.brief.wishes.climb, ask.level
    lasts = duty.id == "cruise" or (duty.id == "climb" and hill is not None and hill.speed_kmh)
    if not lasts:
        return
    if level.motor.has_inverter:
        return
    sides = {"motor": ask.ratings.motor.amps}
    if not ask.ratings.controller.pack_side:
        sides["controller"] = ask.ratings.controller.amps
    for side, rating in sides.items():
        if unstated(rating.continuous_a):
            continue
        length_m = hill.length_m if duty.id == "climb" and hill is not None else None
        if length_m is not None and np.any(length_m <= rating.peak_s * duty.speed_mps):
            continue
        torque_nm = level.motor.shaft_torque_nm(scalar(0.0), rating.continuous_a)
        yield f"{side}_current", filled(level.force_n(level.output_nm(torque_nm)), (count,))


def _cut(
    ask: _Ask, rows: Any, low: Any, high: Any, rejected: Counter[str]
) -> tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.int64]]:
    """Return the stretches of some trios, their windows cut into cells.

    In a cell from G to G' the push at a speed is at most that of the torque at G, geared by G',
    and at least that of the torque at G', geared by G: torque never rises with speed.
    """
    ratio, level = ask.ratio, with_axis(pick(ask.level, rows))
    some = high > low
    first = np.where(some, ratio[np.minimum(low, len(ratio) - 1)], 1.0)
    last = np.where(some, ratio[np.maximum(high, 1) - 1], 1.0)
    steps = np.linspace(0.0, 1.0, CELLS + 1)
    edges = np.exp(np.log(first)[:, None] + np.log(last / first)[:, None] * steps)
    places = np.searchsorted(ratio, edges * (1 - ROOM), side="left")
    places[:, 0], places[:, -1] = low, high
    places = np.clip(places, low[:, None], high[:, None])
    alive, inside = np.ones((len(rows), CELLS), bool), np.diff(places, axis=1)

    def sieve(keeps: NDArray[np.bool_], reason: str) -> None:
        nonlocal alive
        rejected[reason] += int(np.sum(inside * (alive & ~keeps)))
        alive = alive & keeps

    thin, thick = edges[:, :-1], edges[:, 1:] * (1 + ROOM)
    for duty in ask.duties():
        torque = push_n(level, duty.speed_mps * thin * (1 - ROOM))
        wanted = _of_rows(ask.wanted_n(duty), rows)
        sieve(torque * thick * ask.best >= wanted * (1 - ROOM), duty.id)
    gearings, top = ask.options.gearings, ask.brief.wishes.top_speed_kmh
    if top is not None and top.max is not None:
        duty = Duty("top_speed_max", mps_from_kmh(top.max), 0.0)
        worst = float(np.min(gearings.efficiency[ask.geared], initial=1.0))
        heaviest = float(np.max(gearings.mass_kg[ask.geared], initial=0.0))
        torque = push_n(level, duty.speed_mps * thick * (1 + ROOM))
        wanted = _of_rows(ask.wanted_n(duty, heaviest), rows)
        pushed = np.minimum(torque * thin * worst, _of_rows(ask.grips_n(), rows))
        below = (torque <= 0) | (pushed <= wanted + ROOM * np.abs(wanted))
        sieve(below, duty.id)
    used = alive & (inside > 0)
    trio, cell = np.nonzero(used)
    return rows[trio], places[trio, cell], inside[trio, cell]


def _of_rows(value: Array, rows: Any) -> Array:
    return np.asarray(value[rows] if np.ndim(value) else value)[..., None]
