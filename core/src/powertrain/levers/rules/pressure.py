"""Harder tyres."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.documents.vehicle import Vehicle
from powertrain.levers.lever import Lever

ROLLOUT = 1.015
"""A harder tyre rolls 1 to 2 % further in a turn; common practice, no source."""

ROLLING = 0.9
"""And drags about a tenth less on a hard road; common practice, no source."""


def levers(build: Build) -> Iterator[Lever]:
    """Yield the tyre pressure, told by the drag that it leaves."""
    if build.wheel is None or not isinstance(build.vehicle, Vehicle):
        return
    rolls_mm, drag = build.wheel.rolling_circumference_mm, build.vehicle.rolling_resistance
    yield Lever(
        id="pressure",
        part="wheel",
        label="Tyre pressure",
        value=drag,
        unit="",
        path="vehicle.rolling_resistance",
        rank=2,
        at_part=False,
        say_up="Harder tyres (estimate)",
        up=_pumped(rolls_mm * ROLLOUT, drag * ROLLING),
        down=None,
    )


def _pumped(rolls_mm: float, drag: float) -> dict[str, float]:
    return {
        "wheel.rolling_circumference_mm": float(f"{rolls_mm:.6g}"),
        "vehicle.rolling_resistance": float(f"{drag:.4g}"),
    }
