"""Arrays of traced numbers, which NumPy's own functions take as they take any array."""

from collections.abc import Callable
from functools import reduce
from typing import Any

import numpy as np

from powertrain.tracing.trace import Item, Trace, TracedNumber, Untraceable

SHAPELY = {
    np.broadcast_to,
    np.stack,
    np.concatenate,
    np.reshape,
    np.ravel,
    np.expand_dims,
    np.squeeze,
    np.moveaxis,
    np.atleast_1d,
    np.transpose,
    np.repeat,
}
"""Functions that only move items about."""


class TracedArray(np.ndarray):
    """An array whose items are `TracedNumber` or plain.

    The candidates' axis has length one: what is traced is the solving of one of them. A
    question whether any or all of them are so is answered so that the general way is taken.
    """

    __array_priority__ = 100.0
    only: TracedNumber
    """The one item, of an array of one."""

    def __array_ufunc__(self, ufunc: Any, method: str, *inputs: Any, **kwargs: Any) -> Any:
        """Note what a universal function does to each item."""
        name = ufunc.__name__
        if method == "__call__" and not kwargs and name != "matmul":
            alone = _alone(inputs)
            if alone is not None:
                trace, numbers, shape = alone
                return _of_one(trace.apply(name, numbers), shape)
        items = [_items(value) for value in inputs]
        if method == "__call__":
            if kwargs.get("out") is not None or kwargs.get("where", True) is not True:
                raise Untraceable(f"{name} into an array")
            if name == "matmul":
                return _matmul(*items)
            trace = _tape_of(items)
            return wrapped(_each(name, ufunc.nin, trace)(*items))
        if method == "reduce":
            return _reduced(name, items[0], kwargs.get("axis", 0), kwargs.get("keepdims", False))
        raise Untraceable(f"{name}.{method}")

    def __array_function__(self, func: Any, types: Any, args: Any, kwargs: Any) -> Any:
        """Note what one of NumPy's other functions does."""
        own = _FUNCTIONS.get(func)
        if own is not None:
            return own(*args, **kwargs)
        if func in SHAPELY:
            return wrapped(func(*(_bare(arg) for arg in args), **kwargs))
        return super().__array_function__(func, types, args, kwargs)

    def __getitem__(self, index: Any) -> Any:
        """Return some items, still as an array."""
        if isinstance(index, TracedArray):
            raise Untraceable("traced numbers choose which items are taken")
        return wrapped(np.asarray(self)[index])

    def astype(self, *args: Any, **kwargs: Any) -> "TracedArray":
        """Return itself; a note has no width."""
        return self

    def copy(self, *args: Any, **kwargs: Any) -> "TracedArray":
        """Return itself; nothing is ever written into it."""
        return self

    def __setitem__(self, index: Any, value: Any) -> None:
        raise Untraceable("traced numbers are written into an array")

    def any(self, axis: Any = None, **kwargs: Any) -> Any:  # type: ignore[override]
        """Return whether any is true; with no axis, whether that may be for some candidate."""
        if axis is not None:
            return _reduced("logical_or", np.asarray(self), axis, False)
        return any(item.__class__ is TracedNumber or bool(item) for item in np.asarray(self).flat)

    def all(self, axis: Any = None, **kwargs: Any) -> Any:  # type: ignore[override]
        """Return whether all are true; with no axis, whether that is sure for all candidates."""
        if axis is not None:
            return _reduced("logical_and", np.asarray(self), axis, False)
        return all(
            item.__class__ is not TracedNumber and bool(item) for item in np.asarray(self).flat
        )


def traced_input(trace: Trace, name: str, *, quick: bool) -> TracedArray:
    """Return a number that is given when the trace is run, as an array of shape (1,)."""
    return _of_one(trace.input(name, quick=quick), (1,))  # type: ignore[no-any-return]


def _alone(inputs: Any) -> tuple[Trace, tuple[Item, ...], tuple[int, ...]] | None:
    """Return trace, items and shape where every input is one number, which nearly all are."""
    shape, trace, items = None, None, []
    for value in inputs:
        kind = value.__class__
        if kind is TracedArray:
            item = value.__dict__.get("only")
            if item is None or (shape is not None and shape != value.shape):
                return None
            shape, trace = value.shape, item.trace
        elif kind is np.float64:
            item = float(value)
        elif kind is float or kind is bool:
            item = value
        elif kind is int:
            item = float(value)
        else:
            return None
        items.append(item)
    return None if trace is None or shape is None else (trace, tuple(items), shape)


def _of_one(item: Item, shape: tuple[int, ...]) -> Any:
    """Return one number as an array: traced if it is traced, plain if not."""
    if item.__class__ is not TracedNumber:
        return np.full(shape, item)
    made = TracedArray(shape, object)
    np.ndarray.fill(made, item)
    made.only = item
    return made


def wrapped(value: Any) -> Any:
    """Return items as an array: traced, or a plain one where nothing in it is traced."""
    if not (isinstance(value, np.ndarray) and value.dtype == object):
        if not isinstance(value, TracedNumber):
            return np.asarray(value)
        item = np.empty((), object)
        item[()] = value
        value = item
    if value.size == 1:
        return _of_one(value.item(), value.shape)
    if any(item.__class__ is TracedNumber for item in value.flat):
        return value.view(TracedArray)
    return np.array(value.tolist())


