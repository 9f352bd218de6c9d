"""A hoist against the arithmetic of a drum, written out here: no figure comes from the engine."""

import math

import pytest

from powertrain.bench.solve import solve
from powertrain.catalogue.fits import fits_build
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.shelf.shipped import shipped_shelf

G = 9.80665
PACK_V, PACK_OHM = 13 * 3.9, 13 / 4 * 0.025 + 0.010
K, MOTOR_OHM, I0, PATH_OHM = 60 / (2 * math.pi * 60), 0.045, 1.4, 0.006
RATIO, EFFICIENCY = 25.0, 0.9

DOCUMENT = {
    "format": "young-torrent.build/1",
    "name": "Reed hoist",
    "vehicle": {"kind": "hoist", "mass_kg": 60, "drum_radius_m": 0.04},
    "gearing": [{"kind": "planetary", "ratio": RATIO, "efficiency": EFFICIENCY}],
    "motor": {
        "kind": "permanent_magnet",
        "commutation": "brushless",
        "count": 1,
        "kv_rpm_per_v": 60,
        "resistance_ohm": MOTOR_OHM,
        "no_load_current_a": I0,
        "mass_kg": 2.6,
    },
    "controller": {
        "resistance_ohm": PATH_OHM,
        "motor_current_limit_a": 80,
        "battery_current_limit_a": 45,
        "regen_current_limit_a": 20,
    },
    "battery": {
        "chemistry": "li_ion",
        "series": 13,
        "parallel": 4,
        "cell_capacity_ah": 3,
        "cell_voltage_v": 3.9,
        "cell_resistance_mohm": 25,
        "wiring_resistance_mohm": 10,
    },
}


def hoist(**vehicle):
    return {**DOCUMENT, "vehicle": {**DOCUMENT["vehicle"], **vehicle}}


def moments(document):
    return {moment.id: moment for moment in solve(check_build(document)).moments}


@pytest.mark.parametrize(("mass", "falls"), [(60, 1), (60, 2), (150, 1), (400, 4)])
def test_holding_takes_the_amps_of_the_load_and_no_volts_of_speed(mass, falls):
    held = moments(hoist(mass_kg=mass, falls=falls))["climb"]
    drum_nm = mass * G * 0.04 / falls
    amps = drum_nm / (RATIO * EFFICIENCY * K) + I0
    assert held.met
    assert held.state.motor_current_a == pytest.approx(amps, rel=1e-9)
    assert held.state.speed_mps == 0
    assert held.state.copper_heat_w == pytest.approx(amps**2 * MOTOR_OHM, rel=1e-9)
    # All that the pack gives is heat: in the motor's copper, in the controller and in the pack.
    lost = held.state.copper_heat_w + held.state.controller_heat_w + held.state.pack_heat_w
    assert held.state.cells_w == pytest.approx(lost, rel=1e-9)


@pytest.mark.parametrize(("mass", "falls"), [(60, 1), (60, 2), (150, 1)])
def test_lifting_ends_where_the_volts_are_used_up(mass, falls):
    lifted = moments(hoist(mass_kg=mass, falls=falls))["top_speed"].state
    amps = mass * G * 0.04 / falls / (RATIO * EFFICIENCY * K) + I0
    turns = (PACK_V - amps * (PACK_OHM + PATH_OHM + MOTOR_OHM)) / K
    speed = turns / RATIO * 0.04 / falls
    assert lifted.speed_mps == pytest.approx(speed, rel=1e-9)
    assert lifted.climbing_w == pytest.approx(mass * G * speed, rel=1e-9)
    assert lifted.road_w == pytest.approx(lifted.climbing_w, rel=1e-9)
    assert lifted.limited_by == "voltage"


def test_let_down_the_load_feeds_the_pack():
    down = moments(DOCUMENT)["cruise"].state
    # The loss of the gearing helps: less than the load's torque comes back to the shaft.
    amps = -60 * G * 0.04 * EFFICIENCY / RATIO / K + I0
    assert down.motor_current_a == pytest.approx(amps, rel=1e-9)
    assert down.climbing_w == pytest.approx(-60 * G * down.speed_mps, rel=1e-9)
    assert down.cells_w < 0
    assert down.brakes_w == 0


