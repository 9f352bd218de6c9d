"""Plates, makes and sizes: constants with bands that are true, and plates that can't be."""

import math

import pytest

from core.tests.identify.test_identify import KT, motor
from powertrain.shelf.motors import CANS
from powertrain.shelf.shipped import shipped_shelf

ROTORS = {"inrunner": "inrunner", "outrunner": "outrunner", "hub": "hub"}
MADE = {f"{can.maker} {can.code}": can.kind for can in CANS}


def inside(finding, true):
    return abs(math.log(finding.value / true)) <= math.log1p(finding.tolerance)


@pytest.mark.parametrize("said", [("commutation", "rotor"), ("commutation",)])
def test_eight_in_ten_of_the_shelf_lie_inside_the_band_of_their_size(said):
    # The qualities in `motor/size.py` are round numbers by make; the shelf has rules of its own.
    hits = {"resistance_ohm": [], "no_load_current_a": []}
    for part in shipped_shelf().motors:
        document = part.motor
        if document.kind != "permanent_magnet":
            continue
        facts = {
            "kv_rpm_per_v": document.kv_rpm_per_v,
            "mass_kg": document.mass_kg,
            "commutation": document.commutation,
            "rotor": ROTORS.get(MADE[part.family]),
        }
        facts = {
            key: value
            for key, value in facts.items()
            if value is not None and (key not in ("commutation", "rotor") or key in said)
        }
        found = motor(**facts).values
        for key, column in hits.items():
            column.append(inside(found[key], getattr(document, key)))
    for key, column in hits.items():
        assert sum(column) >= 0.8 * len(column), key


@pytest.mark.parametrize(
    ("facts", "kv", "ohm", "off"),
    [
        # Data of usual motors, rounded; common practice, no source.
        ({"kv_rpm_per_v": 1100, "mass_kg": 0.17, "commutation": "brushed"}, 1100, 0.12, 2.0),
        ({"kv_rpm_per_v": 2250, "mass_kg": 0.26, "rotor": "inrunner"}, 2250, 0.006, 2.1),
        ({"kv_rpm_per_v": 190, "mass_kg": 0.6, "rotor": "outrunner"}, 190, 0.05, 2.1),
        ({"kv_rpm_per_v": 9.2, "mass_kg": 5.5, "rotor": "hub"}, 9.2, 0.35, 2.2),
    ],
)
def test_usual_motors_are_guessed_by_their_make(facts, kv, ohm, off):
    found = motor(**facts).values["resistance_ohm"]
    assert 1 / off < found.value / ohm < off


def test_rated_watts_bound_the_resistance():
    # 500 W at the shaft from 36 V: more than 36^2/(4 500) = 0.648 ohm could never give them.
    plate = {
        "rated_voltage_v": 36,
        "rated_power_w": 500,
        "power_is": "shaft",
        "rated_speed_rpm": 2600,
        "commutation": "brushed",
    }
    found = motor(**plate).values["resistance_ohm"]
    assert found.value < 0.648
    small = motor(**plate, mass_kg=0.4)
    for finding in small.found:
        assert finding.key != "resistance_ohm" or finding.value < 0.648


def test_rated_watts_and_speed_with_a_kv_give_the_resistance():
    # 60 KV, 0.06 ohm, 30 A at 48 V: w = (48 - 1.8)/k, 1,372 W without losses.
    k = KT / 60
    speed = (48 - 30 * 0.06) / k
    seen = motor(
        kv_rpm_per_v=60,
        rated_voltage_v=48,
        rated_speed_rpm=speed * KT,
        rated_power_w=k * 30 / 1.04 * speed,
        power_is="shaft",
    )
    found = next(one for one in seen.found if one.route == "rated watts and speed")
    assert found.value == pytest.approx(0.06, rel=1e-6)
    assert found.tolerance > 0.5


def test_a_measured_free_run_is_not_made_impossible_by_a_guessed_resistance():
    # 1.1 A at 12 V and 1,020 rpm; a guess of 10 ohm from some size would leave 1 V.
    seen = motor(
        free_voltage_v=12,
        free_speed_rpm=1020,
        free_current_a=1.1,
        mass_kg=0.02,
        commutation="brushed",
    ).values
    assert 1020 / 12 <= seen["kv_rpm_per_v"].value <= 1020 / 12 / 0.85


