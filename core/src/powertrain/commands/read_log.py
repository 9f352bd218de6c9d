"""What a logger's table holds, and what can be learned from it."""

import json
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from powertrain.errors import Refusal
from powertrain.plain import number
from powertrain.telemetry.align import aligned
from powertrain.telemetry.find import proposals
from powertrain.telemetry.read import read_log


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    parser.add_argument("table", metavar="TABLE", help="a logger's table, or a track in GPX")
    parser.add_argument(
        "--with", dest="second", metavar="TABLE", help="another one of the same ride, to lay beside"
    )
    parser.add_argument(
        "--column", action="append", default=[], metavar="NAME=KEY", help="what a column holds"
    )


def run(arguments: Any) -> str:
    """Return how it was understood: columns with their ends, notes, and what it proposes."""
    mapping = {}
    for said in arguments.column:
        name, mark, key = said.rpartition("=")
        if not mark or not name or not key:
            raise Refusal("column", f"must be NAME=KEY, not {said[:40]!r}")
        mapping[name] = key
    log = read_log(_bytes_of(arguments.table), mapping)
    if arguments.second:
        log = aligned(log, read_log(_bytes_of(arguments.second), mapping))
    columns = {
        key: {
            "least": number(values[values == values].min()),
            "most": number(values[values == values].max()),
        }
        for key, values in log.columns.items()
        if (values == values).any()
    }
    told = {
        "rows": len(log.times),
        "columns": columns,
        "said": log.said,
        "marked": {key: len(places) for key, places in log.marked.items()},
        "notes": log.notes,
        "proposed": [one.model_dump(mode="json") for one in proposals(log)],
    }
    return json.dumps(told, allow_nan=False)


def _bytes_of(path: str) -> bytes:
    try:
        return Path(path).read_bytes()
    except OSError as problem:
        raise Refusal("table", f"can't be read: {problem.strerror}") from None
