"""Craft against Ohm, momentum and the polar by hand, and against the textbook's closed forms."""

import copy
import itertools
import json
import math

import numpy as np
import pytest

from powertrain.cli import main
from powertrain.compile.build import compile_build, compile_drive
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.load.craft import Wing
from powertrain.operating.in_air import in_air
from powertrain.results import figures_of, results_of
from powertrain.stated import Stated
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

TABLE = [
    {"advance_ratio": 0.0, "ct": 0.10, "cp": 0.044},
    {"advance_ratio": 0.2, "ct": 0.085, "cp": 0.043},
    {"advance_ratio": 0.4, "ct": 0.055, "cp": 0.036},
    {"advance_ratio": 0.6, "ct": 0.012, "cp": 0.016},
    {"advance_ratio": 0.7, "ct": -0.012, "cp": 0.004},
]

WING = {
    "format": "young-torrent.build/1",
    "name": "Survey wing",
    "conditions": {"air_density_kg_m3": 1.2},
    "vehicle": {
        "kind": "aircraft",
        "mass_kg": 1.25,
        "wing_area_m2": 0.25,
        "span_m": 1.3,
        "zero_lift_drag": 0.035,
        "oswald": 0.8,
        "lift_max": 1.2,
    },
    "propeller": {"diameter_mm": 203.2, "pitch_mm": 101.6, "table": TABLE},
    "gearing": [],
    "motor": {
        "kind": "permanent_magnet",
        "kv_rpm_per_v": 1400,
        "resistance_ohm": 0.06,
        "no_load_current_a": 1.2,
        "max_rpm": 25000,
        "mass_kg": 0.09,
    },
    "controller": {"resistance_ohm": 0.005, "max_voltage_v": 20},
    "battery": {
        "chemistry": "lipo",
        "series": 3,
        "parallel": 1,
        "cell_capacity_ah": 2.2,
        "cell_resistance_mohm": 6,
        "cell_voltage_v": 3.9,
    },
    "moments": {"cruise_kmh": 50},
}

HULL = {
    **{key: value for key, value in WING.items() if key != "moments"},
    "name": "Marsh boat",
    "vehicle": {
        "kind": "hull",
        "mass_kg": 3.0,
        "drag": [
            {"speed_kmh": 5, "force_n": 3.0},
            {"speed_kmh": 10, "force_n": 5.0},
            {"speed_kmh": 25, "force_n": 5.5},
            {"speed_kmh": 40, "force_n": 12.0},
        ],
    },
}

CART = {
    **{key: value for key, value in WING.items() if key != "moments"},
    "name": "Fan cart",
    "vehicle": {
        "kind": "ground",
        "mass_kg": 4.0,
        "rolling_resistance": 0.02,
        "drag_area_m2": 0.05,
    },
}


