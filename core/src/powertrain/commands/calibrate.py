"""What a log teaches a build."""

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from powertrain.calibrate.answer import calibrated
from powertrain.commands.arguments import add_build, text_at
from powertrain.documents.log import Log
from powertrain.documents.reading import check_model, read_build
from powertrain.documents.text import parse
from powertrain.errors import Refusal


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    add_build(parser)
    parser.add_argument("log", metavar="LOG.json", help="a log document")


def run(arguments: Any) -> str:
    """Return what the log teaches."""
    build = read_build(text_at(arguments.document, "build"))
    try:
        text = Path(arguments.log).read_bytes()
    except OSError as problem:
        raise Refusal("log", f"can't be read: {problem.strerror}") from None
    log = check_log(parse(text))
    return calibrated(build, log).model_dump_json()


KINDS = (
    "free",
    "top_speed",
    "steady",
    "launch",
    "coast_down",
    "temperature",
    "trip",
    "roll_out",
    "telemetry",
)


def check_log(document: Any) -> Log:
    """Return a checked log; places of observations without their kind between."""
    try:
        return check_model(Log, document)
    except Refusal as refusal:
        where = refusal.where
        for kind in KINDS:
            where = where.replace(f".{kind}.", ".", 1) if ".observations." in where else where
        raise Refusal(where, refusal.what) from None
