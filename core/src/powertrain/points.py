"""Points of a curve that begins at nothing and ends at all."""

Point = tuple[float, float]


def whole_points(points: list[Point]) -> list[Point]:
    """Return points in percent with (0, 0) and (100, 100) where they are missing."""
    first, last = (0.0, 0.0), (100.0, 100.0)
    before = [] if points and points[0] == first else [first]
    after = [] if points and points[-1] == last else [last]
    return [*before, *points, *after]
