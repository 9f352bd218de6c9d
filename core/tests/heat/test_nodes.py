"""Stores of heat against an independent integration, closed forms and a heat-transfer library."""

import math

import ht
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from ops.draws import examples
from powertrain.arrays import scalar
from powertrain.heat.air import STILL_W_PER_M2_K, forced_w_per_m2_k
from powertrain.heat.nodes import COPPER_PER_K, OneNode, TwoNodes

# Subnormal watts are left out: the integration to compare with divides by them.
LUMPS = st.tuples(
    st.floats(2, 3000),
    st.floats(2, 30),
    st.floats(0.05, 20),
    st.floats(0.02, 10),
    st.floats(0, 500, allow_subnormal=False),
    st.floats(0, 200, allow_subnormal=False),
    st.floats(0, 60, allow_subnormal=False),
)


def lumps(values):
    winding_j, times, between, outside, copper, case, _ = values
    return TwoNodes(
        winding_j_per_k=scalar(winding_j),
        case_j_per_k=scalar(winding_j * times),
        between_w_per_k=scalar(between),
        to_air_w_per_k=scalar(outside),
        winding_w=scalar(copper),
        case_w=scalar(case),
        copper_slope_w_per_k=scalar(copper * COPPER_PER_K),
    )


def slopes(values):
    winding_j, times, g, h, copper, case, _ = values

    def of(_, x):
        heat = copper * (1 + COPPER_PER_K * x[0])
        return [
            (heat - g * (x[0] - x[1])) / winding_j,
            (case + g * (x[0] - x[1]) - h * x[1]) / (winding_j * times),
        ]

    return of


@examples(60)
@given(LUMPS, st.floats(1, 600))
def test_two_lumps_agree_with_an_independent_integration(values, seconds):
    start = values[-1]
    seen = lumps(values).after_k(scalar(seconds), scalar(start), scalar(start))
    if float(seen[0]) > 1e4:
        return
    solved = solve_ivp(
        slopes(values), (0, seconds), [start, start], method="LSODA", rtol=1e-9, atol=1e-9
    )
    assert [float(x) for x in seen] == pytest.approx(solved.y[:, -1].tolist(), rel=2e-6, abs=1e-6)


@examples(60)
@given(LUMPS)
def test_steady_is_where_the_slopes_vanish_and_runaway_is_the_known_criterion(values):
    two = lumps(values)
    _, _, g, h, copper, _, _ = values
    criterion = COPPER_PER_K * copper * (1 / g + 1 / h)
    if abs(criterion - 1) < 1e-6:
        return
    assert bool(two.runs_away) == (criterion >= 1)
    steady = two.steady_k()
    if criterion >= 1:
        assert math.isinf(float(steady[0]))
    else:
        rates = slopes(values)(0, [float(x) for x in steady])
        assert rates == pytest.approx([0, 0], abs=1e-7 * (1 + float(steady[0])))


@examples(60)
@given(LUMPS, st.floats(10, 200))
def test_the_time_to_a_limit_is_when_it_is_reached(values, limit):
    two, start = lumps(values), scalar(values[-1])
    ends = two.steady_k()
    times = two.seconds_until((scalar(limit), scalar(limit)), ends, (start, start))
    for node, time in enumerate(float(t) for t in times):
        if start >= limit:
            assert time == 0
        elif float(ends[node]) <= limit:
            assert math.isinf(time)
        elif math.isfinite(time) and time > 1e-2:
            at = float(two.after_k(scalar(time), start, start)[node])
            assert at == pytest.approx(limit, rel=1e-4)


def test_one_lump_is_the_exponential():
    lump = OneNode(scalar(900.0), scalar(0.5), scalar(40.0))
    assert lump.steady_k() == 80
    for seconds in (10.0, 600.0, 5000.0):
        wanted = 80 + (15 - 80) * math.exp(-seconds * 0.5 / 900)
        assert lump.after_k(scalar(seconds), scalar(15.0)) == pytest.approx(wanted)
    until = float(lump.seconds_until(scalar(50.0), scalar(15.0)))
    wanted = brentq(lambda s: 80 + (15 - 80) * math.exp(-s * 0.5 / 900) - 50, 0, 1e5)
    assert until == pytest.approx(wanted, rel=1e-9)
    assert math.isinf(float(lump.seconds_until(scalar(80.0), scalar(15.0))))


def test_copper_rises_as_the_standards_have_it():
    # IEC 60034-1: R2/R1 = (235 + T2)/(235 + T1), from 20 C; IEC 60028: 0.00393 per kelvin.
    for hot in (60.0, 105.0, 155.0):
        assert 1 + COPPER_PER_K * (hot - 20) == pytest.approx((235 + hot) / 255, rel=3e-3)


@pytest.mark.parametrize(("size", "speed"), [(0.05, 3.0), (0.1, 5.0), (0.2, 3.0)])
def test_forced_air_agrees_with_a_heat_transfer_library(size, speed):
    # ht 1.2.0, cylinder in cross flow by Churchill and Bernstein; correlations differ by a fifth.
    conductivity, viscosity, prandtl = 0.0271, 1.7e-5, 0.71
    nusselt = ht.conv_external.Nu_cylinder_Churchill_Bernstein(
        Re=speed * size / viscosity, Pr=prandtl
    )
    wanted = nusselt * conductivity / size
    assert float(forced_w_per_m2_k(scalar(speed), scalar(size))) == pytest.approx(wanted, rel=0.2)


@pytest.mark.parametrize(("size", "rise"), [(0.04, 40.0), (0.1, 40.0), (0.2, 60.0)])
def test_still_air_is_of_the_right_size(size, rise):
    # ht 1.2.0: natural convection of a horizontal cylinder and grey radiation (0.9) at 40 C air.
    # One figure stands for all sizes, so that a third either way is what can be asked.
    beta, viscosity, prandtl = 1 / 333, 1.8e-5, 0.71
    rayleigh = 9.81 * beta * rise * size**3 / viscosity**2 * prandtl
    nusselt = ht.conv_free_immersed.Nu_horizontal_cylinder_Churchill_Chu(
        Pr=prandtl, Gr=rayleigh / prandtl
    )
    radiated = ht.radiation.q_rad(0.9, T=293.15 + rise, T2=293.15) / rise
    wanted = nusselt * 0.028 / size + radiated
    assert wanted == pytest.approx(STILL_W_PER_M2_K, rel=0.35)


def test_a_tenfold_longer_look_never_cools_what_is_heated():
    two = lumps((50.0, 10.0, 1.0, 0.3, 30.0, 5.0, 0.0))
    times = np.geomspace(0.1, 1e5, 40)
    winding, case = two.after_k(times, scalar(0.0), scalar(0.0))
    assert np.all(np.diff(winding) > 0)
    assert np.all(np.diff(case) > 0)
    assert np.all(winding >= case)
