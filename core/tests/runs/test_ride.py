"""Rides against an integrator of equations written here, closed forms, and the bench's figures."""

import itertools
import json
import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from core.tests.conftest import document_with
from powertrain.arrays import scalar
from powertrain.compile.build import compile_build
from powertrain.documents.reading import check_build
from powertrain.documents.run import check_run
from powertrain.doubt.draws import Doubt, drawn_of
from powertrain.operating.launch import launch
from powertrain.runs.answer import figures_of, rows_of, run_answer
from powertrain.runs.cycles import cycle_points
from powertrain.runs.ride import ride
from powertrain.verdicts.context import RuleContext

K = 60 / (2 * math.pi * 60)
RATIO = 60 / 16 * 44 / 18
RADIUS = 1.830 / (2 * math.pi)
ETA = 0.955 * 0.975
GRAVITY = 9.80665
ALPHA = 0.00393

HEAT = {
    "motor.thermal": {
        "winding_j_per_k": 150.0,
        "case_j_per_k": 900.0,
        "winding_to_case_k_per_w": 0.8,
        "case_to_air_k_per_w": 1.1,
        "magnet_pct_per_k": 0.1,
    },
    "motor.cooling": {"air": "closed"},
    "controller.motor_current_limit_a": 60.0,
    "controller.battery_current_limit_a": None,
    "battery.open_circuit": [{"soc_pct": 0, "cell_v": 3.3}, {"soc_pct": 100, "cell_v": 4.1}],
    "vehicle.traction": {"friction": 5.0, "driven_share": 1.0},
}


def run_of(course, *, driver=None, start=None, **more):
    document = {"format": "young-torrent.run/1", "build": document_with(more), "course": course}
    if driver is not None:
        document["driver"] = driver
    if start is not None:
        document["start"] = start
    return check_run(json.loads(json.dumps(document)))


def ridden(course, *, step_s=0.1, **more):
    run = run_of(course, **more)
    return run, ride(run, step_s=step_s)


def one(run, found):
    return {name: float(values[0]) for name, values in figures_of(run, found).items()}


def leaves_w_per_k(build, mps):
    """Return what the closed can gives to the air, as the engine's own heat data has it."""
    motor = compile_build(build).thermal.motor
    return float(motor.air.conductance_w_per_k(motor.case_to_air_k_per_w, np.asarray(mps)))


class ByHand:
    """The trike as equations: motion, charge, winding and case, written independently."""

    def __init__(self, build, *, grade=0.0, ambient=20.0):
        self.grade, self.ambient = math.atan(grade / 100), ambient
        leaves = np.linspace(0, 15, 61)
        table = [leaves_w_per_k(build, mps) for mps in leaves]
        self.leaves = lambda mps: float(np.interp(mps, leaves, table))

    def parts(self, x):
        mps, charge, winding, case = x
        field = K * (1 - 0.001 * (case - 20))
        ohm = 0.045 * (1 + ALPHA * (winding - 20))
        rest_v = 13 * (3.3 + 0.8 * charge)
        return field, ohm, rest_v, mps / RADIUS * RATIO

    def road_n(self, mps):
        weight = 195 * GRAVITY
        rolls = 0.009 * weight * math.cos(self.grade)
        return rolls + weight * math.sin(self.grade) + 0.5 * 1.225 * 0.85 * mps**2

    def full(self, x):
        """Return motor and pack amps at full throttle, held to 60 A."""
        field, ohm, rest_v, turns = self.parts(x)
        pack_ohm = 13 / 4 * 0.020 + 0.010
        free = (rest_v - field * turns) / (ohm + 0.006 + pack_ohm)
        if free <= 60:
            return max(free, 0.0), max(free, 0.0)
        return 60.0, self.pack_amps(rest_v, pack_ohm, 60 * (field * turns + 60 * (ohm + 0.006)))

    @staticmethod
    def pack_amps(rest_v, pack_ohm, watts):
        return (rest_v - math.sqrt(rest_v**2 - 4 * pack_ohm * watts)) / (2 * pack_ohm)

    def changes(self, x, amps, pack_a, gains):
        mps, _, winding, case = x
        field, ohm, _, turns = self.parts(x)
        through = (winding - case) / 0.8
        loss_w = field * 1.4 * turns
        return [
            gains,
            -pack_a / (13.6 * 3600),
            (amps**2 * ohm - through) / 150,
            (through + loss_w - self.leaves(mps) * (case - self.ambient)) / 900,
        ]

    def pull(self, seconds):
        def slope(_, x):
            amps, pack_a = self.full(x)
            field = self.parts(x)[0]
            push = field * (amps - 1.4) * RATIO * ETA / RADIUS
            return self.changes(x, amps, pack_a, (push - self.road_n(x[0])) / 195)

        begins = [0.0, 1.0, self.ambient, self.ambient]
        told = solve_ivp(slope, (0, seconds), begins, rtol=1e-9, atol=1e-9, max_step=0.5)
        return told.y[:, -1]

    def follow(self, seconds, speed_of, gain_of):
        """Return the state after following a speed, and the watt-hours at the terminals."""
        pack_ohm = 13 / 4 * 0.020 + 0.010

        def slope(t, x):
            state = [speed_of(t), *x[1:4]]
            field, ohm, rest_v, turns = self.parts(state)
            force = self.road_n(state[0]) + 195 * gain_of(t)
            amps = force * RADIUS / RATIO / ETA / field + 1.4
            watts = amps * (field * turns + amps * (ohm + 0.006))
            pack_a = self.pack_amps(rest_v, pack_ohm, watts)
            flows = self.changes(state, amps, pack_a, gain_of(t))
            return [*flows, (rest_v - pack_a * pack_ohm) * pack_a / 3600]

        begins = [speed_of(0.0), 1.0, self.ambient, self.ambient, 0.0]
        told = solve_ivp(slope, (0, seconds), begins, rtol=1e-9, atol=1e-9, max_step=0.5)
        return told.y[:, -1]


