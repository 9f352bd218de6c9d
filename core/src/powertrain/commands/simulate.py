"""A run: what a drive does on a course."""

import json
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from powertrain.commands.arguments import add_document, bounded, text_at, whole
from powertrain.documents.reading import warnings_of
from powertrain.documents.run import read_run
from powertrain.errors import Refusal
from powertrain.runs.answer import run_answer, write_csv
from powertrain.runs.ride import ride
from powertrain.runs.step_length import STEP_S

SHORTEST_S, LONGEST_S = 1e-4, 60.0


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    add_document(parser, "RUN", "a run document")
    parser.add_argument("--step", type=bounded("step", SHORTEST_S, LONGEST_S), default=STEP_S)
    parser.add_argument("--csv", metavar="FILE", help="a table over time, written there")
    parser.add_argument("--draws", type=whole("draws", 0, 100_000), default=0)


def run(arguments: Any) -> str:
    """Return what the run comes to."""
    given = read_run(text_at(arguments.document, "run"), craft=True)
    ridden = ride(given, step_s=arguments.step)
    if arguments.csv is not None:
        try:
            with Path(arguments.csv).open("w", encoding="utf-8", newline="") as file:
                write_csv(given, ridden, file)
        except OSError as problem:
            raise Refusal("csv", f"can't be written: {problem.strerror}") from None
    told = run_answer(given, step_s=arguments.step, draws=arguments.draws, ridden=ridden)
    answer = told.model_dump(mode="json")
    warnings = warnings_of(given.build)
    if warnings:
        answer["warnings"] = warnings
    return json.dumps(answer, allow_nan=False)
