"""The command line: one engine, for scripts and checks.

``python -m powertrain COMMAND BUILD.json ...`` prints one JSON object. Bad input ends with
status 2 and one line of JSON on standard error that names the place; never a traceback.
"""

import argparse
import importlib
import json
import sys
from collections.abc import Sequence
from types import ModuleType
from typing import NoReturn

from powertrain.errors import Refusal

COMMANDS: dict[str, tuple[str, str]] = {
    "top-speed": ("ride", "the speed full throttle holds"),
    "cruise": ("ride", "what holding a speed takes"),
    "full-throttle": ("ride", "push and amps at a speed"),
    "launch": ("ride", "from standstill to a speed"),
    "free": ("ride", "wheels off the ground"),
    "derate": ("ride", "rpm by the hobby formula"),
    "checks": ("judge", "every limit judged"),
    "thermal": ("judge", "temperatures at every moment, and of a stall"),
    "levers": ("levers", "every single change, with its effects"),
    "match": ("choose", "every drive of a shelf that meets a brief, ranked"),
    "shelf": ("parts", "the shelf that ships, or a table of its parts"),
    "parts": ("parts", "the parts that a table holds, and its bad rows"),
    "ladder": ("choose", "every rung of teeth that exist"),
    "identify": ("identify", "constants from what is known of a part"),
    "simulate": ("simulate", "a run: a drive on a course, in time"),
    "route": ("route", "the road of a GPX file, as a run's course"),
    "instruments": ("instruments", "a run of a hidden vehicle, as instruments read it"),
    "settings": ("set_up", "every setting of the controller, with its value and why"),
    "shunt": ("set_up", "a pack amps limit raised at the sense resistor"),
    "hall": ("set_up", "what a Hall sensor beside its place costs"),
    "controllers": ("choose", "which controllers do for a build, and which is best"),
    "calibrate": ("calibrate", "what a log of measured runs teaches a build"),
    "read-log": ("read_log", "what a logger's table holds, and what can be learned from it"),
    "static": ("craft", "propellers at full throttle, standing in still air"),
    "propeller": ("propeller", "what a bare propeller gives and takes"),
    "wires": ("set_up", "the wires of a build: how many, what they lose, in which order"),
    "compare": ("compare", "two to five builds beside one another, on equal terms"),
    "field": ("convert", "a series motor with its field's coils joined in another way"),
    "high-volts": ("convert", "pre-charge, short circuit, contactor and fuse of a pack"),
    "advise": ("advise", "which kind of motor suits a vehicle, with reasons"),
}
"""Each command's module in `powertrain.commands`, and what it tells. Only the one that is asked is
loaded, so that a short answer does not wait for what long ones need."""


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command; return 0, or 2 for input that can't be used."""
    asked = list(sys.argv[1:] if argv is None else argv)
    try:
        name = asked[0] if asked and asked[0] in COMMANDS else None
        arguments = _parser(name).parse_args(asked)
        print(_module(arguments.command).run(arguments))
    except Refusal as refusal:
        print(json.dumps(refusal.as_dict()), file=sys.stderr)
        return 2
    return 0


def _module(command: str) -> ModuleType:
    module, _ = COMMANDS[command]
    return importlib.import_module(f"powertrain.commands.{module}")


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise Refusal("arguments", message)


def _parser(asked: str | None) -> argparse.ArgumentParser:
    """Return the parser, with the options of the command that is asked."""
    parser = _Parser(prog="powertrain", description="What a small electric drive does.")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    for name, (_, what) in COMMANDS.items():
        command = commands.add_parser(name, help=what)
        if name == asked:
            _module(name).options(command, name)
    return parser