class ByHand:
    """The same craft by bisection: coefficients from the table, one motor, one pack, no limits."""

    def __init__(self, document):
        self.said = document
        motor, battery = document["motor"], document["battery"]
        self.kt = 60 / (2 * math.pi * motor["kv_rpm_per_v"])
        self.volts = battery["series"] * battery["cell_voltage_v"]
        self.ohm = (
            motor["resistance_ohm"]
            + document["controller"]["resistance_ohm"]
            + battery["series"] * battery["cell_resistance_mohm"] / 1000
        )
        self.idle = motor["no_load_current_a"]
        self.size = document["propeller"]["diameter_mm"] / 1000

    def coefficients(self, advance):
        rows = self.said["propeller"]["table"]
        for low, high in itertools.pairwise(rows):
            if advance <= high["advance_ratio"] or high is rows[-1]:
                span = high["advance_ratio"] - low["advance_ratio"]
                part = (advance - low["advance_ratio"]) / span
                return [low[key] + part * (high[key] - low[key]) for key in ("ct", "cp")]
        raise AssertionError

    def amps(self, turns):
        return (self.volts - self.kt * 2 * math.pi * turns) / self.ohm

    def left_nm(self, turns, air):
        _, cp = self.coefficients(air / (turns * self.size))
        takes = cp * 1.2 * turns**2 * self.size**5 / (2 * math.pi)
        return self.kt * (self.amps(turns) - self.idle) - takes

    def turns(self, air):
        low, high = 1.0, self.volts / self.kt / 2 / math.pi
        for _ in range(90):
            middle = (low + high) / 2
            low, high = (middle, high) if self.left_nm(middle, air) > 0 else (low, middle)
        return low

    def thrust(self, air):
        turns = self.turns(air)
        ct, _ = self.coefficients(air / (turns * self.size))
        return ct * 1.2 * turns**2 * self.size**4

    def drag(self, air, angle=0.0):
        said = self.said["vehicle"]
        weight, pressure = said["mass_kg"] * 9.80665, 0.5 * 1.2 * air * air * said["wing_area_m2"]
        lift = weight * math.cos(angle) / pressure
        aspect = said["span_m"] ** 2 / said["wing_area_m2"]
        polar = said["zero_lift_drag"] + lift**2 / (math.pi * said["oswald"] * aspect)
        return pressure * polar + weight * math.sin(angle)

    def top(self, angle=0.0):
        low, high = 12.0, 40.0
        for _ in range(60):
            middle = (low + high) / 2
            pushes = self.thrust(middle) > self.drag(middle, angle)
            low, high = (middle, high) if pushes else (low, middle)
        return low


@pytest.fixture
def ask(tmp_path, capsys):
    def asked(document, command, *options):
        place = tmp_path / "build.json"
        place.write_text(json.dumps(document))
        status = main([command, str(place), *options])
        told = capsys.readouterr()
        return status, json.loads(told.out if status == 0 else told.err)

    return asked


def air_of(document):
    return in_air(compile_drive(check_build(document)))


def test_standing_is_where_ohm_meets_the_blades(ask):
    hand = ByHand(WING)
    status, told = ask(WING, "static")
    assert status == 0
    turns = hand.turns(0.0)
    assert told["propeller_rpm"] == pytest.approx(60 * turns, rel=1e-9)
    assert told["thrust_n"] == pytest.approx(hand.thrust(0.0), rel=1e-9)
    assert told["battery_current_a"] == pytest.approx(hand.amps(turns), rel=1e-9)
    assert told["pitch_speed_mps"] == pytest.approx(0.1016 * turns)
    assert told["thrust_to_weight"] == pytest.approx(hand.thrust(0.0) / 1.25 / 9.80665)
    assert told["tip_speed_mps"] == pytest.approx(math.pi * 0.2032 * turns)
    area = math.pi / 4 * 0.2032**2
    ideal = told["thrust_n"] ** 1.5 / math.sqrt(2 * 1.2 * area)
    assert told["figure_of_merit"] == pytest.approx(ideal / told["shaft_power_w"])


@pytest.mark.parametrize("degrees", [-8.0, 0.0, 6.0, 12.0])
def test_top_speed_is_where_thrust_meets_drag_and_weight(ask, degrees):
    hand = ByHand(WING)
    status, told = ask(WING, "top-speed", "--climb-angle", str(degrees))
    assert status == 0, told
    speed = hand.top(math.radians(degrees))
    assert told["speed_mps"] == pytest.approx(speed, rel=1e-7)
    assert told["force_n"] == pytest.approx(hand.drag(speed, math.radians(degrees)), rel=1e-6)
    assert told["thrust_power_w"] == pytest.approx(told["force_n"] * speed)
    draws = told["battery_current_a"] * told["battery_voltage_v"]
    assert told["efficiency"] == pytest.approx(told["thrust_power_w"] / draws)


