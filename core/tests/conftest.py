"""The trike that the tests drive, as a plain document to change, and as a checked build."""

import copy
import json
from collections.abc import Callable
from typing import Any

import pytest

from ops import draws  # noqa: F401  (loads the draws that are the same for everyone)
from powertrain.compile.build import compile_drive
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.drive import Drive

TRIKE = json.loads("""
{"format": "young-torrent.build/1", "name": "Causeway trike",
 "conditions": {"air_density_kg_m3": 1.225, "ambient_c": 20, "headwind_mps": 0},
 "vehicle": {"kind": "ground", "mass_kg": 195, "rolling_resistance": 0.009, "drag_area_m2": 0.85,
             "rotating_mass_factor": 1.0},
 "wheel": {"rolling_circumference_mm": 1830},
 "gearing": [{"kind": "chain", "driver_teeth": 16, "driven_teeth": 60, "efficiency": 0.955},
             {"kind": "chain", "driver_teeth": 18, "driven_teeth": 44, "efficiency": 0.975}],
 "motor": {"kind": "permanent_magnet", "commutation": "brushless", "count": 1,
           "kv_rpm_per_v": 60, "resistance_ohm": 0.045, "no_load_current_a": 1.4},
 "controller": {"resistance_ohm": 0.006, "motor_current_limit_a": 80,
                "battery_current_limit_a": 45},
 "battery": {"chemistry": "li_ion", "series": 13, "parallel": 4, "cell_capacity_ah": 3.4,
             "cell_resistance_mohm": 20, "wiring_resistance_mohm": 10, "cell_voltage_v": 4.1}}
""")

Changing = Callable[..., Any]


@pytest.fixture
def trike() -> dict[str, Any]:
    return copy.deepcopy(TRIKE)


def document_with(changes: dict[str, Any]) -> dict[str, Any]:
    return changed(TRIKE, changes)


@pytest.fixture
def build_with() -> Callable[[dict[str, Any]], Build]:
    return lambda changes: check_build(document_with(changes))


@pytest.fixture
def drive_with() -> Callable[[dict[str, Any]], Drive]:
    return lambda changes: compile_drive(check_build(document_with(changes)))
