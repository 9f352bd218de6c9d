"""What logs teach: against a forward model of its own, by hidden vehicles, and by odd logs."""

import copy
import json
import math

import numpy as np
import pytest

from powertrain.arrays import scalar
from powertrain.calibrate.answer import calibrated
from powertrain.calibrate.coast import coasted_kmh
from powertrain.calibrate.implied import implied, timed_speed
from powertrain.cli import main
from powertrain.compile.build import compile_build
from powertrain.documents.log import check_log
from powertrain.documents.paths import changed, value_at
from powertrain.documents.reading import check_build
from powertrain.documents.run import check_run
from powertrain.doubt.draws import FOUR_IN_FIVE, Doubt
from powertrain.errors import Refusal
from powertrain.instruments.hidden import day_of
from powertrain.results import figures_of, results_of
from powertrain.runs.answer import rows_of
from powertrain.runs.ride import ride

LOG = "young-torrent.log/1"


def log_of(*runs):
    return check_log({"format": LOG, "runs": list(runs)})


def run_of(*observations, **more):
    return {"id": "day 1", "observations": list(observations), **more}


# --- a forward model of its own: one motor, one gear, no controller loss -------------------------

PLAIN = {
    "format": "young-torrent.build/1",
    "name": "Punt on wheels",
    "conditions": {"air_density_kg_m3": 1.2},
    "vehicle": {
        "kind": "ground",
        "mass_kg": 110,
        "rolling_resistance": 0.012,
        "drag_area_m2": 0.6,
        "rotating_mass_factor": 1.0,
    },
    "wheel": {"rolling_circumference_mm": 1500},
    "gearing": [{"kind": "fixed", "ratio": 6.0, "efficiency": 0.95}],
    "motor": {
        "kind": "permanent_magnet",
        "kv_rpm_per_v": 80,
        "resistance_ohm": 0.06,
        "no_load_current_a": 1.2,
        "max_rpm": 9000,
        "mass_kg": 2.0,
    },
    "controller": {"resistance_ohm": 0.0, "max_voltage_v": 60},
    "battery": {
        "chemistry": "li_ion",
        "series": 10,
        "parallel": 4,
        "cell_capacity_ah": 3.0,
        "cell_resistance_mohm": 25,
        "cell_voltage_v": 4.0,
    },
}


def by_hand(document):
    """Return free turns, and top speed with its amps and volts, by bisection of Ohm and Newton."""
    vehicle, motor, battery = document["vehicle"], document["motor"], document["battery"]
    kt = 60 / (2 * math.pi * motor["kv_rpm_per_v"])
    pack_v = 10 * battery["cell_voltage_v"]
    ohm = motor["resistance_ohm"] + 10 / 4 * battery["cell_resistance_mohm"] / 1000
    free_rad_s = (pack_v - motor["no_load_current_a"] * ohm) / kt
    radius = document["wheel"]["rolling_circumference_mm"] / 2000 / math.pi
    stage = document["gearing"][0]

    def left_n(speed):
        amps = (pack_v - kt * speed / radius * stage["ratio"]) / ohm
        torque = kt * (amps - motor["no_load_current_a"])
        push = torque * stage["ratio"] * stage["efficiency"] / radius
        density = document["conditions"]["air_density_kg_m3"]
        drag = 0.5 * density * vehicle["drag_area_m2"] * speed * speed
        return push - drag - vehicle["mass_kg"] * 9.80665 * vehicle["rolling_resistance"], amps

    low, high = 0.0, free_rad_s / stage["ratio"] * radius
    for _ in range(80):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if left_n(middle)[0] > 0 else (low, middle)
    amps = left_n(low)[1]
    return {
        "free_rpm": free_rad_s * 30 / math.pi,
        "kmh": 3.6 * low,
        "amps": amps,
        "volts": pack_v - amps * 10 / 4 * battery["cell_resistance_mohm"] / 1000,
    }


def test_the_forward_model_and_the_engine_agree():
    compiled = compile_build(check_build(PLAIN))
    told, engine = by_hand(PLAIN), results_of(compiled).moments
    assert told["kmh"] == pytest.approx(3.6 * float(engine.top_speed.state.speed_mps), rel=1e-6)
    amps = float(engine.top_speed.state.battery_current_a)
    assert told["amps"] == pytest.approx(amps, rel=1e-6)


