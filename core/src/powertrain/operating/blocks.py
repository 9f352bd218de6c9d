"""Many drives, block by block: memory stays flat and the numbers stay in the cache."""

from collections.abc import Callable

import numpy as np

from powertrain.arrays import Array, pick
from powertrain.drive import Drive

BLOCK = 8192


def in_blocks(drives: Drive, count: int, ask: Callable[[Drive], Array]) -> Array:
    """Return what `ask` answers for each of `count` drives held in one array.

    Parameters
    ----------
    drives : Drive
        Fields that vary have the shape ``(count,)``, others ``()``.
    ask : callable
        A question with one number for each drive, such as `top_speed_mps` at a grade.
    """
    answers = np.empty(count)
    for start in range(0, count, BLOCK):
        block = slice(start, min(start + BLOCK, count))
        answers[block] = ask(pick(drives, block))
    return answers
