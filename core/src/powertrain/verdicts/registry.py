"""Finds every rule in `powertrain.verdicts.rules` and asks them all."""

import importlib
import pkgutil
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cache

import numpy as np

from powertrain.arrays import Array
from powertrain.verdicts import rules
from powertrain.verdicts.verdict import Case, Many, Mask, NotJudged, Verdict

Rule = Callable[[Case], Iterable[Verdict | NotJudged]]

ORDER = {"stop": 0, "watch": 1, "ok": 2}


@cache
def all_rules() -> tuple[Rule, ...]:
    """Return the function `judge` of every module among the rules, by module name."""
    names = sorted(module.name for module in pkgutil.iter_modules(rules.__path__))
    return tuple(importlib.import_module(f"{rules.__name__}.{name}").judge for name in names)


def id_of(rule: Rule) -> str:
    """Return the name by which a rule is known, that of its file."""
    return rule.__module__.rsplit(".", 1)[-1]


def judge_all(case: Case) -> tuple[list[Verdict], list[NotJudged]]:
    """Return all verdicts, the worst first, and what could not be judged."""
    said = [answer for rule in all_rules() for answer in rule(case)]
    verdicts = [answer for answer in said if isinstance(answer, Verdict)]
    verdicts.sort(key=lambda verdict: ORDER[verdict.severity])
    return verdicts, [answer for answer in said if isinstance(answer, NotJudged)]


@dataclass(frozen=True)
class Stopper:
    """A rule asked of many builds at once: only whether it says stop.

    `geared` tells whether gearing matters to it; where not, one answer holds for all gearings.
    `load` is how much of its limit each build uses, more than one where it stops.
    """

    id: str
    stops: Callable[[Many], Mask]
    geared: bool
    load: Callable[[Many], Array]


def _only_whether(stops: Callable[[Many], Mask]) -> Callable[[Many], Array]:
    """Return the load of a rule that only knows whether: twice its limit, or nothing."""
    return lambda many: np.where(stops(many), 2.0, 0.0)


@cache
def stoppers() -> tuple[Stopper, ...]:
    """Return the function `stops` of every rule that can say stop."""
    found = [(id_of(rule), importlib.import_module(rule.__module__)) for rule in all_rules()]
    return tuple(
        Stopper(
            name,
            module.stops,
            not hasattr(module, "UNGEARED"),
            getattr(module, "load", _only_whether(module.stops)),
        )
        for name, module in found
        if hasattr(module, "stops")
    )
