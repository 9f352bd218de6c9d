"""The command line: one engine, for scripts and checks.

``python -m powertrain COMMAND BUILD.json ...`` prints one JSON object. Bad input ends with
status 2 and one line of JSON on standard error that names the place; never a traceback.
"""

import argparse
import json
import math
import sys
from collections.abc import Callable, Sequence
from io import StringIO
from pathlib import Path
from typing import Any, NoReturn

import numpy as np

from powertrain.arrays import scalar
from powertrain.bench.heat import limits_answer, nodes_at
from powertrain.bench.numbers import limit_word, number
from powertrain.compile.build import compile_drive
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.reading import check_model, read_build, warnings_of
from powertrain.documents.shelf import KINDS, Shelf
from powertrain.documents.table import TABLES, BadRow, read_rows, write_rows
from powertrain.documents.text import parse
from powertrain.drive import Drive
from powertrain.errors import Refusal
from powertrain.heat.limits import limit_sources
from powertrain.identify.answer import check_facts, identified
from powertrain.ladder.answer import ladder_answer
from powertrain.ladder.rungs import rungs_of
from powertrain.ladder.sizes import sizes_of
from powertrain.levers.board import BETTER, levers_board
from powertrain.match.matched import matched
from powertrain.operating.derate import derated_rpm
from powertrain.operating.free import free_running
from powertrain.operating.launch import launch
from powertrain.operating.on_road import full_throttle_at
from powertrain.operating.state import State
from powertrain.operating.steady import can_hold, energy_wh_per_km, steady
from powertrain.operating.top_speed import top_speed, top_speed_mps
from powertrain.shelf.shipped import shipped_shelf
from powertrain.stated import Stated
from powertrain.units import kmh_from_mps, mps_from_kmh, rpm_from_rad_s
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

Answer = dict[str, Any]

STEEPEST_PCT = 1000.0
FASTEST_KMH = 1e5


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command; return 0, or 2 for input that can't be used."""
    try:
        arguments = _parser().parse_args(argv)
        if arguments.command in DOCUMENTS:
            print(DOCUMENTS[arguments.command](arguments))
            return 0
        build = read_build(_text(arguments.build))
        answer = arguments.answer(build, compile_drive(build), arguments)
        warnings = warnings_of(build)
        if warnings:
            answer["warnings"] = warnings
        print(json.dumps(answer, allow_nan=False))
    except Refusal as refusal:
        print(json.dumps(refusal.as_dict()), file=sys.stderr)
        return 2
    return 0


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise Refusal("arguments", message)


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="powertrain", description="What a small electric drive does.")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    grade = ("--grade", _bounded("grade", -STEEPEST_PCT, STEEPEST_PCT), 0.0)
    speed = ("--speed", _bounded("speed", 0.0, FASTEST_KMH), None)
    to = ("--to", _bounded("to", 0.0, FASTEST_KMH), None)
    _add(commands, "top-speed", _top_speed, "the speed full throttle holds", grade)
    _add(commands, "cruise", _cruise, "what holding a speed takes", speed, grade)
    _add(commands, "full-throttle", _full_throttle, "push and amps at a speed", speed)
    _add(commands, "launch", _launch, "from standstill to a speed", to)
    _add(commands, "free", _free, "wheels off the ground")
    current = ("--current", _bounded("current", 0.0, 1e6), None)
    factor = ("--load-factor", _bounded("load-factor", 0.0, 100.0), None)
    _add(commands, "derate", _derate, "rpm by the hobby formula", current, factor)
    _add(commands, "checks", _checks, "every limit judged")
    _add(commands, "thermal", _thermal, "temperatures at every moment, and of a stall")
    wish = ("--wish", str, "top_speed_kmh")
    _add(commands, "levers", _levers, "every single change, with its effects", wish)
    match = commands.add_parser("match", help="every drive of a shelf that meets a brief, ranked")
    match.add_argument("build", metavar="BRIEF", help="a brief document, - for standard input")
    match.add_argument("--shelf", metavar="SHELF", help="a shelf document; the shipped one if none")
    match.add_argument("--limit", type=_whole("limit", 0, 1000), default=20)
    shelf = commands.add_parser("shelf", help="the shelf that ships, or a table of its parts")
    shelf.add_argument("--csv", choices=tuple(KINDS), help="one list of it as a table")
    parts = commands.add_parser("parts", help="the parts that a table holds, and its bad rows")
    parts.add_argument("kind", choices=tuple(TABLES))
    parts.add_argument("build", metavar="TABLE", help="a CSV file, - for standard input")
    ladder = commands.add_parser("ladder", help="every rung of teeth that exist")
    ladder.add_argument("build", metavar="BUILD", help="a build document, - for standard input")
    ladder.add_argument(
        "--shelf", metavar="SHELF", help="a shelf document; the shipped one if none"
    )
    ladder.add_argument("--limit", type=_whole("limit", 0, 100_000), default=20)
    identify = commands.add_parser("identify", help="constants from what is known of a part")
    identify.add_argument("build", metavar="FACTS", help="a facts document, - for standard input")
    return parser


