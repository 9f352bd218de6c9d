"""The reserve's old tractor with a motor from a hoist, as a plain document to change."""

import copy
import json
from typing import Any

import pytest

from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build

TRACTOR = json.loads("""
{"format": "young-torrent.build/1", "name": "Old Bittern",
 "vehicle": {"kind": "ground", "mass_kg": 900, "rolling_resistance": 0.05, "drag_area_m2": 1.6,
             "replaces": {"torque_nm": 58, "torque_at_rpm": 1500, "power_kw": 10.3,
                          "power_at_rpm": 2000, "driven_at_rpm": 1700, "mass_kg": 210}},
 "wheel": {"rolling_circumference_mm": 2100},
 "gearing": [{"kind": "gearbox", "ratios": [28, 16, 9], "efficiency": 0.88}],
 "motor": {"kind": "series_wound", "commutation": "brushed", "count": 1,
           "saturated_constant_nm_per_a": 0.4, "half_saturation_current_a": 90,
           "resistance_ohm": 0.028, "loss_torque_nm": 2.5, "brush_drop_v": 1.5,
           "field": {"coils": 4, "connection": "series", "resistance_ohm": 0.012}},
 "controller": {"resistance_ohm": 0.002, "motor_current_limit_a": 350, "capacitance_uf": 9000},
 "battery": {"chemistry": "lifepo4", "series": 24, "parallel": 1, "cell_capacity_ah": 100,
             "cell_resistance_mohm": 0.6, "wiring_resistance_mohm": 2, "cell_voltage_v": 3.3}}
""")


@pytest.fixture
def tractor() -> dict[str, Any]:
    return copy.deepcopy(TRACTOR)


def tractor_with(changes: dict[str, Any]) -> Build:
    # What is set as a whole is set in again by later paths; it must not be the test's own.
    return check_build(changed(TRACTOR, copy.deepcopy(changes)))
