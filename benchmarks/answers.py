"""Every answer of the engine for a few hundred builds, written down and held against later ones.

A change of structure changes no answer. `record` asks every command and every question that the
server passes on, of random builds, of all demos and archetypes and of all briefs to begin from, and
writes down what was asked with what was answered; `compare` asks the same again and says what
differs: numbers by more than a billionth, and words.

    python -m benchmarks.answers record FILE [--builds N]
    python -m benchmarks.answers compare FILE [--every N] [--only NAME ...]
"""

import argparse
import contextlib
import gzip
import io
import json
import math
import random
import sys
import tempfile
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from functools import cache
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from powertrain import cli
from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.compare.baseline import baseline
from powertrain.compare.compared import compare
from powertrain.compare.terms import Terms
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.describe import all_fields
from powertrain.documents.paths import changed, value_at
from powertrain.documents.reading import check_build, check_model
from powertrain.errors import Refusal
from powertrain.gearing.boost import boost
from powertrain.gearing.chart import speed_chart
from powertrain.gearing.ladder.answer import ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import sizes_of
from powertrain.gearing.overvolt import overvolt
from powertrain.gearing.roads import roads, top_kmh
from powertrain.gearing.runs import will_it_run
from powertrain.gearing.tyre import speeds
from powertrain.gearing.windings import windings
from powertrain.levers.operations import Turn, carry_out
from powertrain.levers.registry import levers_of
from powertrain.match.answer import answer_of
from powertrain.match.matched import matched
from powertrain.match.meets import meets
from powertrain.match.search import Search
from powertrain.match.starts import start_briefs
from powertrain.match.why import why
from powertrain.shelf.shipped import shipped_shelf

ROOT = Path(__file__).parents[1]
CLOSE = 1e-9
SEED = 14

Plain = dict[str, Any]


# What is asked


def _command(*argv: str) -> Callable[[Plain], Any]:
    def ask(document: Plain) -> Any:
        with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
            json.dump(document, file)
            file.flush()
            out, problem = io.StringIO(), io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(problem):
                status = cli.main([argv[0], file.name, *argv[1:]])
        said = out.getvalue() or problem.getvalue()
        return {"status": status, "said": json.loads(said)}

    return ask


def _of_build(ask: Callable[[Build], Any]) -> Callable[[Plain], Any]:
    return lambda document: _plain(ask(check_build(document)))


