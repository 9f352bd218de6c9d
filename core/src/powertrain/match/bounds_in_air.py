"""Sound bounds on propellers: they rule out only what the solver would refuse too.

The torque of full throttle never rises with speed. So wherever a propeller turns at full throttle,
the motors' torque at the slow end of a small stretch of speeds is at least what the propeller asks
somewhere in it; and its thrust is at most the greatest of such a stretch. What useful power a
motor gives is at most its greatest shaft power times the propeller's best efficiency.
"""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from powertrain.arrays import Array, filled, pick, scalar, shape_of, with_axis
from powertrain.compile.build import CompiledBuild
from powertrain.constants import STANDARD_GRAVITY_MPS2
from powertrain.documents.brief import Brief
from powertrain.load.craft import CRAFT, Craft
from powertrain.match.groups import PartSets
from powertrain.match.last import Intervals, Mask, Places
from powertrain.match.options import Options
from powertrain.match.wish import OfDrive
from powertrain.operating.free import held
from powertrain.operating.full_throttle import output_nm
from powertrain.operating.in_air import FASTEST_TIP_MPS
from powertrain.propeller.propeller import Blades
from powertrain.stated import Stated, tree_of
from powertrain.units import mps_from_kmh

ROOM = 1e-6
"""Relative room for arithmetic, on the side of considering."""

STEPS = 96
"""Stretches of speeds of turning, each of one step in proportion."""

SLOWEST = 1 / 60
"""Of the fastest speed of turning that is looked at; below lies one stretch down to rest."""

AT_ONCE = 1024
"""Trios that are held against all propellers together; bounds the memory."""

FASTER = np.linspace(1.0, 4.0, 241)
"""Speeds beyond one that is wished for, as its multiples, among which it may be reached."""


