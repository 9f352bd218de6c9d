"""Blade elements against momentum theory, another implementation, charts, and themselves."""

import json
from pathlib import Path

import numpy as np
import pytest

from powertrain.propeller.blade import coefficients
from powertrain.propeller.chart import POINTS, generic_chart
from powertrain.propeller.momentum import figure_of_merit, induced_mps, least_power_coefficient
from powertrain.propeller.section import GENERIC, Section

REFERENCE = Path(__file__).parents[1] / "reference" / "blade_elements.json"
ONE = np.float64(1.0)


def found(pitch, advance, *, blades=2.0, tip=100.0, size=0.254, section=GENERIC):
    return coefficients(
        np.asarray(pitch, float),
        np.asarray(blades, float),
        np.asarray(advance, float),
        np.float64(tip),
        np.float64(size),
        np.float64(1.225),
        section,
    )


class AtOneReynolds(Section):
    """The generic section as the reference was given it."""

    def in_flow(self, reynolds, mach):
        return super().in_flow(np.full(reynolds.shape, 1e5), np.zeros(mach.shape))


def test_it_agrees_with_an_independent_blade_element_code():
    """Of the registry's `wisdem`, see make_blade_elements.py; eighty stations against eighteen."""
    cases = json.loads(REFERENCE.read_text())
    assert len(cases) == 80
    own = found(
        [case["pitch_ratio"] for case in cases],
        [case["advance_ratio"] for case in cases],
        blades=[case["blades"] for case in cases],
        size=0.25,
        tip=78.5,
        section=AtOneReynolds(),
    )
    assert own.ct == pytest.approx([case["ct"] for case in cases], rel=0.015)
    assert own.cp == pytest.approx([case["cp"] for case in cases], rel=0.015)


GRID = [
    (pitch, blades, tip)
    for pitch in (0.3, 0.5, 0.8, 1.2, 1.6)
    for blades in (2, 3, 4, 6)
    for tip in (15.0, 80.0, 220.0, 320.0)
]


@pytest.mark.parametrize(("pitch", "blades", "tip"), GRID)
def test_no_point_passes_momentum_theory_and_none_jumps(pitch, blades, tip):
    advance = np.linspace(0, pitch + 0.4, 141)
    own = found(pitch, advance, blades=blades, tip=tip)
    pulls = own.ct > 0
    least = least_power_coefficient(own.ct, advance)
    assert (own.cp[pulls] > least[pulls]).all()
    assert pulls[0]
    assert not pulls[-1]
    # No jump: a step of J is never worth more than a few times the usual step.
    for values in (own.ct, own.cp):
        steps = np.abs(np.diff(values))
        assert steps.max() < 6 * steps.mean() + 1e-4


def test_induced_speed_is_that_of_the_disc():
    """By hand: 10 N on 0.05 m2 standing give sqrt(10/(2 1.225 0.05)) = 9.035 m/s."""
    assert float(induced_mps(10 * ONE, 0 * ONE, 1.225 * ONE, 0.05 * ONE)) == pytest.approx(
        9.035, 1e-3
    )
    moving = float(induced_mps(10 * ONE, 20 * ONE, 1.225 * ONE, 0.05 * ONE))
    assert 2 * 1.225 * 0.05 * (20 + moving) * moving == pytest.approx(10)


def test_figure_of_merit_is_one_for_a_disc():
    ct = np.array([0.05, 0.1])
    assert figure_of_merit(ct, least_power_coefficient(ct, np.zeros(2))) == pytest.approx(1)


def test_it_lies_where_published_charts_of_small_propellers_lie():
    """A 10 x 5 at 6,000 rpm (UIUC propeller data base, from memory): C_T0 about 0.10, C_P0 about
    0.04, best efficiency about 0.63 near J = 0.5, no thrust from about J = 0.68 on."""
    advance = np.linspace(0, 0.8, 81)
    own = found(0.5, advance, tip=np.pi * 100 * 0.254)
    assert own.ct[0] == pytest.approx(0.10, rel=0.12)
    assert own.cp[0] == pytest.approx(0.04, rel=0.15)
    efficiency = np.where(own.ct > 0, advance * own.ct / own.cp, 0)
    assert efficiency.max() == pytest.approx(0.63, rel=0.15)
    assert advance[np.argmax(efficiency)] == pytest.approx(0.5, abs=0.08)
    assert advance[np.argmax(own.ct < 0)] == pytest.approx(0.68, abs=0.08)


def test_more_pitch_stalls_standing_and_wins_it_back_at_speed():
    """A pitch above the diameter: its blades stall standing, and pull more once they advance."""
    own = found(1.2, [0.0, 0.7])
    assert own.ct[1] > own.ct[0]
    flat = found(0.4, [0.0, 0.2])
    assert flat.ct[1] < flat.ct[0]


def test_standing_torque_goes_with_the_square_of_the_turns_but_for_reynolds():
    """C_P would be constant; friction that falls as Re^-0.35 is all that moves it."""
    slow, fast = found(0.5, 0.0, tip=50.0), found(0.5, 0.0, tip=100.0)
    assert 0.93 < float(fast.cp / slow.cp) < 1.0
    assert float(fast.ct / slow.ct) == pytest.approx(1, abs=0.04)


def test_tips_near_sound_cost_power():
    slow, fast = found(0.5, 0.0, tip=150.0), found(0.5, 0.0, tip=320.0)
    merit = [float(figure_of_merit(one.ct, one.cp)) for one in (slow, fast)]
    assert merit[1] < 0.85 * merit[0]


@pytest.mark.parametrize("pitch", [0.3, 0.75, 1.5])
def test_the_chart_reads_between_its_points_what_the_blades_give(pitch):
    chart = generic_chart(pitch, 2, 0.3)
    assert chart.advance.shape == (1, POINTS)
    rng = np.random.default_rng(2)
    advance, tip = rng.uniform(0, pitch + 0.2, 40), rng.uniform(20, 240, 40)
    ct, cp = chart.at(np.zeros(40), advance, tip)
    own = coefficients(pitch * ONE, 2 * ONE, advance, tip, 0.3 * ONE, 1.225 * ONE)
    assert ct == pytest.approx(own.ct, abs=0.003)
    assert cp == pytest.approx(own.cp, abs=0.003)
