"""Gear by gear: what the drive pulls, how fast, where to change up, and which gears it still needs.

A force is ``T G efficiency / r``. The pull that is left for a hook is the push of the wheels less
what rolling takes of it; grip, where it is known, bounds it.
"""

from itertools import pairwise

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import Array, scalar
from powertrain.constants import RPM_PER_RAD_S
from powertrain.conversion.engine import Engine
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm
from powertrain.operating.on_road import fastest_mps, full_throttle_at, push_n
from powertrain.operating.state import State
from powertrain.operating.steady import can_hold, steady
from powertrain.operating.top_speed import top_speed_mps
from powertrain.plain import limit_word, listed, number
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import RuleContext

POINTS = 60

TIE = 1e-9
"""Share of a push by which two gears must differ to be told apart."""

WALKS_MPS = 1.0
"""A hill that only has to be climbed is climbed at this."""


class Gear(BaseModel):
    """One gear: its ratio, its pull, its speeds.

    `start_n` is the push of the wheels at rest, `start_limited_by` what bounds it; `lasting_n` that
    at the motor's rated amps and `lasting_kmh` the speed it comes at, None where no rated amps are
    told. `hook_n` is what is left of `lasting_n` for a load behind on the level, or of the start
    where nothing is rated. `shift_kmh` is the speed from which the next gear pushes more.
    """

    name: str
    ratio: float
    start_n: float
    start_limited_by: str | None
    lasting_n: float | None
    lasting_kmh: float | None
    hook_n: float
    top_kmh: float | None
    top_rpm: float | None
    shift_kmh: float | None
    climbs: bool
    climb_motor_a: float | None
    cruises: bool
    suffices: bool
    needed: bool
    say: str
    speeds_mps: list[float]
    motor_n: list[float]
    engine_speeds_mps: list[float]
    engine_n: list[float]


class Road(BaseModel):
    """What the road asks at a grade, over speed."""

    grade_pct: float
    speeds_mps: list[float]
    force_n: list[float]


class GearsAnswer(BaseModel):
    """All gears, the road, and what of the gearbox is still needed."""

    gears: list[Gear]
    direct: Gear | None
    road: list[Road]
    verdict: str
    clutch: str


def gears_of(build: Build, context: RuleContext, engine: Engine | None) -> GearsAnswer:
    """Return what each gear of a build does, beside its engine where that is known."""
    drive = context.drive.wide_open()
    factors = drive.train.gears
    singles = [drive.in_gear(factor) for factor in factors]
    names = [f"Gear {place + 1}" for place in range(len(singles))]
    if len(singles) == 1:
        names = ["Its one ratio"]
    found = [
        _gear(name, single, context, engine) for name, single in zip(names, singles, strict=True)
    ]
    shifts = [_shift(one, other) for one, other in pairwise(singles)]
    enough = _enough(found)
    gears = [
        gear.model_copy(
            update={
                "shift_kmh": _by_then(shifts[index], gear) if index < len(shifts) else None,
                "needed": index in enough,
            }
        )
        for index, gear in enumerate(found)
    ]
    direct = _direct(build, engine)
    return GearsAnswer(
        gears=gears,
        direct=direct,
        road=_road(drive, context),
        verdict=_verdict(gears, direct),
        clutch=_clutch(build, gears),
    )


def _by_then(shift_kmh: float | None, gear: Gear) -> float | None:
    """Return where to change up: never beyond the rpm that the motor stands."""
    ends = [speed for speed in (shift_kmh, gear.top_kmh) if speed is not None]
    return min(ends) if shift_kmh is not None else None


