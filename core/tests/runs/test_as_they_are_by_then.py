"""Cold and worn packs, cut-off, roll-back, what is refused: as things are by then."""

import csv
import io
import json
import math

import numpy as np
import pytest

from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.battery.cold import CAPACITY, RESISTANCE, Along
from powertrain.battery.open_circuit import USUAL
from powertrain.cli import main
from powertrain.documents.run import check_run
from powertrain.errors import Refusal
from powertrain.runs.answer import COLUMNS, rows_of, run_answer, write_csv
from powertrain.runs.ride import ride

HOUR = {"kind": "speed", "points": [{"t_s": 0, "speed_kmh": 20}, {"t_s": 3600, "speed_kmh": 20}]}
LEAD = {
    "battery": {
        "chemistry": "lead_acid",
        "series": 24,
        "parallel": 1,
        "cell_capacity_ah": 14.0,
        "cell_resistance_mohm": 3.0,
        "wiring_resistance_mohm": 10.0,
        "cell_voltage_v": 2.13,
    }
}


def document(course, start=None, **more):
    build = document_with({key: value for key, value in more.items() if "." in key})
    build |= {key: value for key, value in more.items() if "." not in key}
    made = {"format": "young-torrent.run/1", "build": build, "course": course}
    return made if start is None else {**made, "start": start}


def answer(course, *, start=None, **more):
    run = check_run(json.loads(json.dumps(document(course, start, **more))))
    found = ride(run)
    return run_answer(run, ridden=found), found, run


def kinds(told):
    return [event.kind for event in told.events]


class TestPack:
    def test_charge_falls_by_the_amp_hours_of_the_terminals(self):
        told, found, _ = answer(HOUR)
        amps = found.rows["battery_current_a"] * found.rows["seconds"]
        assert 100 - told.soc_end_pct == pytest.approx(100 * amps.sum() / 3600 / 13.6, rel=1e-9)

    def test_worn_cells_hold_a_share(self):
        new, _, _ = answer(HOUR)
        worn, _, _ = answer(HOUR, **{"battery.capacity_share": 0.7})
        # Its volts fall sooner, so that it takes a little more amps.
        assert 100 - worn.soc_end_pct == pytest.approx((100 - new.soc_end_pct) / 0.7, rel=0.02)

    def test_peukert_counts_the_amps_beyond_those_of_twenty_hours(self):
        plain, found, _ = answer(HOUR, **LEAD)
        more = {**LEAD["battery"], "peukert": 1.2}
        told, _, _ = answer(HOUR, battery=more)
        amps = found.rows["battery_current_a"]
        slow = 14 / 20
        by_hand = (amps * np.maximum(amps / slow, 1) ** 0.2 * found.rows["seconds"]).sum()
        assert 100 - told.soc_end_pct == pytest.approx(100 * by_hand / 3600 / 14, rel=0.02)
        assert told.soc_end_pct < plain.soc_end_pct

    @pytest.mark.parametrize("chemistry", ["li_ion", "lead_acid"])
    def test_cold_takes_range_and_volts(self, chemistry):
        found = {}
        for ambient in (20.0, 0.0, -10.0):
            more = {} if chemistry == "li_ion" else LEAD
            told, _, _ = answer(HOUR, **more, **{"conditions.ambient_c": ambient})
            found[ambient] = told
        used = {at: 100 - told.soc_end_pct for at, told in found.items()}
        assert used[20.0] < used[0.0] < used[-10.0]
        # A cell at its temperature gives so much less; it warms by a kelvin or two meanwhile.
        share = float(Along(CAPACITY[chemistry]).at(scalar(-10.0)))
        assert used[-10.0] == pytest.approx(used[20.0] / share, rel=0.06)
        least = {at: told.least.cell_voltage_v for at, told in found.items()}
        assert least[20.0] > least[0.0] > least[-10.0]

    def test_resistance_when_cold_is_as_stated_where_it_is(self):
        points = [{"c": -20.0, "factor": 9.0}, {"c": 40.0, "factor": 1.0}]
        start = {"kind": "standing", "until_s": 0.2}
        limits = {"controller.battery_current_limit_a": None}
        cold = {"conditions.ambient_c": -20.0, "battery.resistance_by_c": points, **limits}
        told, _, _ = answer(start, **cold)
        amps = told.peaks.battery_current_a
        rest = USUAL["li_ion"][-1][1] - (USUAL["li_ion"][-1][1] - 4.1)
        sag = rest - told.least.cell_voltage_v
        # Nine times 13/4 x 20 mOhm, and the 10 of the leads, over thirteen cells.
        assert sag == pytest.approx(amps * (9 * 13 / 4 * 0.020 + 0.010) / 13, rel=2e-3)

    def test_usual_volts_go_through_the_stated_ones_at_the_start(self):
        course = {"kind": "throttle", "points": [{"t_s": 0, "throttle_pct": 0}], "until_s": 5}
        for soc in (100, 60):
            told, found, _ = answer(course, start={"soc_pct": soc})
            assert found.rows["battery_voltage_v"][0] == pytest.approx(13 * 4.1, rel=1e-6)
            assert told.soc_end_pct == pytest.approx(soc, abs=0.01)