@pytest.mark.parametrize("grade", [0.0, 4.0, 8.0])
@pytest.mark.parametrize("seconds", [10.0, 120.0, 600.0])
def test_full_throttle_with_warm_copper_and_weak_magnets(grade, seconds):
    # scipy.integrate.solve_ivp on equations written in this file.
    course = {"kind": "standing", "until_s": seconds, "grade_pct": grade}
    run, found = ridden(course, **HEAT)
    mps, charge, winding, case = ByHand(run.build, grade=grade).pull(seconds)
    assert one(run, found)["time_s"] == pytest.approx(seconds, rel=1e-12)
    ends = {name: float(values[0]) for name, values in found.ends.items()}
    assert ends["output_rad_s"] * RADIUS == pytest.approx(mps, rel=1e-3)
    assert 1 - ends["charge"] == pytest.approx(1 - charge, rel=1e-3)
    assert ends["winding_c"] == pytest.approx(winding, abs=0.2)
    assert ends["case_c"] == pytest.approx(case, abs=0.2)


@pytest.mark.parametrize("seconds", [60.0, 300.0])
def test_a_speed_that_swings_is_followed(seconds):
    # The speed is told every half second, so that it is the same for both.
    def speed(t):
        return 4.0 + 1.5 * math.sin(t / 20)

    times = np.arange(0, seconds + 0.25, 0.5)
    speeds = [speed(t) for t in times]
    points = [{"t_s": float(t), "speed_kmh": 3.6 * v} for t, v in zip(times, speeds, strict=True)]
    run, found = ridden({"kind": "speed", "points": points}, driver={"regenerate": True}, **HEAT)

    def along(t):
        return float(np.interp(t, times, speeds))

    def gains(t):
        at = min(int(t / 0.5), len(times) - 2)
        return (speeds[at + 1] - speeds[at]) / 0.5

    _, charge, winding, case, wh = ByHand(run.build).follow(seconds, along, gains)
    told = one(run, found)
    assert told["energy_wh"] == pytest.approx(wh, rel=1e-3)
    assert 100 - told["soc_end_pct"] == pytest.approx(100 * (1 - charge), rel=1e-3)
    ends = {name: float(values[0]) for name, values in found.ends.items()}
    assert ends["winding_c"] == pytest.approx(winding, abs=0.2)
    assert ends["case_c"] == pytest.approx(case, abs=0.2)


def test_half_the_step_changes_a_third_of_what_is_allowed_at_the_most():
    course = {"kind": "standing", "until_s": 120.0, "grade_pct": 4.0}
    first, second = (ridden(course, step_s=step, **HEAT) for step in (0.1, 0.05))
    coarse, fine = one(*first), one(*second)
    assert coarse["distance_m"] == pytest.approx(fine["distance_m"], rel=3.3e-4)
    assert coarse["energy_wh"] == pytest.approx(fine["energy_wh"], rel=3.3e-4)
    for node in ("winding_c", "case_c", "controller_c", "pack_c"):
        assert coarse[f"peaks.{node}"] == pytest.approx(fine[f"peaks.{node}"], abs=0.066)