def _add(
    commands: Any,
    name: str,
    answer: Callable[[Build, Drive, Any], Answer],
    what: str,
    *options: Any,
) -> None:
    command = commands.add_parser(name, help=what)
    command.add_argument("build", metavar="BUILD", help="a build document, - for standard input")
    for flag, kind, default in options:
        command.add_argument(flag, type=kind, default=default, required=default is None)
    command.set_defaults(answer=answer)


def _bounded(name: str, least: float, most: float) -> Callable[[str], float]:
    def read(text: str) -> float:
        try:
            value = float(text)
        except ValueError:
            raise Refusal(name, f"must be a number, not {text[:40]!r}") from None
        if not math.isfinite(value) or not least <= value <= most:
            raise Refusal(name, f"must lie between {least:g} and {most:g}")
        return value

    return read


def _whole(name: str, least: int, most: int) -> Callable[[str], int]:
    def read(text: str) -> int:
        if not text.isascii() or not text.isdigit() or not least <= int(text[:9]) <= most:
            raise Refusal(name, f"must be a whole number between {least} and {most}")
        return int(text)

    return read


def _text(place: str, what: str = "build") -> bytes:
    try:
        return sys.stdin.buffer.read() if place == "-" else Path(place).read_bytes()
    except OSError as problem:
        raise Refusal(what, f"can't be read: {problem.strerror}") from None


def _state(state: State) -> Answer:
    return {
        "speed_mps": float(state.speed_mps),
        "motor_rpm": float(state.motor_rpm),
        "motor_current_a": float(state.motor_current_a),
        "battery_current_a": float(state.battery_current_a),
        "battery_voltage_v": float(state.battery_voltage_v),
        "motor_voltage_v": float(state.motor_voltage_v),
        "duty": float(state.duty),
        "shaft_torque_nm": float(state.shaft_torque_nm),
        "shaft_power_w": float(state.shaft_w),
        "road_power_w": float(state.output_w),
        "efficiency": number(state.efficiency),
        "limited_by": limit_word(state.limited_by),
    }


def _top_speed(build: Build, drive: Drive, arguments: Any) -> Answer:
    state = top_speed(drive, scalar(arguments.grade))
    if not np.isfinite(state.speed_mps):
        what = (
            f"is zero or there is no air, and nothing else holds it back on {arguments.grade:g} %"
        )
        raise Refusal("vehicle.drag_area_m2", what)
    return _state(state)


def _cruise(build: Build, drive: Drive, arguments: Any) -> Answer:
    speed_mps = scalar(mps_from_kmh(arguments.speed))
    grade = scalar(arguments.grade)
    if speed_mps <= 0:
        raise Refusal("speed", "must be above zero; a vehicle at rest does not cruise")
    state = steady(drive, speed_mps, grade)
    if not can_hold(drive, state):
        raise Refusal("speed", _cannot_hold(drive, arguments.speed, arguments.grade))
    return {**_state(state), "energy_wh_per_km": number(energy_wh_per_km(state))}


def _cannot_hold(drive: Drive, speed_kmh: float, grade_pct: float) -> str:
    most_kmh = float(kmh_from_mps(top_speed_mps(drive, scalar(grade_pct))))
    if most_kmh <= 0:
        return f"can't be held: this drive can't start on {grade_pct:g} %"
    if not math.isfinite(most_kmh) or most_kmh >= speed_kmh:
        return f"can't be held on {grade_pct:g} %: the drive can't brake that much; use the brakes"
    return f"can't be held on {grade_pct:g} %; this drive can hold {most_kmh:.4g} km/h there"


def _full_throttle(build: Build, drive: Drive, arguments: Any) -> Answer:
    at = full_throttle_at(drive, scalar(mps_from_kmh(arguments.speed)))
    return {
        "force_n": float(at.force_n),
        "motor_current_a": float(at.motor_current_a),
        "battery_current_a": float(at.battery_current_a),
        "battery_voltage_v": float(drive.pack.voltage_v(at.battery_current_a)),
        "limited_by": limit_word(at.limited_by),
    }


def _launch(build: Build, drive: Drive, arguments: Any) -> Answer:
    run = launch(drive, scalar(mps_from_kmh(arguments.to)))
    if not np.isfinite(run.time_s):
        raise Refusal("to", _cannot_hold(drive, arguments.to, 0.0).replace("held", "reached"))
    return {
        "time_s": float(run.time_s),
        "distance_m": float(run.distance_m),
        "peak_battery_current_a": float(run.peak_battery_current_a),
        "peak_motor_current_a": float(run.peak_motor_current_a),
    }


