"""The map: push at full throttle against what the road asks, over speed."""

import numpy as np

from powertrain.arrays import Array
from powertrain.bench.answer import Crossing, MapAnswer
from powertrain.drive import Drive
from powertrain.load.protocol import asked_nm
from powertrain.operating.full_throttle import corner_speeds_rad_s
from powertrain.operating.in_air import InAir, in_air
from powertrain.operating.limits import LimitWord
from powertrain.operating.moment import MomentStates
from powertrain.operating.moments_in_air import LEVEL
from powertrain.operating.on_road import fastest_mps, full_throttle_at, push_n
from powertrain.plain import limit_word, listed, number

CURVE_POINTS, ROAD_POINTS = 48, 25

BEYOND = 1.12
"""The map goes a little past the speed where the motors stop pulling."""


def map_of(drive: Drive, moments: MomentStates) -> MapAnswer:
    """Return the map of one drive."""
    air = in_air(drive)
    if air is not None:
        return _map_in_air(air, moments)
    carried = _carried_mps(drive, moments)
    speeds = np.linspace(0.0, carried, CURVE_POINTS)
    inner = np.array([float(drive.speed_mps(corner)) for corner in corner_speeds_rad_s(drive)])
    inner = inner[np.isfinite(inner) & (inner > 0) & (inner < carried)]
    speeds = np.unique(np.concatenate([speeds, inner]))
    at = full_throttle_at(drive, speeds)
    pushing = at.force_n >= 0
    road_speeds = np.linspace(0.0, BEYOND * carried, ROAD_POINTS)
    words = [limit_word(code) or "voltage" for code in at.limited_by[pushing]]
    return MapAnswer(
        push=drive.load.words.push,
        speeds_mps=listed(speeds[pushing]),
        drive_force_n=listed(at.force_n[pushing]),
        limited_by=words,
        gears_force_n=_gears(drive, speeds[pushing]),
        road_speeds_mps=listed(road_speeds),
        crossings=_crossings(drive, moments, road_speeds),
    )


RACES_BEYOND = 2.0
"""How far past its top speed a motor is drawn that races free: all of it would be mostly empty."""


def _carried_mps(drive: Drive, moments: MomentStates) -> float:
    """Return the speed up to which the map is drawn."""
    carried = float(fastest_mps(drive))
    top = float(moments.top_speed.state.speed_mps)
    if drive.motor.races_unloaded and top > 0:
        carried = min(carried, RACES_BEYOND * top)
    return max(carried, 1e-3)


def _gears(drive: Drive, speeds: Array) -> list[list[float]]:
    """Return the push in each gear, the shortest first; nothing where there is no choice."""
    gears = drive.train.gears
    if len(gears) == 1:
        return []
    return [listed(np.maximum(push_n(drive.in_gear(gear), speeds), 0.0)) for gear in gears]


def _crossings(drive: Drive, moments: MomentStates, road_speeds: Array) -> list[Crossing]:
    tops, own = moments.tops, moments.climb.situation
    grades = tops.situation
    asked = asked_nm(drive.load, drive.output_at_mps(road_speeds), grades[:, None])
    road = drive.force_n(asked)
    found = []
    for index, grade in enumerate(grades):
        word: LimitWord | None = limit_word(tops.limited_by[index])
        moves = word != "cannot_move"
        found.append(
            Crossing(
                grade_pct=float(grade),
                label=drive.load.words.label(float(grade)),
                own=bool(grade == own),
                speed_mps=number(tops.speed_mps[index]) if moves else None,
                force_n=number(tops.force_n[index]) if moves else None,
                limited_by=word,
                road_force_n=listed(road[index]),
            )
        )
    return found


def _map_in_air(air: InAir, moments: MomentStates) -> MapAnswer:
    """Return thrust at full throttle against what level going asks, over speed over ground."""
    top, wind = moments.top_speed.state, float(air.load.headwind_mps)
    slowest = float(air.slowest_mps(LEVEL))
    most = BEYOND * max(float(top.situation), 2 * slowest, 2.0)
    speeds = np.linspace(max(wind, 0.0), most, CURVE_POINTS)
    state = air.at_full_throttle(speeds)
    pushing = state.force_n >= 0
    asked = np.linspace(max(slowest, 0.05 * most), most, ROAD_POINTS)
    words = air.drive.load.words
    met = bool(moments.top_speed.met)
    level = Crossing(
        grade_pct=0.0,
        label="level",
        own=True,
        speed_mps=number(top.speed_mps) if met else None,
        force_n=number(top.force_n) if met else None,
        limited_by=limit_word(top.limited_by),
        road_force_n=listed(air.held_n(asked, LEVEL)),
    )
    return MapAnswer(
        push=words.push,
        speeds_mps=listed(speeds[pushing] - wind),
        drive_force_n=listed(state.force_n[pushing]),
        limited_by=[limit_word(code) or "voltage" for code in state.limited_by[pushing]],
        gears_force_n=[],
        road_speeds_mps=listed(asked - wind),
        crossings=[level],
    )
