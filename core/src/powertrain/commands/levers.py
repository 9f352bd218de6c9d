"""Every single change to a build, with its effects."""

import json
from argparse import ArgumentParser
from typing import Any

from powertrain.commands.arguments import add_build, text_at
from powertrain.documents.build import Build
from powertrain.documents.reading import read_build, warnings_of
from powertrain.errors import Refusal
from powertrain.levers.board import BETTER, levers_board


def options(parser: ArgumentParser, command: str) -> None:
    """Add what it takes."""
    add_build(parser)
    parser.add_argument("--wish", default="top_speed_kmh")


def run(arguments: Any) -> str:
    """Return its answer."""
    build = read_build(text_at(arguments.document))
    answer = _answer(build, arguments)
    warnings = warnings_of(build)
    if warnings:
        answer["warnings"] = warnings
    return json.dumps(answer, allow_nan=False)


def _answer(build: Build, arguments: Any) -> dict[str, Any]:
    if arguments.wish not in BETTER:
        raise Refusal("wish", f"must be one of {', '.join(BETTER)}")
    board = levers_board(build)
    rows = [board.rows[index] for index in board.ranked[arguments.wish]]
    return {
        "now": board.now,
        "wish": arguments.wish,
        "levers": [
            {
                "lever": row.lever,
                "step": row.step,
                "say": row.say,
                "effects": {
                    key: None
                    if effect is None
                    else dict(zip(("delta", "low", "high"), effect, strict=True))
                    for key, effect in row.effects.items()
                },
            }
            for row in rows
        ],
    }
