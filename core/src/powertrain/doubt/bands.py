"""Bands of figures, and which guess makes them wide."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.doubt.draws import Doubt

QUANTILES = (0.1, 0.5, 0.9)


def bands_of(samples: Array) -> Array:
    """Return the 10, 50 and 90 % points along the last axis, as a last axis of three.

    Samples that are not finite count as beyond all others: a band may end in infinity.
    """
    ordered = np.sort(np.asarray(samples, float), axis=-1)
    last = ordered.shape[-1] - 1
    places = np.array(QUANTILES) * last
    below = places.astype(int)
    share = places - below
    low, high = ordered[..., below], ordered[..., np.minimum(below + 1, last)]
    with np.errstate(invalid="ignore"):
        between = low + share * (high - low)
    banded: Array = np.where(np.isfinite(low) & np.isfinite(high), between, high)
    return banded


@dataclass(frozen=True)
class Share:
    """How much of a figure's doubt one input makes, and how wide the band stays if measured.

    `share` is of the variance, `stays` a factor on the band's width.
    """

    index: int
    share: float
    stays: float


def shares_of(doubt: Doubt, samples: Array) -> list[Share]:
    """Return the inputs that make a figure doubtful, the weakest first.

    The inputs are drawn independently, so the square of each one's correlation with the figure
    is its part of the variance, as far as the figure follows it in a straight line.
    """
    finite = np.isfinite(samples)
    if not doubt.inputs or np.count_nonzero(finite) < len(samples) / 2:
        return []
    correlation = _correlations(doubt.deviates[: len(samples)][finite], samples[finite])
    found = []
    for index, value in enumerate(correlation):
        item, share = doubt.inputs[index], float(value * value)
        narrower = min(item.measured / item.tolerance, 1.0)
        kept = 1 - share * (1 - narrower**2)
        found.append(Share(index, share, float(np.sqrt(max(kept, 0.0)))))
    return sorted(found, key=lambda item: item.share, reverse=True)


def _correlations(deviates: NDArray[np.float64], samples: Array) -> Array:
    centred, spread = samples - samples.mean(), samples.std()
    if spread <= 1e-12 * (abs(samples.mean()) + 1e-30):
        return np.zeros(deviates.shape[1])
    columns = deviates - deviates.mean(axis=0)
    scale = columns.std(axis=0) * spread * len(samples)
    correlation: Array = centred @ columns / scale
    return correlation
