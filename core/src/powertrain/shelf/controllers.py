"""Controllers by volts and amps.

Rules (common practice, no source): the path drops about 0.13 V at the rated amps, mass follows
amps and volts, a maker's capacitors stand a step more than his rating, and what is settable
costs a third more.
"""

from collections.abc import Iterator
from typing import Any

from powertrain.documents.shelf import ControllerPart

CAPACITORS_V = (6.3, 10.0, 16.0, 25.0, 35.0, 50.0, 63.0, 80.0, 100.0, 160.0, 200.0)
"""Volts that capacitors are made for."""

MODEL_BRUSHED = ((8.5, 12, 40), (8.5, 25, 60), (12.7, 40, 90), (16.9, 60, 150))
MODEL_BRUSHLESS = (
    (12.7, 25, 50),
    (12.7, 45, 90),
    (16.9, 60, 120),
    (16.9, 90, 180),
    (25.3, 80, 160),
    (25.3, 120, 240),
    (33.7, 150, 300),
    (50.5, 120, 240),
    (50.5, 200, 400),
)
"""Volts, amps for long, amps for a few seconds: scale-model controllers. The brushless ones hold
their amps to what is set, the brushed ones to what they stand."""

BOARD = (
    (30.0, 25),
    (42.5, 30),
    (50.5, 50),
    (50.5, 80),
    (60.0, 60),
    (60.0, 100),
    (75.0, 80),
    (75.0, 150),
    (92.0, 120),
    (92.0, 220),
    (126.0, 200),
    (126.0, 350),
)
"""Volts and motor amps for long: programmable, with sensors, for boards, cycles and carts."""

TWIN_BOARD = ((42.5, 40), (50.5, 50), (60.0, 60), (75.0, 80))
"""The same with two outputs, amps of each."""

TWIN_BRUSHED = ((16.9, 30), (25.3, 40), (30.0, 60))

BRUSHED_CART = (
    (30.0, 30),
    (42.5, 40),
    (60.0, 70),
    (60.0, 150),
    (92.0, 250),
    (126.0, 400),
    (170.0, 500),
)
SWITCH_BOXES = ((63.0, 150), (105.0, 300), (126.0, 300), (195.0, 450))

MODEL_OFFERS_BRUSHED = ["cut_off_v", "drag_brake_pct", "brake_pct", "reverse"]
MODEL_OFFERS = [
    *("motor_current_limit_a", "cut_off_v", "timing_deg", "boost_timing_deg", "turbo_timing_deg"),
    *("half_throttle_pct", "ramp_pct_per_s", "drag_brake_pct", "brake_pct", "start_power_pct"),
    *("dead_band_pct", "reverse"),
]
CART_OFFERS = [
    *("motor_current_limit_a", "battery_current_limit_a", "regen_current_limit_a", "cut_off_v"),
    *("half_throttle_pct", "ramp_pct_per_s", "brake_pct", "dead_band_pct", "pwm_hz", "reverse"),
    "rollback_from_c",
]
BRUSHLESS_OFFERS = ["start_power_pct", "max_rpm"]
"""What can be set at each family."""


def controllers() -> Iterator[ControllerPart]:
    """Yield every controller of the shelf."""
    for volts, amps, burst in MODEL_BRUSHED:
        yield _model("brushed", "Fenlode", volts, amps, burst)
    for volts, amps, burst in MODEL_BRUSHLESS:
        yield _model("brushless", "Fenlode", volts, amps, burst)
    for volts, amps in BOARD:
        yield _programmable("brushless", "Withyvane", volts, amps)
    for volts, amps in TWIN_BOARD:
        yield _programmable("brushless", "Withyvane", volts, amps, outputs=2)
    for volts, amps in TWIN_BRUSHED:
        yield _programmable("brushed", "Withyvane", volts, amps, outputs=2)
    for volts, amps in BRUSHED_CART:
        yield _programmable("brushed", "Withyvane", volts, amps)
    for volts, amps in SWITCH_BOXES:
        yield _switch_box(volts, amps)


def _capacitors(volts: float) -> float:
    return min(step for step in CAPACITORS_V if step >= volts)


def _sized(volts: float, amps: float) -> dict[str, Any]:
    mass = 0.0035 * amps * (0.6 + volts / 60)
    litres = mass / 1.7
    side = 100 * (litres / 6) ** (1 / 3)
    return {
        "mass_kg": float(f"{mass:.2g}"),
        "length_mm": round(3 * side),
        "width_mm": round(2 * side),
        "height_mm": max(round(side), 5),
    }


