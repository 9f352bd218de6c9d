"""Points of a scrambled Sobol' sequence, without the seconds that reading a library takes.

Point i + 1 is point i with one direction number flipped in (I. A. Antonov, V. M. Saleev, USSR
Comput. Math. Math. Phys. 19, 1979, 252-256). The numbers are those that SciPy draws, kept in a
file beside this one: for each count of dimensions in turn, each dimension's first point and as many
directions as the points need.
"""

from functools import cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

BITS = 30
"""The points are whole numbers of this many bits."""

TWO_TO = 8
"""There are two to this many points."""

POINTS = 2**TWO_TO

MOST = 32
"""Dimensions up to which the file goes; a build has some twenty doubtful inputs."""

SEED = 20240229

KEPT = Path(__file__).with_suffix(".npy")


def points(dimensions: int) -> NDArray[np.float64]:
    """Return `POINTS` points between nought and one, a column for each dimension, always the same.

    They lie evenly for any power of two of them from the first on.
    """
    if dimensions > MOST:
        from scipy.stats import qmc

        drawn: NDArray[np.float64] = qmc.Sobol(dimensions, rng=np.random.default_rng(SEED)).random(
            POINTS
        )
        return drawn
    begin = dimensions * (dimensions - 1) // 2
    first, *directions = _kept()[begin : begin + dimensions].T
    whole = np.empty((POINTS, dimensions), np.uint32)
    whole[0] = first
    for bit, direction in enumerate(directions):
        # By Gray's code the second half of every 2^(k+1) points is the first half turned about.
        half = 2**bit
        whole[half : 2 * half] = whole[:half][::-1] ^ direction
    shares: NDArray[np.float64] = whole / 2**BITS
    return shares


@cache
def _kept() -> NDArray[np.uint32]:
    """Return the file: for each dimension of each count its first point, then its directions."""
    kept: NDArray[np.uint32] = np.load(KEPT)
    return kept


def directions_of(whole: NDArray[np.uint32]) -> NDArray[np.uint32]:
    """Return a row for each dimension of some points, as the file has them."""
    firsts = [whole[0], *(whole[2**bit] ^ whole[2**bit - 1] for bit in range(TWO_TO))]
    return np.stack(firsts, axis=1).astype(np.uint32)
