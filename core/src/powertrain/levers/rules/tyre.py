"""A larger or smaller tyre."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single, usual_step


def levers(build: Build) -> Iterator[Lever]:
    """Yield the rolling circumference."""
    if build.wheel is None:
        return
    rolls_mm = build.wheel.rolling_circumference_mm
    step = usual_step(rolls_mm / 2)
    path = "wheel.rolling_circumference_mm"
    yield single(path, "wheel", "Rolls", "mm", rolls_mm, step, step)
