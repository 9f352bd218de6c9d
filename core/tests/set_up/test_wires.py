"""Wires against hand arithmetic and against rotating vectors."""

import itertools
import math

import numpy as np
import pytest

from powertrain.set_up.hall import hall_of
from powertrain.set_up.wires import phase_orders, wires_of
from powertrain.verdicts.context import RuleContext


def wires(build, pack_m=0.3, motor_m=0.3):
    return wires_of(build, RuleContext.of(build), pack_m, motor_m)


def test_a_metre_of_copper_loses_what_its_resistance_says(make):
    answer = wires(make(wiring={"pack_wire_mm2": 2.5}), pack_m=1.0)
    loss = next(one for one in answer.losses if one.id == "pack" and one.moment == "on its hill")
    # IEC 60028: 17.24 nOhm m at 20 C; two metres there and back.
    ohm = 17.24e-9 * 2 / 2.5e-6
    assert loss.resistance_mohm == pytest.approx(1000 * ohm, rel=1e-9)
    assert loss.lost_v == pytest.approx(ohm * loss.current_a, rel=1e-9)
    assert loss.lost_w == pytest.approx(ohm * loss.current_a**2, rel=1e-9)
    assert not loss.assumed
    motor = next(one for one in answer.losses if one.id == "motor")
    assert motor.assumed
    # The thinnest that is sold carries its few amps.
    assert motor.mm2 == 0.5


@pytest.mark.parametrize(
    ("motor", "counted"),
    [
        ({"commutation": "brushed"}, [2, 2, 3]),
        ({"commutation": "brushless", "sensor": "none"}, [2, 3, 3]),
        ({"commutation": "brushless", "sensor": "hall", "count": 2}, [2, 6, 10, 3]),
    ],
)
def test_cables_are_counted(make, motor, counted):
    assert [one.wires for one in wires(make(motor=motor)).cables] == counted


def test_six_orders_against_vectors_that_turn():
    # Each phase an axis at 120 degrees. For every place of the rotor the controller pushes a
    # quarter turn ahead of where the sensors say it is; wires moved push along other axes.
    angles = np.linspace(0, 2 * np.pi, 721)[:-1]
    axes = {letter: 2 * np.pi / 3 * place for place, letter in enumerate("ABC")}
    for one in phase_orders():
        ahead = angles + np.pi / 2
        torques = []
        for at, push in zip(angles, ahead, strict=True):
            amps = [math.cos(push - axes[letter]) for letter in "ABC"]
            field = sum(
                amp * np.exp(1j * axes[wire]) for amp, wire in zip(amps, one.order, strict=True)
            )
            torques.append((field * np.exp(-1j * at)).imag / 1.5)
        assert np.mean(torques) == pytest.approx(one.torque_share, abs=1e-9)
        locks = np.ptp(torques) > 1
        assert locks == ("Jerks" in one.does)
    assert {one.order for one in phase_orders()} == {
        "".join(order) for order in itertools.permutations("ABC")
    }


def test_only_sensors_make_the_order_a_question(make):
    assert wires(make(motor={"commutation": "brushless", "sensor": "none"})).orders == []
    assert len(wires(make(motor={"commutation": "brushless", "sensor": "hall"})).orders) == 6


def test_long_pack_leads_are_warned_of(make):
    assert "Short enough" in wires(make(), pack_m=0.3).leads
    assert "capacitors" in wires(make(), pack_m=2.0).leads


@pytest.mark.parametrize(("off", "ripple"), [(0.0, 14.03), (10.0, 24.88), (60.0, 100.0)])
def test_ripple_of_a_sensor_beside_its_place(off, ripple):
    # Least and most of cos over the sixth of a turn about the offset, of its mean, by sampling.
    found = hall_of(off, 2, mechanical=False).ripple_pct
    sixth = np.cos(np.radians(np.linspace(off - 30, off + 30, 60_001)))
    if off < 60:
        assert found == pytest.approx(100 * np.ptp(sixth) / sixth.mean(), rel=1e-4)
    assert found == pytest.approx(ripple, abs=0.01)
