"""Volts over charge."""

import numpy as np
import pytest

from powertrain.arrays import scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.battery.open_circuit import USUAL, OpenCircuit


def test_cell_of_a_simulation_library():
    # thevenin 0.2.1: 3 + 1.2 s behind 10 mohm, 10 Ah at 0.9, 20 A: 3.88 V, after 600 s 3.48 V.
    curve = OpenCircuit.of_points([(0.0, 3.0), (1.0, 4.2)], scalar(1.0))
    assert float(curve.volts(scalar(0.9))) - 20 * 0.010 == pytest.approx(3.88)
    left = 0.9 - 20 * 600 / 3600 / 10
    assert float(curve.volts(scalar(left))) - 20 * 0.010 == pytest.approx(3.48)


@pytest.mark.parametrize("chemistry", CHEMISTRIES)
def test_usual_curves_rise_between_the_volts_of_their_chemistry(chemistry):
    curve = OpenCircuit.usual(chemistry, scalar(10.0))
    at = np.linspace(0.0, 1.0, 201)
    volts = curve.volts(at)
    assert np.all(np.diff(volts) > 0)
    cell = CHEMISTRIES[chemistry]
    assert volts[-1] == pytest.approx(10 * cell.full_v)
    assert cell.cut_off_v <= volts[0] / 10 <= cell.nominal_v
    # Half full it stands near the volts that name it.
    assert volts[100] / 10 == pytest.approx(cell.nominal_v, rel=0.07)
    np.testing.assert_allclose(curve.charge(volts), at, atol=1e-12)


def test_points_are_straight_between_and_held_beyond():
    curve = OpenCircuit.of_points([(0.2, 3.0), (0.6, 3.8)], scalar(2.0))
    found = curve.volts(np.array([0.0, 0.2, 0.3, 0.6, 1.0]))
    assert found == pytest.approx([6.0, 6.0, 6.4, 7.6, 7.6])
    assert curve.charge(np.array([5.0, 6.4, 9.0])) == pytest.approx([0.2, 0.3, 0.6])


def test_nothing_known_is_flat():
    assert OpenCircuit.flat(scalar(53.3)).volts(np.array([0.0, 0.5, 1.0])).tolist() == [53.3] * 3
    assert set(USUAL) == set(CHEMISTRIES)