class TestCutOff:
    LOW = {"battery.cut_off_cell_v": 3.9}

    def test_a_pack_that_sags_is_cut_off_for_good(self):
        course = {"kind": "standing", "until_s": 120.0, "grade_pct": 0}
        told, found, _ = answer(course, **self.LOW, start={"soc_pct": 30})
        assert "cut_off" in kinds(told)
        rows = found.rows
        gone = np.flatnonzero(rows["gives"] < 0.5)[0]
        assert np.all(rows["motor_current_a"][gone + 1 :] == 0)

    def test_one_that_may_come_back_does_once_the_volts_have(self):
        back = {"controller.cut_off_recovers_v": 13 * 4.05}
        course = {"kind": "standing", "until_s": 60.0, "grade_pct": 0}
        told, found, _ = answer(course, **self.LOW, **back)
        gives = found.rows["gives"]
        assert np.any(np.diff(gives) > 0)
        assert kinds(told).count("cut_off") > 1

    def test_a_ride_ends_where_it_stands_without_power(self):
        points = [
            {"t_s": 0, "speed_kmh": 0},
            {"t_s": 10, "speed_kmh": 30},
            {"t_s": 3000, "speed_kmh": 30},
        ]
        told, _, _ = answer({"kind": "speed", "points": points, "grade_pct": 3}, **self.LOW)
        assert (told.finished, told.ended_by) == (False, "cut_off")
        assert told.time_s < 3000

    def test_an_empty_pack_is_told(self):
        told, _, _ = answer(HOUR, start={"soc_pct": 3})
        assert "empty" in kinds(told)
        assert told.soc_end_pct == 0
        assert (told.finished, told.ended_by) == (False, "empty")


class TestHeat:
    def test_roll_back_gives_less_as_the_controller_warms(self):
        hot = {"controller.rollback": {"from_c": 30.0, "to_c": 50.0}}
        start = {"controller_c": 40.0}
        course = {"kind": "standing", "until_s": 1.0}
        told, found, _ = answer(course, start=start, **hot)
        # Half way between, half of the 80 A that are set.
        assert found.rows["motor_current_a"][0] == pytest.approx(40.0, rel=1e-6)
        assert "rollback" in kinds(told)
        cold, _, _ = answer(course, **hot)
        assert cold.peaks.motor_current_a == pytest.approx(80.0)

    def test_a_limit_that_is_passed_is_told_once(self):
        told, _, _ = answer(
            {"kind": "standing", "until_s": 900.0, "grade_pct": 6},
            **{"motor.max_case_c": 40.0, "motor.max_winding_c": 60.0},
        )
        assert kinds(told).count("over_limit") == 2

    def test_a_hill_that_is_too_steep_is_told(self):
        told, _, _ = answer({"kind": "standing", "until_m": 50.0, "grade_pct": 60})
        assert (told.finished, told.ended_by) == (False, "cannot_climb")
        assert kinds(told)[-1] == "cannot_climb"
        assert told.distance_m == 0


