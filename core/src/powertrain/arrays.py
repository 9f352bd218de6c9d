"""One drive or a million: the same dataclasses hold numbers or arrays of numbers.

A *part* here is a frozen dataclass whose fields are numbers, arrays, tuples of them, or other
such dataclasses. Fields of one part broadcast against one another and against the speeds they
are asked about. These helpers stack parts, give them another axis, or pick some of them,
without any part having to know how.
"""

from collections.abc import Callable, Sequence
from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar, cast

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
"""Floats of any shape, a plain number (shape ``()``) included."""

Part = TypeVar("Part")


def scalar(value: float) -> Array:
    """Return a plain number as an array of shape ``()``; NumPy's own scalar, which is quickest.

    An array stays one, so that a document whose values are arrays makes a part of arrays.
    """
    return cast(Array, np.float64(value))


def each_field(part: Part, change: Callable[[Any], Any]) -> Part:
    """Return `part` with `change` applied to every number or array in it."""
    return _mapped(part, change)  # type: ignore[no-any-return]


def _mapped(value: Any, change: Callable[[Any], Any]) -> Any:
    if is_dataclass(value) and not isinstance(value, type):
        changed = {f.name: _mapped(getattr(value, f.name), change) for f in fields(value)}
        return replace(value, **changed)
    if isinstance(value, tuple):
        return tuple(_mapped(item, change) for item in value)
    return change(value)


def with_axis(part: Part) -> Part:
    """Return `part` with a last axis of length one, to broadcast against a row of speeds."""
    return each_field(part, lambda value: np.asarray(value)[..., None])


def pick(part: Part, index: Any) -> Part:
    """Return the drives of `part` that `index` selects; fields that don't vary stay as they are."""
    return each_field(part, lambda value: value if np.ndim(value) == 0 else value[index])


def rows_of(part: Any) -> int | None:
    """Return how many drives a flat array of them holds, None for a single one."""
    counts: set[int] = set()

    def count(value: Any) -> Any:
        if np.ndim(value) == 1:
            counts.add(np.size(value))
        return value

    each_field(part, count)
    return max(counts, default=None)


def choose(condition: Any, chosen: Part, otherwise: Part) -> Part:
    """Return `chosen` where `condition` holds and `otherwise` elsewhere, number by number."""
    return _chosen(condition, chosen, otherwise)  # type: ignore[no-any-return]


def _chosen(condition: Any, chosen: Any, otherwise: Any) -> Any:
    if is_dataclass(chosen) and not isinstance(chosen, type):
        names = [f.name for f in fields(chosen)]
        pairs = {n: _chosen(condition, getattr(chosen, n), getattr(otherwise, n)) for n in names}
        return replace(chosen, **pairs)
    if isinstance(chosen, tuple):
        pairs_of = zip(chosen, otherwise, strict=True)
        return tuple(_chosen(condition, one, other) for one, other in pairs_of)
    return np.where(condition, chosen, otherwise)


def stack(parts: Sequence[Part]) -> Part:
    """Return one part whose fields are arrays over `parts`, in order.

    All parts must be of one kind and hold the same number of items in each tuple.
    """
    return _stacked(list(parts))  # type: ignore[no-any-return]


def _stacked(values: list[Any]) -> Any:
    first = values[0]
    if is_dataclass(first) and not isinstance(first, type):
        if any(type(value) is not type(first) for value in values):
            raise TypeError("parts of different kinds can't share one array")
        columns = {f.name: _stacked([getattr(v, f.name) for v in values]) for f in fields(first)}
        return replace(first, **columns)
    if isinstance(first, tuple):
        return tuple(_stacked(list(items)) for items in zip(*values, strict=True))
    return np.array(values)