def test_cruise_takes_what_drag_asks_and_says_its_lift(ask):
    hand = ByHand(WING)
    status, told = ask(WING, "cruise", "--speed", "50")
    assert status == 0
    speed = 50 / 3.6
    assert told["force_n"] == pytest.approx(hand.drag(speed), rel=1e-7)
    lift = 1.25 * 9.80665 / (0.5 * 1.2 * speed**2 * 0.25)
    assert told["lift_coefficient"] == pytest.approx(lift)
    turns = told["motor_rpm"] / 60
    ct, cp = hand.coefficients(speed / turns / 0.2032)
    assert ct * 1.2 * turns**2 * 0.2032**4 == pytest.approx(hand.drag(speed), rel=1e-7)
    amps = hand.idle + cp * 1.2 * turns**2 * 0.2032**5 / 2 / math.pi / hand.kt
    assert told["motor_current_a"] == pytest.approx(amps, rel=1e-7)
    watts = told["battery_current_a"] * told["battery_voltage_v"]
    assert told["energy_wh_per_km"] == pytest.approx(watts / 50)
    assert told["limited_by"] is None


@pytest.mark.parametrize(
    ("command", "options", "where"),
    [
        ("cruise", ("--speed", "20"), "speed"),
        ("cruise", ("--speed", "150"), "speed"),
        ("cruise", ("--speed", "0"), "speed"),
        ("cruise", ("--speed", "50", "--grade", "2"), "grade"),
        ("top-speed", ("--climb-angle", "70"), "climb-angle"),
        ("top-speed", ("--climb-angle", "55"), "propeller"),
        ("launch", ("--to", "20"), "propeller"),
    ],
)
def test_what_a_wing_can_t_do_is_refused_by_its_place(ask, command, options, where):
    status, told = ask(WING, command, *options)
    assert (status, told["error"]["where"]) == (2, where)


def test_a_glide_polar_has_the_textbook_s_closed_forms():
    """Anderson, Aircraft Performance and Design, 5.4: (L/D)max = sqrt(pi e A/C_D0)/2 at the speed
    where both drags are alike; least power at 3^-1/4 of it."""
    wing = Wing.of(Stated(check_build(WING)))
    aspect = 1.3**2 / 0.25
    best = 0.5 * math.sqrt(math.pi * 0.8 * aspect / 0.035)
    weight = 1.25 * 9.80665
    at = math.sqrt(2 * weight / 1.2 / 0.25) * (1 / (math.pi * 0.8 * aspect) / 0.035) ** 0.25
    speeds = np.linspace(0.5 * at, 2 * at, 30001)
    drag = wing.held_n(speeds, speeds, np.float64(0.0))
    assert drag.min() == pytest.approx(weight / best, rel=1e-6)
    assert speeds[np.argmin(drag)] == pytest.approx(at, rel=1e-3)
    assert speeds[np.argmin(drag * speeds)] == pytest.approx(at * 3**-0.25, rel=1e-3)
    stall = math.sqrt(2 * weight / (1.2 * 0.25 * 1.2))
    assert float(wing.least_mps(np.float64(0.0))) == pytest.approx(stall)


def test_climb_is_the_power_that_is_left_over():
    hand = ByHand(WING)
    compiled = compile_build(check_build(WING))
    figures = figures_of(compiled, results_of(compiled))
    best = 0.0
    for speed in np.linspace(7, 25, 300):
        angle = 0.0
        for _ in range(30):
            left = hand.thrust(speed) - hand.drag(speed, angle) + 1.25 * 9.80665 * math.sin(angle)
            angle = math.asin(min(left / 1.25 / 9.80665, 1))
        best = max(best, speed * math.sin(angle))
    assert float(figures["climb_ms"]) == pytest.approx(best, rel=1e-3)
    state = results_of(compiled).moments.climb.state
    assert float(state.force_n * state.situation) == pytest.approx(float(state.taken_w[0]))


@pytest.mark.parametrize("document", [WING, HULL, CART])
def test_watts_close_from_cells_to_thrust_wake_and_blades(document):
    for moment in results_of(compile_build(check_build(document))).moments.all():
        state = moment.state
        if moment.id == "wheels_up":
            continue
        assert float(sum(state.taken_w)) == pytest.approx(float(state.shaft_w), rel=1e-9)
        assert float(state.speeding_up_w) == pytest.approx(0, abs=1e-6)
        assert min(float(part) for part in state.taken_w) >= -1e-9
        lost = state.pack_heat_w + state.controller_heat_w + state.copper_heat_w
        lost = lost + state.brush_heat_w + state.no_load_loss_w
        assert float(state.cells_w) == pytest.approx(float(lost + state.shaft_w), rel=1e-9)


