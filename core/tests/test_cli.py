"""The command line's contract: keys, statuses, refusals, and the same numbers as everywhere."""

import json
import subprocess
import sys
from itertools import pairwise
from pathlib import Path

import pytest

from core.tests.conftest import TRIKE, document_with
from powertrain.bench.solve import solve
from powertrain.cli import main
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build, check_model
from powertrain.documents.shelf import Shelf
from powertrain.shelf.shipped import shipped_shelf

STATE_KEYS = {
    "speed_mps",
    "motor_rpm",
    "motor_current_a",
    "battery_current_a",
    "battery_voltage_v",
    "motor_voltage_v",
    "duty",
    "shaft_torque_nm",
    "shaft_power_w",
    "road_power_w",
    "efficiency",
    "limited_by",
}


@pytest.fixture
def run(tmp_path, capsys):
    def run(command, *arguments, document=TRIKE, text=None):
        place = tmp_path / "build.json"
        place.write_text(json.dumps(document) if text is None else text)
        status = main([command, str(place), *arguments])
        printed = capsys.readouterr()
        if status == 0:
            assert printed.err == ""
            return json.loads(printed.out)
        assert status == 2
        assert printed.out == ""
        assert printed.err.count("\n") == 1
        return json.loads(printed.err)["error"]

    return run


@pytest.mark.parametrize(
    ("command", "arguments", "keys"),
    [
        ("top-speed", [], STATE_KEYS),
        ("top-speed", ["--grade", "8"], STATE_KEYS),
        ("top-speed", ["--grade", "-8"], STATE_KEYS),
        ("top-speed", ["--grade", "60"], STATE_KEYS),
        ("cruise", ["--speed", "18", "--grade", "2"], STATE_KEYS | {"energy_wh_per_km"}),
        (
            "full-throttle",
            ["--speed", "20"],
            {"force_n", "motor_current_a", "battery_current_a", "battery_voltage_v", "limited_by"},
        ),
        (
            "launch",
            ["--to", "20"],
            {"time_s", "distance_m", "peak_battery_current_a", "peak_motor_current_a"},
        ),
        (
            "free",
            [],
            {"motor_rpm", "speed_mps", "full_charge_motor_rpm", "full_charge_speed_mps"},
        ),
        ("derate", ["--current", "20", "--load-factor", "10"], {"motor_rpm", "speed_mps"}),
    ],
)
def test_each_command_gives_its_keys(run, command, arguments, keys):
    assert set(run(command, *arguments)) == keys


def test_limits_have_the_names_of_the_format(run):
    assert run("top-speed")["limited_by"] == "voltage"
    assert run("top-speed", "--grade", "8")["limited_by"] == "battery_current"
    assert run("top-speed", "--grade", "60")["limited_by"] == "cannot_move"
    assert run("top-speed", "--grade", "-8")["limited_by"] == "overrun"
    assert run("full-throttle", "--speed", "3")["limited_by"] == "motor_current"
    assert run("cruise", "--speed", "18")["limited_by"] is None


def test_free_speed_off_the_charger_by_hand(run):
    # KV (V - I0 R) with 13 x 4.20 V and 13 x 4.1 V, through 75 + 6 + 45 mohm.
    free = run("free")
    assert free["full_charge_motor_rpm"] == pytest.approx(60 * (54.6 - 1.4 * 0.126), rel=1e-12)
    assert free["motor_rpm"] == pytest.approx(60 * (53.3 - 1.4 * 0.126), rel=1e-12)


def test_a_speed_it_cannot_hold_says_the_speed_it_can(run):
    error = run("cruise", "--speed", "50")
    assert error["where"] == "speed"
    assert "36.79 km/h" in error["what"]
    assert "36.79 km/h" in run("launch", "--to", "40")["what"]


@pytest.mark.parametrize(
    ("command", "arguments", "where"),
    [
        ("top-speed", ["--grade", "nan"], "grade"),
        ("top-speed", ["--grade", "steep"], "grade"),
        ("cruise", ["--speed", "-3"], "speed"),
        ("cruise", ["--speed", "1e300"], "speed"),
        ("cruise", [], "arguments"),
        ("derate", ["--current", "5000", "--load-factor", "10"], "current"),
        ("fly", [], "arguments"),
    ],
)
def test_bad_arguments_are_named(run, command, arguments, where):
    assert run(command, *arguments)["where"] == where


