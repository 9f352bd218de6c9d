"""What a shelf has for a brief, and every rung of teeth for a build."""

from argparse import ArgumentParser
from typing import Any

from powertrain.commands.arguments import add_build, add_document, text_at, whole
from powertrain.documents.brief import Brief
from powertrain.documents.reading import check_model, read_build
from powertrain.documents.shelf import Shelf
from powertrain.documents.text import parse
from powertrain.gearing.ladder.answer import ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import sizes_of
from powertrain.match.matched import matched
from powertrain.shelf.shipped import shipped_shelf

LARGEST_SHELF_BYTES = 500_000_000


def options(parser: ArgumentParser, command: str) -> None:
    """Add what a command takes."""
    most = 1000
    if command == "match":
        add_document(parser, "BRIEF", "a brief document")
    else:
        add_build(parser)
        most = 100_000
    parser.add_argument(
        "--shelf", metavar="SHELF", help="a shelf document; the shipped one if none"
    )
    parser.add_argument("--limit", type=whole("limit", 0, most), default=20)


def run(arguments: Any) -> str:
    """Return the answer of a command."""
    return _match(arguments) if arguments.command == "match" else _ladder(arguments)


def _match(arguments: Any) -> str:
    brief = check_model(Brief, parse(text_at(arguments.document, "brief")))
    return matched(brief, _shelf(arguments), arguments.limit).model_dump_json()


def _ladder(arguments: Any) -> str:
    build = read_build(text_at(arguments.document))
    rungs = rungs_of(build, sizes_of(build, _shelf(arguments)))
    return ladder_answer(build, rungs, limit=arguments.limit).model_dump_json()


def _shelf(arguments: Any) -> Shelf:
    if arguments.shelf is None:
        return shipped_shelf()
    return check_model(Shelf, parse(text_at(arguments.shelf, "shelf"), LARGEST_SHELF_BYTES))