ROAD = [
    {"distance_m": 0, "elevation_m": 3},
    {"distance_m": 400, "elevation_m": 15, "limit_kmh": 12},
    {"distance_m": 700, "elevation_m": 9, "stop_s": 7.25},
    {"distance_m": 1500, "elevation_m": 3},
]


@pytest.mark.parametrize(
    "course",
    [
        {"kind": "route", "ride_kmh": 24, "points": ROAD},
        {"kind": "route", "ride_kmh": 24, "points": ROAD, "there_and_back": True, "repeat": 2},
        {"kind": "stops", "times": 4, "to_kmh": 21, "hold_s": 3, "rest_s": 2, "grade_pct": 3},
        {"kind": "cycle", "name": "ece-15"},
        {"kind": "throttle", "points": [{"t_s": 0, "throttle_pct": 70}], "until_s": 45},
        {
            "kind": "speed",
            "grade_pct": -9,
            "points": [{"t_s": 0, "speed_kmh": 25}, {"t_s": 90, "speed_kmh": 10}],
        },
    ],
)
@pytest.mark.parametrize("regenerate", [True, False])
def test_every_watt_hour_is_booked(course, regenerate):
    run, found = ridden(course, driver={"regenerate": regenerate})
    told = run_answer(run, ridden=found)
    ledger = told.ledger_wh.model_dump()
    cells = ledger.pop("cells")
    assert sum(ledger.values()) == pytest.approx(cells, rel=1e-9, abs=1e-9)
    turned = found.ends["output_rad_s"][0] * RADIUS
    began = course["points"][0]["speed_kmh"] / 3.6 if course["kind"] == "speed" else 0.0
    moved = 195 / 2 * (turned**2 - began**2) / 3600
    assert ledger["kinetic"] == pytest.approx(moved, rel=1e-6, abs=1e-9)
    if not regenerate:
        assert told.regenerated_wh == 0


def test_a_road_is_climbed_to_its_height():
    run, found = ridden({"kind": "route", "ride_kmh": 20, "points": ROAD[:2]})
    told = run_answer(run, ridden=found)
    assert told.distance_m == pytest.approx(400, abs=1e-6)
    # 12 m of 195 kg, the road straight from 3 to 15 m.
    assert told.ledger_wh.climb == pytest.approx(195 * GRAVITY * 12 / 3600, rel=1e-6)
    assert told.finished


def test_a_driver_keeps_limits_and_stands_where_he_has_to():
    run, found = ridden({"kind": "route", "ride_kmh": 24, "points": ROAD})
    rows = rows_of(run, found)
    at, kmh = rows["distance_m"], rows["speed_kmh"]
    assert kmh.max() == pytest.approx(24, abs=0.01)
    assert kmh[(at > 401) & (at < 699)].max() <= 12 + 0.01
    stood = (kmh == 0) & (np.abs(at - 700) < 0.2)
    assert np.diff(rows["time_s"], prepend=0.0)[stood].sum() == pytest.approx(7.25, abs=0.11)
    # Slowing down to the limit begins (24^2 - 12^2)/(2 b) before it.
    before = 400 - ((24 / 3.6) ** 2 - (12 / 3.6) ** 2) / (2 * 1.5)
    first = at[np.flatnonzero((kmh < 23.9) & (at > 300))[0]]
    assert first == pytest.approx(before, abs=0.7)
    assert at[-1] == pytest.approx(1500, abs=1e-6)


def test_time_of_a_road_is_that_of_its_ramps():
    # From rest by 1 m/s2 to 18 km/h, on to 1,000 m, standing there: by the ramps alone.
    points = [{"distance_m": 0}, {"distance_m": 1000, "stop_s": 3}]
    _, found = ridden({"kind": "route", "ride_kmh": 18, "points": points})
    speed = 5.0
    ramps = speed**2 / 2 / 1.0 + speed**2 / 2 / 1.5
    wanted = speed / 1.0 + speed / 1.5 + (1000 - ramps) / speed + 3
    assert float(found.t_s[0]) == pytest.approx(wanted, abs=0.15)
    assert float(found.behind_s[0]) == 0