def test_a_motor_that_races_unloaded_has_no_speed_to_take_a_factor_from(run):
    series = {
        "kind": "series_wound",
        "saturated_constant_nm_per_a": 0.2,
        "loss_torque_nm": 0.4,
        "half_saturation_current_a": 60,
        "resistance_ohm": 0.03,
    }
    answer = run(
        "derate", "--current", "20", "--load-factor", "10", document={**TRIKE, "motor": series}
    )
    assert answer["where"] == "motor.kind"
    assert "unloaded" in answer["what"]


@pytest.mark.parametrize(
    ("text", "where"),
    [
        (json.dumps(document_with({"battery.series": -1})), "battery.series"),
        (json.dumps(document_with({"gearing.0.driver_teeth": 0})), "gearing.0.driver_teeth"),
        (json.dumps(document_with({"vehicle.mass_kg": float("nan")})), ""),
        (json.dumps(document_with({"vehicle.mass_kg": 10**300})), "vehicle.mass_kg"),
        ("[" * 5000, ""),
        ("not json", ""),
    ],
)
def test_bad_documents_are_refused_with_their_place(run, text, where):
    assert run("top-speed", text=text)["where"] == where


def test_an_unreadable_file_is_an_error_too(capsys):
    assert main(["free", "/no/such/build.json"]) == 2
    assert json.loads(capsys.readouterr().err)["error"]["where"] == "build"


def test_a_far_off_value_is_answered_with_a_warning(run):
    answer = run("free", document=document_with({"vehicle.mass_kg": 195000}))
    assert answer["warnings"][0]["where"] == "vehicle.mass_kg"


def test_a_descent_without_air_is_refused(run):
    airless = document_with({"vehicle.drag_area_m2": 0})
    assert run("top-speed", "--grade", "-8", document=airless)["where"] == "vehicle.drag_area_m2"


def test_checks_are_sorted_and_complete(run):
    rated = document_with({"motor.max_rpm": 3000, "controller.max_voltage_v": 63})
    verdicts = run("checks", document=rated)["verdicts"]
    assert {"id", "severity", "value", "limit", "unit", "moment", "why", "fix"} <= set(verdicts[0])
    order = ["stop", "watch", "ok"]
    ranks = [order.index(verdict["severity"]) for verdict in verdicts]
    assert all(before <= after for before, after in pairwise(ranks))


def test_the_bench_shows_the_command_lines_numbers(run):
    answer = solve(check_build(TRIKE))
    moments = {moment.id: moment.state for moment in answer.moments}
    line = run("top-speed")
    for key in ("speed_mps", "motor_rpm", "battery_current_a", "duty", "efficiency"):
        assert getattr(moments["top_speed"], key) == pytest.approx(line[key], rel=1e-12)
    climb = run("top-speed", "--grade", "8")
    assert moments["climb"].speed_mps == pytest.approx(climb["speed_mps"], rel=1e-12)
    assert moments["wheels_up"].motor_rpm == pytest.approx(
        run("free")["full_charge_motor_rpm"], rel=1e-12
    )


def test_runs_as_a_module(tmp_path):
    place = tmp_path / "build.json"
    place.write_text(json.dumps(TRIKE))
    done = subprocess.run(
        [sys.executable, "-m", "powertrain", "free", str(place)], capture_output=True, text=True
    )
    assert done.returncode == 0
    assert json.loads(done.stdout)["motor_rpm"] > 3000


def test_a_command_that_draws_nothing_reads_no_library_that_does():
    # It takes longer to read than everything else together.
    script = "import sys, powertrain.cli; print([m for m in sys.modules if m == 'scipy.stats'])"
    told = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, check=True
    )
    assert told.stdout.strip() == "[]"


