"""What a shelf has for a brief; every rung of teeth, and every controller, for a build."""

from argparse import ArgumentParser
from typing import Any, get_args

from powertrain.commands.arguments import add_build, add_document, bounded, text_at, whole
from powertrain.documents.brief import Brief
from powertrain.documents.reading import check_model, read_build
from powertrain.documents.shelf import Shelf
from powertrain.documents.text import parse
from powertrain.gearing.ladder.answer import ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import sizes_of
from powertrain.match.matched import matched
from powertrain.set_up.choose import choose_controller
from powertrain.set_up.gates import Wanted
from powertrain.set_up.tastes import TasteId, TasteWeights
from powertrain.shelf.shipped import shipped_shelf

LARGEST_SHELF_BYTES = 500_000_000


def options(parser: ArgumentParser, command: str) -> None:
    """Add what a command takes."""
    most = 1000
    parser.add_argument(
        "--shelf", metavar="SHELF", help="a shelf document; the shipped one if none"
    )
    if command == "controllers":
        add_build(parser)
        parser.add_argument("--reverse", action="store_true", help="it has to go backwards")
        parser.add_argument("--regeneration", action="store_true", help="it has to give back")
        for taste in get_args(TasteId):
            counts = bounded(taste, 0.0, 10.0)
            parser.add_argument(f"--{taste}", type=counts, default=None, help="how much it counts")
        return
    if command == "match":
        add_document(parser, "BRIEF", "a brief document")
    else:
        add_build(parser)
        most = 100_000
    parser.add_argument("--limit", type=whole("limit", 0, most), default=20)


def run(arguments: Any) -> str:
    """Return the answer of a command."""
    answers = {"match": _match, "ladder": _ladder, "controllers": _controllers}
    return answers[arguments.command](arguments)


def _match(arguments: Any) -> str:
    brief = check_model(Brief, parse(text_at(arguments.document, "brief")))
    return matched(brief, _shelf(arguments), arguments.limit).model_dump_json()


def _ladder(arguments: Any) -> str:
    build = read_build(text_at(arguments.document))
    rungs = rungs_of(build, sizes_of(build, _shelf(arguments)))
    return ladder_answer(build, rungs, limit=arguments.limit).model_dump_json()


def _controllers(arguments: Any) -> str:
    build = read_build(text_at(arguments.document))
    stated = {taste: getattr(arguments, taste) for taste in get_args(TasteId)}
    weights = TasteWeights(**{name: value for name, value in stated.items() if value is not None})
    wanted = Wanted(arguments.reverse, arguments.regeneration)
    parts = _shelf(arguments).controllers
    return choose_controller(build, parts, weights, wanted).model_dump_json()


def _shelf(arguments: Any) -> Shelf:
    if arguments.shelf is None:
        return shipped_shelf()
    return check_model(Shelf, parse(text_at(arguments.shelf, "shelf"), LARGEST_SHELF_BYTES))
