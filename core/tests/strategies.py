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


def _magnets() -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries(
        {
            "kind": st.just("permanent_magnet"),
            "commutation": st.sampled_from(["brushed", "brushless"]),
            "count": st.integers(1, 4),
            "kv_rpm_per_v": st.floats(8, 3000),
            "resistance_ohm": st.floats(0.005, 1),
            "no_load_current_a": st.floats(0, 3),
            "brush_drop_v": st.floats(0, 1.5),
        }
    )


def _series() -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries(
        {
            "kind": st.just("series_wound"),
            "count": st.integers(1, 2),
            "saturated_constant_nm_per_a": st.floats(0.02, 1),
            "half_saturation_current_a": st.floats(5, 300),
            "resistance_ohm": st.floats(0.005, 0.3),
            "loss_torque_nm": st.floats(0.05, 3),
            "brush_drop_v": st.floats(0, 2),
        }
    )


def _packaged() -> st.SearchStrategy[dict[str, Any]]:
    losses = st.one_of(
        st.fixed_dictionaries({"efficiency": st.floats(0.7, 0.97)}),
        st.fixed_dictionaries(
            {
                "copper_loss_w": st.floats(0, 500),
                "iron_loss_w": st.floats(0, 200),
                "windage_loss_w": st.floats(0, 100),
            }
        ),
    )
    envelope = st.fixed_dictionaries(
        {
            "kind": st.just("packaged"),
            "count": st.integers(1, 2),
            "peak_torque_nm": st.floats(2, 200),
            "base_rpm": st.floats(500, 4000),
            "base_voltage_v": st.floats(24, 120),
            "top_rpm": st.floats(4500, 9000),
        }
    )
    return st.builds(lambda one, other: {**one, **other}, envelope, losses)


MOTORS = {"permanent_magnet": _magnets, "series_wound": _series, "packaged": _packaged}


def _gearbox() -> st.SearchStrategy[dict[str, Any]]:
    ratios = st.lists(st.floats(0.8, 6), min_size=2, max_size=4, unique=True)
    return st.fixed_dictionaries(
        {"kind": st.just("gearbox"), "ratios": ratios, "efficiency": st.floats(0.8, 1.0)}
    )


def _traction() -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries(
        {
            "friction": st.floats(0.1, 1.2),
            "driven_share": st.floats(0.3, 1.0),
            "driven_axle": st.sampled_from(["rear", "front"]),
            "wheelbase_m": st.floats(0.3, 3),
            "centre_height_m": st.floats(0.05, 1.2),
        }
    )


@st.composite
def builds(draw: st.DrawFn, kind: str | None = None, plain: bool = False) -> dict[str, Any]:
    """Return a valid plain document, of any kind of motor unless one is asked for.

    A plain one has neither gearbox nor grip.
    """
    controller = {"resistance_ohm": draw(st.floats(0, 0.02))}
    if draw(st.booleans()):
        controller["motor_current_limit_a"] = draw(st.floats(3, 400))
    if draw(st.booleans()):
        controller["battery_current_limit_a"] = draw(st.floats(3, 300))
    if draw(st.booleans()):
        controller["standby_current_a"] = draw(st.floats(0, 0.5))
    if draw(st.booleans()):
        controller["switching_loss_v"] = draw(st.floats(0, 0.5))
    motor = draw(MOTORS[kind or draw(st.sampled_from(sorted(MOTORS)))]())
    gearing = draw(st.lists(_stage(), max_size=4))
    vehicle = {
        "kind": "ground",
        "mass_kg": draw(st.floats(1, 1200)),
        "rolling_resistance": draw(st.floats(0.004, 0.1)),
        "drag_area_m2": draw(st.floats(0.01, 2)),
    }
    if not plain:
        if draw(st.integers(0, 3)) == 0:
            gearing = [draw(_gearbox()), *gearing[:2]]
        if draw(st.integers(0, 2)) == 0:
            vehicle["traction"] = draw(_traction())
    return {
        "format": FORMAT,
        "name": "any",
        "conditions": {
            "air_density_kg_m3": draw(st.floats(0.7, 1.4)),
            "headwind_mps": draw(st.floats(-5, 10)),
        },
        "vehicle": vehicle,
        "wheel": {"rolling_circumference_mm": draw(st.floats(150, 2500))},
        "gearing": gearing,
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
