"""What a controller is set to, its wires, a changed sense resistor, a Hall sensor off its place."""

import json
from argparse import ArgumentParser
from typing import Any

from powertrain.commands.arguments import add_build, bounded, text_at, whole
from powertrain.documents.reading import read_build, warnings_of
from powertrain.set_up.hall import hall_of
from powertrain.set_up.sheet import sheet_of
from powertrain.set_up.shunt import copper_mohm, shunt_of
from powertrain.set_up.wires import wires_of
from powertrain.verdicts.context import RuleContext


def options(parser: ArgumentParser, command: str) -> None:
    """Add what a command takes."""
    if command != "hall":
        add_build(parser)
    if command == "wires":
        for which in ("pack-m", "motor-m"):
            parser.add_argument(f"--{which}", type=bounded(which, 0.01, 50.0), default=0.3)
    if command == "shunt":
        parser.add_argument(
            "--original-mohm", type=bounded("original-mohm", 1e-6, 1e6), required=True
        )
        parser.add_argument("--limit-a", type=bounded("limit-a", 1e-6, 1e6), required=True)
        parser.add_argument("--parallel-mohm", type=bounded("parallel-mohm", 1e-6, 1e9))
        parser.add_argument("--copper-mm", type=bounded("copper-mm", 1e-6, 1e6))
        parser.add_argument("--copper-mm2", type=bounded("copper-mm2", 1e-6, 1e6))
    if command == "hall":
        parser.add_argument("--offset-deg", type=bounded("offset-deg", -360, 360), required=True)
        parser.add_argument("--poles", type=whole("poles", 2, 1000), required=True)
        parser.add_argument("--mechanical", action="store_true")


def run(arguments: Any) -> str:
    """Return the answer of a command."""
    if arguments.command == "hall":
        hall = hall_of(arguments.offset_deg, arguments.poles, mechanical=arguments.mechanical)
        return json.dumps(hall.model_dump(mode="json"), allow_nan=False)
    build = read_build(text_at(arguments.document))
    if arguments.command == "settings":
        answer = sheet_of(build).model_dump(mode="json")
    elif arguments.command == "wires":
        told = wires_of(build, RuleContext.of(build), arguments.pack_m, arguments.motor_m)
        answer = told.model_dump(mode="json")
    else:
        added = copper_mohm(arguments.parallel_mohm, arguments.copper_mm, arguments.copper_mm2)
        told_shunt = shunt_of(build, arguments.original_mohm, arguments.limit_a, added)
        answer = told_shunt.model_dump(mode="json")
    warnings = warnings_of(build)
    if warnings:
        answer["warnings"] = warnings
    return json.dumps(answer, allow_nan=False)
