"""Rides of craft: against closed forms, the ledger, and what the craft does steadily."""

import json
from pathlib import Path

import numpy as np
import pytest

from powertrain.compile.build import compile_build
from powertrain.documents.reading import check_build
from powertrain.documents.run import check_run
from powertrain.errors import Refusal
from powertrain.operating.in_air import in_air
from powertrain.runs.answer import run_answer
from powertrain.runs.ride import ride
from powertrain.runs.step_length import step_of

DEMO = Path(__file__).parents[3] / "server/builds/demo"
G = 9.80665


def document(slug, **vehicle):
    said = json.loads((DEMO / f"{slug}.json").read_text(encoding="utf-8"))
    said["conditions"]["headwind_mps"] = 0
    return {**said, "provenance": {}, "vehicle": {**said["vehicle"], **vehicle}}


def run_of(build, course, **more):
    return check_run(
        {"format": "young-torrent.run/1", "build": build, "course": course, **more}, craft=True
    )


def points(*pairs):
    return [{"t_s": t, "speed_kmh": v} for t, v in pairs]


def closes(ledger):
    parts = ledger.model_dump()
    cells = parts.pop("cells")
    assert sum(parts.values()) == pytest.approx(cells, rel=1e-6, abs=1e-9)
    return parts


def test_a_cruise_in_time_is_the_cruise_of_the_bench():
    build = document("tern-wing")
    told = run_answer(
        run_of(build, {"kind": "speed", "points": points((0, 52), (10, 52))}), step_s=1.0
    )
    air = in_air(compile_build(check_build(build)).drive)
    state, holds = air.holding(np.asarray(52 / 3.6), np.asarray(0.0))
    assert bool(holds)
    # The pack sinks and parts warm by next to nothing in ten seconds.
    assert told.energy_wh * 360 == pytest.approx(float(state.terminals_w), rel=5e-3)
    closes(told.ledger_wh)


def test_flat_out_it_comes_to_its_top_speed_and_no_further():
    build = document("coot-airboat")
    run = run_of(build, {"kind": "standing", "until_s": 60.0})
    ridden = ride(run, step_s=0.5)
    told = run_answer(run, ridden=ridden)
    air = in_air(compile_build(check_build(build)).drive)
    top_mps, there = air.top(np.asarray(0.0))
    assert bool(there)
    # A full pack is above its nominal volts, warm copper below its cold torque.
    assert told.max_speed_kmh == pytest.approx(3.6 * float(top_mps), rel=0.06)
    parts = closes(told.ledger_wh)
    mps = float(ridden.rows["mps"][-1])
    assert parts["kinetic"] == pytest.approx(0.5 * 95 * mps**2 / 3600, rel=1e-6)
    assert parts["wake"] > 0
    assert parts["water"] > parts["air"] > 0


def test_a_climb_is_booked_as_height():
    build = document("tern-wing")
    course = {"kind": "speed", "grade_pct": 8, "points": points((0, 52), (20, 52))}
    told = run_answer(run_of(build, course), step_s=1.0)
    parts = closes(told.ledger_wh)
    height_m = told.distance_m * np.sin(np.arctan(0.08))
    assert parts["climb"] == pytest.approx(1.9 * G * height_m / 3600, rel=1e-6)


def test_let_off_a_hull_slows_down_as_drag_with_the_square_of_speed_does():
    # m v' = -1/2 rho A v^2, so that v = v0/(1 + rho A v0 t/(2 m)): closed form, no source needed.
    build = document("coot-airboat", drag=None, drag_area_m2=0.01, air_drag_area_m2=0.0)
    build["vehicle"].pop("drag")
    course = {
        "kind": "throttle",
        "until_s": 30.0,
        "points": [{"t_s": 0, "throttle_pct": 100}, {"t_s": 15, "throttle_pct": 0}],
    }
    found = ride(run_of(build, course), step_s=0.25)
    t, mps = found.rows["t_s"], found.rows["mps"]
    from_s = float(t[np.searchsorted(t, 15.0)])
    v0 = float(np.interp(from_s, t, mps))
    left = t > from_s + 1
    wanted = v0 / (1 + 1000 * 0.01 * v0 * (t[left] - from_s) / (2 * 95))
    # With the throttle at nought a motor that still turns holds on to its propeller a little.
    assert mps[left] == pytest.approx(wanted, rel=0.05)


def test_the_first_second_is_thrust_over_mass():
    build = document("coot-airboat")
    told = ride(run_of(build, {"kind": "standing", "until_s": 0.5}), step_s=0.05)
    air = in_air(compile_build(check_build(build)).drive)
    wanted = float(air.standing().force_n) / 95 * 0.5
    assert float(told.rows["mps"][-1]) == pytest.approx(wanted, rel=0.05)


def test_a_speed_below_what_drag_alone_leaves_is_the_brakes():
    build = document("coot-airboat")
    course = {"kind": "speed", "points": points((0, 20), (2, 5))}
    told = run_answer(run_of(build, course), step_s=0.1)
    parts = closes(told.ledger_wh)
    assert parts["brakes"] > 0
    assert parts["kinetic"] == pytest.approx(
        0.5 * 95 * ((5 / 3.6) ** 2 - (20 / 3.6) ** 2) / 3600, rel=1e-6
    )


def test_draws_give_bands_about_the_one():
    build = json.loads((DEMO / "tern-wing.json").read_text(encoding="utf-8"))
    course = {"kind": "speed", "points": points((0, 52), (20, 52))}
    told = run_answer(run_of(build, course), step_s=1.0, draws=32)
    low, middle, high = told.bands["energy_wh"]
    assert low < middle < high
    assert low < told.energy_wh < high


def test_pages_of_rides_stay_with_wheels():
    build = document("tern-wing")
    with pytest.raises(Refusal) as told:
        check_run(
            {
                "format": "young-torrent.run/1",
                "build": build,
                "course": {"kind": "standing", "until_s": 5},
            }
        )
    assert told.value.where == "build.vehicle.kind"


@pytest.mark.parametrize(("slug", "kmh"), [("tern-wing", 45), ("coot-airboat", 15)])
def test_the_steps_of_a_page_are_fine_enough(slug, kmh):
    way = {
        "kind": "route",
        "ride_kmh": kmh,
        "points": [
            {"distance_m": 0, "elevation_m": 0},
            {"distance_m": 150, "elevation_m": 0},
            {"distance_m": 250, "elevation_m": 10},
        ],
    }
    run = run_of(document(slug), way)
    fine, page = (run_answer(run, step_s=step) for step in (0.1, 0.8))
    assert page.time_s == pytest.approx(fine.time_s, rel=2e-3)
    assert page.energy_wh == pytest.approx(fine.energy_wh, rel=5e-3)
    assert page.peaks.winding_c == pytest.approx(fine.peaks.winding_c, abs=0.5)


def test_a_page_waits_for_as_many_steps_as_a_way_takes():
    def of(course, slug="tern-wing"):
        return step_of(run_of(document(slug), course))

    def way(metres):
        ends = [{"distance_m": 0}, {"distance_m": metres}]
        return {"kind": "route", "ride_kmh": 36, "points": ends}

    # At 10 m/s: 100 s, five minutes, two hours, in 200 steps of a tenth to five seconds.
    assert of(way(1000)) == pytest.approx(0.5)
    assert of(way(3000)) == pytest.approx(1.5)
    assert of(way(72_000)) == 5.0
    assert of(way(100)) == 0.1
    assert of(way(3000), "causeway-trike") == 0.1
    assert of({"kind": "standing", "until_s": 20}) == 0.25
