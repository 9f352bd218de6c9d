"""When something that is looked at at some times passes nought."""

import numpy as np

from powertrain.arrays import Array


def seconds_at_nought(at_s: Array, over: Array) -> Array:
    """Return when each column first reaches nought, read between the times of its rows.

    Infinite where none does; the time of the first row where that does already.

    Parameters
    ----------
    at_s : array_like
        Rising times above nought, a row each; broadcasts with `over`.
    over : array_like
        What is looked at, of shape (times, columns).
    """
    at_s = np.broadcast_to(at_s, over.shape)
    passed = over >= 0
    first = np.argmax(passed, axis=0)
    before, column = np.maximum(first - 1, 0), np.arange(over.shape[1])
    low, high = over[before, column], over[first, column]
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.where(high > low, -low / (high - low), 1.0)
    # Times are spread evenly by their logarithms.
    begins, ends = at_s[before, column], at_s[first, column]
    return np.where(np.any(passed, axis=0), begins * (ends / begins) ** share, np.inf)
