"""The kept points against those that SciPy draws; a file made anew: `python -m` this module."""

import numpy as np
import pytest
from scipy.stats import qmc

from powertrain.doubt.quasi_random import (
    BITS,
    KEPT,
    MOST,
    POINTS,
    SEED,
    directions_of,
    points,
)


def drawn(dimensions):
    return qmc.Sobol(dimensions, rng=np.random.default_rng(SEED)).random(POINTS)


@pytest.mark.parametrize("dimensions", [1, 2, 7, 20, 23, MOST, MOST + 1])
def test_the_kept_points_are_those_of_the_library(dimensions):
    assert np.array_equal(points(dimensions), drawn(dimensions))


@pytest.mark.parametrize("count", [8, 64, POINTS])
def test_a_power_of_two_of_them_has_one_in_each_slice(count):
    """What makes the sequence worth it: each of n equal slices holds one point in each column."""
    slices = np.sort((points(20)[:count] * count).astype(int), axis=0)
    assert np.array_equal(slices, np.repeat(np.arange(count)[:, None], 20, axis=1))


if __name__ == "__main__":
    np.save(
        KEPT,
        np.concatenate(
            [
                directions_of((drawn(count) * 2**BITS).astype(np.uint32))
                for count in range(1, MOST + 1)
            ]
        ),
    )
