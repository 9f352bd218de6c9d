"""Lumps that store heat, in closed form: a motor of two, a controller or a pack of one.

The copper's heat rises with its own temperature, which keeps the equations linear:
``C1 T1' = Pc (1 + alpha (T1 - T_ref)) + P1 - (T1 - T2)/R12``,
``C2 T2' = P2 + (T1 - T2)/R12 - G (T2 - T_air)``.
Where ``alpha Pc (R12 + 1/G) >= 1`` there is no steady temperature: the copper runs away.
"""

from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.operating.roots import falling_root

COPPER_PER_K = 0.00393
"""Temperature coefficient of annealed copper at 20 C (IEC 60028)."""

LONGEST_S = 3e5
"""Three days and a half: a limit not reached by then is not reached."""

MOST_EXPONENT = 60.0
"""Keeps a run-away finite in arithmetic; nothing of copper is left long before."""


@dataclass(frozen=True)
class TwoLumps:
    """Winding and case under steady heat; arrays of any shape that broadcast.

    Temperatures are in kelvin above the air, heats in watts at the copper's reference
    temperature; `copper_slope_w_per_k` is ``alpha Pc``.
    """

    winding_j_per_k: Array
    case_j_per_k: Array
    between_w_per_k: Array
    to_air_w_per_k: Array
    winding_w: Array
    case_w: Array
    copper_slope_w_per_k: Array

    @property
    def _spare(self) -> Array:
        g, h = self.between_w_per_k, self.to_air_w_per_k
        return g * h - self.copper_slope_w_per_k * (g + h)

    @property
    def runs_away(self) -> NDArray[np.bool_]:
        """Return where there is no steady temperature."""
        return np.asarray(self._spare <= 0)

    def steady_k(self) -> tuple[Array, Array]:
        """Return winding and case once nothing changes any more; infinite where it runs away."""
        g, h, slope = self.between_w_per_k, self.to_air_w_per_k, self.copper_slope_w_per_k
        spare = self._spare
        with np.errstate(divide="ignore", invalid="ignore"):
            winding = (self.winding_w * (g + h) + g * self.case_w) / spare
            case = (g * self.winding_w + (g - slope) * self.case_w) / spare
        away = spare <= 0
        return np.where(away, np.inf, winding), np.where(away, np.inf, case)

    def after_k(self, seconds: Array, winding_k: Array, case_k: Array) -> tuple[Array, Array]:
        """Return winding and case `seconds` after they stood at `winding_k` and `case_k`.

        ``x(t) = x0 + t phi(A t) (A x0 + b)`` with ``phi(z) = (e^z - 1)/z`` and the two real
        eigenvalues of A; it holds through zero and positive ones, where copper runs away.
        """
        g, h, slope = self.between_w_per_k, self.to_air_w_per_k, self.copper_slope_w_per_k
        a11, a12 = (slope - g) / self.winding_j_per_k, g / self.winding_j_per_k
        a21, a22 = g / self.case_j_per_k, -(g + h) / self.case_j_per_k
        mean, half = (a11 + a22) / 2, (a11 - a22) / 2
        root = np.sqrt(half * half + a12 * a21)
        fast, slow = mean - root, mean + root
        v1 = a11 * winding_k + a12 * case_k + self.winding_w / self.winding_j_per_k
        v2 = a21 * winding_k + a22 * case_k + self.case_w / self.case_j_per_k
        grown_slow, grown_fast = _grown(slow, seconds), _grown(fast, seconds)
        mix = (grown_slow - grown_fast) / (2 * root)
        common = grown_slow - mix * slow
        return (
            winding_k + common * v1 + mix * (a11 * v1 + a12 * v2),
            case_k + common * v2 + mix * (a21 * v1 + a22 * v2),
        )


@dataclass(frozen=True)
class OneLump:
    """One lump under steady heat, in kelvin above the air."""

    j_per_k: Array
    to_air_w_per_k: Array
    heat_w: Array

    def steady_k(self) -> Array:
        """Return the temperature once nothing changes any more."""
        return self.heat_w / self.to_air_w_per_k

    def after_k(self, seconds: Array, start_k: Array) -> Array:
        """Return the temperature `seconds` after it stood at `start_k`."""
        rate = -self.to_air_w_per_k / self.j_per_k
        change = rate * start_k + self.heat_w / self.j_per_k
        return start_k + _grown(rate, seconds) * change


def _grown(rate: Array, seconds: Array) -> Array:
    """Return ``(e^(rate t) - 1)/rate``, which is t for a rate of nought."""
    power = np.minimum(rate * seconds, MOST_EXPONENT)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(power == 0, seconds, np.expm1(power) * seconds / power)


class Rising(Protocol):
    """A temperature over time; a name for the type of `seconds_until`."""

    def __call__(self, seconds: Array) -> Array:
        """Return the temperature after `seconds`."""
        ...


def seconds_until(limit_k: Array, at: Rising, start_k: Array, steady_k: Array) -> Array:
    """Return when a rising temperature passes `limit_k`; infinite where it never does.

    Parameters
    ----------
    at : callable
        The temperature after so many seconds, an array function of an array.
    start_k, steady_k : array_like
        Where it stands and where it ends.
    """
    limit_k, start_k, steady_k = np.broadcast_arrays(limit_k, start_k, steady_k)
    never = steady_k <= limit_k
    logs = falling_root(
        lambda log_s: np.where(never, -1.0, limit_k - at(np.exp(log_s))),
        np.full(limit_k.shape, -7.0),
        np.full(limit_k.shape, np.log(LONGEST_S)),
    )
    seconds = np.where(never | (logs >= np.log(LONGEST_S)), np.inf, np.exp(logs))
    return np.where(start_k >= limit_k, 0.0, seconds)
