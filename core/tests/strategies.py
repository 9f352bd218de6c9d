"""Valid builds of every size, from a rover of a kilogram to a conversion of a tonne."""

from typing import Any

from hypothesis import strategies as st

from powertrain.documents.build import FORMAT


def _stage() -> st.SearchStrategy[dict[str, Any]]:
    toothed = st.fixed_dictionaries(
        {
            "kind": st.sampled_from(["chain", "belt", "spur"]),
            "driver_teeth": st.integers(9, 40),
            "driven_teeth": st.integers(9, 90),
            "efficiency": st.floats(0.8, 1.0),
        }
    )
    fixed = st.fixed_dictionaries(
        {
            "kind": st.sampled_from(["planetary", "fixed"]),
            "ratio": st.floats(0.5, 30),
            "efficiency": st.floats(0.7, 1.0),
        }
    )
    return st.one_of(toothed, fixed)


@st.composite
def builds(draw: st.DrawFn) -> dict[str, Any]:
    """Return a valid plain document, with or without limits, standby and brush drop."""
    controller = {"resistance_ohm": draw(st.floats(0, 0.02))}
    if draw(st.booleans()):
        controller["motor_current_limit_a"] = draw(st.floats(3, 400))
    if draw(st.booleans()):
        controller["battery_current_limit_a"] = draw(st.floats(3, 300))
    if draw(st.booleans()):
        controller["standby_current_a"] = draw(st.floats(0, 0.5))
    motor = {
        "kind": "permanent_magnet",
        "commutation": draw(st.sampled_from(["brushed", "brushless"])),
        "count": draw(st.integers(1, 4)),
        "kv_rpm_per_v": draw(st.floats(8, 3000)),
        "resistance_ohm": draw(st.floats(0.005, 1)),
        "no_load_current_a": draw(st.floats(0, 3)),
        "brush_drop_v": draw(st.floats(0, 1.5)),
    }
    return {
        "format": FORMAT,
        "name": "any",
        "conditions": {
            "air_density_kg_m3": draw(st.floats(0.7, 1.4)),
            "headwind_mps": draw(st.floats(-5, 10)),
        },
        "vehicle": {
            "kind": "ground",
            "mass_kg": draw(st.floats(1, 1200)),
            "rolling_resistance": draw(st.floats(0.004, 0.1)),
            "drag_area_m2": draw(st.floats(0.01, 2)),
        },
        "wheel": {"rolling_circumference_mm": draw(st.floats(150, 2500))},
        "gearing": draw(st.lists(_stage(), max_size=4)),
        "motor": motor,
        "controller": controller,
        "battery": {
            "chemistry": "li_ion",
            "series": draw(st.integers(2, 30)),
            "parallel": draw(st.integers(1, 10)),
            "cell_capacity_ah": 3.0,
            "cell_resistance_mohm": draw(st.floats(1, 60)),
            "wiring_resistance_mohm": draw(st.floats(0, 40)),
            "cell_voltage_v": draw(st.floats(3.0, 4.2)),
        },
    }
