"""Limits and temperatures of a build."""

import json
from argparse import ArgumentParser
from collections.abc import Callable
from typing import Any

from powertrain.bench.heat import limits_answer, nodes_at
from powertrain.commands.arguments import add_build, text_at
from powertrain.documents.reading import read_build, warnings_of
from powertrain.plain import number
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

Answer = dict[str, Any]


def options(parser: ArgumentParser, command: str) -> None:
    """Add what a command takes."""
    add_build(parser)


def run(arguments: Any) -> str:
    """Return the answer of a command."""
    build = read_build(text_at(arguments.document))
    answer = ANSWERS[arguments.command](RuleContext.of(build))
    warnings = warnings_of(build)
    if warnings:
        answer["warnings"] = warnings
    return json.dumps(answer, allow_nan=False)


def checks_answer(context: RuleContext) -> Answer:
    """Return every limit judged."""
    verdicts, not_judged = judge_all(context)
    return {
        "verdicts": [verdict.model_dump() for verdict in verdicts],
        "not_judged": [limit.model_dump() for limit in not_judged],
    }


def thermal_answer(context: RuleContext) -> Answer:
    """Return temperatures at every moment, and of a stall."""
    heat, stall = context.results.heat, context.stall
    limits = limits_answer(context.limits, context.limit_sources)
    return {
        "limits": {key: limit.model_dump() for key, limit in limits.items()},
        "estimated_from": dict(context.compiled.estimated),
        "moments": {
            moment.id: {
                "after_s": float(context.results.lasts_s[index]),
                **{
                    key: node.model_dump(exclude={"burnt_band"})
                    for key, node in nodes_at(heat, index).items()
                },
                "runs_away": bool(heat.runs_away[index]),
                "repeat_share": float(heat.repeat_share[index]),
            }
            for index, moment in enumerate(context.moments.all())
        },
        "stall": {
            "seconds": number(stall.seconds),
            "node": stall.first,
            "motor_current_a": float(stall.state.motor_current_a),
        },
    }


ANSWERS: dict[str, Callable[[RuleContext], Answer]] = {
    "checks": checks_answer,
    "thermal": thermal_answer,
}
