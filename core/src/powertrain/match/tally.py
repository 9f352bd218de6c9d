"""What became of the candidates: counted by the first reason for which each falls out."""

from collections import Counter
from dataclasses import dataclass, field

import numpy as np

from powertrain.arrays import filled
from powertrain.match.wish import Mask

MOST_TRIOS = 200_000
"""Motors, controllers and packs that are remembered with their best gearing."""


@dataclass
class Tally:
    """What became of the candidates so far."""

    considered: int
    to_solve: int = 0
    solved: int = 0
    feasible: int = 0
    rejected: Counter[str] = field(default_factory=Counter)
    by_trio: dict[tuple[int, int, int], tuple[int, float, int]] = field(default_factory=dict)
    """For each motor, controller and pack: how many gearings do, the best score and which."""

    def keep_best_trios(self) -> None:
        """Forget the worst trios where there are too many; each has had all of its gearings."""
        if len(self.by_trio) > MOST_TRIOS:
            best = sorted(self.by_trio.items(), key=lambda item: (-item[1][1], item[0]))
            self.by_trio = dict(best[: MOST_TRIOS // 2])

    def reject(self, reason: str, count: int) -> None:
        """Count candidates that a reason rules out."""
        if count:
            self.rejected[reason] += int(count)

    def sieve(self, alive: Mask, passes: Mask, reason: str, each: int = 1) -> Mask:
        """Return what is alive and passes, and count what falls out, `each` times over."""
        passes = filled(passes, alive.shape)
        self.reject(reason, int(np.count_nonzero(alive & ~passes)) * each)
        return alive & passes