def test_thermal_has_every_node_at_every_moment(run):
    answer = run("thermal")
    assert set(answer["moments"]) == {"launch", "climb", "cruise", "top_speed", "wheels_up"}
    for moment in answer["moments"].values():
        for node in ("winding", "case", "controller", "pack"):
            assert moment[node]["after_c"] >= 20
    assert answer["estimated_from"] == {
        "motor": "constants",
        "controller": "amps",
        "pack": "energy",
    }
    assert answer["stall"]["motor_current_a"] == pytest.approx(80)
    assert set(answer["limits"]) == {"winding", "case", "controller", "pack"}


def test_levers_are_ranked_for_the_wish(run):
    answer = run("levers", "--wish", "range_km")
    gains = [row["effects"]["range_km"]["delta"] for row in answer["levers"]]
    assert gains[0] == max(gains)
    assert all(gain > 0 for gain in gains)
    assert answer["now"]["top_speed_kmh"] == pytest.approx(36.79, abs=0.005)


def test_identify_reads_facts(run):
    facts = {"format": "young-torrent.facts/1", "motor": {"spun_rpm": 600, "spun_line_v": 7.0711}}
    answer = run("identify", document=facts)
    assert answer["motor"]["values"]["kv_rpm_per_v"]["value"] == pytest.approx(60, rel=1e-4)
    assert answer["cell"] is None


BRIEF = json.loads((Path(__file__).parents[2] / "docs/examples/brief-trike.json").read_text())


def small_shelf():
    """Return the shipped shelf with a few parts of each kind, as a plain document."""
    shelf = json.loads((Path(__file__).parents[2] / "docs/examples/shelf.json").read_text())
    few = {
        "motors": ("otterlode-m90-80",),
        "controllers": ("withyvane-t100-60",),
        "packs": ("merewisp-c21-40p-12s4p", "merewisp-c21-50-10s4p"),
        "teeth": (
            "lockgate-c8-driver",
            "lockgate-c8-driven",
            "lockgate-c12-driver",
            "lockgate-c12-driven",
        ),
    }
    for kind, ids in few.items():
        shelf[kind] = [part for part in shelf[kind] if part["id"] in ids]
    return shelf


@pytest.fixture
def shelf_file(tmp_path):
    place = tmp_path / "shelf.json"
    place.write_text(json.dumps(small_shelf()))
    return str(place)


def test_match_ranks_builds_that_the_other_commands_find_to_meet_the_brief(run, shelf_file):
    answer = run("match", "--shelf", shelf_file, "--limit", "4", document=BRIEF)
    assert answer["considered"] == answer["feasible"] + sum(answer["rejected"].values())
    assert [result["rank"] for result in answer["results"]] == [1, 2, 3, 4]
    for result in answer["results"]:
        build = result["build"]
        top = run("top-speed", document=build)
        assert 24 <= 3.6 * top["speed_mps"] <= 32
        assert result["figures"]["top_speed_kmh"] == pytest.approx(3.6 * top["speed_mps"])
        hill = run("top-speed", "--grade", "6", document=build)
        assert 3.6 * hill["speed_mps"] >= 12
        # What the road asks at 24 km/h: m g Crr + 1/2 rho CdA v^2.
        mass = build["vehicle"]["mass_kg"]
        asked_n = mass * 9.80665 * 0.009 + 0.5 * 1.225 * 0.85 * (24 / 3.6) ** 2
        assert run("full-throttle", "--speed", "24", document=build)["force_n"] >= asked_n
        verdicts = run("checks", document=build)["verdicts"]
        assert not [verdict for verdict in verdicts if verdict["severity"] == "stop"]
        assert result["figures"]["price"] <= 900


def test_match_without_results_is_asked_by_a_limit_of_nought(run, shelf_file):
    answer = run("match", "--shelf", shelf_file, "--limit", "0", document=BRIEF)
    assert answer["results"] == []
    assert answer["feasible"] > 0


@pytest.mark.parametrize(
    ("changes", "where"),
    [
        ({"wishes.top_speed_kmh": {"min": 40, "max": 30}}, "wishes.top_speed_kmh"),
        ({"wishes.speed": 3}, "wishes.speed"),
        ({"vehicle.mass_kg": -3}, "vehicle.mass_kg"),
        ({"owned.motor": "no-such-motor"}, "owned.motor"),
        ({"weights": {"margin": 0, "cost": 0, "mass": 0, "range": 0, "simplicity": 0}}, "weights"),
    ],
)
def test_a_brief_that_makes_no_sense_is_refused_by_place(run, shelf_file, changes, where):
    error = run("match", "--shelf", shelf_file, document=changed(BRIEF, changes))
    assert error["where"].startswith(where)


