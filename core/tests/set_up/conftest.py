"""A slow crawler and a quick model car, small enough to reckon by hand."""

import pytest

from powertrain.documents.build import FORMAT
from powertrain.documents.reading import check_build


def crawler(**changes):
    """Return a crawler of 2.4 kg; sections given replace or extend those that stand."""
    document = {
        "format": FORMAT,
        "name": "Moss crawler",
        "vehicle": {
            "kind": "ground",
            "mass_kg": 2.4,
            "rolling_resistance": 0.03,
            "drag_area_m2": 0.02,
        },
        "wheel": {"rolling_circumference_mm": 370.0},
        "gearing": [{"kind": "fixed", "ratio": 48.0, "efficiency": 0.8}],
        "motor": {
            "kind": "permanent_magnet",
            "kv_rpm_per_v": 1300.0,
            "resistance_ohm": 0.25,
            "no_load_current_a": 0.8,
            "commutation": "brushed",
        },
        "controller": {"resistance_ohm": 0.01, "throttle_steps": 1024},
        "battery": {
            "chemistry": "lipo",
            "series": 3,
            "parallel": 1,
            "cell_capacity_ah": 5.0,
            "cell_resistance_mohm": 6.0,
            "wiring_resistance_mohm": 7.0,
            "cell_voltage_v": 3.9,
        },
        "moments": {"climb_grade_pct": 30.0},
    }
    for section, values in changes.items():
        before = document.get(section)
        document[section] = {**before, **values} if isinstance(before, dict) else values
    return check_build(document)


@pytest.fixture
def make():
    return crawler