def _price(volts: float, amps: float, factor: float) -> float:
    return float(round(factor * (6 + 0.9 * amps**0.85 * (0.4 + volts / 40)), 1))


def _model(drives: str, maker: str, volts: float, amps: float, burst: float) -> ControllerPart:
    brushed = drives == "brushed"
    name = f"{maker} {'B' if brushed else 'L'}{amps}-{volts:.0f}"
    return _part(
        name,
        drives,
        not brushed,
        {
            "motor_current_limit_a": float(burst),
            "resistance_ohm": float(f"{0.13 / amps:.2g}"),
            "max_voltage_v": volts,
            "capacitor_voltage_v": _capacitors(volts),
            "continuous_current_a": float(amps),
            "peak_current_a": float(burst),
            "peak_duration_s": 10.0,
            "outputs": 1,
            "throttle_steps": 1024,
            "signal": "servo pulse",
            "throttle_signal": "pulse",
            "reverse": "delayed",
            "min_voltage_v": 6.0 if volts < 20 else 11.0,
            "offers": MODEL_OFFERS_BRUSHED if brushed else MODEL_OFFERS,
            **({} if brushed else {"sensor": ["none", "hall"]}),
            "max_c": 90.0,
            "price": _price(volts, amps, 0.8),
            **({} if brushed else {"max_erpm": 240000.0}),
            **_sized(volts, 0.5 * amps),
        },
    )


def _programmable(
    drives: str, maker: str, volts: float, amps: float, outputs: int = 1
) -> ControllerPart:
    brushed = drives == "brushed"
    twin = "2x" if outputs == 2 else ""
    name = f"{maker} {'D' if brushed else 'T'}{twin}{amps}-{volts:.0f}"
    more = 1.0 if outputs == 1 else 1.7
    return _part(
        name,
        drives,
        True,
        {
            "resistance_ohm": float(f"{0.13 / amps:.2g}"),
            "switching_loss_v": 0.1,
            "standby_current_a": 0.05,
            "max_voltage_v": volts,
            "capacitor_voltage_v": _capacitors(volts),
            "continuous_current_a": float(amps),
            "peak_current_a": float(round(2.2 * amps)),
            "peak_duration_s": 10.0,
            "rating_side": "motor",
            "motor_current_limit_a": float(round(2.2 * amps)),
            "battery_current_limit_a": float(outputs * amps),
            "outputs": outputs,
            "throttle_steps": 4096,
            "signal": "analogue 1 to 4 V",
            "throttle_signal": "analogue",
            "reverse": "immediate",
            "min_voltage_v": float(round(0.3 * volts)),
            "offers": CART_OFFERS if brushed else [*CART_OFFERS, *BRUSHLESS_OFFERS],
            **({} if brushed else {"sensor": ["none", "hall"]}),
            "max_c": 85.0,
            "price": _price(volts, amps, 1.3 * more),
            **({} if brushed else {"max_erpm": 120000.0}),
            **_sized(volts, more * amps),
        },
    )


def _switch_box(volts: float, amps: float) -> ControllerPart:
    """Return contactor, pre-charge, fuse and shunt: what a motor with its own inverter needs."""
    return _part(
        f"Withyvane K{amps}-{volts:.0f}",
        "packaged",
        True,
        {
            "resistance_ohm": float(f"{0.05 / amps:.2g}"),
            "standby_current_a": 0.4,
            "max_voltage_v": volts,
            "battery_current_limit_a": float(amps),
            "continuous_current_a": float(amps),
            "rating_side": "battery",
            "max_c": 85.0,
            "price": _price(volts, 0.3 * amps, 1.3),
            **_sized(volts, 0.3 * amps),
        },
    )


def _part(name: str, drives: str, settable: bool, document: dict[str, Any]) -> ControllerPart:
    return ControllerPart.model_validate(
        {
            "id": name.lower().replace(" ", "-"),
            "name": name,
            "drives": drives,
            "settable": settable,
            "controller": {"name": name, **document},
            "provenance": {
                "controller.resistance_ohm": {"origin": "estimated", "tolerance_pct": 30},
                "controller.continuous_current_a": {"origin": "data_sheet"},
            },
        }
    )
