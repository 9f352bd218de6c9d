"""Two to five builds beside one another."""

import json
from argparse import ArgumentParser
from typing import Any

from powertrain.commands.arguments import text_at
from powertrain.compare.compared import compare
from powertrain.compare.terms import Terms
from powertrain.documents.reading import read_build
from powertrain.errors import Refusal


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    parser.add_argument("documents", metavar="BUILD", nargs="+", help="two to five build documents")
    parser.add_argument("--same-voltage", action="store_true", help="at the volts of the first")
    parser.add_argument("--own-vehicles", action="store_true", help="each in its own vehicle")


def run(arguments: Any) -> str:
    """Return the answer of the command."""
    builds = []
    for index, place in enumerate(arguments.documents):
        try:
            builds.append(read_build(text_at(place)))
        except Refusal as refusal:
            raise Refusal(f"documents.{index}.{refusal.where}", refusal.what) from None
    terms = Terms(same_vehicle=not arguments.own_vehicles, same_voltage=arguments.same_voltage)
    return json.dumps(compare(builds, terms).model_dump(mode="json"), allow_nan=False)