def test_the_free_run_of_a_geared_motor_is_that_of_its_shaft():
    plain = motor(free_voltage_v=12, free_speed_rpm=3060).values["kv_rpm_per_v"].value
    geared = motor(free_voltage_v=12, free_speed_rpm=1020, reduction=3).values["kv_rpm_per_v"]
    assert geared.value == pytest.approx(plain)


def test_print_that_is_fifteen_percent_apart_is_usual():
    k = KT / 60
    near = {
        "free_voltage_v": 24,
        "free_speed_rpm": 24 * 60,
        "stall_current_a": 200,
        "stall_torque_nm": 200 * k / 1.15,
    }
    assert motor(**near).contradictions == []
    far = {**near, "stall_torque_nm": 200 * k / 1.5}
    assert motor(**far).contradictions


HOIST = {
    "kind": "series_wound",
    "rated_voltage_v": 72,
    "rated_current_a": 180,
    "rated_speed_rpm": 1850,
    "rated_power_w": 10_000,
    "power_is": "shaft",
}


def of_constants(values, amps, volts):
    """Return torque and rpm of series-wound constants."""
    keys = (
        "saturated_constant_nm_per_a",
        "half_saturation_current_a",
        "resistance_ohm",
        "loss_torque_nm",
    )
    sat, half, ohm, loss = (values[key].value for key in keys)
    k = sat * amps / (amps + half)
    return k * amps - loss, (volts - amps * ohm) / k * KT


def test_a_series_wound_plate_gives_constants_that_give_it_back():
    seen = motor(**HOIST)
    torque, rpm = of_constants(seen.values, 180, 72)
    assert torque == pytest.approx(10_000 / (1850 / KT), rel=1e-9)
    assert rpm == pytest.approx(1850, rel=1e-9)
    # One line says nothing of how the losses are shared out.
    assert seen.values["resistance_ohm"].tolerance >= 0.7
    assert seen.missing == {}
    by_torque = {**HOIST, "rated_torque_nm": 10_000 / (1850 / KT)}
    del by_torque["rated_power_w"], by_torque["power_is"]
    assert motor(**by_torque).values == pytest.approx(seen.values) or (
        of_constants(motor(**by_torque).values, 180, 72) == pytest.approx((torque, rpm))
    )


def test_two_lines_of_a_plate_settle_all_four():
    sat, half, ohm, loss = 0.3, 120.0, 0.03, 1.5

    def line(amps, volts=72):
        k = sat * amps / (amps + half)
        return k * amps - loss, (volts - amps * ohm) / k * KT

    (t1, n1), (t2, n2) = line(180), line(90)
    seen = motor(
        kind="series_wound",
        rated_voltage_v=72,
        rated_current_a=180,
        rated_speed_rpm=n1,
        rated_torque_nm=t1,
        second_rated_voltage_v=72,
        second_rated_current_a=90,
        second_rated_speed_rpm=n2,
        second_rated_torque_nm=t2,
    ).values
    keys = (
        "saturated_constant_nm_per_a",
        "half_saturation_current_a",
        "resistance_ohm",
        "loss_torque_nm",
    )
    assert [seen[key].value for key in keys] == pytest.approx([sat, half, ohm, loss], rel=1e-6)
    assert seen["resistance_ohm"].tolerance < 0.5