def _plain(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    if isinstance(value, dict):
        return {key: _plain(item) for key, item in value.items()}
    return [_plain(item) for item in value] if isinstance(value, list) else value


def _ladder(build: Build) -> Any:
    sizes = sizes_of(build, shipped_shelf())
    return ladder_answer(build, rungs_of(build, sizes), limit=8)


def _compared(build: Build) -> Any:
    other = all_archetypes()[0].document
    return [
        compare([build, other], Terms(same_vehicle=same, same_voltage=same))
        for same in (False, True)
    ]


def _pressed(build: Build) -> Any:
    return [lever.model_dump(mode="json") for lever in levers_of(build)]


def _turned(build: Build) -> Any:
    document = build.model_dump(mode="json", exclude_unset=True)
    return [
        carry_out(document, Turn(do="turn", kind=kind))
        for kind in ("permanent_magnet", "series_wound", "packaged")
    ]


def _helped(build: Build) -> Any:
    helper = all_archetypes()[2].document
    return boost(build, helper, max(1, build.battery.series // 2), 5.0)


BUILD_QUESTIONS: dict[str, Callable[[Plain], Any]] = {
    "top-speed": _command("top-speed"),
    "top-speed-uphill": _command("top-speed", "--grade", "6"),
    "top-speed-downhill": _command("top-speed", "--grade", "-7"),
    "cruise": _command("cruise", "--speed", "9"),
    "cruise-uphill": _command("cruise", "--speed", "4", "--grade", "4"),
    "full-throttle": _command("full-throttle", "--speed", "6"),
    "launch": _command("launch", "--to", "8"),
    "free": _command("free"),
    "derate": _command("derate", "--current", "20", "--load-factor", "10"),
    "checks": _command("checks"),
    "thermal": _command("thermal"),
    "levers": _command("levers"),
    "ladder": _command("ladder", "--limit", "6"),
    "solve": _of_build(solve),
    "ladder-shown": _of_build(_ladder),
    "compare": _of_build(_compared),
    "baseline": _of_build(lambda build: baseline(build, None)),
    "will-it-run": _of_build(will_it_run),
    "speed-chart": _of_build(lambda build: speed_chart(build, shipped_shelf())),
    "windings": _of_build(lambda build: windings(build, shipped_shelf())),
    "overvolt": _of_build(lambda build: overvolt(build, build.battery.series + 2)),
    "roads": _of_build(lambda build: roads(build, 1.15 * top_kmh(build), shipped_shelf())),
    "speeds": _of_build(lambda build: speeds(build, speed_kmh=11.0)),
    "boost": _of_build(_helped),
    "every-lever": _of_build(_pressed),
    "turned": _of_build(_turned),
}


def _brief(document: Plain) -> Brief:
    return check_model(Brief, document)


def _by_trio(document: Plain) -> Any:
    search = Search(_brief(document), shipped_shelf(), best=20).run()
    return _plain(answer_of(search, 10, by_trio=True))


def _why(document: Plain) -> Any:
    part = shipped_shelf().motors[3].id
    return _plain(why(_brief(document), shipped_shelf(), {"motor": part}))


BRIEF_QUESTIONS: dict[str, Callable[[Plain], Any]] = {
    "match": lambda document: _plain(matched(_brief(document), shipped_shelf(), 10)),
    "match-by-parts": _by_trio,
    "match-why": _why,
    "meets": lambda document: _plain(
        [meets(_brief(document), archetype.document) for archetype in all_archetypes()]
    ),
}
QUESTIONS = {"build": BUILD_QUESTIONS, "brief": BRIEF_QUESTIONS}


# Of what it is asked


def documents(count: int) -> Iterator[tuple[str, str, Plain]]:
    """Yield a name, whether it is a build or a brief, and the document."""
    for path in sorted((ROOT / "server/builds/demo").glob("*.json")):
        yield path.stem, "build", json.loads(path.read_text())
    bases: list[Plain] = []
    for archetype in all_archetypes():
        bases.append(archetype.document.model_dump(mode="json", exclude_unset=True))
        yield archetype.id, "build", bases[-1]
    rng = random.Random(SEED)
    made = 0
    while made < count:
        document = _varied(rng.choice(bases), rng)
        try:
            check_build(document)
        except Refusal:
            continue
        made += 1
        yield f"random {made}", "build", document
    for start in start_briefs():
        yield start.id, "brief", start.document.model_dump(mode="json", exclude_unset=True)
    for path in sorted((ROOT / "docs/examples").glob("brief-*.json")):
        yield path.stem, "brief", json.loads(path.read_text())


def _varied(base: Plain, rng: random.Random) -> Plain:
    """Return a build with numbers, parts and ratings of it changed, stated and left out."""
    document: Plain = json.loads(json.dumps(base))
    kind = rng.choice(("permanent_magnet", "permanent_magnet", "series_wound", "packaged"))
    with contextlib.suppress(Refusal):
        document = carry_out(document, Turn(do="turn", kind=kind))
    changes: Plain = {}
    for path, low, high, whole, needed in _numbers():
        if path.startswith("motor.") and not _has(document, path):
            continue
        now = value_at(document, path)
        if now is not None and isinstance(now, int | float):
            if rng.random() < 0.5:
                value = now * math.exp(rng.gauss(0, 0.35)) if now else now
                changes[path] = max(1, round(value)) if whole else value
            elif not needed and rng.random() < 0.4:
                changes[path] = None
        elif rng.random() < 0.22:
            value = math.exp(rng.uniform(math.log(max(low, 1e-3)), math.log(max(high, 2e-3))))
            near = 0.35 * math.log(value) + 0.65 * math.log(_usual(path, value))
            changes[path] = max(1, round(math.exp(near))) if whole else math.exp(near)
    for path, words in CHOICES.items():
        if rng.random() < 0.3:
            changes[path] = rng.choice(words)
    if rng.random() < 0.3:
        changes["vehicle.traction"] = {
            "driven_axle": rng.choice(["rear", "front"]),
            "wheelbase_m": rng.uniform(0.3, 2),
            "centre_height_m": rng.uniform(0.1, 1),
            "friction": rng.uniform(0.3, 1.1),
            "driven_share": rng.uniform(0.3, 1.0),
        }
    document = changed(document, changes)
    if rng.random() < 0.12:
        ratios = sorted((rng.uniform(0.8, 5) for _ in range(rng.randint(2, 3))), reverse=True)
        document["gearing"] = [
            {"kind": "gearbox", "ratios": ratios, "efficiency": 0.93},
            *document["gearing"][:1],
        ]
    known = {
        path: {"origin": rng.choice(["measured", "data_sheet", "default"])}
        for path, *_ in _numbers()
        if value_at(document, path) is not None and rng.random() < 0.25
    }
    document["provenance"] = {path: item for path, item in known.items() if "*" not in path}
    return document


CHOICES: dict[str, list[Any]] = {
    "battery.chemistry": ["lipo", "li_ion", "lifepo4", "lead_acid", "nimh"],
    "controller.rating_side": ["motor", "battery", None],
    "controller.motor_current_is": ["dc", "phase_peak", "phase_rms", None],
    "controller.sensor": [["none"], ["hall"], ["none", "hall"], None],
    "controller.throttle_signal": ["analogue", "pulse", "serial", None],
    "vehicle.throttle_signal": ["analogue", "pulse", "serial", None],
    "motor.sensor": ["none", "hall", "encoder", None],
    "motor.power_is": ["electrical", "shaft", None],
    "motor.insulation_class": ["A", "B", "F", "H", None],
    "motor.cooling.air": ["closed", "vented", "open", None],
    "controller.cooling.air": ["closed", "vented", "open", None],
}


@cache
def _numbers() -> tuple[tuple[str, float, float, bool, bool], ...]:
    """Return every number of a build document: path, usual range, whether whole, whether needed."""
    schema = Build.model_json_schema()["$defs"]
    usual = {
        (model.get("title", name), key): field.get("usual")
        for name, model in schema.items()
        for key, field in model.get("properties", {}).items()
    }
    by_key: dict[str, list[float]] = {}
    for (_, key), span in usual.items():
        if span:
            by_key.setdefault(key, span)
    return tuple(
        (field.path, *by_key[field.path.rsplit(".", 1)[-1]], field.kind == "whole", field.required)
        for field in all_fields()
        if field.kind in ("number", "whole")
        and "*" not in field.path
        and field.path.rsplit(".", 1)[-1] in by_key
    )


def _has(document: Plain, path: str) -> bool:
    kind = document["motor"]["kind"]
    field = next(field for field in all_fields() if field.path == path)
    return not field.kinds or kind in field.kinds


def _usual(path: str, value: float) -> float:
    """Return what a limit of a middling vehicle is, so that not every build stops at once."""
    key = path.rsplit(".", 1)[-1]
    middling = {
        "max_voltage_v": 60.0,
        "continuous_current_a": 60.0,
        "peak_current_a": 150.0,
        "max_rpm": 8000.0,
        "climb_grade_pct": 6.0,
        "cruise_kmh": 12.0,
        "launch_to_kmh": 10.0,
        "climb_speed_kmh": 5.0,
        "motor_current_limit_a": 90.0,
        "battery_current_limit_a": 60.0,
    }
    return middling.get(key, value)


# Record and compare


def _asked(name: str, of: str, document: Plain, only: tuple[str, ...]) -> list[Plain]:
    rows = []
    for question, ask in QUESTIONS[of].items():
        if only and question not in only:
            continue
        try:
            answer = ask(document)
        except Refusal as refusal:
            answer = {"refused": refusal.as_dict()}
        except Exception as problem:  # a fault before is a fault to be told of, too
            answer = {"fault": type(problem).__name__}
        rows.append({"name": name, "question": question, "answer": answer})
    return rows


def record(path: Path, count: int) -> None:
    """Write down what was asked, and every answer."""
    asked = list(documents(count))
    with ProcessPoolExecutor() as pool, gzip.open(path, "wt") as file:
        jobs = [pool.submit(_asked, *one, ()) for one in asked]
        for (name, of, document), job in zip(asked, jobs, strict=True):
            row = {"name": name, "of": of, "document": document, "answers": job.result()}
            file.write(json.dumps(row) + "\n")
            print(name, flush=True)


def compared(path: Path, every: int, only: tuple[str, ...], shown: int) -> int:
    """Ask again, print what differs, and return how many answers do."""
    with gzip.open(path, "rt") as file:
        rows = [json.loads(line) for line in file][::every]
    numbers: Counter[str] = Counter()
    words: Counter[str] = Counter()
    told = 0
    with ProcessPoolExecutor() as pool:
        jobs = [pool.submit(_asked, row["name"], row["of"], row["document"], only) for row in rows]
        for row, job in zip(rows, jobs, strict=True):
            before = {one["question"]: one["answer"] for one in row["answers"]}
            for one in job.result():
                question = one["question"]
                for place, was, now in differences(
                    settled(before.get(question)), settled(one["answer"])
                ):
                    kind = words if isinstance(was, str) and isinstance(now, str) else numbers
                    kind[question] += 1
                    told += 1
                    if told <= shown:
                        print(f"{row['name']}: {question}: {place}: {was!r} -> {now!r}"[:400])
    print(f"{len(rows)} documents; numbers differ: {dict(numbers)}; words differ: {dict(words)}")
    return sum(numbers.values()) + sum(words.values())


NOTHING = 1e-6
"""Share of a figure below which a lever's effect is arithmetic; such levers are not held against
one another."""


def settled(answer: Any) -> Any:
    """Return an answer without what only the last digit of a figure decides."""
    if isinstance(answer, list):
        return [settled(item) for item in answer]
    if not isinstance(answer, dict):
        return answer
    kept = {key: settled(value) for key, value in answer.items()}
    if {"ranked", "rows", "now"} <= set(kept):
        kept["ranked"] = {
            key: sorted(
                row
                for row in ranked
                if _counts(kept["rows"][row]["effects"][key], kept["now"][key])
            )
            for key, ranked in kept["ranked"].items()
        }
    if {"levers", "wish", "now"} <= set(kept):
        wish = kept["wish"]
        kept["levers"] = sorted(
            (
                row
                for row in kept["levers"]
                if _counts([row["effects"][wish]["delta"]], kept["now"][wish])
            ),
            key=lambda row: (row["lever"], row["step"]),
        )
    return kept


def _counts(effect: list[float] | None, now: float | None) -> bool:
    return effect is not None and abs(effect[0]) > NOTHING * abs(now or 1.0)


RENAMED = {"stays": "width_left"}
"""What a key of an older answer is called now."""


def differences(was: Any, now: Any, place: str = "") -> Iterator[tuple[str, Any, Any]]:
    """Yield place, before and after of everything that is not the same to a billionth."""
    if isinstance(was, dict) and isinstance(now, dict):
        was = {RENAMED.get(key, key) if key not in now else key: old for key, old in was.items()}
        for key in [*was, *(key for key in now if key not in was)]:
            yield from differences(was.get(key, "<none>"), now.get(key, "<none>"), f"{place}.{key}")
    elif isinstance(was, list) and isinstance(now, list) and len(was) == len(now):
        for index, (one, other) in enumerate(zip(was, now, strict=True)):
            yield from differences(one, other, f"{place}.{index}")
    elif _number(was) and _number(now):
        if not math.isclose(was, now, rel_tol=CLOSE, abs_tol=1e-9):
            yield place, was, now
    elif "efficiency" in place and {_whole(was), _whole(now)} == {None, 0.0}:
        # A shaft that turns free pushes nothing, be it a billionth of a watt or less than none.
        return
    elif was != now:
        yield place, was, now


def _whole(value: Any) -> Any:
    return 0.0 if _number(value) and abs(value) < CLOSE else value


def _number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def main() -> int:
    """Run one of the two."""
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("what", choices=("record", "compare"))
    parser.add_argument("file", type=Path)
    parser.add_argument("--builds", type=int, default=300)
    parser.add_argument("--every", type=int, default=1)
    parser.add_argument("--only", nargs="*", default=())
    parser.add_argument("--shown", type=int, default=40)
    asked = parser.parse_args()
    if asked.what == "record":
        record(asked.file, asked.builds)
        return 0
    return 1 if compared(asked.file, asked.every, tuple(asked.only), asked.shown) else 0


if __name__ == "__main__":
    sys.exit(main())
