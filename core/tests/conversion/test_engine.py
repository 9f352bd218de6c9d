"""The engine by its papers: its two points, what is guessed, what can't be."""

import numpy as np
import pytest

from powertrain.conversion.engine import engine_of, school_of_engine
from powertrain.documents.conversion import Replaces


def told(**said):
    return engine_of(Replaces(**said))


def test_it_passes_through_both_points_of_its_papers():
    engine, facts = told(torque_nm=96, torque_at_rpm=3000, power_kw=44, power_at_rpm=5200)
    # 44,000 W over 5,200 x 2 pi/60 rad/s = 80.80 N.m
    np.testing.assert_allclose(
        engine.torque_at(np.array([3000.0, 5200.0])), [96, 80.80], atol=0.005
    )
    assert facts.guessed == []
    assert facts.contradictions == []
    assert np.all(engine.torque_at(np.linspace(1000, 5700, 200)) <= 96)


def test_a_power_that_asks_for_more_than_the_greatest_torque_is_told():
    # 55 kW at 5,200 rpm are 101.0 N.m, five in a hundred more than 96.
    engine, facts = told(torque_nm=96, power_kw=55, power_at_rpm=5200)
    assert len(facts.contradictions) == 1
    assert "101 N.m" in facts.contradictions[0]
    assert float(engine.torque_at(np.array(5200.0))) == pytest.approx(96)
    assert facts.guessed == ["greatest torque at 3,120 rpm"]


def test_what_is_guessed_is_said():
    _, facts = told(power_kw=10, power_at_rpm=2000)
    assert len(facts.guessed) == 2
    # 10,000 W at 2,000 rpm are 47.75 N.m, usually 1.15 times as much at best.
    assert facts.torque_nm == pytest.approx(47.75 * 1.15, abs=0.02)
    assert told(mass_kg=120) is None
    assert engine_of(None) is None


def test_torques_the_wrong_way_round_are_told():
    engine, facts = told(torque_nm=90, torque_at_rpm=5000, power_kw=30, power_at_rpm=4000)
    assert any("exchange the two" in say for say in facts.contradictions)
    assert float(engine.torque_at(np.array(3000.0))) == 90


def test_one_school_asks_for_its_torque_at_the_rpm_it_was_driven_at():
    engine, _ = told(torque_nm=96, power_kw=50, power_at_rpm=5200)
    # 96 N.m x 2,800 x 2 pi/60 = 28.15 kW
    school = school_of_engine(engine, 2800)
    assert school.power_w == pytest.approx(28149, abs=2)
    assert "28 kW" in school.say
