"""What can be learned from a table is found in it: a ride of the engine's, cut into rows."""

import json

import numpy as np
import pytest

from powertrain.calibrate.answer import calibrated
from powertrain.cli import main
from powertrain.documents.log import check_log
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.run import check_run
from powertrain.runs.answer import rows_of
from powertrain.runs.ride import ride
from powertrain.telemetry.find import proposals
from powertrain.telemetry.read import read_log


def table_of(document, course):
    run = check_run({"format": "young-torrent.run/1", "build": document, "course": course})
    rows = rows_of(run, ride(run))
    names = ("time_s", "speed_kmh", "throttle_pct", "battery_voltage_v", "motor_current_a")
    lines = [",".join(names)]
    for at in range(0, len(rows["time_s"]), 2):
        lines.append(",".join(f"{rows[name][at]:.4f}" for name in names))
    return "\n".join(lines).encode()


HAND = {
    "kind": "throttle",
    "points": [
        {"t_s": 0, "throttle_pct": 0},
        {"t_s": 3, "throttle_pct": 100},
        {"t_s": 60, "throttle_pct": 0},
    ],
    "until_s": 100,
}


def test_a_start_a_top_speed_and_rolling_out_are_found(trike):
    found = {one.observation["kind"]: one for one in proposals(read_log(table_of(trike, HAND)))}
    assert set(found) == {"launch", "top_speed", "coast_down"}
    top = found["top_speed"].observation
    # The trike's own top speed, which the outside solver has at 36.8 km/h, warm a little slower.
    assert top["speed_kmh"] == pytest.approx(36.6, abs=0.5)
    assert top["motor_current_a"] > 10
    start = found["launch"]
    assert start.from_s == pytest.approx(3, abs=0.3)
    assert start.observation["to_kmh"] == pytest.approx(33, abs=1)
    samples = found["coast_down"].observation["samples"]
    assert samples[0]["t_s"] == 0
    assert samples[0]["speed_kmh"] > samples[-1]["speed_kmh"] + 5


def test_held_speeds_are_found_the_longest_first(trike):
    course = {
        "kind": "speed",
        "points": [
            {"t_s": at, "speed_kmh": v}
            for at, v in ((0, 0), (15, 15), (45, 15), (50, 22), (130, 22))
        ],
    }
    run = check_run({"format": "young-torrent.run/1", "build": trike, "course": course})
    rows = rows_of(run, ride(run))
    lines = ["time,speed,battery current"]
    for at in range(0, len(rows["time_s"]), 5):
        amps = rows["battery_current_a"][at]
        lines.append(f"{rows['time_s'][at]:.2f},{rows['speed_kmh'][at]:.3f},{amps:.3f}")
    found = proposals(read_log("\n".join(lines).encode()))
    held = [one.observation["speed_kmh"] for one in found if one.observation["kind"] == "steady"]
    assert held[:2] == pytest.approx([22, 15], abs=0.3)


def test_what_is_found_teaches_what_it_came_from(trike):
    """A trike that drags more than was thought: its own rolling out says so."""
    truth = changed(trike, {"vehicle.drag_area_m2": 1.05, "vehicle.rolling_resistance": 0.0105})
    found = proposals(read_log(table_of(truth, HAND)))
    run = {"id": "evening", "observations": [one.observation for one in found]}
    told = calibrated(
        check_build(trike), check_log({"format": "young-torrent.log/1", "runs": [run]})
    )
    area = next(one for one in told.inputs if one.path == "vehicle.drag_area_m2")
    assert area.after[0] < 1.05 < area.after[2]
    assert area.after[1] > area.before[1] * 1.1


def test_a_table_without_speeds_proposes_nothing():
    assert proposals(read_log(b"time,current\n0,1\n1,2\n2,3\n")) == []


def test_marked_values_are_no_part_of_what_is_found():
    rows = "\n".join(f"{at},{20 if at != 30 else 90},5" for at in range(60))
    log = read_log(f"time,speed,battery current\n{rows}".encode())
    assert log.marked["speed_kmh"] == [30]
    [held] = [one for one in proposals(log) if one.observation["kind"] == "steady"]
    assert held.observation["speed_kmh"] == 20
    assert np.isclose(held.to_s - held.from_s, 59)


def test_the_command_says_how_a_table_was_understood(tmp_path, capsys, trike):
    file = tmp_path / "evening.csv"
    file.write_bytes(table_of(trike, HAND))
    assert main(["read-log", str(file)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["columns"]["speed_kmh"]["most"] == pytest.approx(36.6, abs=0.5)
    assert {one["observation"]["kind"] for one in told["proposed"]} >= {"top_speed", "coast_down"}
    assert main(["read-log", str(file), "--column", "nothing"]) == 2
    assert json.loads(capsys.readouterr().err)["error"]["where"] == "column"
    assert main(["read-log", str(tmp_path / "none.csv")]) == 2