def drawn_truth(chance, document):
    doubt = Doubt.of(check_build(document))
    truth = {}
    for item in doubt.inputs:
        value = value_at(document, item.path)
        if value is None:
            continue
        factor = math.exp(float(chance.normal()) * math.log1p(item.tolerance) / FOUR_IN_FIVE)
        truth[item.path] = 1 - (1 - value) * factor if item.of_loss else value * factor
    return changed(document, truth), truth


def test_bands_hold_the_truth_of_vehicles_that_the_engine_never_saw():
    """Sixty vehicles of the model above, read by noisy instruments on one to three days."""
    chance = np.random.default_rng(17)
    within, close = [], []
    for case in range(60):
        document, truth = drawn_truth(chance, PLAIN)
        hand, runs = by_hand(document), []

        def read(value, off, chance=chance):
            return value + float(chance.normal()) * off / FOUR_IN_FIVE

        for day in range(1 + case % 3):
            amps = {"battery_current_a": read(hand["amps"], 0.03 * hand["amps"])}
            runs.append(
                run_of(
                    {"kind": "free", "motor_rpm": read(hand["free_rpm"], 0.005 * hand["free_rpm"])},
                    {
                        "kind": "top_speed",
                        "speed_kmh": read(hand["kmh"], 0.4),
                        "battery_voltage_v": read(hand["volts"], 0.01 * hand["volts"]),
                        **amps,
                    },
                    {
                        "kind": "roll_out",
                        "rolling_circumference_mm": read(
                            document["wheel"]["rolling_circumference_mm"], 3.0
                        ),
                    },
                    id=f"day {day}",
                )
            )
        found = calibrated(check_build(PLAIN), log_of(*runs))
        for told in found.inputs:
            if told.path in truth:
                within.append(told.after[0] <= truth[told.path] <= told.after[2])
        if case % 3:
            middle = found.figures["top_speed_kmh"].after[1]
            close.append(abs(middle / hand["kmh"] - 1) < 0.03)
    assert 0.75 <= np.mean(within) <= 0.85
    assert np.mean(close) >= 0.9


# --- rolling out --------------------------------------------------------------------------------


def test_rolling_out_is_what_the_textbook_says():
    """``m v' = -(a + b v^2)``: the arctangent's law, with the motor's loss in ``a``."""
    build = check_build(PLAIN)
    drive = compile_build(build, {"vehicle.mass_kg": np.array([110.0])}).drive
    at_s = np.arange(0.0, 20.0, 2.0)
    found = coasted_kmh(drive, np.array([36.0]), at_s, 0.0)[0]
    kt, radius = 60 / (2 * math.pi * 80), 1.5 / (2 * math.pi)
    loss_n = kt * 1.2 * 6.0 / 0.95 / radius
    steady = 110 * 9.80665 * 0.012 + loss_n
    square = 0.5 * 1.2 * 0.6
    mass = float(np.ravel(drive.inertia_kg_m2)[0]) / radius**2
    begins = math.atan(10 * math.sqrt(square / steady))
    turn = math.sqrt(steady * square) / mass
    expected = 3.6 * np.sqrt(steady / square) * np.tan(np.maximum(begins - turn * at_s, 0.0))
    assert found == pytest.approx(expected, abs=0.02)


def test_what_rolls_downhill_and_gains_speed_is_no_rolling_out():
    drive = compile_build(check_build(PLAIN), {"vehicle.mass_kg": np.array([110.0])}).drive
    assert np.isnan(coasted_kmh(drive, np.array([10.0]), np.array([0.0, 5.0]), -8.0)).all()


# --- hidden vehicles ------------------------------------------------------------------------------

SHORT = {"kind": "stops", "times": 1, "to_kmh": 12, "hold_s": 20}


def day(document, seed):
    run = check_run({"format": "young-torrent.run/1", "build": document, "course": SHORT})
    return day_of(run, seed)


