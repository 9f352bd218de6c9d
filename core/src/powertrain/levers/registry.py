"""Finds every kind of lever in `powertrain.levers.rules`, lists them and presses them."""

import importlib
import pkgutil
from collections.abc import Callable, Iterable
from functools import cache
from typing import Any

from powertrain.documents.build import Build
from powertrain.errors import Refusal
from powertrain.levers import rules
from powertrain.levers.lever import Lever

Rule = Callable[[Build], Iterable[Lever]]


@cache
def all_rules() -> tuple[Rule, ...]:
    """Return the function `levers` of every module among the rules, by module name."""
    names = sorted(module.name for module in pkgutil.iter_modules(rules.__path__))
    return tuple(importlib.import_module(f"{rules.__name__}.{name}").levers for name in names)


def levers_of(build: Build) -> list[Lever]:
    """Return every lever that this build has."""
    found = [lever for rule in all_rules() for lever in rule(build)]
    return sorted(found, key=lambda lever: lever.rank)


def press(build: Build, lever_id: str, step: int) -> dict[str, Any]:
    """Return the changes of one step of a lever, up for a positive `step`, down for a negative.

    Raises
    ------
    Refusal
        If the build has no such lever, or it is at the end of its travel.
    """
    for lever in levers_of(build):
        if lever.id == lever_id:
            changes = lever.up if step > 0 else lever.down
            if changes is None:
                raise Refusal(lever.path, "is at the end of its travel")
            return changes
    raise Refusal(lever_id, "is no lever of this build")