@dataclass(frozen=True)
class PropellerBounds:
    """What rules out propellers, by the parts alone; see `powertrain.match.last.Bounds`."""

    brief: Brief
    options: Options
    wishes: Sequence[OfDrive]

    def refused(self) -> Iterator[tuple[str, Mask]]:
        """Yield propellers that are too large, or not admitted."""
        propellers, wished = self.options.propellers, self.brief.wishes
        across = np.array([one.diameter_mm for one in propellers.documents], float)
        most = np.inf if wished.max_diameter_mm is None else wished.max_diameter_mm
        yield "max_diameter", across > most * (1 + 1e-9)
        allowed = set(wished.allowed_parts or ()) & set(propellers.ids)
        yield (
            "allowed_parts",
            np.array([bool(allowed) and one not in allowed for one in propellers.ids], bool),
        )

    def motors_refused(self) -> tuple[str, Mask]:
        """Return hub motors, which turn a wheel and no propeller."""
        return "hub_propeller", np.array([one.mounts == "hub" for one in self.options.motors], bool)

    def of_candidates(
        self, trios: PartSets, row: Places, place: Places
    ) -> Iterator[tuple[str, Mask]]:
        """Yield nothing more."""
        return iter(())

    def intervals(self, trios: PartSets, level: CompiledBuild, places: Places) -> Intervals:
        """Return which of the propellers each trio may turn."""
        rejected: Counter[str] = Counter()
        found = [
            self._few(trios, rows, level, places, rejected)
            for rows in np.array_split(np.arange(len(trios)), -(-len(trios) // AT_ONCE))
        ]
        trio, low, counts = (np.concatenate(parts) for parts in zip(*found, strict=True))
        return Intervals(trio, low, counts, rejected)

    def _few(
        self,
        trios: PartSets,
        rows: Places,
        level: CompiledBuild,
        places: Places,
        rejected: Counter[str],
    ) -> tuple[Places, Places, Places]:
        propellers = self._set(places)
        engine = _Engines.of(level, rows, propellers.edges_rad_s)
        alive = np.ones((len(rows), len(places)), bool)
        mass_kg = self.brief.vehicle.mass_kg + trios.added_kg[rows]
        own_kg = self.options.propellers.mass_kg[places]
        for reason, passes in self._asked(engine, propellers, mass_kg, own_kg):
            passes = np.broadcast_to(passes, alive.shape)
            rejected[reason] += int(np.count_nonzero(alive & ~passes))
            alive = alive & passes
        # Neighbours that may do are one stretch.
        edges = np.diff(np.pad(alive, ((0, 0), (1, 1))).astype(np.int8), axis=1)
        row, low = np.nonzero(edges == 1)
        _, high = np.nonzero(edges == -1)
        return rows[row], low.astype(np.int64), (high - low).astype(np.int64)

    def _asked(
        self, engine: "_Engines", propellers: "_Set", mass_kg: Array, own_kg: Array
    ) -> Iterator[tuple[str, Mask]]:
        """Yield what each trio (rows) can do with each propeller (columns) at best, and why not."""
        wishes = self.brief.wishes
        weight_n = (mass_kg[:, None] + own_kg) * STANDARD_GRAVITY_MPS2
        craft = self._craft(mass_kg)
        thrust, turns = engine.most(propellers.curves(0.0))
        if wishes.thrust_to_weight is not None:
            yield "thrust_to_weight", thrust >= wishes.thrust_to_weight * weight_n * (1 - ROOM)
        if wishes.pitch_speed_over_stall is not None:
            stalls = craft.least_mps(scalar(0.0))[:, None]
            wanted = wishes.pitch_speed_over_stall * stalls * (1 - ROOM)
            yield "pitch_speed_over_stall", turns * propellers.pitch_m >= wanted
        useful_w = engine.most_w[:, None] * propellers.efficiency
        if wishes.climb_ms is not None:
            yield "climb_ms", useful_w >= wishes.climb_ms * weight_n * (1 - ROOM)
        wind = self.brief.conditions.headwind_mps
        for wish, speed_kmh in self._speeds():
            ground = float(mps_from_kmh(speed_kmh))
            if ground + wind <= 0:
                continue
            faster = FASTER if wish == "top_speed_min" else FASTER[:1]
            speeds = (ground * faster)[:, None]
            drag_n = craft.held_n(speeds + wind, speeds, scalar(0.0))
            least_w = np.min(drag_n * np.maximum(speeds + wind, 0.0), axis=0)
            yield wish, useful_w >= least_w[:, None] * (1 - 0.01 if len(faster) > 1 else 1 - ROOM)
            if wish == "cruise":
                thrust, _ = engine.most(propellers.curves(ground + wind))
                yield wish, thrust >= drag_n[0][:, None] * (1 - ROOM)

    def _speeds(self) -> Iterator[tuple[str, float]]:
        """Yield the speeds that must be held or reached, by their wishes."""
        for wish in self.wishes:
            if wish.id in ("top_speed_min", "cruise"):
                yield wish.id, wish.limit

    def _craft(self, mass_kg: Array) -> Craft:
        """Return the craft with each mass: lighter than it will be, so that less holds it back."""
        craft: Craft = CRAFT[self.brief.vehicle.kind].of(
            Stated(self.brief, tree_of({"vehicle.mass_kg": mass_kg}))
        )
        return craft

    def _set(self, places: Places) -> "_Set":
        """Return propellers in numbers; those that may do are the same throughout a search."""
        key = places.tobytes()
        if key not in self._sets:
            conditions = Stated(self.brief.conditions)
            self._sets[key] = _Set(self.options.propellers.blades_of(conditions, places))
        return self._sets[key]

    @cached_property
    def _sets(self) -> dict[bytes, "_Set"]:
        return {}


@dataclass(frozen=True)
class _Set:
    """Some propellers, and what follows from them alone."""

    blades: list[Blades]

    @cached_property
    def edges_rad_s(self) -> Array:
        """Speeds of turning, from rest to where the smallest one's tips pass any use."""
        most = 2 * FASTEST_TIP_MPS / min(float(one.diameter_m) for one in self.blades)
        return np.concatenate([[0.0], np.geomspace(SLOWEST * most, most * (1 + ROOM), STEPS)])

    @cached_property
    def efficiency(self) -> Array:
        """The best that each makes of its shaft power."""
        return np.array([_best_efficiency(one) for one in self.blades])

    @cached_property
    def pitch_m(self) -> Array:
        """Their pitches."""
        return np.array([float(one.pitch_m) for one in self.blades])

    def curves(self, air_mps: float) -> "_Curves":
        """Return what they ask and give in air of a speed; made once for each."""
        if air_mps not in self._made:
            self._made[air_mps] = _Curves.of(self.blades, self.edges_rad_s, air_mps)
        return self._made[air_mps]

    @cached_property
    def _made(self) -> dict[float, "_Curves"]:
        return {}


@dataclass(frozen=True)
class _Engines:
    """What some trios' motors give at full throttle, at speeds of the output shaft.

    `edges_rad_s` begin at rest; `most_nm` is the torque of all motors at the slow end of each
    stretch, ``(trios, stretches)``, nought beyond a trio's fastest; `most_w` bounds their power.
    """

    edges_rad_s: Array
    most_nm: Array
    most_w: Array
    count: float

    @classmethod
    def of(cls, level: CompiledBuild, rows: Places, edges: Array) -> "_Engines":
        """Return it of some rows of compiled trios, between speeds."""
        drive = held(level.drive)
        few = pick(drive, rows) if shape_of(drive) else drive
        torque = filled(output_nm(with_axis(few), edges[None, :]), (len(rows), len(edges)))
        torque = np.maximum(torque, 0.0)
        # Of a stretch from one speed to the next: most torque at its slow end, times its fast end.
        most_w = np.max(torque[:, :-1] * edges[1:], axis=1)
        return cls(edges, torque[:, :-1], most_w, float(np.ravel(few.motor.count)[0]))

    def most(self, curves: "_Curves") -> tuple[Array, Array]:
        """Return the most thrust in N and the most turns a second, ``(trios, propellers)``.

        Torque falls from stretch to stretch while what is asked rises: up to one they meet.
        """
        wanted = self.count * curves.asked_nm
        row = np.arange(len(self.most_nm))[:, None]
        column = np.arange(len(wanted))[None, :]
        last = np.zeros((len(row), len(wanted)), np.int64)
        beyond = np.full_like(last, wanted.shape[1])
        for _ in range(int(np.ceil(np.log2(wanted.shape[1]))) + 1):
            middle = np.minimum((last + beyond) // 2, wanted.shape[1] - 1)
            can = self.most_nm[row, middle] * (1 + ROOM) >= wanted[column, middle]
            last = np.where(can, middle, last)
            beyond = np.where(can, beyond, middle)
        return self.count * curves.thrust_n[column, last], self.edges_rad_s[last + 1] / (2 * np.pi)


@dataclass(frozen=True)
class _Curves:
    """Of some propellers in air of a speed: ``(propellers, stretches of speeds of turning)``.

    `asked_nm` is the least torque anywhere from a stretch on, `thrust_n` the most thrust up to it.
    """

    asked_nm: Array
    thrust_n: Array

    @classmethod
    def of(cls, blades: list[Blades], edges_rad_s: Array, air_mps: float) -> "_Curves":
        """Return those of propellers."""
        asked, thrust = zip(*(_curve(one, edges_rad_s, air_mps) for one in blades), strict=True)
        least = np.minimum.accumulate(np.stack(asked)[:, ::-1], axis=1)[:, ::-1]
        return cls(least, np.maximum.accumulate(np.stack(thrust), axis=1))


def _curve(blades: Blades, edges_rad_s: Array, air_mps: float) -> tuple[Array, Array]:
    """Return the least torque and the most thrust of one propeller in each stretch of speeds."""
    slow, fast = edges_rad_s[:-1] / (2 * np.pi), edges_rad_s[1:] / (2 * np.pi)
    size, rho = float(blades.diameter_m), float(blades.density)
    chart = blades.charts
    which = int(np.ravel(blades.which)[0])
    ct = float(blades.thrust_share) * chart.ct[which]
    cp = float(blades.power_share) * chart.cp[which]
    points = chart.advance[which]
    high_ct, low_cp = ct.max(axis=0), cp.min(axis=0)
    if air_mps <= 0:
        most_ct, least_cp = np.full(len(slow), high_ct[0]), np.full(len(slow), low_cp[0])
    else:
        with np.errstate(divide="ignore"):
            # Beyond its chart a propeller brakes; what it does there is no thrust.
            far = np.minimum(air_mps / (np.maximum(slow, 1e-12) * size), 1e6)
        near = air_mps / (fast * size)
        most_ct = _extreme(points, high_ct, near, far, np.maximum)
        least_cp = _extreme(points, low_cp, near, far, np.minimum)
    turns_t = np.where(most_ct > 0, fast, slow)
    turns_p = np.where(least_cp > 0, slow, fast)
    # Tips as fast as sound are beyond any propeller, and beyond what the solver looks at.
    least_cp = np.where(slow * np.pi * size <= FASTEST_TIP_MPS, least_cp, np.inf)
    torque = least_cp * rho * turns_p**2 * size**5 / (2 * np.pi)
    return torque, most_ct * rho * turns_t**2 * size**4


def _extreme(points: Array, values: Array, near: Array, far: Array, which: np.ufunc) -> Array:
    """Return the greatest or least of a line through points between two places of each stretch."""

    def at(places: Array) -> Array:
        slope = (values[-1] - values[-2]) / (points[-1] - points[-2])
        beyond = np.maximum(places - points[-1], 0.0) * slope
        return np.asarray(np.interp(places, points, values) + beyond)

    inside = (points > near[:, None]) & (points < far[:, None])
    worst = -np.inf if which is np.maximum else np.inf
    between = which.reduce(np.where(inside, values, worst), axis=1)
    return np.asarray(which(which(at(near), at(far)), between))


def _best_efficiency(blades: Blades) -> float:
    """Return the most that a propeller makes of its shaft power, at any speed; at most one."""
    chart, which = blades.charts, int(np.ravel(blades.which)[0])
    points = chart.advance[which]
    ct = float(blades.thrust_share) * chart.ct[which].max(axis=0)
    cp = float(blades.power_share) * chart.cp[which].min(axis=0)
    if ct[-1] > 0:
        return 1.0
    # Between points a share of two lines is at most the better thrust over the better power.
    far = points[1:] * np.maximum(ct[:-1], ct[1:])
    least = np.minimum(cp[:-1], cp[1:])
    shares = np.where(
        far <= 0, 0.0, np.where(least > 0, far / np.where(least > 0, least, 1.0), 1.0)
    )
    return float(min(np.max(shares, initial=0.0), 1.0))