def test_wind_moves_the_ground_and_not_the_air():
    still, windy = air_of(WING), air_of(changed(WING, {"conditions.headwind_mps": 5.0}))
    top, breeze = still.top(np.float64(0.0))[0], windy.top(np.float64(0.0))[0]
    assert float(top) == pytest.approx(float(breeze), rel=1e-9)
    assert float(windy.at_full_throttle(breeze).speed_mps) == pytest.approx(float(breeze) - 5)


def test_a_wing_climbs_in_wind_as_it_does_without():
    rates = []
    for wind in (0.0, 12.0):
        compiled = compile_build(check_build(changed(WING, {"conditions.headwind_mps": wind})))
        rates.append(float(figures_of(compiled, results_of(compiled))["climb_ms"]))
    assert rates[1] == pytest.approx(rates[0], rel=1e-4)


def test_a_hull_s_drag_is_straight_between_its_points(ask):
    status, told = ask(HULL, "top-speed")
    assert status == 0
    kmh = 3.6 * told["speed_mps"]
    assert 25 < kmh < 60
    expected = 5.5 + (kmh - 25) * (12.0 - 5.5) / 15
    assert told["force_n"] == pytest.approx(expected, rel=1e-6)
    water = {"kind": "hull", "mass_kg": 3.0, "drag_area_m2": 0.0004}
    _, wet = ask({**HULL, "vehicle": water}, "top-speed")
    assert wet["force_n"] == pytest.approx(0.5 * 1000 * 0.0004 * wet["speed_mps"] ** 2, rel=1e-6)


def test_a_cart_is_pushed_up_a_grade(ask):
    _, level = ask(CART, "top-speed")
    _, steep = ask(CART, "top-speed", "--grade", "5")
    assert steep["speed_mps"] < level["speed_mps"]
    slope = math.atan(0.05)
    road = 4 * 9.80665 * (0.02 * math.cos(slope) + math.sin(slope))
    air = 0.5 * 1.2 * 0.05 * steep["speed_mps"] ** 2
    assert steep["force_n"] == pytest.approx(road + air, rel=1e-6)


def test_many_are_what_each_is_alone():
    build = check_build(WING)
    sizes = np.array([190.0, 203.2, 229.0])
    plain = copy.deepcopy(WING)
    plain["propeller"].pop("table")
    many = compile_build(
        check_build(plain),
        {"propeller.diameter_mm": sizes, "propeller.pitch_mm": np.array([90.0, 101.6, 120.0])},
    )
    figures = figures_of(many, results_of(many, fine=False, timed=False))
    for place, (size, pitch) in enumerate(zip(sizes, (90.0, 101.6, 120.0), strict=True)):
        change = {"propeller.diameter_mm": float(size), "propeller.pitch_mm": pitch}
        one = compile_build(check_build(changed(plain, change)))
        alone = figures_of(one, results_of(one))
        for key in ("top_speed_kmh", "thrust_to_weight", "pitch_speed_kmh", "pack_peak_a"):
            assert figures[key][place] == pytest.approx(float(alone[key]), rel=1e-7), key
        assert figures["climb_ms"][place] == pytest.approx(float(alone["climb_ms"]), rel=5e-3)
    assert build.propeller is not None


# --- the trade's rules on one propeller ---------------------------------------------------------


def amps_and_speed(**change):
    plain = copy.deepcopy(WING)
    plain["propeller"].pop("table")
    compiled = compile_build(check_build(changed(plain, change)))
    figures = figures_of(compiled, results_of(compiled))
    return float(figures["pack_peak_a"]), float(figures["top_speed_kmh"])


