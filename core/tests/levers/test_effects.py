"""What a press of each lever does to the bench: the way that physics says it must."""

from functools import cache
from typing import Any

import pytest

from core.tests.conftest import document_with
from powertrain.bench.solve import solve
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.levers.operations import Press, carry_out
from powertrain.levers.registry import levers_of

HILL = {
    "motor.mass_kg": 2.6,
    "motor.timing_deg": 10,
    "motor.continuous_current_a": 55,
    "moments.climb_grade_pct": 8,
    "moments.climb_speed_kmh": 15,
    "moments.climb_length_m": 4000,
    "moments.cruise_kmh": 20,
    "moments.launch_to_kmh": 18,
}
"""A steady climb, long enough that heat tells, and moments that no lever moves."""


@cache
def figures(step: tuple[str, int] | None = None) -> dict[str, float]:
    document = document_with(HILL)
    if step is not None:
        document = carry_out(document, Press(do="press", lever=step[0], step=step[1]))
    answer = solve(check_build(document))
    return {key: figure.value for key, figure in answer.doubt.figures.items()}


EFFECTS: dict[tuple[str, int], dict[str, int]] = {
    # More volts: faster where volts limit, and more watts at the same pack amps.
    ("battery.series", 1): {"top_speed_kmh": 1, "climb_kmh": 1, "range_km": 1},
    # Cells beside one another: less sag and more charge; amps limits stay.
    ("battery.parallel", 1): {"top_speed_kmh": 1, "range_km": 1, "climb_kmh": 1},
    # A taller gear: faster and weaker, so slower away, and hotter at the same push.
    ("gearing.0.driver_teeth", 1): {"top_speed_kmh": 1, "launch_s": 1, "winding_c": 1, "case_c": 1},
    ("gearing.0.driven_teeth", 1): {"top_speed_kmh": -1, "launch_s": -1, "winding_c": -1},
    ("gearing.1.driver_teeth", 1): {"top_speed_kmh": 1, "launch_s": 1, "winding_c": 1},
    # A larger wheel is a taller gear.
    ("wheel.rolling_circumference_mm", 1): {"top_speed_kmh": 1, "launch_s": 1, "winding_c": 1},
    # Mass is carried up the hill and set moving; its rolling drag costs range.
    ("vehicle.mass_kg", 1): {
        "climb_kmh": -1,
        "launch_s": 1,
        "range_km": -1,
        "winding_c": 1,
        "top_speed_kmh": -1,
    },
    ("vehicle.mass_kg", -1): {"climb_kmh": 1, "launch_s": -1, "range_km": 1, "winding_c": -1},
    # Less loss in the chain: the same road from fewer watts.
    ("gearing.0.care", 1): {"range_km": 1, "winding_c": -1, "top_speed_kmh": 1, "launch_s": -1},
    # Harder tyres drag less.
    ("pressure", 1): {"range_km": 1},
    # A fan and a sink cool and do nothing else.
    ("motor.cooling.fan_mps", 1): {
        "winding_c": -1,
        "case_c": -1,
        "top_speed_kmh": 0,
        "range_km": 0,
        "launch_s": 0,
        "motor_peak_a": 0,
    },
    ("motor.cooling.sink_cm2", 1): {
        "winding_c": -1,
        "case_c": -1,
        "top_speed_kmh": 0,
        "pack_peak_a": 0,
    },
    # Two motors share the push: half the amps in each, a quarter of the copper heat.
    ("motor.count", 1): {"winding_c": -1, "case_c": -1},
    # The motor amps limit sets the push from standstill, the pack's what is left at speed.
    ("controller.motor_current_limit_a", 1): {"launch_s": -1, "motor_peak_a": 1},
    ("controller.motor_current_limit_a", -1): {"launch_s": 1, "motor_peak_a": -1},
    ("controller.battery_current_limit_a", 1): {"climb_kmh": 1, "pack_peak_a": 1},
    ("controller.battery_current_limit_a", -1): {"climb_kmh": -1, "pack_peak_a": -1},
    # A faster winding: more rpm for the volts, less torque for the amps, so slower away.
    ("winding", 1): {"top_speed_kmh": 1, "launch_s": 1},
    ("winding", -1): {"top_speed_kmh": -1, "launch_s": -1},
    # Timing works like extra KV.
    ("motor.timing_deg", 1): {"top_speed_kmh": 1, "launch_s": 1},
    ("motor.timing_deg", -1): {"top_speed_kmh": -1, "launch_s": -1},
}


@pytest.mark.parametrize(("lever", "step"), EFFECTS)
def test_a_press_does_what_physics_says(lever, step):
    before, after = figures(), figures((lever, step))
    for figure, sign in EFFECTS[lever, step].items():
        gain = after[figure] - before[figure]
        if sign == 0:
            assert gain == 0, figure
        else:
            assert gain * sign > 0, (figure, gain)


def test_every_lever_of_the_bench_is_told_here():
    build = check_build(document_with(HILL))
    named = {lever for lever, _ in EFFECTS}
    # Of like stages one is enough.
    like = {"gearing.1.driven_teeth", "gearing.1.care"}
    assert {lever.id for lever in levers_of(build)} - like == named


def test_twice_the_pack_goes_twice_as_far_and_a_little_more():
    # Twice the charge at half the sag; common sense, and the definition of parallel.
    wide = changed(document_with(HILL), {"battery.parallel": 8})
    longer = solve(check_build(wide)).doubt.figures["range_km"].value
    assert 2.0 < longer / figures()["range_km"] < 2.1


@pytest.mark.parametrize(
    ("change", "share"),
    [
        # A launch at an amps limit: time goes with mass over push (Newton), push with amps.
        ({"controller.motor_current_limit_a": 40, "controller.battery_current_limit_a": 200}, 2.0),
        ({"controller.motor_current_limit_a": 80, "controller.battery_current_limit_a": 200}, 1.0),
    ],
)
def test_half_the_amps_take_about_twice_as_long(change: dict[str, Any], share: float):
    free = {
        "vehicle.rolling_resistance": 1e-6,
        "vehicle.drag_area_m2": 1e-6,
        "moments.launch_to_kmh": 8,
        "motor.no_load_current_a": 0.001,
    }
    base = {**HILL, **free, "controller.battery_current_limit_a": 200}

    def start_s(more: dict[str, Any]) -> float:
        return float(
            solve(check_build(document_with({**base, **more}))).doubt.figures["launch_s"].value
        )

    assert start_s(change) / start_s({}) == pytest.approx(share, rel=0.01)
