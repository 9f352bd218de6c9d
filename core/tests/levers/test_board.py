"""The lever board: each row is what the changed build does, alone and in its draws."""

import numpy as np
import pytest

from core.tests.conftest import TRIKE, document_with
from powertrain.compile.build import compile_drive
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.levers.board import BETTER, levers_board
from powertrain.levers.registry import levers_of, press
from powertrain.operating.distance import range_km
from powertrain.operating.launch import launch
from powertrain.operating.settings import Usable
from powertrain.operating.steady import steady
from powertrain.operating.top_speed import top_speed
from powertrain.units import kmh_from_mps, mps_from_kmh

LONG = {**TRIKE, "moments": {"cruise_kmh": 18, "launch_to_kmh": 20}}


def figures(document):
    """Return figures of a build one by one, each by its own question."""
    build = check_build(document)
    drive = compile_drive(build)
    flat, hill = (top_speed(drive, np.float64(grade)) for grade in (0.0, 8.0))
    run = launch(drive, np.float64(mps_from_kmh(20.0)))
    cruise = steady(drive, np.float64(5.0), np.float64(0.0))
    return {
        "top_speed_kmh": float(kmh_from_mps(flat.speed_mps)),
        "climb_kmh": float(kmh_from_mps(hill.speed_mps)),
        "launch_s": float(run.time_s),
        "range_km": float(range_km(drive, Usable(100.0, 10.0), cruise)),
        "motor_peak_a": float(run.peak_motor_current_a),
    }


def test_each_row_is_the_difference_of_two_builds():
    board, before = levers_board(check_build(LONG)), figures(LONG)
    for row in board.rows:
        after = figures(changed(LONG, press(check_build(LONG), row.lever, row.step)))
        for key, value in after.items():
            assert row.effects[key] is not None, (row.say, key)
            wanted = value - before[key]
            size = 2e-3 if key == "launch_s" else 1e-5
            assert row.effects[key][0] == pytest.approx(wanted, abs=size * before[key]), row.say


def test_every_lever_has_its_rows_and_they_are_ranked():
    build = check_build(LONG)
    board = levers_board(build)
    steps = {(lever.id, 1) for lever in levers_of(build) if lever.up}
    steps |= {(lever.id, -1) for lever in levers_of(build) if lever.down}
    assert {(row.lever, row.step) for row in board.rows} == steps
    for key, order in board.ranked.items():
        gains = [board.rows[index].effects[key][0] * BETTER[key] for index in order]
        assert all(gain > 0 for gain in gains)
        assert gains == sorted(gains, reverse=True)


def test_a_difference_is_surer_than_the_figures_it_is_of():
    from powertrain.bench.solve import solve

    answer = solve(check_build(LONG))
    low, _, high = answer.doubt.figures["top_speed_kmh"].band
    row = next(r for r in answer.board.rows if r.lever == "gearing.0.driver_teeth" and r.step == 1)
    _, least, most = row.effects["top_speed_kmh"]
    assert most - least < 0.3 * (high - low)


def test_bands_of_the_answer_hold_their_middle():
    from powertrain.bench.solve import solve

    answer = solve(check_build(LONG))
    for moment in answer.moments:
        for name, (low, middle, high) in moment.bands.items():
            if None not in (low, middle, high):
                assert low <= middle <= high, name
    for figure in answer.doubt.figures.values():
        low, middle, high = figure.band
        assert low <= middle <= high
    assert answer.doubt.measure_next is not None


def test_a_fan_cools_and_changes_nothing_else():
    hot = document_with({"motor.mass_kg": 2, "moments.climb_length_m": 2000})
    board = levers_board(check_build(hot))
    fan = next(row for row in board.rows if row.lever == "motor.cooling.fan_mps")
    assert fan.effects["case_c"][0] < -0.3
    assert fan.effects["top_speed_kmh"] == [0, 0, 0]


def test_slack_pressure_and_timing_are_levers_too():
    board = levers_board(check_build(LONG))
    rows = {(row.lever, row.step): row for row in board.rows}
    assert rows["gearing.0.care", 1].effects["climb_kmh"][0] > 0
    assert rows["pressure", 1].effects["range_km"][0] > 0
    timing = rows["motor.timing_deg", 1]
    assert timing.effects["top_speed_kmh"][0] > 0
    assert timing.effects["launch_s"][0] > 0