def test_without_braking_amps_the_brake_takes_the_load_down():
    """All the power of the load that the motor's own loss does not take goes into the brake."""
    document = {**DOCUMENT, "controller": {**DOCUMENT["controller"], "regen_current_limit_a": 0}}
    down = moments(document)["cruise"].state
    assert down.battery_current_a >= 0
    assert down.brakes_w > 0
    ledger = down.road_w - down.climbing_w - down.speeding_up_w - down.brakes_w
    assert ledger == pytest.approx(0, abs=1e-9)


def test_what_would_come_down_faster_than_volts_can_hold_is_let_down_as_fast_as_it_is_lifted():
    """At 5 km/h the motor would make more volts than the pack has; it still comes down, not up."""
    document = {**DOCUMENT, "moments": {"cruise_kmh": 5}}
    assert 5 / 3.6 / 0.04 * RATIO * K > PACK_V
    seen = moments(document)
    down, up = seen["cruise"], seen["top_speed"]
    assert not down.met
    assert down.state.grade_pct == -1
    assert down.state.speed_mps == pytest.approx(up.state.speed_mps, rel=1e-9)
    assert down.state.cells_w < 0 < up.state.cells_w


def test_a_load_beyond_the_amps_is_a_stop_that_says_so():
    answer = solve(check_build(hoist(mass_kg=5000, drum_radius_m=0.1)))
    found = next(verdict for verdict in answer.verdicts if verdict.id == "asked_climb")
    assert 5000 * G * 0.1 / (RATIO * EFFICIENCY * K) + I0 > 80
    assert found.severity == "stop"
    assert found.title == "The load can't be held"
    assert not next(one for one in answer.moments if one.id == "climb").met


def test_holding_warms_the_copper_of_two_phases():
    """The same amps warm it more at rest than turning, though turning warms the iron as well."""
    seen = moments(hoist(mass_kg=400))
    lifted, held = seen["top_speed"], seen["climb"]
    assert held.state.motor_current_a == pytest.approx(lifted.state.motor_current_a, rel=1e-6)
    assert held.state.turning_heat_w == 0 < lifted.state.turning_heat_w
    assert held.heat["case"].after_c < lifted.heat["case"].after_c
    assert held.heat["winding"].after_c > lifted.heat["winding"].after_c


def test_what_it_is_called():
    answer = solve(check_build(DOCUMENT))
    assert [one.title for one in answer.moments] == [
        "Set going",
        "Hold",
        "Let down",
        "Lift",
        "Drum free",
    ]
    assert answer.load.parts["wheel"] == "Drum"
    assert not {"tyre", "pressure", "wheel.rolling_circumference_mm"} & {
        lever.id for lever in answer.levers
    }
    assert "vehicle.drum_radius_m" in {lever.id for lever in answer.levers}
    words = " ".join(f"{one.title} {one.why}" for one in answer.verdicts).lower()
    assert not [word for word in ("hill", "tyre", "wheel", "cruise", "slope") if word in words]


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"wheel": {"rolling_circumference_mm": 1800}}, "wheel"),
        ({"moments": {"climb_grade_pct": 8}}, "moments.climb_grade_pct"),
        ({"vehicle": {"kind": "hoist", "mass_kg": 60}}, "vehicle.drum_radius_m"),
        ({"vehicle": {"kind": "crane"}}, "vehicle.kind"),
    ],
)
def test_what_a_hoist_has_not(change, where):
    with pytest.raises(Refusal) as refused:
        check_build({**DOCUMENT, **change})
    assert refused.value.where == where


def test_no_wheel_fits_a_hoist_and_motors_are_held_against_it():
    shelf, unfit = shipped_shelf(), fits_build(check_build(DOCUMENT))
    assert unfit(shelf.wheels[:2]) == ["It is a wheel; what moves here has none."] * 2
    hub = next(part for part in shelf.motors if part.mounts == "hub")
    assert unfit([hub])[0] is not None


def test_a_vehicle_on_wheels_needs_one(trike):
    del trike["wheel"]
    with pytest.raises(Refusal) as refused:
        check_build(trike)
    assert (refused.value.where, refused.value.what) == ("wheel", "is missing; add it")
