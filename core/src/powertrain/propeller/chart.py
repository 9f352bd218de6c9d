"""Coefficients of propellers over advance ratio, as numbers that can be asked by the million.

What is stated in a table is that table; else the generic blade's, worked out once for each shape
on a grid of advance ratios and tip speeds and read between its points, so that Reynolds and Mach
numbers follow the turns.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, floats, scalar
from powertrain.propeller.blade import coefficients

Places = NDArray[np.intp]

TIP_MPS = np.array([4.0, 12.0, 30.0, 70.0, 130.0, 200.0, 250.0, 290.0, 330.0])
POINTS = 61
BEYOND = 0.45
"""Advance ratio beyond the pitch ratio up to which the grid goes; there blades brake."""


class Charts:
    """Coefficients of some propellers, each at its own advance ratios.

    It is no part in the sense of `powertrain.arrays`: nothing changes or picks its arrays.

    Parameters
    ----------
    advance : array_like
        Rising advance ratios, ``(propellers, points)``.
    tips : array_like
        Tip speeds of the rows in m/s, ``(rows,)``; one where they do not matter.
    ct, cp : array_like
        ``(propellers, rows, points)``.
    """

    __slots__ = ("_logs", "advance", "cp", "ct", "tips")

    def __init__(self, advance: Array, tips: Array, ct: Array, cp: Array) -> None:
        self.advance, self.tips, self.ct, self.cp = advance, tips, ct, cp
        self._logs = np.log(tips)

    def at(self, which: Array, advance: Array, tip_mps: Array) -> tuple[Array, Array]:
        """Return C_T and C_P: straight between points, by the end slopes beyond them.

        Parameters
        ----------
        which : array_like
            Which propeller, from nought.
        """
        which, advance, tip_mps = np.broadcast_arrays(which, floats(advance), floats(tip_mps))
        own: Places = which.astype(np.intp)
        place = self._place(own, advance)
        points, rows = self.advance.shape[1], len(self.tips)
        first = own * points + place
        low, high = self.advance.take(first), self.advance.take(first + 1)
        part = (advance - low) / (high - low)
        if rows == 1:
            return self._between(self.ct, first, part), self._between(self.cp, first, part)
        tip = np.log(np.clip(tip_mps, self.tips[0], self.tips[-1]))
        found = np.asarray(np.searchsorted(self._logs, tip, side="right"), np.intp)
        row: Places = np.clip(found - 1, 0, rows - 2)
        share = (tip - self._logs[row]) / (self._logs[row + 1] - self._logs[row])
        first = (own * rows + row) * points + place
        ct, cp = (
            (1 - share) * self._between(values, first, part)
            + share * self._between(values, first + points, part)
            for values in (self.ct, self.cp)
        )
        return ct, cp

    def _place(self, own: Places, advance: Array) -> Places:
        if len(self.advance) == 1:
            found = np.searchsorted(self.advance[0], advance, side="right") - 1
        else:
            # Several are generic ones, whose points lie evenly.
            found = np.floor(advance / self.advance[own, 1]).astype(np.intp)
        return np.clip(found, 0, self.advance.shape[1] - 2)

    @staticmethod
    def _between(values: Array, first: Places, part: Array) -> Array:
        """Return what lies a part of the way from one place of all values to the next."""
        low = values.take(first)
        return np.asarray(low + part * (values.take(first + 1) - low))


@lru_cache(maxsize=2048)
def generic_chart(pitch_ratio: float, blades: int, diameter_m: float) -> Charts:
    """Return the chart of a generic propeller, in air as it is at the sea.

    Thinner air lowers Reynolds numbers by its share, which moves nothing that a propeller of this
    kind is known to.
    """
    advance = np.linspace(0.0, pitch_ratio + BEYOND, POINTS)
    found = coefficients(
        scalar(pitch_ratio),
        scalar(blades),
        advance,
        TIP_MPS[:, None],
        scalar(diameter_m),
        scalar(1.225),
    )
    return Charts(advance[None], TIP_MPS, found.ct[None], found.cp[None])


def stated_chart(advance: Array, ct: Array, cp: Array) -> Charts:
    """Return the chart of a table; the tips' speed does not matter to it."""
    return Charts(advance[None], np.array([100.0]), ct[None, None, :], cp[None, None, :])


def together(charts: list[Charts]) -> Charts:
    """Return generic charts as one, each found by its place."""
    return Charts(
        np.concatenate([one.advance for one in charts]),
        charts[0].tips,
        np.concatenate([one.ct for one in charts]),
        np.concatenate([one.cp for one in charts]),
    )