class TestBraking:
    DOWN = {
        "kind": "speed",
        "grade_pct": -10,
        "points": [{"t_s": 0, "speed_kmh": 20}, {"t_s": 60, "speed_kmh": 20}],
    }

    def test_a_motor_gives_back_what_it_may(self):
        told, _, _ = answer(self.DOWN, start={"soc_pct": 60})
        free, limited = told.regenerated_wh, {}
        for amps in (0.0, 2.0):
            less, rows, _ = answer(
                self.DOWN, start={"soc_pct": 60}, **{"controller.regen_current_limit_a": amps}
            )
            limited[amps] = less.regenerated_wh
            assert rows.rows["battery_current_a"].min() == pytest.approx(-amps, abs=1e-6)
            assert less.ledger_wh.brakes > told.ledger_wh.brakes
        assert limited[0.0] == 0
        assert limited[0.0] < limited[2.0] < free

    def test_a_full_pack_takes_next_to_nothing(self):
        full = [{"soc_pct": 0, "cell_v": 3.3}, {"soc_pct": 100, "cell_v": 4.2}]
        told, _, _ = answer(self.DOWN, **{"battery.open_circuit": full})
        half, _, _ = answer(self.DOWN, start={"soc_pct": 50}, **{"battery.open_circuit": full})
        assert told.regenerated_wh < 0.02 * half.regenerated_wh

    def test_brakes_are_told(self):
        told, _, _ = answer(self.DOWN, **{"controller.regen_current_limit_a": 0.0})
        assert kinds(told).count("brakes") == 1


BAD = [
    (
        {"kind": "speed", "points": [{"t_s": 0, "speed_kmh": 1}, {"t_s": -1, "speed_kmh": 1}]},
        "course.points.1.t_s",
    ),
    (
        {"kind": "speed", "points": [{"t_s": 5, "speed_kmh": 1}, {"t_s": 4, "speed_kmh": 1}]},
        "course.points.1.t_s",
    ),
    ({"kind": "speed", "points": [{"t_s": 0, "speed_kmh": 1}]}, "course.points"),
    (
        {
            "kind": "speed",
            "points": [{"t_s": 0, "speed_kmh": math.nan}, {"t_s": 1, "speed_kmh": 1}],
        },
        "course.points.0.speed_kmh",
    ),
    (
        {"kind": "speed", "points": [{"t_s": 0, "speed_kmh": "fast"}, {"t_s": 1, "speed_kmh": 1}]},
        "course.points.0.speed_kmh",
    ),
    (
        {"kind": "route", "ride_kmh": 20, "points": [{"distance_m": 0}, {"distance_m": -5}]},
        "course.points.1.distance_m",
    ),
    (
        {"kind": "route", "ride_kmh": 20, "points": [{"distance_m": 9}, {"distance_m": 9}]},
        "course.points.1.distance_m",
    ),
    (
        {"kind": "route", "ride_kmh": 0, "points": [{"distance_m": 0}, {"distance_m": 9}]},
        "course.ride_kmh",
    ),
    ({"kind": "standing"}, "course.until_m"),
    (
        {"kind": "throttle", "points": [{"t_s": 0, "throttle_pct": 120}], "until_s": 5},
        "course.points.0.throttle_pct",
    ),
    (
        {"kind": "throttle", "points": [{"t_s": 9, "throttle_pct": 12}], "until_s": 5},
        "course.until_s",
    ),
    ({"kind": "stops", "times": 0, "to_kmh": 20}, "course.times"),
    ({"kind": "cycle", "name": "moon"}, "course.name"),
    ({"kind": "flight"}, "course.kind"),
    ({"kind": "standing", "until_s": 5, "wind": 3}, "course.wind"),
]