@pytest.mark.parametrize(
    ("plate", "words"),
    [
        # 36 V x 14 A = 504 W: 500 W can only be what goes in.
        (
            {
                "rated_voltage_v": 36,
                "rated_current_a": 14,
                "rated_power_w": 500,
                "power_is": "shaft",
            },
            "only be those at the wires",
        ),
        (
            {
                "rated_voltage_v": 36,
                "rated_current_a": 14,
                "rated_power_w": 900,
                "power_is": "electrical",
            },
            "volts times amps",
        ),
        # 5 N.m at 2,600 rpm are 1,361 W.
        (
            {
                "rated_voltage_v": 36,
                "rated_current_a": 50,
                "rated_speed_rpm": 2600,
                "rated_torque_nm": 5,
                "rated_power_w": 500,
                "power_is": "shaft",
            },
            "Torque times speed",
        ),
        (
            {
                "rated_voltage_v": 36,
                "rated_current_a": 14,
                "rated_speed_rpm": 2600,
                "rated_torque_nm": 5,
            },
            "go in",
        ),
    ],
)
@pytest.mark.parametrize("kind", ["permanent_magnet", "series_wound"])
def test_plates_that_cannot_be_true_are_told(plate, words, kind):
    said = [clash.say for clash in motor(kind=kind, **plate).contradictions]
    assert any(words in say for say in said), said


def test_a_plate_that_can_be_is_not_told():
    assert motor(**HOIST).contradictions == []


def test_a_plate_tells_the_usual_amps_of_a_free_run_where_nothing_else_does():
    # Rated 500 W/36 V = 13.9 A; brushed motors run free on about an eighth of that, brushless ones
    # on a twentieth; common practice, no source, within a factor of two.
    plate = {"rated_voltage_v": 36, "rated_power_w": 500, "rated_speed_rpm": 2600}
    brushed = motor(commutation="brushed", **plate).values["no_load_current_a"]
    brushless = motor(commutation="brushless", **plate).values["no_load_current_a"]
    assert brushed.value == pytest.approx(13.9 / 8, rel=0.1)
    assert brushless.value == pytest.approx(13.9 / 20, rel=0.2)
    assert brushed.tolerance == brushless.tolerance == 1.0
    measured = motor(
        commutation="brushed", free_voltage_v=36, free_speed_rpm=3000, free_current_a=0.9, **plate
    ).values["no_load_current_a"]
    assert measured.value == 0.9


@pytest.mark.parametrize(
    ("duty", "minutes", "amps"),
    # 30 min of 45: 1 - exp(-2/3) = 0.4866, its root 0.6976; 60 min: 0.7364, 0.8581.
    [("S1", None, 180.0), ("S2", 30, 125.6), ("S2", 60, 154.5)],
)
def test_a_duty_tells_what_flows_for_as_long_as_you_like(duty, minutes, amps):
    told = motor(**HOIST, duty=duty, duty_min=minutes).values["continuous_current_a"]
    assert told.value == pytest.approx(amps, abs=0.1)
    assert told.tolerance == (0.1 if duty == "S1" else 0.3)


def test_a_duty_without_its_minutes_tells_nothing():
    assert "continuous_current_a" not in motor(**HOIST, duty="S2").values
    assert "continuous_current_a" not in motor(**HOIST).values


def test_a_free_run_at_twelve_volts_settles_what_the_plate_leaves_open():
    # k_sat 0.4, half 90 A, 30 mohm, 2.5 N.m lost. Free at 12 V: k I = 2.5 gives the amps by hand,
    # 0.4 I^2 = 2.5 (I + 90), I = 27.04 A; k = 0.09245; (12 - 0.811)/0.09245 rad/s = 1,155.8 rpm.
    # At 180 A: k = 0.26667, torque 45.5 N.m, (72 - 5.4)/0.26667 rad/s = 2,384.9 rpm.
    plate = {
        "kind": "series_wound",
        "rated_voltage_v": 72,
        "rated_current_a": 180,
        "rated_speed_rpm": 2384.9,
        "rated_torque_nm": 45.5,
    }
    free = {"free_voltage_v": 12, "free_current_a": 27.04, "free_speed_rpm": 1155.8}
    both, alone = motor(**plate, **free).values, motor(**plate).values
    assert both["saturated_constant_nm_per_a"].value == pytest.approx(0.4, rel=0.01)
    assert both["half_saturation_current_a"].value == pytest.approx(90, rel=0.02)
    assert both["resistance_ohm"].value == pytest.approx(0.03, rel=0.02)
    assert both["loss_torque_nm"].value == pytest.approx(2.5, rel=0.02)
    for key, told in both.items():
        assert told.tolerance < alone[key].tolerance
        assert "free run" in told.route