def _free(build: Build, drive: Drive, arguments: Any) -> Answer:
    free = free_running(drive)
    return {
        "motor_rpm": float(free.now.motor_rpm),
        "speed_mps": float(free.now.speed_mps),
        "full_charge_motor_rpm": float(free.full_charge.motor_rpm),
        "full_charge_speed_mps": float(free.full_charge.speed_mps),
    }


def _derate(build: Build, drive: Drive, arguments: Any) -> Answer:
    current_a, factor = scalar(arguments.current), scalar(arguments.load_factor / 100)
    if drive.pack.voltage_v(current_a) < 0:
        raise Refusal("current", "is more than the pack gives into a dead short")
    rpm = derated_rpm(drive, current_a, factor)
    if not math.isfinite(rpm):
        raise Refusal("motor.kind", "has no KV: unloaded it turns ever faster, and the formula "
                      "starts from a free speed")  # fmt: skip
    speed_mps = drive.speed_mps(drive.output_rad_s(rpm / rpm_from_rad_s(1.0)))
    return {"motor_rpm": float(rpm), "speed_mps": float(speed_mps)}


def _checks(build: Build, drive: Drive, arguments: Any) -> Answer:
    verdicts, not_judged = judge_all(RuleContext.of(build))
    return {
        "verdicts": [verdict.model_dump() for verdict in verdicts],
        "not_judged": [limit.model_dump() for limit in not_judged],
    }


def _thermal(build: Build, drive: Drive, arguments: Any) -> Answer:
    context = RuleContext.of(build)
    heat, stall = context.results.heat, context.stall
    limits = limits_answer(context.limits, limit_sources(Stated(build)))
    return {
        "limits": {key: limit.model_dump() for key, limit in limits.items()},
        "estimated_from": dict(context.compiled.estimated),
        "moments": {
            moment.id: {
                "after_s": float(context.results.lasts_s[index]),
                **{
                    key: node.model_dump(exclude={"burnt_band"})
                    for key, node in nodes_at(heat, index).items()
                },
                "runs_away": bool(heat.runs_away[index]),
                "repeat_share": float(heat.repeat_share[index]),
            }
            for index, moment in enumerate(context.moments.all())
        },
        "stall": {
            "seconds": number(stall.seconds),
            "node": stall.first,
            "motor_current_a": float(stall.state.motor_current_a),
        },
    }


def _levers(build: Build, drive: Drive, arguments: Any) -> Answer:
    if arguments.wish not in BETTER:
        raise Refusal("wish", f"must be one of {', '.join(BETTER)}")
    board = levers_board(build)
    rows = [board.rows[index] for index in board.ranked[arguments.wish]]
    return {
        "now": board.now,
        "wish": arguments.wish,
        "levers": [
            {
                "lever": row.lever,
                "step": row.step,
                "say": row.say,
                "effects": {
                    key: None
                    if effect is None
                    else dict(zip(("delta", "low", "high"), effect, strict=True))
                    for key, effect in row.effects.items()
                },
            }
            for row in rows
        ],
    }


def _identify(arguments: Any) -> str:
    return identified(check_facts(parse(_text(arguments.build, "facts")))).model_dump_json()


def _match(arguments: Any) -> str:
    brief = check_model(Brief, parse(_text(arguments.build, "brief")))
    return matched(brief, _shelf_named(arguments), arguments.limit).model_dump_json()


def _ladder(arguments: Any) -> str:
    build = read_build(_text(arguments.build))
    sizes = sizes_of(build, _shelf_named(arguments))
    return ladder_answer(build, rungs_of(build, sizes), limit=arguments.limit).model_dump_json()


def _shelf_named(arguments: Any) -> Shelf:
    if arguments.shelf is None:
        return shipped_shelf()
    return check_model(Shelf, parse(_text(arguments.shelf, "shelf"), LARGEST_SHELF_BYTES))


def _shelf(arguments: Any) -> str:
    if arguments.csv is not None:
        return "".join(write_rows(arguments.csv, getattr(shipped_shelf(), arguments.csv))).rstrip()
    return shipped_shelf().model_dump_json(exclude_unset=True)


def _parts(arguments: Any) -> str:
    text = _text(arguments.build, "table").decode("utf-8-sig", "replace")
    good, bad = [], []
    for row in read_rows(arguments.kind, StringIO(text, newline="")):
        if isinstance(row, BadRow):
            bad.append({"line": row.line, "column": row.column, "what": row.what})
        else:
            good.append(row.model_dump(mode="json", exclude_unset=True))
    return json.dumps({arguments.kind: good, "bad": bad}, allow_nan=False)


DOCUMENTS: dict[str, Callable[[Any], str]] = {
    "identify": _identify,
    "ladder": _ladder,
    "match": _match,
    "parts": _parts,
    "shelf": _shelf,
}
"""Commands that take other documents than a build."""

LARGEST_SHELF_BYTES = 500_000_000