@pytest.mark.parametrize(("course", "where"), BAD)
def test_bad_courses_are_refused_with_their_place(course, where):
    with pytest.raises(Refusal) as refused:
        check_run(document(course))
    assert refused.value.where == where


def test_ten_million_points_are_refused():
    point = {"distance_m": 0.0}
    course = {"kind": "route", "ride_kmh": 20, "points": [point] * 10_000_000}
    with pytest.raises(Refusal) as refused:
        check_run(document(course))
    assert refused.value.where == "course.points"


def test_a_bad_build_is_told_with_its_place():
    with pytest.raises(Refusal) as refused:
        check_run(document(HOUR, **{"battery.series": 0}))
    assert refused.value.where == "build.battery.series"
    with pytest.raises(Refusal) as refused:
        check_run({"format": "young-torrent.run/1", "course": HOUR})
    assert refused.value.where == "build"


class TestTable:
    def test_a_row_a_step_from_the_first_state_to_the_last(self):
        points = [{"t_s": 0, "speed_kmh": 18}, {"t_s": 3.25, "speed_kmh": 18}]
        told, found, run = answer({"kind": "speed", "points": points})
        file = io.StringIO()
        write_csv(run, found, file)
        rows = list(csv.DictReader(io.StringIO(file.getvalue())))
        assert tuple(rows[0]) == COLUMNS
        times = [float(row["time_s"]) for row in rows]
        assert times[0] == 0
        assert times[-1] == pytest.approx(3.25)
        assert np.diff(times)[:-1] == pytest.approx(0.1)
        assert float(rows[0]["speed_kmh"]) == pytest.approx(18)
        assert float(rows[-1]["soc_pct"]) == pytest.approx(told.soc_end_pct, rel=1e-4)

    def test_finer_steps_are_told_every_tenth_of_a_second(self):
        run = check_run(document({"kind": "standing", "until_s": 2.0}))
        file = io.StringIO()
        write_csv(run, ride(run, step_s=0.01), file)
        assert len(file.getvalue().splitlines()) == 1 + 21

    def test_what_limits_is_named(self):
        run = check_run(document({"kind": "standing", "until_s": 8.0}))
        words = rows_of(run, ride(run))["limited_by"]
        # Motor amps first, then the pack's, at the end the volts.
        assert set(words.tolist()) == {0.0, 1.0, 2.0}


class TestCommand:
    @pytest.fixture
    def file(self, tmp_path):
        place = tmp_path / "run.json"
        place.write_text(json.dumps(document({"kind": "standing", "until_kmh": 20})))
        return place

    def told(self, capsys, *arguments):
        status = main(["simulate", *map(str, arguments)])
        out, err = capsys.readouterr()
        return status, json.loads(out or err)

    def test_it_prints_an_answer_with_bands(self, capsys, file, tmp_path):
        table = tmp_path / "out.csv"
        status, told = self.told(capsys, file, "--draws", 32, "--csv", table)
        assert status == 0
        assert table.read_text().startswith("time_s,distance_m,speed_kmh,asked_kmh")
        low, middle, high = told["bands"]["time_s"]
        assert low < middle < high
        assert low < told["time_s"] < high
        assert set(told["bands"]) >= {"energy_wh", "soc_end_pct", "peaks.winding_c"}
        status, told = self.told(capsys, file)
        assert told["bands"] == {}

    @pytest.mark.parametrize(
        ("arguments", "where"),
        [
            (["--step", "0"], "step"),
            (["--csv", "/nowhere/at/all.csv"], "csv"),
            (["--draws", "-1"], "draws"),
        ],
    )
    def test_it_refuses_what_can_not_be(self, capsys, file, arguments, where):
        status, told = self.told(capsys, file, *arguments)
        assert (status, told["error"]["where"]) == (2, where)


def test_every_chemistry_has_its_cold():
    for points in (*RESISTANCE.values(), *CAPACITY.values()):
        assert points[-1] == (20.0, 1.0)
    assert set(RESISTANCE) == set(CAPACITY) == set(USUAL)
