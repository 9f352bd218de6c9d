"""Operations on single numbers, written down in order, each different one once."""

import math
from collections.abc import Callable, Iterable
from typing import Any

import numpy as np


class Untraceable(Exception):
    """The code did something with a traced number that depends on which number it is."""


class TracedNumber:
    """A number or a truth value that is not known while the code runs, by its place on a trace."""

    __slots__ = ("is_truth", "place", "quick", "trace")

    def __init__(self, trace: "Trace", place: int, is_truth: bool, quick: bool) -> None:
        """Take a place on a trace; `quick` is what differs from one candidate to the next."""
        self.trace, self.place, self.is_truth, self.quick = trace, place, is_truth, quick

    def __bool__(self) -> bool:
        raise Untraceable("a traced number decides what is done")

    def __float__(self) -> float:
        raise Untraceable("a traced number is asked for its value")

    def _alone(self, *others: Any) -> Any:
        raise Untraceable("a traced number outside of a traced array")

    __int__ = __index__ = __complex__ = __float__
    __add__ = __radd__ = __sub__ = __rsub__ = __mul__ = __rmul__ = _alone
    __truediv__ = __rtruediv__ = __pow__ = __neg__ = __abs__ = _alone
    __lt__ = __le__ = __gt__ = __ge__ = _alone


Item = Any
"""A `TracedNumber`, or a plain float or bool."""

ARITHMETIC = ("add", "subtract", "multiply", "divide")
COMPARISONS = ("less", "less_equal", "greater", "greater_equal", "equal", "not_equal")
FUNCTIONS = ("exp", "expm1", "log", "log1p", "sin", "cos", "tan", "arctan", "tanh", "power")
LOGICAL = ("logical_and", "logical_or", "logical_not")
TRUTHS = (*COMPARISONS, *LOGICAL)

CALLS = {
    **{name: getattr(np, name) for name in (*ARITHMETIC, *COMPARISONS, *FUNCTIONS)},
    **{name: getattr(np, f"logical_{name[8:]}") for name in TRUTHS if name.startswith("logical")},
    **{
        name: getattr(np, name)
        for name in ("negative", "absolute", "sqrt", "maximum", "minimum", "where")
    },
}
"""NumPy's function for every operation on a trace."""

ALIASES = {
    "bitwise_and": "logical_and",
    "bitwise_or": "logical_or",
    "invert": "logical_not",
    "float_power": "power",
    "fabs": "absolute",
}


class Trace:
    """What was done, as rows of an operation and the places or plain values it was done to."""

    def __init__(self) -> None:
        """Begin an empty trace."""
        self.rows: list[tuple[str, tuple[Item, ...]]] = []
        self.traces: list[TracedNumber] = []
        self.set_aside: list[Item] = []
        """Where, if any is true, the code would have gone on otherwise; see `numbers.set_aside`."""
        self._known: dict[tuple[Any, ...], Item] = {}

    def input(self, name: str, *, quick: bool) -> TracedNumber:
        """Return a number that is given when the trace is run."""
        return self._note("input", (name,), is_truth=False, quick=quick)

    def apply(self, name: str, items: tuple[Item, ...]) -> Item:
        """Return what a NumPy function of single numbers gives, traced unless it is plain."""
        for item in items:
            # True is equal to one, and nought to minus nought, and yet they are not the same.
            if item.__class__ is bool or (item == 0 and math.copysign(1.0, item) < 0):
                return self._apply(ALIASES.get(name, name), items)
        key = (name, *items)
        known = self._known.get(key)
        if known is None:
            known = self._known[key] = self._apply(ALIASES.get(name, name), items)
        return known

    def _apply(self, name: str, items: tuple[Item, ...]) -> Item:
        rewritten = _REWRITTEN.get(name)
        if rewritten is not None:
            return rewritten(self, *items)
        if name not in CALLS:
            raise Untraceable(f"no trace of {name}")
        traced = [item for item in items if item.__class__ is TracedNumber]
        if not traced:
            with np.errstate(all="ignore"):
                return CALLS[name](*items).item()
        if len(traced) < len(items) or name == "where":
            short = _shorter(name, items)
            if short is not None:
                return short
        quick = is_truth = False
        for item in traced:
            quick, is_truth = quick or item.quick, is_truth or item.is_truth
        if name == "where":
            truth = _is_truth(items[1]) and _is_truth(items[2])
            if not truth:
                items = (items[0], self._as_number(items[1]), self._as_number(items[2]))
        else:
            truth = name in TRUTHS
            if is_truth and name not in LOGICAL:
                items = tuple(self._as_number(item) for item in items)
        return self._note(name, items, is_truth=truth, quick=quick)

    def needed(self, items: Iterable[Item], wanted: Callable[[TracedNumber], bool]) -> list[int]:
        """Return the places that lead to some items, in order; not beyond those not `wanted`."""
        found: set[int] = set()
        waiting = [item for item in items if item.__class__ is TracedNumber and wanted(item)]
        while waiting:
            place = waiting.pop().place
            if place not in found:
                found.add(place)
                waiting += [
                    item
                    for item in self.rows[place][1]
                    if item.__class__ is TracedNumber and wanted(item)
                ]
        return sorted(found)

    def _note(
        self, name: str, items: tuple[Item, ...], *, is_truth: bool, quick: bool
    ) -> TracedNumber:
        traced = TracedNumber(self, len(self.rows), is_truth, quick)
        self.rows.append((name, items))
        self.traces.append(traced)
        return traced

    def _as_number(self, item: Item) -> Item:
        if item.__class__ is TracedNumber and item.is_truth:
            return self.apply("where", (item, 1.0, 0.0))
        return float(item) if item.__class__ is bool else item