def test_a_hidden_trike_is_known_better_after_a_day(trike):
    found, before = [], []
    for seed in range(8):
        seen = day(trike, seed)
        told = calibrated(check_build(trike), check_log(seen.log))
        for item in told.inputs:
            if item.path in seen.truth:
                found.append(item.after[0] <= seen.truth[item.path] <= item.after[2])
        truth = compile_build(check_build(changed(trike, seen.truth)))
        top = float(figures_of(truth, results_of(truth))["top_speed_kmh"])
        now = told.figures["top_speed_kmh"]
        before.append((now.before[2] - now.before[0]) / (now.after[2] - now.after[0]))
        assert now.after[1] == pytest.approx(top, rel=0.03)
        assert told.measure_next is not None
        assert 0 < told.measure_next.gain < 1
    assert 0.7 < np.mean(found) < 0.9
    assert min(before) > 3


def test_the_fitted_build_has_the_bands_that_are_told(trike):
    told = calibrated(check_build(trike), check_log(day(trike, 3).log))
    build = check_build(told.build)
    moved = {item.path: item for item in told.inputs if item.moved}
    assert moved
    known = {item.path: item for item in Doubt.of(build).inputs}
    for path, item in moved.items():
        assert build.provenance[path].origin == "fitted"
        if known[path].of_loss:
            continue
        factor = 1 + known[path].tolerance
        assert item.after[1] * factor == pytest.approx(item.after[2], rel=1e-6)
        assert item.after[1] / factor == pytest.approx(item.after[0], rel=1e-6)
    for item in told.inputs:
        gone = 1 - (item.after[2] - item.after[0]) / (item.before[2] - item.before[0])
        assert sum(item.taught_by.values()) == pytest.approx(max(gone, 0.0), abs=1e-5)


def three_days(trike, seed=5):
    seen = day(trike, seed).log["runs"][0]
    others = [day(trike, seed).log["runs"][0]["observations"] for _ in range(2)]
    return [seen, *({**seen, "id": f"day {n}", "observations": o} for n, o in enumerate(others))]


def test_the_order_of_runs_does_not_matter(trike):
    runs = three_days(trike)
    forth = calibrated(check_build(trike), log_of(*runs))
    back = calibrated(check_build(trike), log_of(*runs[::-1]))
    for one, other in zip(forth.inputs, back.inputs, strict=True):
        assert one.after == pytest.approx(other.after, rel=1e-3)
        assert one.taught_by == pytest.approx(other.taught_by, abs=2e-3)


def test_a_run_counted_twice_is_refused(trike):
    runs = three_days(trike)
    with pytest.raises(Refusal) as told:
        log_of(runs[0], runs[0])
    assert told.value.where == "runs.1.id"


def test_good_readings_contradict_nothing(trike):
    good = calibrated(check_build(trike), log_of(*copy.deepcopy(three_days(trike))))
    assert good.contradictions == []


@pytest.mark.parametrize(
    ("kind", "field"),
    [("free", "motor_rpm"), ("top_speed", "speed_kmh"), ("roll_out", "rolling_circumference_mm")],
)
def test_a_bad_reading_is_named_and_left_out(trike, kind, field):
    runs = copy.deepcopy(three_days(trike))
    for seen in runs[1]["observations"]:
        if seen["kind"] == kind:
            seen[field] *= 1.1
    bad = calibrated(check_build(trike), log_of(*runs))
    assert runs[1]["id"] in bad.contradictions[0].runs
    assert "it is left out" in bad.contradictions[0].what
    assert len(bad.contradictions) == 1
    # The surprise is that of before the fit: it is there whoever is right.
    odd = [one for one in bad.fits if (one.run, one.field) == (runs[1]["id"], field)]
    assert max(one.surprise for one in odd) > 1.5


def test_what_top_speeds_can_t_tell_keeps_its_prior(trike):
    seen = run_of({"kind": "top_speed", "speed_kmh": 38.0})
    told = {item.path: item for item in calibrated(check_build(trike), log_of(seen)).inputs}
    for path in ("motor.no_load_current_a", "battery.cell_capacity_ah", "vehicle.mass_kg"):
        item = told[path]
        width = (item.after[2] - item.after[0]) / (item.before[2] - item.before[0])
        assert width == pytest.approx(1, abs=0.02)
    assert not told["battery.cell_capacity_ah"].moved
    assert told["motor.kv_rpm_per_v"].moved


