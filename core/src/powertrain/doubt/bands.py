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
class Shares:
    """How much of each figure's doubt each input makes; figures by inputs.

    `share` is of the variance, `width_left` what is left of the band's width once the input is
    measured.
    """

    share: Array
    width_left: Array


def shares_of(doubt: Doubt, samples: Array) -> Shares:
    """Return what each input contributes to the doubt of each row of samples.

    The inputs are drawn independently, so the square of each one's correlation with the figure
    is its part of the variance, as far as the figure follows it in a straight line. A figure of
    which half the draws are not finite has none.
    """
    finite = np.isfinite(samples)
    known = np.count_nonzero(finite, axis=1) > samples.shape[1] / 2
    # A draw that can't do it at all counts as an ordinary one here; the band shows it.
    counted = np.maximum(np.count_nonzero(finite, axis=1), 1)
    middle = np.where(finite, samples, 0.0).sum(axis=1) / counted
    centred = np.where(finite, samples - middle[:, None], 0.0)
    spread = centred.std(axis=1)
    varies = known & (spread > 1e-12 * (np.abs(middle) + 1e-30))
    columns = doubt.deviates - doubt.deviates.mean(axis=0)
    scale = np.outer(np.where(varies, spread, 1.0), columns.std(axis=0)) * samples.shape[1]
    correlations = np.where(varies[:, None], centred @ columns / scale, 0.0)
    narrower = np.array([min(i.measured / i.tolerance, 1.0) for i in doubt.inputs]) ** 2
    share = correlations**2
    return Shares(share, np.sqrt(np.maximum(1 - share * (1 - narrower), 0.0)))
