"""Bands of figures, and which guess makes them wide."""

from dataclasses import dataclass

import numpy as np

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


def shares_of(doubt: Doubt, samples: Array) -> list[list[Share]]:
    """Return, for each row of samples, the inputs that make it doubtful, the weakest first.

    The inputs are drawn independently, so the square of each one's correlation with the figure
    is its part of the variance, as far as the figure follows it in a straight line. A figure of
    which half the draws are not finite has none.
    """
    if not doubt.inputs:
        return [[] for _ in samples]
    finite = np.isfinite(samples)
    known = np.count_nonzero(finite, axis=1) > samples.shape[1] / 2
    # A draw that can't do it at all counts as an ordinary one here; the band shows it.
    filled = np.where(finite, samples, np.nan)
    middle = np.array(
        [np.nanmean(row) if ok else 0.0 for row, ok in zip(filled, known, strict=True)]
    )
    centred = np.where(finite, samples - middle[:, None], 0.0)
    spread = centred.std(axis=1)
    varies = known & (spread > 1e-12 * (np.abs(middle) + 1e-30))
    columns = doubt.deviates - doubt.deviates.mean(axis=0)
    scale = np.outer(np.where(varies, spread, 1.0), columns.std(axis=0)) * samples.shape[1]
    correlations = np.where(varies[:, None], centred @ columns / scale, 0.0)
    narrower = np.array([min(i.measured / i.tolerance, 1.0) for i in doubt.inputs]) ** 2
    shares = correlations**2
    stays = np.sqrt(np.maximum(1 - shares * (1 - narrower), 0.0))
    return [
        [Share(int(i), float(row[i]), float(kept[i])) for i in np.argsort(-row)]
        for row, kept in zip(shares, stays, strict=True)
    ]
