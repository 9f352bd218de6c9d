"""Finds every rule in `powertrain.verdicts.rules` and asks them all."""

import importlib
import pkgutil
from functools import cache

from powertrain.verdicts import rules
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.rule import SEVERITIES, Rule
from powertrain.verdicts.verdict import NotJudged, Verdict


@cache
def all_rules() -> dict[str, Rule]:
    """Return every rule by its id, the name of its file, in that order."""
    names = sorted(module.name for module in pkgutil.iter_modules(rules.__path__))
    return {name: importlib.import_module(f"{rules.__name__}.{name}").RULE for name in names}


@cache
def stopping_rules() -> dict[str, Rule]:
    """Return the rules that can stop a build."""
    return {name: rule for name, rule in all_rules().items() if rule.rejects}


def judge_all(context: RuleContext) -> tuple[list[Verdict], list[NotJudged]]:
    """Return all verdicts, the worst first, and what could not be judged."""
    said = [answer for rule in all_rules().values() for answer in rule.said(context)]
    verdicts = [answer for answer in said if isinstance(answer, Verdict)]
    verdicts.sort(key=lambda verdict: -SEVERITIES.index(verdict.severity))
    return verdicts, [answer for answer in said if isinstance(answer, NotJudged)]
