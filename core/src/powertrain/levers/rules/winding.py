"""The next winding of the same can."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever

PREFERRED = (1.0, 1.12, 1.25, 1.4, 1.6, 1.8, 2.0, 2.24, 2.5, 2.8, 3.15, 3.55, 4.0, 4.5, 5.0, 5.6,
             6.3, 7.1, 8.0, 9.0)  # fmt: skip
"""The R20 series of preferred numbers (ISO 3). Real windings come in whole turns; where the
turns aren't known, steps of an eighth are about what a can is sold in."""


def levers(build: Build) -> Iterator[Lever]:
    """Yield the winding, by its KV."""
    kv = build.motor.kv_rpm_per_v
    yield Lever(
        id="winding",
        part="motor",
        label="Winding",
        value=kv,
        unit="KV",
        path="motor.kv_rpm_per_v",
        up=rewound(build, _next(kv)),
        down=rewound(build, _previous(kv)) if kv > 2 else None,
    )


def rewound(build: Build, kv_rpm_per_v: float) -> dict[str, float]:
    """Return the changes that make the same can with another winding.

    With fewer turns of thicker wire KV rises, resistance falls as 1/KV^2, and no-load current
    and current ratings rise as KV: the copper in the slots stays what it was, and so does the
    torque it can stand.
    """
    motor = build.motor
    share = kv_rpm_per_v / motor.kv_rpm_per_v
    scaled = {
        "kv_rpm_per_v": kv_rpm_per_v,
        "resistance_ohm": motor.resistance_ohm / share**2,
        "no_load_current_a": motor.no_load_current_a * share,
        "continuous_current_a": _times(motor.continuous_current_a, share),
        "peak_current_a": _times(motor.peak_current_a, share),
    }
    return {f"motor.{key}": value for key, value in scaled.items() if value is not None}


def _times(value: float | None, share: float) -> float | None:
    return None if value is None else value * share


def _series_around(value: float) -> list[float]:
    power = 10.0 ** (len(str(int(value))) - 1) if value >= 1 else 0.1
    decades = (power / 10, power, power * 10)
    return [float(f"{step * decade:.6g}") for decade in decades for step in PREFERRED]


def _next(kv: float) -> float:
    return min(step for step in _series_around(kv) if step > kv * 1.02)


def _previous(kv: float) -> float:
    return max(step for step in _series_around(kv) if step < kv / 1.02)
