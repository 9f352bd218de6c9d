"""Conversions: a field joined in another way, and what high volts ask for."""

import json
from argparse import ArgumentParser
from typing import Any

from powertrain.commands.arguments import add_build, bounded, text_at
from powertrain.conversion.field import NAMES, field_of
from powertrain.conversion.high_volts import high_volts
from powertrain.documents.reading import read_build, warnings_of


def options(parser: ArgumentParser, command: str) -> None:
    """Add what a command takes."""
    add_build(parser)
    if command == "field":
        parser.add_argument("--connection", choices=tuple(NAMES), required=True)
    else:
        parser.add_argument("--precharge-ohm", type=bounded("precharge-ohm", 1e-3, 1e9))


def run(arguments: Any) -> str:
    """Return the answer of a command."""
    build = read_build(text_at(arguments.document))
    if arguments.command == "field":
        answer = field_of(build, arguments.connection).model_dump(mode="json")
    else:
        answer = high_volts(build, arguments.precharge_ohm).model_dump(mode="json")
    warnings = warnings_of(build)
    if warnings:
        answer["warnings"] = warnings
    return json.dumps(answer, allow_nan=False)
