"""A road as its driver sees it: height, slope, and how fast one may be at each place.

The greatest speed at a place is what is ridden, its limit, and what lets one brake in time for
whatever comes: going back from each lower speed by ``v^2 = v_e^2 + 2 b s``. Its square is straight
over the way, so that a few points hold it exactly.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.documents.run import Driver, RouteCourse, RoutePoint
from powertrain.units import mps_from_kmh

Numbers = NDArray[np.float64]


@dataclass(frozen=True)
class Road:
    """Places along the whole way that is ridden.

    `grade_pct[i]` and `most[i]` (the square of the speed there is, m2/s2) hold from `at_m[i]` on;
    `stops` are the places where one stands, with seconds.
    """

    at_m: Numbers
    grade_pct: Numbers
    limit2: Numbers
    stops: tuple[tuple[float, float], ...]
    ends_standing: bool
    envelope_m: Numbers
    envelope2: Numbers

    @property
    def length_m(self) -> float:
        """How long it is."""
        return float(self.at_m[-1])


def road_of(course: RouteCourse, driver: Driver) -> Road:
    """Return the road of a course."""
    points = _whole_way(course)
    at = np.array([point.distance_m for point in points])
    at = at - at[0]
    height = np.array([point.elevation_m for point in points])
    along, rise = np.diff(at), np.diff(height)
    # The distance is along the road, the grade over its horizontal.
    level = np.sqrt(np.maximum(along**2 - rise**2, (0.05 * along) ** 2))
    grade = np.append(100 * rise / level, 0.0)
    ride = mps_from_kmh(course.ride_kmh)
    limits = [
        min(ride, mps_from_kmh(point.limit_kmh)) if point.limit_kmh else ride for point in points
    ]
    limit2 = np.array(limits) ** 2
    limit2[-1] = limit2[-2]
    stops = tuple(
        (float(place), float(point.stop_s))
        for place, point in zip(at, points, strict=True)
        if point.stop_s and place > 0
    )
    ends_standing = bool(stops) and stops[-1][0] == float(at[-1])
    envelope_m, envelope2 = _envelope(at, limit2, {place for place, _ in stops}, driver.brake_mps2)
    return Road(at, grade, limit2, stops, ends_standing, envelope_m, envelope2)


def _whole_way(course: RouteCourse) -> list[RoutePoint]:
    once = list(course.points)
    if course.there_and_back:
        end = once[-1].distance_m
        # On the way back a limit holds on the same stretch of road, which begins at its other end.
        limits = [point.limit_kmh for point in once[:-1]]
        back = [
            once[index].model_copy(
                update={
                    "distance_m": 2 * end - once[index].distance_m,
                    "limit_kmh": limits[index - 1] if index > 0 else None,
                }
            )
            for index in range(len(once) - 2, -1, -1)
        ]
        once[-1] = once[-1].model_copy(update={"limit_kmh": limits[-1]})
        once += back
    if course.repeat == 1:
        return once
    length = once[-1].distance_m - once[0].distance_m
    whole = once[:1]
    for lap in range(course.repeat):
        moved = [
            point.model_copy(update={"distance_m": point.distance_m + lap * length})
            for point in once
        ]
        if lap:
            # Where one lap ends the next begins: what the first place says holds there again.
            joins = {"limit_kmh": once[0].limit_kmh, "stop_s": whole[-1].stop_s}
            whole[-1] = whole[-1].model_copy(update=joins)
        whole += moved[1:]
    return whole


def _envelope(
    at: Numbers, limit2: Numbers, stops: set[float], brake: float
) -> tuple[Numbers, Numbers]:
    """Return places and squares of the greatest speed, straight between them."""
    places: list[float] = [float(at[-1])]
    squares: list[float] = [0.0 if float(at[-1]) in stops else float(limit2[-1])]
    for index in range(len(at) - 2, -1, -1):
        begins, ends = float(at[index]), float(at[index + 1])
        cap, low = float(limit2[index]), min(squares[-1], float(limit2[index]))
        if low < squares[-1]:
            # A lower limit ends here: one speeds up behind it.
            places.append(ends)
            squares.append(low)
        reached = low + 2 * brake * (ends - begins)
        if reached > cap > low:
            places.append(ends - (cap - low) / (2 * brake))
            squares.append(cap)
        places.append(begins)
        squares.append(min(reached, cap))
        if begins in stops:
            places.append(begins)
            squares.append(0.0)
    return np.array(places[::-1]), np.array(squares[::-1])
