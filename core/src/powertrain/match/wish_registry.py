"""Finds every wish in `powertrain.match.wishes`."""

import importlib
import pkgutil
from collections.abc import Callable, Iterator
from functools import cache
from types import ModuleType

from powertrain.documents.brief import Brief
from powertrain.match import wishes
from powertrain.match.wish import Rejection, Wished

Wish = Callable[[Brief], Iterator[Wished]]


@cache
def _modules() -> tuple[ModuleType, ...]:
    names = sorted(module.name for module in pkgutil.iter_modules(wishes.__path__))
    return tuple(importlib.import_module(f"{wishes.__name__}.{name}") for name in names)


@cache
def all_wishes() -> tuple[Wish, ...]:
    """Return the function `wished` of every module among the wishes, by module name."""
    return tuple(module.wished for module in _modules())


@cache
def rejections() -> dict[str, Rejection]:
    """Return what every module among the wishes names in its `WISHES`, by the wish's id."""
    return {name: told for module in _modules() for name, told in module.WISHES.items()}


def wishes_of(brief: Brief) -> list[Wished]:
    """Return everything that a brief asks, in the order of the modules."""
    return [wished for wish in all_wishes() for wished in wish(brief)]