def _bare(value: Any) -> Any:
    """Return traced arrays, also those in a list, without their class."""
    if isinstance(value, TracedArray):
        return np.asarray(value)
    if isinstance(value, list | tuple):
        return type(value)(_bare(item) for item in value)
    return value


def _items(value: Any) -> Any:
    if isinstance(value, TracedArray):
        return np.asarray(value)
    if isinstance(value, TracedNumber):
        return value
    return np.asarray(value).astype(object) if value is not None else None


def _tape_of(values: Any) -> Trace:
    for value in values:
        for item in value.flat if isinstance(value, np.ndarray) else (value,):
            if item.__class__ is TracedNumber:
                return item.trace
    raise Untraceable("nothing traced")


def _each(name: str, count: int, trace: Trace) -> Any:
    return np.frompyfunc(lambda *items: trace.apply(name, items), count, 1)


def _reduced(name: str, items: Any, axis: Any, keepdims: bool) -> Any:
    if isinstance(items, np.ndarray) and axis is None:
        items, axis = items.reshape(-1), 0
    if not isinstance(axis, int):
        raise Untraceable(f"{name} over several axes at once")
    both = _each(name, 2, _tape_of([items]))
    parts = [np.take(items, index, axis=axis) for index in range(items.shape[axis])]
    total = reduce(both, parts)
    return wrapped(np.expand_dims(total, axis) if keepdims else total)


def _matmul(one: Any, other: Any) -> Any:
    if one.ndim != 1:
        raise Untraceable("a product of matrices")
    column = one.reshape(-1, *(1 for _ in range(other.ndim - 1)))
    return _reduced("add", np.asarray(column.view(TracedArray) * other), 0, False)


def _where(condition: Any, one: Any, other: Any) -> Any:
    alone = _alone((condition, one, other))
    if alone is not None:
        trace, numbers, shape = alone
        return _of_one(trace.apply("where", numbers), shape)
    items = [_items(value) for value in (condition, one, other)]
    return wrapped(_each("where", 3, _tape_of(items))(*items))


def _any(value: Any, axis: Any = None, **kwargs: Any) -> Any:
    return value.any(axis=axis)


def _all(value: Any, axis: Any = None, **kwargs: Any) -> Any:
    return value.all(axis=axis)


def _sort(value: Any, axis: int = -1) -> Any:
    """Sort along one axis, by comparing neighbours until nothing can be out of place."""
    items = np.moveaxis(np.asarray(value), axis, 0)
    rows = [items[index] for index in range(len(items))]
    for end in range(len(rows) - 1, 0, -1):
        for index in range(end):
            one, other = wrapped(rows[index]), wrapped(rows[index + 1])
            # What is no number goes last.
            swap = (one > other) | np.isnan(one)
            rows[index], rows[index + 1] = np.where(swap, other, one), np.where(swap, one, other)
    return wrapped(np.moveaxis(np.stack([np.asarray(row) for row in rows]), 0, axis))


def _nan_to_num(
    value: Any, copy: bool = True, nan: float = 0.0, posinf: Any = None, neginf: Any = None
) -> Any:
    largest = np.finfo(float).max
    most = largest if posinf is None else posinf
    least = -largest if neginf is None else neginf
    high = np.where(value == np.inf, float(most), value)
    low = np.where(value == -np.inf, float(least), high)
    return np.where(np.isnan(value), float(nan), low)


def _like(fill: float) -> Callable[..., Any]:
    return lambda value, *args, **kwargs: np.full(np.shape(value), fill)


_FUNCTIONS: dict[Any, Callable[..., Any]] = {
    np.where: _where,
    np.any: _any,
    np.all: _all,
    np.sort: _sort,
    np.nan_to_num: _nan_to_num,
    np.isposinf: lambda value: value == np.inf,
    np.isneginf: lambda value: value == -np.inf,
    np.zeros_like: _like(0.0),
    np.ones_like: _like(1.0),
    np.shape: lambda value: value.shape,
    np.broadcast_arrays: lambda *arrays: [
        wrapped(item) for item in np.broadcast_arrays(*(_bare(array) for array in arrays))
    ],
    # Rounding only blurs what arithmetic may blur; the caller rounds what comes out.
    np.round: lambda value, *args, **kwargs: value,
}


def set_aside(mask: Any) -> bool:
    """Return whether any of a mask is true, where the code is to go on with those alone.

    A traced mask is set aside: candidates for which it is true are left for the ordinary way.
    """
    if not isinstance(mask, TracedArray):
        return bool(np.any(mask))
    for item in np.asarray(mask).flat:
        if item.__class__ is TracedNumber:
            item.trace.set_aside.append(item)
        elif item:
            raise Untraceable("left over for all")
    return False


def any_set_aside(trace: Trace) -> Any:
    """Return where `set_aside` set something aside, as an array of shape (1,)."""
    mask: Any = np.zeros(1, bool)
    for item in trace.set_aside:
        mask = mask | wrapped(item)
    return mask


def is_traced(value: Any) -> bool:
    """Return whether an array's numbers are traced ones."""
    return isinstance(value, TracedArray)


__all__ = ["TracedArray", "Untraceable", "any_set_aside", "is_traced", "set_aside", "traced_input"]
