"""Finds every wish in `powertrain.match.wishes`."""

import importlib
import pkgutil
from collections.abc import Callable, Iterator
from functools import cache

from powertrain.documents.brief import Brief
from powertrain.match import wishes
from powertrain.match.wish import Wished

Wish = Callable[[Brief], Iterator[Wished]]


@cache
def all_wishes() -> tuple[Wish, ...]:
    """Return the function `wished` of every module among the wishes, by module name."""
    names = sorted(module.name for module in pkgutil.iter_modules(wishes.__path__))
    return tuple(importlib.import_module(f"{wishes.__name__}.{name}").wished for name in names)


def wishes_of(brief: Brief) -> list[Wished]:
    """Return everything that a brief asks, in the order of the modules."""
    return [wished for wish in all_wishes() for wished in wish(brief)]
