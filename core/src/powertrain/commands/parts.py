"""The shelf that ships, and the parts that a table holds."""

import json
from argparse import ArgumentParser
from io import StringIO
from typing import Any

from powertrain.commands.arguments import add_document, text_at
from powertrain.documents.shelf import KINDS
from powertrain.documents.table import TABLES, BadRow, read_rows, write_rows
from powertrain.shelf.shipped import shipped_shelf


def options(parser: ArgumentParser, command: str) -> None:
    """Add what a command takes."""
    if command == "shelf":
        parser.add_argument("--csv", choices=tuple(KINDS), help="one list of it as a table")
    else:
        parser.add_argument("kind", choices=tuple(TABLES))
        add_document(parser, "TABLE", "a CSV file")


def run(arguments: Any) -> str:
    """Return the answer of a command."""
    return _shelf(arguments) if arguments.command == "shelf" else _parts(arguments)


def _shelf(arguments: Any) -> str:
    if arguments.csv is not None:
        return "".join(write_rows(arguments.csv, getattr(shipped_shelf(), arguments.csv))).rstrip()
    return shipped_shelf().model_dump_json(exclude_unset=True)


def _parts(arguments: Any) -> str:
    text = text_at(arguments.document, "table").decode("utf-8-sig", "replace")
    good, bad = [], []
    for row in read_rows(arguments.kind, StringIO(text, newline="")):
        if isinstance(row, BadRow):
            bad.append({"line": row.line, "column": row.column, "what": row.what})
        else:
            good.append(row.model_dump(mode="json", exclude_unset=True))
    return json.dumps({arguments.kind: good, "bad": bad}, allow_nan=False)
