"""A run of a hidden vehicle, as simulated instruments read it."""

import csv
import json
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from powertrain.commands.arguments import add_document, text_at, whole
from powertrain.documents.run import read_run
from powertrain.errors import Refusal
from powertrain.instruments.hidden import LOGGER_COLUMNS, day_of

MOST_SEED = 2**31


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    add_document(parser, "RUN", "a run document")
    parser.add_argument("--seed", type=whole("seed", 0, MOST_SEED), required=True)
    parser.add_argument("--csv", metavar="FILE", help="the logger's table, written there")
    parser.add_argument("--reveal", action="store_true", help="say what the vehicle truly is")
    parser.add_argument("--not-cleared", action="store_true", help="the logger is still full")


def run(arguments: Any) -> str:
    """Return the log of the day; with `--reveal`, what the hidden vehicle is."""
    given = read_run(text_at(arguments.document, "run"))
    day = day_of(given, arguments.seed, cleared=not arguments.not_cleared)
    if arguments.csv is not None:
        try:
            with Path(arguments.csv).open("w", encoding="utf-8", newline="") as file:
                writer = csv.DictWriter(file, LOGGER_COLUMNS, lineterminator="\n")
                writer.writeheader()
                writer.writerows(day.rows)
        except OSError as problem:
            raise Refusal("csv", f"can't be written: {problem.strerror}") from None
    answer = dict(day.log)
    if arguments.reveal:
        answer["truth"] = day.truth
    return json.dumps(answer, allow_nan=False)
