"""Points of a curve that begins at nothing and ends at all."""

Point = tuple[float, float]


def whole_points(points: list[Point]) -> list[Point]:
    """Return points in percent with (0, 0) and (100, 100) where they are missing."""
    first: list[Point] = [] if points and points[0][0] <= 0 else [(0.0, 0.0)]
    last: list[Point] = [] if points and points[-1][0] >= 100 else [(100.0, 100.0)]
    return [*first, *points, *last]
