"""Numbers of the engine as plain numbers and words, which know neither NaN nor infinity."""

import math
from typing import Any, cast

import numpy as np

from powertrain.operating.limits import Limit, LimitWord

_WORDS = {int(limit): cast(LimitWord | None, limit.words) for limit in Limit}


def number(value: Any) -> float | None:
    """Return a plain float, None for what is not finite."""
    plain = float(value)
    return plain if math.isfinite(plain) else None


def listed(values: Any) -> list[float]:
    """Return an array as a list of plain floats."""
    plain: list[float] = np.asarray(values, float).tolist()
    return plain


def limit_word(code: Any) -> LimitWord | None:
    """Return the open formats' name of a limit."""
    return _WORDS[int(code)]


def two_digits(value: float) -> str:
    """Return a number with the two digits that count, and no powers of ten."""
    return f"{float(f'{value:.2g}'):,g}"
