"""The root of a falling function, for one or for a million of them at once."""

from collections.abc import Callable

import numpy as np

from powertrain.arrays import Array, everywhere

CLOSE = 1e-14
"""As near as double precision comes."""

MOST_STEPS = 100


def falling_root(
    falls: Callable[[Array], Array], low: Array, high: Array, close: float = CLOSE
) -> Array:
    """Return where `falls` goes through zero between `low` and `high`, element by element.

    Chandrupatla's method: inverse quadratic interpolation where it is safe, bisection where it
    is not. (T. R. Chandrupatla, Adv. Eng. Software 28, 1997, 145-149; from memory.)

    Parameters
    ----------
    falls : callable
        Falling function of arrays; it need be neither smooth nor of one sign at the ends.
    low, high : array_like
        Ends of the brackets, of the shape that `falls` takes and gives. Where the function is
        below zero at `low`, the answer is `low`; where it is above zero at `high`, `high`.
    close : float
        Relative width of a bracket at which a root counts as found.
    """
    low, high = np.broadcast_arrays(np.asarray(low, float), np.asarray(high, float))
    a, b = high.copy(), low.copy()
    fa, fb = falls(a), falls(b)
    settled = np.where(fb <= 0, low, np.where(fa >= 0, high, np.nan))
    outside = ~np.isnan(settled)
    a, fa = np.where(outside, b, a), np.where(outside, -fb, fa)
    c, fc = a, fa
    step = np.full(a.shape, 0.5)
    for _ in range(MOST_STEPS):
        x = a + step * (b - a)
        fx = falls(x)
        same = np.sign(fx) == np.sign(fa)
        c, fc = np.where(same, a, b), np.where(same, fa, fb)
        b, fb = np.where(same, b, a), np.where(same, fb, fa)
        a, fa = x, fx
        best = np.where(np.abs(fa) < np.abs(fb), a, b)
        width = np.abs(b - a)
        near = 2 * close * np.abs(best) + 1e-300
        done = outside | (width <= near) | (fa == 0) | (fb == 0)
        if np.all(done):
            break
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            xi, phi = (a - b) / (c - b), (fa - fb) / (fc - fb)
            safe = (phi * phi < xi) & ((1 - phi) * (1 - phi) < 1 - xi)
            guess = fa / (fb - fa) * fc / (fb - fc)
            guess = guess + (c - a) / (b - a) * fa / (fc - fa) * fb / (fc - fb)
            least = np.minimum(0.5, near / (2 * width))
        step = np.clip(np.where(safe, guess, 0.5), least, 1 - least)
        step = np.where(done, 0.0, step)
    return np.where(outside, settled, best)


SECANTS = 5

SETTLED = 1e-9
"""A step so short, as a share of where it is, is the last: the error falls faster than that."""


def root_near(smooth: Callable[[Array], Array], guess: Array, steps: int = SECANTS) -> Array:
    """Return roots of a smooth function near positive guesses, by a few steps of the secant.

    Nothing is promised: where a root is not near, the outcome is no root. The caller asks.
    """
    before, now = guess * 1.02, guess
    f_before, f_now = smooth(before), smooth(now)
    for count in range(steps):
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            step = f_now * (now - before) / (f_now - f_before)
        step = np.where(np.isfinite(step), step, 0.0)
        last = count == steps - 1 or (count > 1 and everywhere(np.abs(step) <= SETTLED * now))
        before, f_before = now, f_now
        now = np.minimum(np.maximum(now - step, 0.4 * now), 2.5 * now)
        if last:
            break
        f_now = smooth(now)
    return now