def test_an_empty_log_teaches_nothing(trike):
    told = calibrated(check_build(trike), log_of())
    assert not any(item.moved for item in told.inputs)
    assert told.build == check_build(trike).model_dump(mode="json", exclude_unset=True)


def test_drag_and_rolling_are_told_apart_by_rolling_out(trike):
    truth = changed(trike, {"vehicle.drag_area_m2": 1.05, "vehicle.rolling_resistance": 0.0075})
    one = np.zeros(1)
    drive = compile_build(check_build(truth), {"vehicle.mass_kg": one + 195}).drive
    at_s = np.arange(0.0, 45.0, 1.0)
    speeds = coasted_kmh(drive, one + 33, at_s, 0.0)[0] + np.random.default_rng(4).normal(
        0, 0.2, len(at_s)
    )
    samples = [
        {"t_s": float(t), "speed_kmh": max(float(v), 0.0)}
        for t, v in zip(at_s, speeds, strict=True)
    ]
    seen = run_of({"kind": "coast_down", "samples": samples, "speed_kmh_tolerance": 0.3})
    told = {item.path: item for item in calibrated(check_build(trike), log_of(seen)).inputs}
    area, rolling = told["vehicle.drag_area_m2"], told["vehicle.rolling_resistance"]
    assert area.after[0] < 1.05 < area.after[2]
    assert rolling.after[0] < 0.0075 < rolling.after[2]
    assert area.after[2] - area.after[0] < 0.5 * (area.before[2] - area.before[0])


# --- gaps between runs ------------------------------------------------------------------------


def test_a_tooth_more_explains_its_part_of_the_gap(trike):
    build = check_build(trike)
    teeth = "gearing.0.driver_teeth"
    slow = 3.6 * float(results_of(compile_build(build)).moments.top_speed.state.speed_mps)
    other = check_build(changed(trike, {teeth: 18}))
    fast = 3.6 * float(results_of(compile_build(other)).moments.top_speed.state.speed_mps)
    log = log_of(
        run_of({"kind": "top_speed", "speed_kmh": slow}, id="before"),
        run_of({"kind": "top_speed", "speed_kmh": fast - 1.5}, id="after", changes={teeth: 18}),
    )
    [gap] = calibrated(build, log).explained
    assert (gap.from_run, gap.to_run, gap.field) == ("before", "after", "speed_kmh")
    assert gap.measured_change == pytest.approx(fast - slow - 1.5)
    assert gap.by_changes[teeth] == pytest.approx(fast - slow, rel=0.05)
    assert gap.left == pytest.approx(gap.measured_change - gap.by_changes[teeth])


def test_a_change_is_exact_and_taken_back_again(trike):
    log = log_of(
        run_of(
            {"kind": "top_speed", "speed_kmh": 35.0}, id="heavy", changes={"vehicle.mass_kg": 260}
        ),
        run_of({"kind": "top_speed", "speed_kmh": 37.0}, id="light"),
    )
    [gap] = calibrated(check_build(trike), log).explained
    assert set(gap.by_changes) == {"vehicle.mass_kg"}
    assert gap.by_changes["vehicle.mass_kg"] > 0


# --- rows of a logger ---------------------------------------------------------------------------


def test_rows_of_a_logger_teach_the_pack_s_resistance(trike):
    truth = changed(trike, {"battery.cell_resistance_mohm": 30.0})
    course = {"kind": "stops", "times": 4, "to_kmh": 24, "hold_s": 15, "rest_s": 5}
    run = check_run({"format": "young-torrent.run/1", "build": truth, "course": course})

    table = rows_of(run, ride(run))
    chance = np.random.default_rng(6)
    rows = [
        {
            "time_s": float(table["time_s"][at]),
            "battery_voltage_v": float(table["battery_voltage_v"][at] + 0.05 * chance.normal()),
            "battery_current_a": float(table["battery_current_a"][at] + 0.2 * chance.normal()),
        }
        for at in range(0, len(table["time_s"]), 10)
    ]
    seen = run_of({"kind": "telemetry", "course": course, "rows": rows})
    told = calibrated(check_build(trike), log_of(seen))
    cell = next(item for item in told.inputs if item.path == "battery.cell_resistance_mohm")
    assert cell.moved
    assert cell.after[1] > cell.before[1]
    assert {one.field for one in told.fits} == {"battery_voltage_v", "battery_current_a"}


