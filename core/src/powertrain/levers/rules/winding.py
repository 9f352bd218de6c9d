"""The next winding of the same can."""

import math
from collections.abc import Iterator, Mapping

from powertrain.controller.chopper import dc_for
from powertrain.documents.build import Build
from powertrain.levers.lever import Lever
from powertrain.motor.kinds import rewound, winding_of
from powertrain.stated import Stated

PREFERRED = (
    1.0,
    1.12,
    1.25,
    1.4,
    1.6,
    1.8,
    2.0,
    2.24,
    2.5,
    2.8,
    3.15,
    3.55,
    4.0,
    4.5,
    5.0,
    5.6,
    6.3,
    7.1,
    8.0,
    9.0,
)
"""The R20 series of preferred numbers (ISO 3). Real windings come in whole turns; where the
turns aren't known, steps of an eighth are about what a can is sold in."""


SAME = 0.02
"""How near a limit is to a rating that it is set to."""


def levers(build: Build) -> Iterator[Lever]:
    """Yield the winding, by the number that builders tell it by."""
    winding = winding_of(Stated(build.motor))
    if winding is None:
        return
    larger, smaller = _next(winding.value), _previous(winding.value)
    yield Lever(
        id="winding",
        part="motor",
        label="Winding",
        value=winding.value,
        unit=winding.unit,
        path=winding.path,
        up=wound_to(build, larger),
        down=wound_to(build, smaller),
    )


def wound_to(build: Build, number: float) -> dict[str, float]:
    """Return the changes that make the same can with another winding, told by its number."""
    winding = winding_of(Stated(build.motor))
    if winding is None:
        return {}
    share = number / winding.value
    constants = rewound(Stated(build.motor), share if winding.rises_with_speed else 1 / share)
    changes = {f"motor.{key}": value for key, value in constants.items() if value is not None}
    return changes | {winding.path: number} | limit_with(build, constants)


def slower_winding(build: Build) -> dict[str, float]:
    """Return the changes that make the same can with the next slower winding."""
    winding = winding_of(Stated(build.motor))
    if winding is None:
        return {}
    step = _previous if winding.rises_with_speed else _next
    return wound_to(build, step(winding.value))


def limit_with(build: Build, constants: Mapping[str, float | None]) -> dict[str, float]:
    """Return the motor amps limit that goes with other constants, where it is the motor's own.

    A limit that stands at the motor's peak or lasting amps is there for the motor's sake; wound
    for other volts the same copper stands other amps. Any other limit is the controller's.
    """
    limit_a = build.controller.motor_current_limit_a
    for key in ("peak_current_a", "continuous_current_a"):
        rated_a, then_a = getattr(build.motor, key), constants.get(key)
        if limit_a is None or not rated_a or not then_a:
            continue
        own_a = limit_a * dc_for(Stated(build.controller))
        if abs(own_a / rated_a - 1) <= SAME:
            return {"controller.motor_current_limit_a": float(f"{limit_a * then_a / rated_a:.4g}")}
    return {}


def _series_around(value: float) -> list[float]:
    power = 10.0 ** math.floor(math.log10(value))
    decades = (power / 10, power, power * 10)
    return [float(f"{step * decade:.6g}") for decade in decades for step in PREFERRED]


def _next(number: float) -> float:
    return min(step for step in _series_around(number) if step > number * 1.02)


def _previous(number: float) -> float:
    return max(step for step in _series_around(number) if step < number / 1.02)