def _gear(name: str, drive: Drive, context: RuleContext, engine: Engine | None) -> Gear:
    moments, rated = context.moments, context.build.motor.continuous_current_a
    level, hill = drive.load.usual, moments.targets.climb_situation
    start = full_throttle_at(drive, scalar(0.0))
    limit = context.build.motor.max_rpm
    top = float(top_speed_mps(drive, level))
    if limit is not None:
        most_rad_s = drive.output_rad_s(scalar(limit / RPM_PER_RAD_S))
        top = min(top, float(drive.speed_mps(most_rad_s)))
    holds_mps = moments.targets.climb_mps
    wants_mps = WALKS_MPS if holds_mps is None else float(holds_mps)
    on_hill = steady(drive, scalar(wants_mps), hill)
    starts = float(start.force_n) >= float(drive.force_n(asked_nm(drive.load, scalar(0.0), hill)))
    climbs = starts and _does(drive, on_hill, limit)
    amps = number(on_hill.motor_current_a)
    trip = steady(drive, moments.targets.cruise_mps, drive.load.trip)
    cruises = _does(drive, trip, limit)
    most_a = max(float(on_hill.motor_current_a), float(trip.motor_current_a))
    most = max(float(on_hill.motor_rpm), float(trip.motor_rpm))
    races = most if limit is not None and most > limit else None
    lasting_n, lasting_mps = _lasting(drive, rated)
    rolling_n = float(drive.force_n(asked_nm(drive.load, scalar(0.0), level)))
    at_once = float(start.force_n)
    carried = max(float(fastest_mps(drive)), 1e-3)
    if not np.isfinite(carried):
        carried = max(top, 1.0) * 1.5
    speeds = np.linspace(0.0, min(carried, max(2 * top, 1e-3)), POINTS)
    engine_speeds, engine_n = _of_engine(drive, engine)
    return Gear(
        name=name,
        ratio=float(drive.train.ratio),
        start_n=at_once,
        start_limited_by=limit_word(start.limited_by),
        lasting_n=lasting_n,
        lasting_kmh=None if lasting_mps is None else float(kmh_from_mps(lasting_mps)),
        hook_n=max((at_once if lasting_n is None else lasting_n) - rolling_n, 0.0),
        top_kmh=number(kmh_from_mps(top)),
        top_rpm=number(drive.motor_rad_s(drive.output_at_mps(scalar(top))) * RPM_PER_RAD_S),
        shift_kmh=None,
        climbs=climbs,
        climb_motor_a=amps if climbs else None,
        cruises=cruises,
        suffices=climbs and cruises and (rated is None or most_a <= rated),
        needed=False,
        say="",
        speeds_mps=listed(speeds),
        motor_n=listed(np.maximum(push_n(drive, speeds), 0.0)),
        engine_speeds_mps=engine_speeds,
        engine_n=engine_n,
    ).model_copy(update={"say": _say(climbs, cruises, amps, rated, wants_mps, float(hill), races)})


def _does(drive: Drive, state: State, limit_rpm: float | None) -> bool:
    """Return whether a drive holds a state without turning faster than its motor may."""
    slow = limit_rpm is None or float(state.motor_rpm) <= limit_rpm
    return slow and bool(np.all(can_hold(drive, state)))


def _say(
    climbs: bool,
    cruises: bool,
    amps: float | None,
    rated: float | None,
    mps: float,
    hill: float,
    races: float | None,
) -> str:
    speed = f"{float(kmh_from_mps(mps)):.3g} km/h"
    if races is not None and not (climbs and cruises):
        return f"Too short: it would turn {races:,.0f} rpm, more than the motor may."
    if not climbs:
        return f"Does not hold {speed} on the hill of {hill:g} %."
    if rated is not None and amps is not None and amps > rated:
        return (
            f"Climbs {hill:g} % at {speed} with {amps:.0f} A, above the {rated:g} A that the motor "
            "stands for long."
        )
    if not cruises:
        return f"Climbs {hill:g} % at {speed}; does not hold the trip's speed."
    return f"Climbs {hill:g} % at {speed} and holds the trip's speed."


def _lasting(drive: Drive, rated_a: float | None) -> tuple[float | None, float | None]:
    """Return the push at the motor's rated amps and the speed that full volts give with them."""
    if rated_a is None or drive.motor.has_inverter:
        return None, None
    amps = scalar(rated_a)
    pack_a = drive.motor.count * amps + drive.controller.standby_a
    volts = drive.pack.voltage_v(pack_a) - drive.controller.path_drop_v(amps)
    turns = drive.motor.speed_at_voltage_rad_s(amps, volts)
    if not np.isfinite(turns) or float(turns) <= 0:
        return None, None
    torque = drive.motor.shaft_torque_nm(turns, amps)
    force = float(drive.force_n(drive.output_nm(torque)))
    if drive.load.grips:
        force = min(force, float(drive.force_n(drive.load.holds_nm(drive.load.usual))))
    return force, float(drive.speed_mps(drive.output_rad_s(turns)))


def _of_engine(drive: Drive, engine: Engine | None) -> tuple[list[float], list[float]]:
    if engine is None:
        return [], []
    rpm = np.linspace(engine.idles_rpm, engine.ends_rpm, POINTS)
    # All motors of a drive sit where the one engine sat.
    force = drive.force_n(drive.train.wheel_torque_nm(engine.torque_at(rpm)))
    if drive.load.grips:
        force = np.minimum(force, drive.force_n(drive.load.holds_nm(drive.load.usual)))
    speeds = drive.speed_mps(drive.output_rad_s(rpm / RPM_PER_RAD_S))
    return listed(speeds), listed(force)