def test_a_shelf_that_is_wrong_is_refused_by_place(run, tmp_path):
    shelf = small_shelf()
    shelf["motors"][0]["motor"]["kv_rpm_per_v"] = "fast"
    place = tmp_path / "wrong.json"
    place.write_text(json.dumps(shelf))
    error = run("match", "--shelf", str(place), document=BRIEF)
    assert error["where"] == "motors.0.motor.kv_rpm_per_v"


def test_ladder_lists_the_fastest_rungs_that_the_other_commands_agree_with(run):
    answer = run("ladder", "--limit", "3")
    assert len(answer["rungs"]) == 3
    assert answer["present"]["teeth"] == [[16, 60], [18, 44]]
    for rung in (answer["present"], answer["rungs"][0]):
        top = run("top-speed", document=document_with(rung["change"]))
        assert rung["figures"]["top_speed_kmh"] == pytest.approx(3.6 * top["speed_mps"], rel=1e-6)
        start = run("full-throttle", "--speed", "0", document=document_with(rung["change"]))
        assert rung["figures"]["launch_n"] == pytest.approx(start["force_n"])
    stops = {
        verdict["severity"]
        for verdict in run("checks", document=document_with(answer["rungs"][0]["change"]))[
            "verdicts"
        ]
    }
    assert "stop" not in stops
    assert run("ladder", document=document_with({"gearing": []}))["where"] == "gearing"


@pytest.mark.parametrize("kind", ["motors", "controllers", "packs", "wheels", "strands", "wires"])
def test_a_table_of_parts_goes_out_and_in_again_as_it_was(kind, tmp_path, capsys):
    assert main(["shelf", "--csv", kind]) == 0
    table = tmp_path / "table.csv"
    table.write_text(capsys.readouterr().out)
    assert main(["parts", kind, str(table)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["bad"] == []
    shipped = [
        part.model_dump(mode="json", exclude_unset=True) for part in getattr(shipped_shelf(), kind)
    ]
    assert told[kind] == shipped


def test_the_shelf_that_ships_is_a_shelf_that_can_be_searched(tmp_path, capsys):
    assert main(["shelf"]) == 0
    place = tmp_path / "shelf.json"
    place.write_text(capsys.readouterr().out)
    assert check_model(Shelf, json.loads(place.read_text())) == shipped_shelf()


def test_rows_that_are_no_parts_are_told_and_the_good_ones_are_there(tmp_path, capsys):
    table = tmp_path / "wires.csv"
    table.write_text(
        "id,name,area_mm2 [mm2],price_per_m\n"
        "thin,Thin,1.5,0.4\n"
        "none,None,-3,0.4\n"
        "thick,Thick,16,4.2\n",
        encoding="utf-8-sig",
    )
    status = main(["parts", "wires", str(table)])
    told = json.loads(capsys.readouterr().out)
    assert status == 0
    assert [part["id"] for part in told["wires"]] == ["thin", "thick"]
    assert [(bad["line"], bad["column"].split(" ")[0]) for bad in told["bad"]] == [(3, "area_mm2")]


@pytest.mark.parametrize(
    ("arguments", "where"),
    [
        (["parts", "boats", "-"], "arguments"),
        (["shelf", "--csv", "boats"], "arguments"),
        (["parts", "motors", "no-such-file.csv"], "table"),
        (["match", "no-such-file.json"], "brief"),
        (["match", "docs/examples/brief-trike.json", "--shelf", "no-such-file.json"], "shelf"),
        (["identify", "no-such-file.json"], "facts"),
    ],
)
def test_what_can_not_be_read_is_one_line_of_error(arguments, where, capsys):
    assert main(arguments) == 2
    printed = capsys.readouterr()
    assert printed.out == ""
    error = json.loads(printed.err)["error"]
    assert error["where"] == where
    assert error["what"]