def test_steady_speed_is_the_benchs_cruise():
    build = check_build(
        document_with(
            {
                "battery.open_circuit": [
                    {"soc_pct": 0, "cell_v": 4.1},
                    {"soc_pct": 100, "cell_v": 4.1},
                ]
            }
        )
    )
    context = RuleContext.of(build)
    cruise = context.moments.cruise.state
    kmh = 3.6 * float(cruise.speed_mps)
    points = [{"t_s": 0, "speed_kmh": kmh}, {"t_s": 60, "speed_kmh": kmh}]
    more = {"battery.open_circuit": build.model_dump()["battery"]["open_circuit"]}
    run, found = ridden({"kind": "speed", "points": points}, **more)
    told = one(run, found)
    per_km = float(cruise.terminals_w) / float(cruise.speed_mps) / 3.6
    assert told["energy_wh_per_km"] == pytest.approx(per_km, rel=1e-3)
    minute = context.results.heat
    for node in ("winding", "case", "controller", "pack"):
        bench = float(getattr(minute, node).after_c[2])
        assert told[f"peaks.{node}_c"] == pytest.approx(bench, rel=1e-3, abs=0.02)


@pytest.mark.parametrize("to_kmh", [15.0, 25.0])
def test_a_standing_start_is_the_launch(to_kmh):
    run, found = ridden({"kind": "standing", "until_kmh": to_kmh})
    wanted = launch(compile_build(run.build).drive, scalar(to_kmh / 3.6))
    told = one(run, found)
    # A launch has its copper cold; in four seconds it warms by a few kelvin.
    assert told["time_s"] == pytest.approx(float(wanted.time_s), rel=1.2e-3)
    assert told["max_speed_kmh"] == pytest.approx(to_kmh, rel=1e-9)


def test_published_cycles_are_as_long_as_published():
    def metres(points):
        steps = itertools.pairwise(points)
        return sum((t - s) * (u + v) / 2 / 3.6 for (s, u), (t, v) in steps)

    assert metres(cycle_points("ece-15")) == pytest.approx(1014.6, abs=0.05)
    class_1 = cycle_points("wltc-1")
    assert class_1[-1][0] == 1022
    speeds = [kmh for _, kmh in class_1]
    # UN GTR 15, annex 1: check sums of low and medium; 3,330 and 4,767 m.
    assert sum(speeds[:590]) == pytest.approx(11988.4, abs=0.05)
    assert sum(speeds[590:]) == pytest.approx(17162.8, abs=0.05)
    assert metres(class_1[:590]) == pytest.approx(3330, abs=0.5)
    assert metres(class_1[589:]) == pytest.approx(4767, abs=0.5)


def test_what_the_drive_can_not_do_is_behind():
    points = [{"t_s": 0, "speed_kmh": 0}, {"t_s": 1, "speed_kmh": 60}, {"t_s": 60, "speed_kmh": 60}]
    run, found = ridden({"kind": "speed", "points": points})
    told = run_answer(run, ridden=found)
    assert told.behind_s > 55
    assert told.finished
    assert told.max_speed_kmh < 40


def test_a_hand_gets_volts_through_the_curve():
    points = [{"t_s": 0, "throttle_pct": 100}, {"t_s": 20, "throttle_pct": 0}]
    run, found = ridden({"kind": "throttle", "points": points, "until_s": 30})
    rows = rows_of(run, found)
    fast = np.flatnonzero(rows["time_s"] <= 20)[-1]
    # It runs out of breath a little as its copper warms.
    assert rows["speed_kmh"][fast] == pytest.approx(rows["speed_kmh"].max(), rel=1e-3)
    assert rows["motor_current_a"][-1] == 0
    bent = {"controller.curve": {"half_throttle_pct": 12.5}}
    half = {"kind": "throttle", "points": [{"t_s": 0, "throttle_pct": 50}], "until_s": 200}
    eighth = {"kind": "throttle", "points": [{"t_s": 0, "throttle_pct": 12.5}], "until_s": 200}
    _, curved = ridden(half, **bent)
    _, straight = ridden(eighth)
    assert float(curved.at_m[0]) == pytest.approx(float(straight.at_m[0]), rel=1e-9)


def test_plain_steps_are_the_compiled_ones():
    run = run_of({"kind": "route", "ride_kmh": 24, "points": ROAD[:3]})
    compiled, plain = ride(run), ride(run, plain=True)
    for name in plain.totals:
        assert float(compiled.totals[name][0]) == pytest.approx(
            float(plain.totals[name][0]), rel=1e-9, abs=1e-6
        )


def test_one_is_ridden_on_a_road_as_one_of_many():
    run = run_of({"kind": "route", "ride_kmh": 24, "points": ROAD, "there_and_back": True})
    one_alone = ride(run)
    doubt = Doubt.of(run.build)
    still = drawn_of(run.build, doubt, np.zeros((3, len(doubt.inputs))))
    many = ride(run, drawn=still)
    for name, values in figures_of(run, many).items():
        alone = float(figures_of(run, one_alone)[name][0])
        assert values == pytest.approx([alone] * 3, rel=1e-9, abs=1e-9), name
