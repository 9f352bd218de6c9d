"""Lumps that store heat, in closed form: a motor of two, a controller or a pack of one.

The copper's heat rises with its own temperature, which keeps the equations linear:
``C1 T1' = Pc (1 + alpha (T1 - T_ref)) + P1 - (T1 - T2)/R12``,
``C2 T2' = P2 + (T1 - T2)/R12 - G (T2 - T_air)``.
Where ``alpha Pc (R12 + 1/G) >= 1`` there is no steady temperature: the copper runs away.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, filled

COPPER_PER_K = 0.00393
"""Temperature coefficient of annealed copper at 20 C (IEC 60028)."""

LONGEST_S = 3e5
"""Three days and a half: a limit not reached by then is not reached."""

LOG_STEPS = 150
LOG_TIMES = np.linspace(np.log(1e-3), np.log(LONGEST_S), LOG_STEPS)
"""Times at which a rise is looked at, to begin the search for the time of a limit."""

NEWTON_STEPS = 2
"""Newton's steps from there, on the logarithm of the time; the rates are known. The look leaves
an error of about a thousandth, the first step one of its square."""

MOST_EXPONENT = 60.0
"""Keeps a run-away finite in arithmetic; nothing of copper is left long before."""


@dataclass(frozen=True)
class TwoNodes:
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
        return np.asanyarray(self._spare <= 0)

    def steady_k(self) -> tuple[Array, Array]:
        """Return winding and case once nothing changes any more; infinite where it runs away."""
        g, h, slope = self.between_w_per_k, self.to_air_w_per_k, self.copper_slope_w_per_k
        spare = self._spare
        with np.errstate(divide="ignore", invalid="ignore"):
            winding = (self.winding_w * (g + h) + g * self.case_w) / spare
            case = (g * self.winding_w + (g - slope) * self.case_w) / spare
        away = spare <= 0
        return np.where(away, np.inf, winding), np.where(away, np.inf, case)

    def seconds_until(
        self,
        limits_k: tuple[Array, Array],
        ends_k: tuple[Array, Array],
        begins_k: tuple[Array, Array],
    ) -> tuple[Array, Array]:
        """Return when winding and case pass their limits, having stood at `begins_k`.

        Infinite where they never do; `ends_k` is where they end.
        """
        shape = np.broadcast_shapes(*(np.shape(end) for end in (*ends_k, *begins_k)))
        steps = LOG_TIMES.reshape(-1, *(1 for _ in shape))
        # One look at all times serves both, and so does each step of the search.
        over = np.stack(
            [
                filled(at - limit, (LOG_STEPS, *shape))
                for at, limit in zip(self.after_k(np.exp(steps), *begins_k), limits_k, strict=True)
            ],
            axis=1,
        )
        first = np.maximum(np.argmax(over >= 0, axis=0), 1)
        below = np.take_along_axis(over, first[None] - 1, axis=0)[0]
        above = np.take_along_axis(over, first[None], axis=0)[0]
        low, high = LOG_TIMES[first - 1], LOG_TIMES[first]
        with np.errstate(divide="ignore", invalid="ignore"):
            logs = np.where(above > below, low - below * (high - low) / (above - below), low)
        limits = np.stack([filled(limit, shape) for limit in limits_k])
        for _ in range(NEWTON_STEPS):
            logs = np.clip(logs, low, high)
            times = np.exp(logs)
            winding_k, case_k = self.after_k(times, *begins_k)
            rates = np.stack(self._rates(winding_k, case_k))[[0, 1], [0, 1]]
            room = limits - np.stack([winding_k[0], case_k[1]])
            low, high = np.where(room > 0, logs, low), np.where(room > 0, high, logs)
            with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
                logs = logs + np.where(rates > 0, room / (rates * times), 0.0)
        times = np.exp(np.clip(logs, low, high))
        ends = np.stack([filled(end, shape) for end in ends_k])
        reached = (ends > limits) & np.any(over >= 0, axis=0)
        seconds = np.where(reached, times, np.inf)
        begins = np.stack([filled(begin, shape) for begin in begins_k])
        seconds = np.where(begins >= limits, 0.0, seconds)
        return seconds[0], seconds[1]

    def _rates(self, winding_k: Array, case_k: Array) -> tuple[Array, Array]:
        """Return the kelvin a second that winding and case gain."""
        through_w = self.between_w_per_k * (winding_k - case_k)
        copper_w = self.winding_w + self.copper_slope_w_per_k * winding_k
        case_w = self.case_w + through_w - self.to_air_w_per_k * case_k
        return (copper_w - through_w) / self.winding_j_per_k, case_w / self.case_j_per_k

    @cached_property
    def _modes(self) -> tuple[Array, ...]:
        """Return the matrix A by rows, and the middle and half distance of its eigenvalues."""
        g, h, slope = self.between_w_per_k, self.to_air_w_per_k, self.copper_slope_w_per_k
        a11, a12 = (slope - g) / self.winding_j_per_k, g / self.winding_j_per_k
        a21, a22 = g / self.case_j_per_k, -(g + h) / self.case_j_per_k
        mean, half = (a11 + a22) / 2, (a11 - a22) / 2
        return a11, a12, a21, a22, mean, np.sqrt(half * half + a12 * a21)

    def after_k(self, seconds: Array, winding_k: Array, case_k: Array) -> tuple[Array, Array]:
        """Return winding and case `seconds` after they stood at `winding_k` and `case_k`.

        ``x(t) = x0 + t phi(A t) (A x0 + b)`` with ``phi(z) = (e^z - 1)/z`` and the two real
        eigenvalues of A; it holds through zero and positive ones, where copper runs away.
        """
        a11, a12, a21, a22, mean, root = self._modes
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
class OneNode:
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

    def seconds_until(self, limit_k: Array, start_k: Array) -> Array:
        """Return when it passes `limit_k`, in closed form; infinite where it never does."""
        end_k = self.steady_k()
        with np.errstate(divide="ignore", invalid="ignore"):
            times = np.log((end_k - start_k) / (end_k - limit_k))
        seconds = np.where(end_k > limit_k, times * self.j_per_k / self.to_air_w_per_k, np.inf)
        return np.where(start_k >= limit_k, 0.0, seconds)


def _grown(rate: Array, seconds: Array) -> Array:
    """Return ``(e^(rate t) - 1)/rate``, which is t for a rate of nought."""
    power = np.minimum(rate * seconds, MOST_EXPONENT)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(power == 0, seconds, np.expm1(power) * seconds / power)
