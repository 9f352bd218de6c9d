"""A motor and its propeller on a stand, made by Ohm, Newton and two coefficients by hand."""

import math
from dataclasses import dataclass

import pytest

from powertrain.errors import Refusal
from powertrain.identify.answer import check_facts, identified

RHO, DIAMETER = 1.225, 0.254
SAID_CT, SAID_CP = 0.105, 0.048
"""What the propeller's table says of standing still."""
KV, OHM, FREE = 900.0, 0.06, 0.8
"""What the motor's maker says."""

TABLE = [
    {"advance_ratio": 0.0, "ct": SAID_CT, "cp": SAID_CP},
    {"advance_ratio": 0.7, "ct": 0.0, "cp": 0.01},
]


@dataclass(frozen=True)
class Stand:
    """What truly stands there."""

    kv: float = KV
    ohm: float = OHM
    free_a: float = FREE
    ct: float = SAID_CT
    cp: float = SAID_CP

    def read(self, volts=11.6, throttle=1.0):
        """One reading: the turns at which the motor's torque is the propeller's."""
        k = 60 / (2 * math.pi * self.kv)
        lowest, highest = 0.0, throttle * volts / k
        for _ in range(200):
            rad_s = (lowest + highest) / 2
            amps = (throttle * volts - k * rad_s) / self.ohm
            torque = self.cp * RHO * (rad_s / 2 / math.pi) ** 2 * DIAMETER**5 / (2 * math.pi)
            if k * (amps - self.free_a) > torque:
                lowest = rad_s
            else:
                highest = rad_s
        turns = rad_s / 2 / math.pi
        return {
            "throttle_pct": 100 * throttle,
            "voltage_v": volts,
            "current_a": throttle * amps,
            "rpm": 60 * turns,
            "thrust_n": self.ct * RHO * turns**2 * DIAMETER**4,
        }


MOTOR = {"kv_rpm_per_v": KV, "resistance_ohm": OHM, "no_load_current_a": FREE}
PROPELLER = {"diameter_mm": 1000 * DIAMETER, "pitch_mm": 127, "table": TABLE}


def told(*points, motor=MOTOR, propeller=PROPELLER):
    stand = {"propeller": propeller, "points": list(points)}
    return identified(
        check_facts({"format": "young-torrent.facts/1", "motor": motor, "stand": stand})
    )


def test_parts_that_are_as_they_are_said_to_be():
    point = Stand().read()
    answer = told(point)
    assert answer.stand.off == []
    values = answer.stand.propeller.values
    assert values["thrust_share"].value == pytest.approx(1.0)
    assert values["power_share"].value == pytest.approx(1.0)
    assert values["static.thrust_n"].value == pytest.approx(point["thrust_n"])
    # Shaft watts by the propeller's own coefficient, not by the motor's.
    shaft_w = SAID_CP * RHO * (point["rpm"] / 60) ** 3 * DIAMETER**5
    assert values["static.shaft_power_w"].value == pytest.approx(shaft_w)
    (seen,) = answer.stand.readings
    assert seen.expected_rpm == pytest.approx(point["rpm"])
    ideal_w = point["thrust_n"] ** 1.5 / math.sqrt(2 * RHO * math.pi / 4 * DIAMETER**2)
    assert seen.figure_of_merit == pytest.approx(ideal_w / shaft_w)


@pytest.mark.parametrize("throttle", [0.3, 0.55, 0.8])
def test_the_motors_amps_at_part_throttle_are_found_without_its_duty(throttle):
    point = Stand().read(throttle=throttle)
    (seen,) = told(point).stand.readings
    assert seen.motor_current_a == pytest.approx(point["current_a"] / throttle)
    assert seen.shaft_power_w == pytest.approx(
        SAID_CP * RHO * (point["rpm"] / 60) ** 3 * DIAMETER**5
    )


@pytest.mark.parametrize("kv", [780.0, 1030.0])
def test_another_winding_is_the_motors_and_its_kv_is_found(kv):
    answer = told(Stand(kv=kv).read())
    assert answer.stand.off == ["motor"]
    assert answer.motor.values["kv_rpm_per_v"].value == pytest.approx(kv)
    assert answer.motor.values["kv_rpm_per_v"].route == "the stand"
    assert "another winding" in answer.stand.say[0]


