"""The most amps of a gearbox, where a change of gear makes them jump."""

import numpy as np
import pytest

from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.launch import launch, launch_with_peaks
from powertrain.operating.peaks import peaks_to
from powertrain.operating.top_speed import top_speed_mps


@pytest.mark.parametrize("ratios", [[3.0, 1.2], [4.0, 2.5, 1.6, 1.0], [2.0, 1.9]])
@pytest.mark.parametrize("limit_a", [12.0, 30.0, 80.0])
def test_no_speed_has_more_amps_than_the_peak(ratios, limit_a):
    # A plain look at a hundred thousand speeds.
    box = {"kind": "gearbox", "ratios": ratios, "efficiency": 0.95}
    stages = [box, {"kind": "fixed", "ratio": 4.0, "efficiency": 0.97}]
    changes = {"gearing": stages, "controller.battery_current_limit_a": limit_a}
    drive = compile_drive(check_build(document_with(changes)))
    top = float(top_speed_mps(drive, scalar(0.0)))
    at = full_throttle(drive, np.linspace(0.0, float(drive.output_at_mps(scalar(top))), 100_001))
    found, quick = (
        peaks_to(drive, scalar(top)),
        launch_with_peaks(drive, scalar(1.0), scalar(top))[1],
    )
    for peaks in (found, quick):
        assert float(peaks.motor_a) >= at.motor_current_a.max() * (1 - 1e-5)
        assert float(peaks.battery_a) >= at.battery_current_a.max() * (1 - 1e-5)


def test_amps_that_jump_at_a_corner_are_seen():
    # The first gear gives no more amps at the same speed at which the second begins to push more.
    document = document_with({})
    document["vehicle"] = {
        "kind": "ground",
        "mass_kg": 74.36839064255753,
        "rolling_resistance": 0.012,
        "drag_area_m2": 0.65,
        "traction": {
            "wheelbase_m": 1.9723249122887585,
            "centre_height_m": 0.5170376552402257,
            "friction": 0.6883841434808584,
            "driven_share": 0.49483756881316004,
        },
    }
    document["wheel"] = {"rolling_circumference_mm": 675.0}
    ratios = [4.798157099791279, 2.788572247492387, 2.766964265869923]
    document["gearing"] = [{"kind": "gearbox", "ratios": ratios, "efficiency": 0.93}]
    document["motor"] |= {
        "count": 2,
        "kv_rpm_per_v": 16.916069447080847,
        "resistance_ohm": 0.2,
        "no_load_current_a": 0.6,
        "timing_deg": 0.15382696518087718,
    }
    document["controller"] = {
        "motor_current_limit_a": 60.181143934088546,
        "battery_current_limit_a": 23.39410350775956,
        "standby_current_a": 3.9936871503919975,
        "timing_deg": 0.006622842498480929,
    }
    document["battery"] |= {
        "series": 8,
        "parallel": 4,
        "cell_capacity_ah": 2.6,
        "cell_resistance_mohm": 30.0,
        "wiring_resistance_mohm": 20.0,
        "cell_voltage_v": 5.049238978389727,
    }
    drive = compile_drive(check_build(document))
    top = float(top_speed_mps(drive, scalar(0.0)))
    at = full_throttle(drive, np.linspace(0.0, float(drive.output_at_mps(scalar(top))), 100_001))
    run = launch(drive, scalar(0.999 * top))
    assert float(run.peak_motor_current_a) >= float(at.motor_current_a.max()) * (1 - 1e-4)