def test_a_third_more_pitch_adds_speed_and_some_amps_a_cell_much_of_both():
    """The trade's rule: torque goes with the square of the turns, pitch acts nearly in
    proportion; a cell more overloads a controller that a third more pitch does not."""
    amps, kmh = amps_and_speed()
    pitched, pitched_kmh = amps_and_speed(**{"propeller.pitch_mm": 101.6 * 4 / 3})
    celled, celled_kmh = amps_and_speed(**{"battery.series": 4})
    assert amps < pitched < celled
    assert kmh < pitched_kmh < celled_kmh
    # A third more volts: n^2 alone would be 1.78, sag takes some of it.
    assert 1.4 < celled / amps < 1.78
    assert 1.1 < pitched / amps < 1.34
    between = 0.5 * (pitched + celled)
    for series, pitch, word in ((3, 101.6 * 4 / 3, ""), (4, 101.6, "stop")):
        document = copy.deepcopy(WING)
        document["propeller"] = {"diameter_mm": 203.2, "pitch_mm": pitch}
        document["battery"]["series"] = series
        document["controller"] |= {"peak_current_a": between, "rating_side": "battery"}
        verdicts, _ = judge_all(RuleContext.of(check_build(document), cures=False))
        severities = {one.severity for one in verdicts if one.part == "controller"}
        assert ("stop" in severities) == (word == "stop")


def test_propeller_and_tips_are_judged():
    fast = changed(WING, {"propeller.max_rpm": 9000.0})
    verdicts, _ = judge_all(RuleContext.of(check_build(fast), cures=False))
    found = {one.id: one for one in verdicts}
    assert found["propeller_rpm"].severity == "stop"
    assert found["tip_speed"].severity == "ok"
    _, unknown = judge_all(RuleContext.of(check_build(WING), cures=False))
    assert "propeller.max_rpm" in {one.path for one in unknown}


# --- documents ----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("base", "change", "where"),
    [
        (WING, {"propeller": None}, "propeller"),
        (WING, {"wheel": {"rolling_circumference_mm": 300}}, "wheel"),
        (WING, {"moments": {"climb_grade_pct": 8}}, "moments.climb_grade_pct"),
        (CART, {"moments": {"climb_ms": 2}}, "moments.climb_ms"),
        (CART, {"propeller": None}, "wheel"),
        (HULL, {"vehicle": {"kind": "hull", "mass_kg": 3.0}}, "vehicle.drag"),
        (
            HULL,
            {"vehicle": {"kind": "hull", "mass_kg": 3.0, "drag": [HULL["vehicle"]["drag"][1]] * 2}},
            "vehicle.drag.1.speed_kmh",
        ),
        (WING, {"propeller": {"diameter_mm": 200, "pitch_mm": 2000}}, "propeller.pitch_mm"),
    ],
)
def test_odd_craft_are_refused_by_their_place(base, change, where):
    with pytest.raises(Refusal) as caught:
        check_build({**base, **change})
    assert caught.value.where == where


def test_commands_of_wheels_refuse_a_climb_angle_and_static(ask, trike):
    status, told = ask(trike, "static")
    assert (status, told["error"]["where"]) == (2, "propeller")
    status, told = ask(trike, "top-speed", "--climb-angle", "3")
    assert (status, told["error"]["where"]) == (2, "climb-angle")


def test_a_coarse_pitch_stalls_standing_and_a_fine_one_does_not():
    for pitch, word in ((101.6, "ok"), (254.0, "watch")):
        document = copy.deepcopy(WING)
        document["propeller"] = {"diameter_mm": 203.2, "pitch_mm": pitch}
        verdicts, _ = judge_all(RuleContext.of(check_build(document), cures=False))
        found = next(one for one in verdicts if one.id == "pitch_stall")
        assert found.severity == word
    # By the blade itself: what the verdict says of standing is its coefficient over the greatest.
    air = air_of(document)
    turns = float(air.standing().output_rad_s) / 2 / math.pi
    speeds = np.linspace(0, turns * 0.254, 200)
    pulls = air.load.blades.turning(np.full(200, turns), speeds).ct
    assert found.value == pytest.approx(pulls[0] / pulls.max(), abs=0.005)
