"""A hidden vehicle and what is read of it: the same for a seed, near the truth, and no more."""

import csv
import json
import statistics

import pytest

from core.tests.conftest import document_with
from powertrain.cli import main
from powertrain.documents.log import Log
from powertrain.documents.reading import check_build, check_model
from powertrain.documents.run import check_run
from powertrain.doubt.tolerances import doubtful_inputs
from powertrain.errors import Refusal
from powertrain.instruments.hidden import day_of, hidden_of
from powertrain.instruments.tools import TOOLS

ROUTE = {
    "kind": "route",
    "ride_kmh": 22,
    "points": [{"distance_m": 0}, {"distance_m": 900, "elevation_m": 8, "stop_s": 3}],
}


def run_of(**more):
    document = {"format": "young-torrent.run/1", "build": document_with(more), "course": ROUTE}
    return check_run(json.loads(json.dumps(document)))


def test_same_seed_same_readings_another_seed_others():
    first, again, other = (day_of(run_of(), seed) for seed in (7, 7, 8))
    assert first.log == again.log
    assert first.rows == again.rows
    assert first.log != other.log


def test_the_log_is_one_and_holds_what_a_test_day_reads():
    day = day_of(run_of(), 1)
    log = check_model(Log, day.log)
    kinds = {observed.kind for observed in log.runs[0].observations}
    assert {"free", "top_speed", "roll_out", "launch", "trip"} <= kinds


def test_the_truth_is_drawn_from_the_tolerances_and_nothing_else_differs():
    build = check_build(document_with({}))
    tolerances = {item.path: item.tolerance for item in doubtful_inputs(build)}
    within = dict.fromkeys(tolerances, 0)
    seeds = range(120)
    for seed in seeds:
        hidden = hidden_of(build, seed)
        assert set(hidden.truth) <= set(tolerances)
        before = build.model_dump(mode="json", exclude_unset=True)
        after = hidden.build.model_dump(mode="json", exclude_unset=True)
        before["conditions"].pop("air_density_kg_m3", None)
        after["conditions"].pop("air_density_kg_m3", None)
        for path, value in hidden.truth.items():
            *steps, last = path.split(".")
            place, other = before, after
            for step in steps:
                place = place[int(step) if isinstance(place, list) else step]
                other = other[int(step) if isinstance(other, list) else step]
            if last in place:
                was = place[last]
                assert other[last] == pytest.approx(value)
                off = abs(value / was - 1) if "efficiency" not in path else None
                if off is not None and off <= tolerances[path]:
                    within[path] += 1
    # Four in five lie within, as far as 120 draws tell.
    share = within["vehicle.mass_kg"] / len(seeds)
    assert 0.68 < share < 0.92


def test_readings_scatter_about_the_true_value_as_wide_as_their_tolerance():
    build = check_build(document_with({}))
    off = []
    for seed in range(60):
        day = day_of(run_of(), seed)
        observed = next(
            one for one in day.log["runs"][0]["observations"] if one["kind"] == "roll_out"
        )
        true = day.truth.get("wheel.rolling_circumference_mm", build.wheel.rolling_circumference_mm)
        off.append(observed["rolling_circumference_mm"] - true)
    # 3 mm four times in five are 2.3 mm of standard deviation.
    assert abs(statistics.mean(off)) < 1.2
    assert 1.6 < statistics.stdev(off) < 3.2


def test_a_logger_that_was_not_cleared_says_so_only_when_read():
    day = day_of(run_of(), 2, cleared=False)
    assert day.rows == []
    assert "recorded nothing" in day.log["runs"][0]["note"]
    kinds = {one["kind"] for one in day.log["runs"][0]["observations"]}
    assert "free" in kinds


def test_the_loggers_memory_is_small():
    long = {"kind": "speed", "points": [{"t_s": 0, "speed_kmh": 15}, {"t_s": 900, "speed_kmh": 15}]}
    run = check_run({"format": "young-torrent.run/1", "build": document_with({}), "course": long})
    rows = day_of(run, 1).rows
    assert len(rows) == 600
    assert rows[-1]["time_s"] == pytest.approx(900)


@pytest.mark.parametrize(("tool", "shows"), [("satellite", 0.1), ("tape", 1.0), ("hand", 5.0)])
def test_an_instrument_shows_steps(tool, shows):
    import numpy as np

    chance = np.random.default_rng(1)
    for value in (12.34, 250.0):
        reading = TOOLS[tool].reads(value, chance)
        assert reading / shows == pytest.approx(round(reading / shows))


class TestCommand:
    @pytest.fixture
    def file(self, tmp_path):
        place = tmp_path / "run.json"
        document = {"format": "young-torrent.run/1", "build": document_with({}), "course": ROUTE}
        place.write_text(json.dumps(document))
        return place

    def told(self, capsys, *arguments):
        status = main(["instruments", *map(str, arguments)])
        out, err = capsys.readouterr()
        return status, json.loads(out or err)

    def test_it_prints_a_log_and_reveals_only_when_asked(self, capsys, file, tmp_path):
        table = tmp_path / "log.csv"
        status, told = self.told(capsys, file, "--seed", 5, "--csv", table)
        assert status == 0
        assert "truth" not in told
        rows = list(csv.DictReader(table.open()))
        assert {"time_s", "speed_kmh", "battery_current_a"} <= set(rows[0])
        _, revealed = self.told(capsys, file, "--seed", 5, "--reveal")
        assert revealed.pop("truth")["vehicle.mass_kg"] != 195
        assert revealed == told

    @pytest.mark.parametrize("arguments", [[], ["--seed", "-1"], ["--seed", "x"]])
    def test_a_seed_is_needed(self, capsys, file, arguments):
        status, _ = self.told(capsys, file, *arguments)
        assert status == 2


def test_a_log_that_names_a_run_twice_is_refused():
    log = day_of(run_of(), 1).log
    log["runs"] = log["runs"] * 2
    with pytest.raises(Refusal) as refused:
        check_model(Log, log)
    assert refused.value.where == "runs.1.id"