def plain_key(item: Item) -> tuple[Any, ...]:
    """Return what tells a plain value from all others."""
    # Nought and minus nought are equal and yet not the same; a NaN is not even equal to itself.
    return (item.__class__, str(item)) if item == 0 or item != item else (item.__class__, item)


def _is_truth(item: Item) -> bool:
    return bool(item.is_truth) if item.__class__ is TracedNumber else item.__class__ is bool


def _shorter(name: str, items: tuple[Item, ...]) -> Item:
    """Return the outcome where it needs no operation, exactly as NumPy has it; else None."""
    first = items[0]
    if name == "where":
        if first.__class__ is not TracedNumber:
            return items[1] if first else items[2]
        return items[1] if items[1] is items[2] else None
    if len(items) < 2:
        return None
    for one, other in (items, items[::-1]):
        if other.__class__ is TracedNumber:
            continue
        if name in ("logical_and", "logical_or"):
            return one if bool(other) == (name == "logical_and") else bool(other)
        if name == "multiply" and other == 1.0:
            return one
        if name == "maximum" and other == -math.inf:
            return one
        if name == "minimum" and other == math.inf:
            return one
    if items[1].__class__ is not TracedNumber:
        if name == "divide" and items[1] == 1.0:
            return first
        if name == "power" and items[1] in (2.0, 0.5):
            apply = first.trace.apply
            return apply("sqrt", (first,)) if items[1] == 0.5 else apply("multiply", (first, first))
        if (name, items[1]) in (("greater", math.inf), ("less", -math.inf)):
            return False
    if items[0].__class__ is not TracedNumber and (name, first) in (
        ("less", math.inf),
        ("greater", -math.inf),
    ):
        return False
    return None


def _clip(trace: Trace, value: Item, low: Item, high: Item) -> Item:
    least = value if low is None else trace.apply("maximum", (value, low))
    return least if high is None else trace.apply("minimum", (least, high))


def _sign(trace: Trace, value: Item) -> Item:
    below = trace.apply("where", (trace.apply("less", (value, 0.0)), -1.0, value))
    return trace.apply("where", (trace.apply("greater", (value, 0.0)), 1.0, below))


def _hypot(trace: Trace, one: Item, other: Item) -> Item:
    squares = (trace.apply("multiply", (side, side)) for side in (one, other))
    return trace.apply("sqrt", (trace.apply("add", tuple(squares)),))


def _known_or(choice: str) -> Any:
    """Return fmin or fmax: what is not a number does not count."""

    def chosen(trace: Trace, one: Item, other: Item) -> Item:
        both = trace.apply(choice, (one, other))
        rest = trace.apply("where", (trace.apply("isnan", (other,)), one, both))
        return trace.apply("where", (trace.apply("isnan", (one,)), other, rest))

    return chosen


_REWRITTEN = {
    "positive": lambda trace, value: value,
    "square": lambda trace, value: trace.apply("multiply", (value, value)),
    "reciprocal": lambda trace, value: trace.apply("divide", (1.0, value)),
    "clip": _clip,
    "sign": _sign,
    "hypot": _hypot,
    "fmin": _known_or("minimum"),
    "fmax": _known_or("maximum"),
    "isnan": lambda trace, value: trace.apply("not_equal", (value, value)),
    "isfinite": lambda trace, value: trace.apply(
        "less", (trace.apply("absolute", (value,)), math.inf)
    ),
    "isinf": lambda trace, value: trace.apply(
        "equal", (trace.apply("absolute", (value,)), math.inf)
    ),
}
"""What is the same as a few simpler operations."""
