"""Finds every rule in `powertrain.verdicts.rules` and asks them all."""

import importlib
import pkgutil
from collections.abc import Callable, Iterable
from functools import cache

from powertrain.verdicts import rules
from powertrain.verdicts.verdict import Case, NotJudged, Verdict

Rule = Callable[[Case], Iterable[Verdict | NotJudged]]

ORDER = {"stop": 0, "watch": 1, "ok": 2}


@cache
def all_rules() -> tuple[Rule, ...]:
    """Return the function `judge` of every module among the rules, by module name."""
    names = sorted(module.name for module in pkgutil.iter_modules(rules.__path__))
    return tuple(importlib.import_module(f"{rules.__name__}.{name}").judge for name in names)


def judge_all(case: Case) -> tuple[list[Verdict], list[NotJudged]]:
    """Return all verdicts, the worst first, and what could not be judged."""
    said = [answer for rule in all_rules() for answer in rule(case)]
    verdicts = [answer for answer in said if isinstance(answer, Verdict)]
    verdicts.sort(key=lambda verdict: ORDER[verdict.severity])
    return verdicts, [answer for answer in said if isinstance(answer, NotJudged)]