def _shift(lower: Drive, upper: Drive) -> float | None:
    """Return the speed in km/h from which the taller gear pushes as much; None if never."""
    most = float(fastest_mps(upper))
    if not np.isfinite(most):
        most = 2 * float(top_speed_mps(upper, upper.load.usual))
    speeds = np.linspace(0.0, most, 400)

    def more(at: Array) -> Array:
        return push_n(upper, at) - push_n(lower, at)

    # Where grip holds both they push the same; one changes up only past the last speed at which
    # the shorter pushes more.
    below = np.nonzero(more(speeds) < -TIE * np.abs(push_n(lower, speeds)))[0]
    if not below.size or int(below[-1]) + 1 >= speeds.size:
        return None
    low, high = speeds[int(below[-1])], speeds[int(below[-1]) + 1]
    for _ in range(50):
        middle = 0.5 * (low + high)
        low, high = (low, middle) if float(more(scalar(middle))) >= 0 else (middle, high)
    return float(kmh_from_mps(high))


def _enough(gears: list[Gear]) -> list[int]:
    """Return the fewest gears that do hill and trip together: one if one does."""
    alone = [index for index, gear in enumerate(gears) if gear.suffices]
    if alone:
        # The tallest of them turns slowest and is the quietest.
        return [alone[-1]]
    climbing = [index for index, gear in enumerate(gears) if gear.climbs]
    cruising = [index for index, gear in enumerate(gears) if gear.cruises]
    found = {climbing[0]} if climbing else set()
    if cruising:
        found.add(cruising[-1])
    return sorted(found)


def _direct(build: Build, engine: Engine | None) -> Gear | None:
    """Return the drive without its gearbox, where other reductions are left."""
    left = [stage for stage in build.gearing if stage.kind != "gearbox"]
    if not left or len(left) == len(build.gearing):
        return None
    known = {p: v for p, v in build.provenance.items() if not p.startswith("gearing.")}
    bare = build.model_copy(update={"gearing": left, "provenance": known})
    context = RuleContext.of(bare)
    return _gear("No gearbox", context.drive.wide_open(), context, engine)


def _road(drive: Drive, context: RuleContext) -> list[Road]:
    own = float(context.moments.targets.climb_situation)
    tops = context.moments.tops.speed_mps
    top = max(float(np.max(np.where(np.isfinite(tops), tops, 0.0))), 1.0)
    speeds = np.linspace(0.0, 1.2 * top, 25)
    grades = sorted({0.0, round(own / 2, 1), own})
    return [
        Road(
            grade_pct=grade,
            speeds_mps=listed(speeds),
            force_n=listed(
                drive.force_n(asked_nm(drive.load, drive.output_at_mps(speeds), scalar(grade)))
            ),
        )
        for grade in grades
    ]


def _verdict(gears: list[Gear], direct: Gear | None) -> str:
    if direct is not None and direct.suffices:
        return (
            "It needs no gearbox: with its other reductions alone the motor climbs the hill and "
            "holds the trip's speed. Leave it out and save its mass and its losses, or leave it in "
            "the straight-through gear."
        )
    needed = [gear for gear in gears if gear.needed]
    if len(gears) == 1:
        return gears[0].say
    if len(needed) == 1 and needed[0].suffices:
        return (
            f"{needed[0].name} alone does both hill and trip: stay in it. The others are for "
            "what is harder than the hill, and nobody has to change while rolling."
        )
    if not any(gear.climbs for gear in gears):
        return "No gear climbs the hill: more torque, a shorter gear, or a flatter hill."
    if not any(gear.cruises for gear in gears):
        return "No gear holds the trip's speed: more volts, a taller gear, or a slower trip."
    hot = [gear for gear in gears if gear.climbs and gear.climb_motor_a is not None]
    names = " and ".join(gear.name.lower() for gear in needed)
    if len(needed) == 1:
        cool = min(hot, key=lambda gear: gear.climb_motor_a or 0.0)
        return (
            f"{needed[0].name} does both, but not for long: on the hill take {cool.name.lower()}, "
            f"{cool.climb_motor_a:.0f} A."
        )
    return f"It needs {names}: one for the hill, one for the trip; the rest may stay unused."


def _clutch(build: Build, gears: list[Gear]) -> str:
    removed = build.coupling is not None and build.coupling.clutch == "removed"
    many = len([gear for gear in gears if gear.needed]) > 1
    stands = (
        "A motor starts from standstill and needs no clutch for that. A power take-off that must "
        "turn while the vehicle stands needs one behind it, or a motor of its own."
    )
    if many and removed:
        return (
            f"{stands} Without the clutch a change while rolling waits until the synchromesh has "
            "turned the whole rotor: let go, lift, wait, change. Standing still it is easy."
        )
    if many:
        return f"{stands} Gears are changed here while rolling: the clutch may stay for that."
    return f"{stands} Nothing here has to be changed while rolling: the clutch may go."