# --- the command, and odd logs ----------------------------------------------------------------


def test_the_command_prints_one_object(tmp_path, capsys, trike):
    build, log = tmp_path / "build.json", tmp_path / "log.json"
    build.write_text(json.dumps(trike))
    log.write_text(json.dumps(day(trike, 2).log))
    assert main(["calibrate", str(build), str(log)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert {
        "inputs",
        "build",
        "figures",
        "fits",
        "contradictions",
        "measure_next",
        "explained",
    } <= set(told)
    fitted = tmp_path / "fitted.json"
    fitted.write_text(json.dumps(told["build"]))
    for command in ("top-speed", "checks", "levers"):
        assert main([command, str(fitted)]) == 0


@pytest.mark.parametrize(
    ("run", "where"),
    [
        ({"id": "a", "observations": []}, "runs.0.observations"),
        ({"id": "a", "observations": [{"kind": "free", "rpm": 3}]}, "runs.0.observations.0.rpm"),
        (
            {"id": "a", "observations": [{"kind": "free", "motor_rpm": -3}]},
            "runs.0.observations.0.motor_rpm",
        ),
        (
            run_of({"kind": "free", "motor_rpm": 3000}, changes={"motor.flux": 3}),
            "runs.0.changes.motor.flux",
        ),
        (
            run_of({"kind": "free", "motor_rpm": 3000}, changes={"gearing.7.driver_teeth": 3}),
            "runs.0.changes.gearing.7",
        ),
    ],
)
def test_odd_logs_are_refused_by_their_place(tmp_path, capsys, trike, run, where):
    build, log = tmp_path / "build.json", tmp_path / "log.json"
    build.write_text(json.dumps(trike))
    log.write_text(json.dumps({"format": LOG, "runs": [run]}))
    assert main(["calibrate", str(build), str(log)]) == 2
    assert json.loads(capsys.readouterr().err)["error"]["where"].startswith(where)


def test_a_reading_that_no_such_vehicle_could_give_is_told(trike):
    seen = run_of({"kind": "steady", "speed_kmh": 90.0, "battery_current_a": 20.0})
    told = calibrated(check_build(trike), log_of(seen))
    assert told.fits[0].measured == 20.0
    assert scalar(told.fits[0].surprise) > 2


def test_what_nobody_wrote_down_is_named_with_the_size_it_would_take(trike):
    """Against a wind that nobody noted; nothing else of the build was another."""

    def top(document):
        return 3.6 * float(
            results_of(compile_build(check_build(document))).moments.top_speed.state.speed_mps
        )

    windy = changed(trike, {"conditions.headwind_mps": 3.0})
    fast, slow = top(trike), top(windy)
    log = log_of(
        run_of({"kind": "top_speed", "speed_kmh": fast, "speed_kmh_tolerance": 0.1}, id="still"),
        run_of({"kind": "top_speed", "speed_kmh": slow, "speed_kmh_tolerance": 0.1}, id="windy"),
    )
    [gap] = calibrated(check_build(trike), log).explained
    assert not gap.within_doubt
    assert gap.left == pytest.approx(slow - fast)
    told = {one.path: one for one in gap.candidates}
    wind = told["conditions.headwind_mps"]
    assert wind.believable
    assert wind.needs == pytest.approx(3.0, abs=0.6)
    # A chain alone can hardly brake it so much: its share is told, and that it is not enough.
    for one in told.values():
        assert (one.needs is None) == (not one.believable)
        assert one.explains * gap.left > 0


def test_what_instruments_may_be_off_by_needs_no_explaining(trike):
    log = log_of(
        run_of({"kind": "top_speed", "speed_kmh": 36.0}, id="one"),
        run_of({"kind": "top_speed", "speed_kmh": 36.4}, id="two"),
    )
    [gap] = calibrated(check_build(trike), log).explained
    assert gap.within_doubt
    assert gap.candidates == []


def test_free_riding_teaches_by_the_speeds_it_held(trike):
    """Ten minutes at several speeds, ten looks a second with noise: drag and volts come true."""
    truth = changed(
        trike,
        {"vehicle.drag_area_m2": 1.0, "battery.cell_voltage_v": 4.06, "motor.kv_rpm_per_v": 58.5},
    )
    steps = [(12, 60), (18, 120), (24, 120), (30, 120), (33, 120)]
    points, at = [{"t_s": 0, "speed_kmh": 0}], 0.0
    for speed, lasts in steps:
        points += [
            {"t_s": at + 15, "speed_kmh": speed},
            {"t_s": at + 15 + lasts, "speed_kmh": speed},
        ]
        at += 15 + lasts
    course = {"kind": "speed", "points": points}
    run = check_run({"format": "young-torrent.run/1", "build": truth, "course": course})
    table = rows_of(run, ride(run))
    chance = np.random.default_rng(12)
    off = {
        "speed_kmh": 0.2,
        "battery_current_a": 0.3,
        "battery_voltage_v": 0.2,
        "motor_rpm": 15.0,
    }
    rows = [
        {"time_s": float(table["time_s"][row])}
        | {
            name: max(float(table[name][row] + noise * chance.normal()), 0.0)
            for name, noise in off.items()
        }
        for row in range(len(table["time_s"]))
    ]
    told = calibrated(check_build(trike), log_of(run_of({"kind": "telemetry", "rows": rows})))
    inputs = {one.path: one for one in told.inputs}
    for path, true in (("vehicle.drag_area_m2", 1.0), ("battery.cell_voltage_v", 4.06)):
        item = inputs[path]
        assert item.after[0] < true < item.after[2], path
        assert item.after[2] - item.after[0] < 0.7 * (item.before[2] - item.before[0])
    assert told.contradictions == []


def test_a_speed_alone_says_turns_and_the_load_factor():
    """By hand: 30 km/h on a tyre of 1.5 m through 6 to 1, on cells at 4.0 V and 80 KV."""
    seen = run_of({"kind": "top_speed", "speed_kmh": 30.0})
    [told] = implied(check_build(PLAIN), log_of(seen))
    assert told.wheel_rpm == pytest.approx(30 / 3.6 / 1.5 * 60)
    assert told.motor_rpm == pytest.approx(6 * told.wheel_rpm)
    # The trade's formula: KV times the volts that the pack's sag leaves, less the load factor.
    volts = 40 - told.battery_current_a * 10 / 4 * 0.025
    assert told.motor_rpm == pytest.approx(80 * volts * (1 - told.load_factor), rel=1e-6)
    push = 110 * 9.80665 * 0.012 + 0.5 * 1.2 * 0.6 * (30 / 3.6) ** 2
    torque = push * 1.5 / (2 * math.pi) / 6 / 0.95
    kt = 60 / (2 * math.pi * 80)
    assert told.motor_current_a == pytest.approx(torque / kt + 1.2, rel=1e-6)
    held = run_of({"kind": "steady", "speed_kmh": 20.0, "battery_current_a": 5.0})
    assert implied(check_build(PLAIN), log_of(held))[0].load_factor is None


@pytest.mark.parametrize("kv", [70.0, 80.0, 95.0])
def test_a_top_speed_alone_says_with_which_kv_it_would_be_reached(kv):
    """The speed is that of Ohm and Newton by hand, of a motor with another KV than the stated."""
    kmh = by_hand({**PLAIN, "motor": {**PLAIN["motor"], "kv_rpm_per_v": kv}})["kmh"]
    seen = run_of({"kind": "top_speed", "speed_kmh": kmh})
    assert implied(check_build(PLAIN), log_of(seen))[0].kv_rpm_per_v == pytest.approx(kv, rel=1e-3)


def test_a_speed_that_no_kv_gives_says_none():
    seen = run_of({"kind": "top_speed", "speed_kmh": 190.0})
    assert implied(check_build(PLAIN), log_of(seen))[0].kv_rpm_per_v is None


def test_a_lap_by_stopwatch_is_a_speed_with_the_watch_s_doubt():
    """400 m in 48 s are 30 km/h; 0.15 s of 48 are three in a thousand."""
    told = timed_speed(400, 48)
    assert told.speed_kmh == pytest.approx(30)
    assert told.speed_kmh_tolerance == pytest.approx(30 * 0.15 / 48)
