"""What a log teaches a build."""

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from powertrain.calibrate.answer import calibrated
from powertrain.commands.arguments import add_build, text_at
from powertrain.documents.log import check_log
from powertrain.documents.reading import read_build
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