def test_a_bad_joint_is_told_from_a_propeller_by_the_thrust():
    answer = told(Stand(ohm=OHM + 0.11).read())
    assert answer.stand.off == ["motor"]
    assert "170 mohm" in answer.stand.say[0]
    assert answer.stand.propeller.values["thrust_share"].value == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("ct", "cp", "word"),
    [
        (1.45, 1.6, "more pitch or diameter"),
        (0.6, 0.6, "less pitch or diameter"),
        (0.6, 1.1, "back to front"),
    ],
)
def test_another_propeller_is_told_from_the_motor(ct, cp, word):
    answer = told(Stand(ct=ct * SAID_CT, cp=cp * SAID_CP).read())
    assert answer.stand.off == ["propeller"]
    assert word in answer.stand.say[0]
    values = answer.stand.propeller.values
    assert values["thrust_share"].value == pytest.approx(ct)
    assert values["power_share"].value == pytest.approx(cp)
    assert answer.motor.contradictions == []


def test_both_may_be_off():
    answer = told(Stand(kv=780.0, ct=1.4 * SAID_CT, cp=1.5 * SAID_CP).read())
    assert answer.stand.off == ["motor", "propeller"]
    assert len(answer.stand.say) == 2


def test_what_no_disc_could_give_is_a_misreading():
    # Grams read as if they were a third of that.
    point = Stand().read()
    answer = told({**point, "thrust_n": 3 * point["thrust_n"]})
    assert answer.stand.off == ["readings"]
    assert "scale" in answer.stand.say[0]
    # Without a motor that is known, all of the pack's watts are the ceiling.
    unknown = told({**point, "thrust_n": 3 * point["thrust_n"]}, motor={})
    assert unknown.stand.off == ["readings"]


def test_amps_below_the_motors_own_are_a_misreading():
    point = Stand().read()
    answer = told({**point, "current_a": 0.5})
    assert answer.stand.off == ["readings"]
    assert "less than the motor takes" in answer.stand.say[0]


def test_without_a_motor_that_is_known_the_thrust_alone_is_judged():
    point = Stand().read()
    answer = told(point, motor={})
    assert answer.stand.off == []
    assert "not known yet" in answer.stand.say[0]
    assert set(answer.stand.propeller.missing) == {"static.shaft_power_w"}
    less = told({key: value for key, value in point.items() if key != "thrust_n"})
    assert set(less.stand.propeller.missing) == {"static.thrust_n"}


def test_the_middle_of_several_readings_counts_and_one_slip_does_not():
    points = [Stand().read(volts=volts) for volts in (9.5, 10.5, 11.5, 12.5)]
    slip = {**points[1], "rpm": points[1]["rpm"] * 1.3}
    answer = told(points[0], slip, *points[2:])
    assert answer.motor.values["kv_rpm_per_v"].value == pytest.approx(KV, rel=0.01)
    assert answer.stand.off == []


def test_a_static_point_of_the_maker_is_what_is_held_against():
    point = Stand().read()
    made = {"rpm": 9000, "thrust_n": 0.8 * SAID_CT * RHO * 150**2 * DIAMETER**4}
    made["shaft_power_w"] = 0.8 * SAID_CP * RHO * 150**3 * DIAMETER**5
    answer = told(
        point, propeller={"diameter_mm": 1000 * DIAMETER, "pitch_mm": 127, "static": made}
    )
    # The generic blade's coefficient moves a little with the turns, by its Reynolds number.
    assert answer.stand.propeller.values["thrust_share"].value == pytest.approx(1.25, rel=0.05)
    assert answer.stand.off == ["propeller"]
    assert "its static test" in answer.stand.say[0]


def test_a_reading_that_was_kept_as_the_static_test_is_no_witness_of_itself():
    point = Stand(ct=0.5 * SAID_CT).read()
    answer = told(point)
    kept = {
        key.removeprefix("static."): float(f"{finding.value:.6g}")
        for key, finding in answer.stand.propeller.values.items()
        if key.startswith("static.")
    }
    again = told(point, propeller={**PROPELLER, "static": kept})
    assert again.stand.off == answer.stand.off == ["propeller"]
    assert again.stand.say == answer.stand.say


@pytest.mark.parametrize(
    ("points", "where"),
    [
        ([], "stand.points"),
        ([{"voltage_v": 11.1, "current_a": 5}], "stand.points.0.rpm"),
        ([{"voltage_v": -1, "current_a": 5, "rpm": 900}], "stand.points.0.voltage_v"),
        (
            [{"voltage_v": 9, "current_a": 5, "rpm": 900, "throttle_pct": 140}],
            "stand.points.0.throttle_pct",
        ),
    ],
)
def test_bad_readings_are_refused_by_place(points, where):
    with pytest.raises(Refusal) as refused:
        told(*points)
    assert refused.value.where == where
