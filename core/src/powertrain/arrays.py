"""One drive or a million: the same dataclasses hold numbers or arrays of numbers.

A *part* here is a frozen dataclass whose fields are numbers, arrays, tuples of them, or other
such dataclasses. Fields of one part broadcast against one another and against the speeds they
are asked about. These helpers stack parts, give them another axis, or pick some of them,
without any part having to know how.
"""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import fields, is_dataclass, replace
from functools import cache, reduce
from typing import Any, TypeVar, cast

import numpy as np
from numpy.typing import NDArray

from powertrain.tracing.traced import is_traced as is_traced
from powertrain.tracing.traced import set_aside as set_aside

Array = NDArray[np.float64]
"""Floats of any shape, a plain number (shape ``()``) included."""

Part = TypeVar("Part")


def scalar(value: float) -> Array:
    """Return a plain number as an array of shape ``()``; NumPy's own scalar, which is quickest.

    An array stays one, so that a document whose values are arrays makes a part of arrays.
    """
    return value if isinstance(value, np.ndarray) else cast(Array, np.float64(value))


def scalar_or(value: float | None, otherwise: float) -> Array:
    """Return `scalar` of a value that a document may leave out."""
    return scalar(otherwise if value is None else value)


def floats(value: Any) -> Array:
    """Return numbers as an array of floats; one that is an array already as it is."""
    return value if isinstance(value, np.ndarray) else np.asarray(value, float)


def greatest(*values: Array) -> Array:
    """Return the greatest of some arrays, number by number."""
    return reduce(np.maximum, values)


def least(*values: Array) -> Array:
    """Return the least of some arrays, number by number."""
    return reduce(np.minimum, values)


def somewhere(mask: Any) -> bool:
    """Return whether a condition holds for any element; of one number alone without a detour."""
    return bool(mask) if mask.__class__ in _ONE else bool(mask.any())


def everywhere(mask: Any) -> bool:
    """Return whether a condition holds for all elements; see `somewhere`."""
    return bool(mask) if mask.__class__ in _ONE else bool(mask.all())


_ONE = (np.bool_, bool)


def is_nought(value: Any) -> bool:
    """Return whether `value` is a plain zero, so that a term with it can be left out."""
    return value.__class__ is np.float64 and bool(value == 0.0)


def each_array(part: Part, change: Callable[[Array], Any]) -> Part:
    """Return `part` with `change` applied to every array in it; plain numbers stay as they are."""
    return _mapped(part, change)  # type: ignore[no-any-return]


def _mapped(value: Any, change: Callable[[Array], Any]) -> Any:
    if isinstance(value, np.ndarray):
        return change(value) if value.ndim else value
    kind = value.__class__
    if kind is tuple:
        return tuple(_mapped(item, change) for item in value)
    names = _field_names(kind)
    if names is None:
        return value
    # As `dataclasses.replace`, without its calls of __init__: there are many parts in one answer.
    copy = object.__new__(kind)
    held, made = value.__dict__, copy.__dict__
    for name in names:
        inner = held[name]
        made[name] = inner if inner.__class__ is np.float64 else _mapped(inner, change)
    return copy


@cache
def _field_names(kind: type) -> tuple[str, ...] | None:
    """Return the names of a dataclass's fields, None for any other type."""
    return tuple(f.name for f in fields(kind)) if is_dataclass(kind) else None


def with_axis(part: Part) -> Part:
    """Return `part` with a last axis of length one, to broadcast against a row of speeds."""
    return each_array(part, lambda value: value[..., None])


def pick(part: Part, index: Any) -> Part:
    """Return the drives of `part` that `index` selects; fields that don't vary stay as they are."""
    return each_array(part, lambda value: value[index])


def shape_of(part: Any) -> tuple[int, ...]:
    """Return the shape that the fields of a part have together; ``()`` for a single one."""
    return np.broadcast_shapes(*set(_shapes(part)))


def _shapes(value: Any) -> Iterator[tuple[int, ...]]:
    if isinstance(value, np.ndarray):
        yield value.shape
        return
    if value.__class__ is tuple:
        items: Iterable[Any] = value
    else:
        names = _field_names(value.__class__)
        items = () if names is None else (value.__dict__[name] for name in names)
    for item in items:
        if item.__class__ is not np.float64:
            yield from _shapes(item)


Kind = TypeVar("Kind", bound=np.generic)


def filled(value: NDArray[Kind], shape: tuple[int, ...]) -> NDArray[Kind]:
    """Return `value` with a whole `shape`; the same array where it has it already."""
    return value if np.shape(value) == shape else np.broadcast_to(value, shape)


def choose(condition: Any, chosen: Part, otherwise: Part) -> Part:
    """Return `chosen` where `condition` holds and `otherwise` elsewhere, number by number."""
    return _chosen(condition, chosen, otherwise)  # type: ignore[no-any-return]


def _chosen(condition: Any, chosen: Any, otherwise: Any) -> Any:
    names = _field_names(chosen.__class__)
    if names is not None:
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
    if first is None:
        return None
    if is_dataclass(first) and not isinstance(first, type):
        if any(type(value) is not type(first) for value in values):
            raise TypeError("parts of different kinds can't share one array")
        columns = {f.name: _stacked([getattr(v, f.name) for v in values]) for f in fields(first)}
        return replace(first, **columns)
    if isinstance(first, tuple):
        return tuple(_stacked(list(items)) for items in zip(*values, strict=True))
    return np.array(values)
